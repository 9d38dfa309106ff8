import { dsvFormat } from "d3-dsv";

export const DELIMITERS = [
  { character: ",", name: "comma" },
  { character: ";", name: "semicolon" },
  { character: "\t", name: "tab" },
  { character: "|", name: "bar" },
] as const;

export interface Cells {
  readonly delimiter: (typeof DELIMITERS)[number];
  readonly rows: readonly (readonly string[])[];
}

/** How well a delimiter explains a text: rows that have the commonest count of cells above one, times that count. */
const score = (rows: readonly (readonly string[])[]): number => {
  const counts = new Map<number, number>();
  for (const row of rows) if (row.length > 1) counts.set(row.length, (counts.get(row.length) ?? 0) + 1);
  return Math.max(0, ...[...counts].map(([cells, times]) => times * Math.sqrt(cells)));
};

const clean = (cell: string): string => cell.replace(/\r\n?/g, "\n").trim();

/**
 * Splits a text into cells by the delimiter (comma, semicolon, tab or bar) that explains it best; quoted cells as in RFC 4180.
 * A byte order mark is dropped. A text without any delimiter is one column.
 */
export const splitTable = (text: string): Cells => {
  const body = text.replace(/^\uFEFF/, "");
  const tries = DELIMITERS.map((delimiter) => ({ delimiter, rows: dsvFormat(delimiter.character).parseRows(body) }));
  const best = tries.reduce((a, b) => (score(b.rows) > score(a.rows) ? b : a));
  return { delimiter: best.delimiter, rows: best.rows.map((row) => row.map(clean)) };
};
