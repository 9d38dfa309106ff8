import { useMemo } from "react";
import { type Hearing, hearingOf } from "@/core/timing/hearing";
import { useDesk, useRig, useStudio } from "../state/desk-context";

/** What everybody hears of themself and how late, as the template stands. */
export const useHearing = (): Hearing => {
  const doc = useDesk((desk) => desk.doc);
  const [rig, studio] = [useRig(), useStudio()];
  return useMemo(() => hearingOf(doc, rig, studio), [doc, rig, studio]);
};
