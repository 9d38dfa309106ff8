import type { KeyboardEvent } from "react";
import { wayOf } from "../shared/grid-core";

/** What keys do in the matrix. */
export interface CueKeyed {
  readonly step: (down: number, right: number, options?: { readonly range?: boolean }) => void;
  readonly nudge: (byDb: number) => void;
  readonly open: () => void;
  readonly fold: () => void;
  readonly takeOut: () => void;
  readonly toggle: (field: "tap" | "on") => void;
  readonly type: (text: string) => void;
}

const PAGE = 10;
/** What begins what is typed into a cell: a letter switches nothing, it is seen in the field first. */
const BEGINS = /^[\p{L}\d−–∞+.,-]$/u;

/**
 * What a key is to do, as of the matrix; null where it is not for it. Alt with an arrow turns up or down, by half as
 * much with Shift; with B or O it taps before or after the fader, or switches off and on.
 */
export const cueKey = (event: KeyboardEvent, does: CueKeyed): (() => void) | null => {
  const { key, code, shiftKey, altKey, ctrlKey, metaKey } = event;
  if (ctrlKey || metaKey) return null;
  if (altKey) {
    if (code === "KeyB") return () => does.toggle("tap");
    if (code === "KeyO") return () => does.toggle("on");
    const up = { ArrowUp: 1, ArrowDown: -1 }[key];
    return up === undefined ? null : () => does.nudge(shiftKey ? up / 2 : up);
  }
  const way = wayOf(event, PAGE);
  if (way) return () => does.step(way.down, way.right, { range: way.range });
  const acts: Readonly<Record<string, () => void>> = {
    Enter: does.open,
    F2: does.open,
    " ": does.fold,
    Delete: does.takeOut,
    Backspace: does.takeOut,
  };
  return acts[key] ?? (BEGINS.test(key) ? () => does.type(key) : null);
};
