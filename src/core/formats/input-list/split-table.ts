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

/** How much of a text is looked at to find its delimiter. */
const SAMPLE = 65_536;

/** The most columns of a list, and characters of one cell. */
const MOST_COLUMNS = 256;
const MOST_CELL = 4000;
/** So many rows may stand before those of the list: a title, the date, the heading. */
const BEFORE = 32;

const placeOf = (row: number): string => `Row ${row.toLocaleString("en")}`;

/**
 * Where a cell that begins at a place ends: at its delimiter or line end, quoted cells as in RFC 4180 behind the
 * quotation mark that closes them.
 */
const endOfCell = (text: string, from: number, delimiter: string): number => {
  let at = from;
  if (text[at] === '"') {
    at++;
    while (at < text.length && (text[at] !== '"' || text[++at] === '"')) at++;
    return at;
  }
  while (at < text.length && text[at] !== delimiter && text[at] !== "\n" && text[at] !== "\r") at++;
  return at;
};

/**
 * What makes a text no list that is read, found in one walk over it before any cell is made: too many rows, too many
 * cells in a row, too long a cell. Null when it is none of these.
 */
const excess = (text: string, delimiter: string, mostRows: number): string | null => {
  let [row, cells] = [1, 1];
  for (let at = 0; at < text.length; at++) {
    const end = endOfCell(text, at, delimiter);
    if (end - at > MOST_CELL + 2)
      return `${placeOf(row)} has a cell of more than ${MOST_CELL} characters${text[at] === '"' ? ", perhaps because a quotation mark is not closed" : ""}. Shorten it, or take it out.`;
    at = end;
    if (at >= text.length) break;
    if (text[at] === delimiter) cells++;
    else {
      if (text[at] === "\r" && text[at + 1] === "\n") at++;
      row++;
      cells = 1;
    }
    if (cells > MOST_COLUMNS)
      return `${placeOf(row)} has more than ${MOST_COLUMNS} cells. An input list has a column for each thing it tells of an input; save only those columns.`;
    if (row > mostRows + BEFORE + 1)
      return `The list has more than ${mostRows} rows; up to ${mostRows} are read. Split it, or send only the rows that are recorded.`;
  }
  return null;
};

const clean = (cell: string): string => cell.replace(/\r\n?/g, "\n").trim();

/**
 * Splits a text into cells by the delimiter (comma, semicolon, tab or bar) that explains it best; quoted cells as in
 * RFC 4180. A byte order mark is dropped. A text without any delimiter is one column.
 */
export const splitTable = (text: string, mostRows: number): Cells | { readonly excess: string } => {
  const body = text.replace(/^\uFEFF/, "");
  const sample = body.slice(0, SAMPLE);
  const tries = DELIMITERS.map((delimiter) => ({
    delimiter,
    points: score(dsvFormat(delimiter.character).parseRows(sample)),
  }));
  const { delimiter } = tries.reduce((a, b) => (b.points > a.points ? b : a));
  const tooMuch = excess(body, delimiter.character, mostRows);
  if (tooMuch !== null) return { excess: tooMuch };
  return {
    delimiter,
    rows: dsvFormat(delimiter.character)
      .parseRows(body)
      .map((row) => row.map(clean)),
  };
};
