import type { KeyboardEvent } from "react";
import { wayOf } from "../shared/grid-core";

/** What keys do in the matrix. */
export interface CueKeyed {
  readonly step: (down: number, right: number, options?: { readonly range?: boolean }) => void;
  readonly open: () => void;
  readonly fold: () => void;
  readonly takeOut: () => void;
  readonly type: (text: string) => void;
}

const PAGE = 10;
/** What begins what is typed into a cell: a letter switches nothing, it is seen in the field first. */
const BEGINS = /^[\p{L}\d−–∞+.,-]$/u;

/**
 * What a key is to do, as of the matrix; null where it is not for it. Those with Alt are acts.
 */
export const cueKey = (event: KeyboardEvent, does: CueKeyed): (() => void) | null => {
  const { key, altKey, ctrlKey, metaKey } = event;
  if (ctrlKey || metaKey || altKey) return null;
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
