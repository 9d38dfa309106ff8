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

export type View = "inputs" | "flow" | "cues" | "cues/passes";

/** So long the palette takes to close. */
const AFTER_PALETTE_MS = 80;

const jumps = createStore<{ readonly to: Jump | null; readonly view: View | null }>(() => ({ to: null, view: null }));

/** On which screen it is shown. */
export const jumpTo = (to: Jump, view: View): void => jumps.setState({ to, view });

interface Taken<K extends Jump["kind"]> {
  /** The screen that takes it: one that is being left does not. */
  readonly view: View;
  readonly kinds: readonly K[];
  /** Takes the cursor there, at once. */
  readonly take: (to: Extract<Jump, { readonly kind: K }>) => void;
  /** Gives it the keys: after the palette has given them back to where they were. */
  readonly focus?: () => void;
}

/** Takes a jump to one of the kinds that a screen shows, also where it was begun on another screen. */
export const useJump = <K extends Jump["kind"]>(taken: Taken<K>): void => {
  const { to, view } = useStore(jumps);
  const latest = useRef(taken);
  latest.current = taken;
  useEffect(() => {
    if (!to || view !== latest.current.view || !latest.current.kinds.some((kind) => kind === to.kind)) return;
    jumps.setState({ to: null, view: null });
    latest.current.take(to as Extract<Jump, { readonly kind: K }>);
    const { focus } = latest.current;
    if (!focus) return;
    focus();
    setTimeout(focus, AFTER_PALETTE_MS);
  }, [to, view]);
};
