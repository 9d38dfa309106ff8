import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import type { ChannelId, CueId, FolderId, PassId } from "@/core/model/ids";

/** What a jump leads to: a screen takes the cursor there, unfolded and in sight. */
export type Jump =
  | { readonly kind: "channel"; readonly id: ChannelId }
  | { readonly kind: "folder"; readonly id: FolderId }
  | { readonly kind: "cue"; readonly id: CueId }
  | { readonly kind: "pass"; readonly id: PassId };

const jumps = createStore<{ readonly to: Jump | null }>(() => ({ to: null }));

export const jumpTo = (to: Jump): void => jumps.setState({ to });

/** Takes a jump to one of the kinds that a screen shows, also where it was begun on another screen. */
export const useJump = <K extends Jump["kind"]>(
  kinds: readonly K[],
  take: (to: Extract<Jump, { readonly kind: K }>) => void,
): void => {
  const to = useStore(jumps, (state) => state.to);
  const latest = useRef(take);
  latest.current = take;
  const mine = useRef(kinds);
  useEffect(() => {
    if (!to || !mine.current.some((kind) => kind === to.kind)) return;
    jumps.setState({ to: null });
    // After the palette has given the keys back to where they were.
    const timer = setTimeout(() => latest.current(to as Extract<Jump, { readonly kind: K }>), 80);
    return () => clearTimeout(timer);
  }, [to]);
};
