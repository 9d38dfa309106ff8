import { useVirtualizer } from "@tanstack/react-virtual";
import type { KeyboardEvent, RefObject } from "react";

/** Where a key leads in a grid or a list: so many rows down and columns to the right, without end for Home and End. */
export interface Way {
  readonly down: number;
  readonly right: number;
  /** With Shift: what is selected reaches there. */
  readonly range: boolean;
}

const STEPS: Readonly<Record<string, readonly [down: number, right: number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};
const ENDS: Readonly<Record<string, number>> = { Home: Number.NEGATIVE_INFINITY, End: Number.POSITIVE_INFINITY };
const PAGES: Readonly<Record<string, number>> = { PageUp: -1, PageDown: 1 };

type Key = Pick<KeyboardEvent, "key" | "shiftKey" | "ctrlKey">;

/**
 * The way that a key means; null where it is none. Home and End go along the row, with Ctrl through all rows.
 * @example wayOf({ key: "PageDown", shiftKey: true, ctrlKey: false }, 10) // { down: 10, right: 0, range: true }
 */
export const wayOf = ({ key, shiftKey: range, ctrlKey }: Key, page: number): Way | null => {
  const step = STEPS[key];
  if (step) return { down: step[0], right: step[1], range };
  const end = ENDS[key];
  if (end !== undefined) return ctrlKey ? { down: end, right: 0, range } : { down: 0, right: end, range };
  const pages = PAGES[key];
  return pages === undefined ? null : { down: pages * page, right: 0, range };
};

/** How far a way leads in a list of one column: Home and End go to its ends, sideways is nowhere. */
export const alongList = ({ down, right }: Way): number => down || (Number.isFinite(right) ? 0 : right);

/** A place within a list of so many, at its ends where it would lie beyond. */
export const inList = (at: number, count: number): number => Math.max(0, Math.min(count - 1, at));

/** What lies from one place to another, both with it, whichever comes first. */
export const between = <T>(list: readonly T[], a: number, b: number): readonly T[] =>
  list.slice(Math.max(0, Math.min(a, b)), Math.max(a, b) + 1);

interface Drawn {
  readonly count: number;
  readonly place: RefObject<HTMLElement | null>;
  readonly height: number;
  /** Of the headings, which lie over the upper rows and stay. */
  readonly headings: number;
  /** Rows that are drawn beyond what is in sight. */
  readonly beyond: number;
  /** Kept free below the row that has the keys. */
  readonly below?: number;
  /** Rows that come into sight are drawn with the next picture, and not before the wheel goes on. */
  readonly later?: true;
}

/** Rows of one height of which those in sight are drawn. */
export const useDrawnRows = ({ count, place, height, headings, beyond, below = 0, later }: Drawn) =>
  useVirtualizer({
    count,
    getScrollElement: () => place.current,
    estimateSize: () => height,
    overscan: beyond,
    ...(later ? { useFlushSync: false } : {}),
    scrollMargin: headings,
    scrollPaddingStart: headings,
    scrollPaddingEnd: below,
  });
