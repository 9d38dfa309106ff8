import { type ReactNode, useMemo } from "react";
import type { ChannelId } from "@/core/model/ids";
import { ShownProvider } from "../grid/shown";
import { useDeskLater } from "../state/desk-context";

/**
 * What fields are typed for: as long as `of` stays the same, what is typed waits in them; when it changes it is told
 * that it was not kept.
 */
export const KeptFor = ({ of, children }: { readonly of: string; readonly children: ReactNode }) => {
  const doc = useDeskLater((desk) => desk.doc);
  const selected = useMemo(() => [of as ChannelId], [of]);
  const shown = useMemo(() => ({ doc, cursor: null, selected }), [doc, selected]);
  return <ShownProvider value={shown}>{children}</ShownProvider>;
};
