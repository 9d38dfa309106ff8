import { numberAtEnd } from "../../units/ends";
import type { Balance, ListRow } from "./list-types";

/** The most gaps and doubles that are named. */
const MOST_NAMED = 12;

/** "5, 9–12": whole numbers, those that follow one another drawn together. */
export const runsOf = (numbers: readonly number[]): readonly string[] => {
  const runs: [number, number][] = [];
  for (const number of numbers) {
    const last = runs.at(-1);
    if (last && last[1] + 1 === number) last[1] = number;
    else runs.push([number, number]);
  }
  return runs.map(([from, to]) => (from === to ? String(from) : `${from}–${to}`));
};

/**
 * The sums of a list: rows in, tracks out, joined and left out; which numbers are missing between the first and the
 * last of those without letters, and which inputs two lines have. Linear in the rows.
 */
export const balanceOf = (
  rows: readonly ListRow[],
  { read, leftOut }: { readonly read: number; readonly leftOut: number },
): Balance => {
  const labels = rows.flatMap((row) => row.sides.flatMap((side) => side.input ?? []));
  const times = new Map<string, number>();
  for (const label of labels) times.set(label, (times.get(label) ?? 0) + 1);
  const numbers = [
    ...new Set(labels.flatMap((label) => (numberAtEnd(label)?.before === "" ? [Number(label)] : []))),
  ].sort((a, b) => a - b);
  const missing: number[] = [];
  for (const [at, number] of numbers.entries()) {
    const before = numbers[at - 1];
    for (let gap = (before ?? number) + 1; before !== undefined && gap < number && missing.length < 64; gap++)
      missing.push(gap);
  }
  const sides = rows.flatMap((row) => [...row.sides]);
  return {
    rows: read,
    tracks: rows.length,
    lines: sides.length,
    pairs: rows.filter((row) => row.sides.length === 2).length,
    joined: rows.reduce((sum, row) => sum + row.from.length - 1, 0),
    leftOut,
    phantom: sides.filter((side) => side.values.phantom).length,
    withoutInput: sides.filter((side) => side.input === null).length,
    gaps: runsOf(missing).slice(0, MOST_NAMED),
    doubles: [...times].flatMap(([label, count]) => (count > 1 ? [label] : [])).slice(0, MOST_NAMED),
  };
};
