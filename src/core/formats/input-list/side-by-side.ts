import { headingWords } from "./heading-words";
import { isInputTitle, isOutputHeading, outsideTitle } from "./outside-words";
import type { Cells } from "./split-table";

const MOST_LOOKED_AT = 20;

/** Where a second table begins beside the first in a row of headings: at its number, when name and number come again. */
const secondIn = (row: readonly string[]): number | null => {
  const told = row.map((cell) => (cell.length > 60 ? [] : headingWords(cell).told.map(({ meaning }) => meaning)));
  const filled = row.filter(Boolean).length;
  if (filled < 4) return null;
  const numbers = told.flatMap((meanings, at) =>
    meanings.includes("input") || isOutputCell(row[at] ?? "") ? [at] : [],
  );
  const names = told.flatMap((meanings, at) =>
    meanings.includes("source") || meanings.includes("track") || (meanings.includes("player") && meanings.length > 1)
      ? [at]
      : [],
  );
  const [first, ...more] = numbers;
  if (first === undefined || !names.length) return null;
  // The second number must have a name of its own behind it, as the first has.
  const second = more.find(
    (at) =>
      names.some((name) => name > first && name < at) &&
      (names.some((name) => name > at) || isOutputCell(row[at] ?? "")),
  );
  if (second === undefined) return null;
  const same = row[first]?.toLowerCase() === row[second]?.toLowerCase();
  const gap = (row[second - 1] ?? "") === "";
  return same || gap || isOutputHeading(row.slice(second)) ? second : null;
};

const isOutputCell = (cell: string): boolean => isOutputHeading([cell, "name"]);

/** Two titles in one row, "Inputs" and "Outputs", each over a table of its own. */
const secondTitle = (row: readonly string[]): number | null => {
  const filled = row.flatMap((cell, at) => (cell ? [at] : []));
  if (filled.length !== 2) return null;
  const [a, b] = filled;
  const isTitle = (at: number | undefined): boolean =>
    at !== undefined && (isInputTitle(row[at] ?? "") || outsideTitle(row[at] ?? "") !== null);
  return isTitle(a) && isTitle(b) && (b ?? 0) - (a ?? 0) >= 2 ? (b ?? null) : null;
};

/** Without headings: a second column that counts on where the first ends, or from one again, with names behind it. */
const secondCount = (rows: readonly (readonly string[])[]): number | null => {
  const width = Math.max(0, ...rows.slice(0, 200).map((row) => row.length));
  const body = rows.filter((row) => row.filter(Boolean).length >= 3);
  if (width < 4 || body.length < 3) return null;
  const numbers = (column: number): readonly number[] =>
    body.flatMap((row) => (/^\d{1,3}$/.test(row[column] ?? "") ? [Number(row[column])] : []));
  const counts = (column: number): boolean => {
    const found = numbers(column);
    return (
      found.length >= 3 &&
      found.length >= body.length * 0.4 &&
      found.every((n, at) => at === 0 || n > (found[at - 1] ?? 0))
    );
  };
  if (!counts(0)) return null;
  const end = numbers(0).at(-1) ?? 0;
  for (let column = 2; column < width - 1; column++)
    if (counts(column) && numbers(column)[0] === end + 1) return column;
  return null;
};

const cut = ({ by, rows, held }: Cells, from: number, to: number): Cells => ({
  by,
  rows: rows.map((row) => row.slice(from, to)),
  held: new Set(
    [...held].flatMap((key) => {
      const [row = 0, column = 0] = key.split(":").map(Number);
      return column >= from && column < to ? [`${row}:${column - from}`] : [];
    }),
  ),
});

/** The tables that stand beside one another, from the left; one where there is one only. */
export const sideBySide = (cells: Cells): readonly { readonly cells: Cells; readonly from: number }[] => {
  const whole = [{ cells, from: 0 }];
  if (cells.by === "lines") return whole;
  const looked = cells.rows.slice(0, MOST_LOOKED_AT);
  const headed = looked.map(secondIn).find((at) => at !== null) ?? null;
  const at = headed ?? looked.map(secondTitle).find((one) => one !== null) ?? secondCount(cells.rows);
  if (at === null || at === undefined) return whole;
  return [
    { cells: cut(cells, 0, at), from: 0 },
    ...sideBySide(cut(cells, at, Number.MAX_SAFE_INTEGER)).map((right) => ({ ...right, from: right.from + at })),
  ];
};
