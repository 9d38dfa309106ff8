import { dsvFormat } from "d3-dsv";
import { guessFamily } from "../../model/guess-family";
import { isMicrophone } from "./microphone-words";

export const DELIMITERS = [
  { character: ",", name: "comma" },
  { character: ";", name: "semicolon" },
  { character: "\t", name: "tab" },
  { character: "|", name: "bar" },
] as const;

/** How the cells of a list stand apart: by a character, by gaps of blanks, in a spreadsheet; or each line is one. */
export type PartedBy = (typeof DELIMITERS)[number]["name"] | "gaps" | "sheet" | "lines";

export interface Cells {
  readonly by: PartedBy;
  readonly rows: readonly (readonly string[])[];
  /** Cells that a spreadsheet had joined with the one above, as `row:column` from 0: they hold its value. */
  readonly held: ReadonlySet<string>;
}

/** How much of a text is looked at to find its delimiter. */
const SAMPLE = 65_536;

/** The most columns of a list, and characters of one cell. */
export const MOST_COLUMNS = 256;
export const MOST_CELL = 4000;
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

const clean = (cell: string): string =>
  cell
    .replace(/\r\n?/g, "\n")
    .replace(/[\u00a0\u2007\u202f]/g, " ")
    .trim();

const isNothing = (row: readonly string[]): boolean => row.every((cell) => !cell.trim());

interface Try {
  readonly by: PartedBy;
  readonly points: number;
  /** Share of the rows that are not blank which it explains, 0 to 1. */
  readonly share: number;
}

/** How well cells explain a text: rows that have the commonest count of cells above one, times that count. */
const tryOf = (by: PartedBy, rows: readonly (readonly string[])[]): Try => {
  const counts = new Map<number, number>();
  let filled = 0;
  for (const row of rows) {
    if (isNothing(row)) continue;
    filled++;
    if (row.length > 1) counts.set(row.length, (counts.get(row.length) ?? 0) + 1);
  }
  const points = Math.max(0, ...[...counts].map(([cells, times]) => times * Math.sqrt(cells)));
  const several = [...counts.values()].reduce((sum, times) => sum + times, 0);
  return { by, points, share: filled ? several / filled : 0 };
};

/** "1 Kick in, dyn, 48 V": a line with its number before the name is one for itself, whatever commas follow. */
const NUMBERED_LINE =
  /^\s{0,20}(?:[-*•–]\s{0,3})?(?:(?:ch|chan|channel|in|input|kanal|kan|eingang|voie|canal|canale|line|mic|mike|mikro|nr|no)\.?\s{1,3}(?=\d))?\p{L}{0,2}\d{1,3}(?:\s?[-–/+&]\s?\d{1,3})?[.):]?\s{1,20}(?:[-–]\s)?\p{L}/iu;

const areLines = (rows: readonly (readonly string[])[]): boolean => {
  const several = rows.filter((row) => row.length > 1);
  return several.length > 0 && several.filter((row) => NUMBERED_LINE.test(row[0] ?? "")).length >= several.length * 0.6;
};

/** "Kick in, Kick out, Hat": things with commas between them, each a source of its own, and no cells of a table. */
const areThings = (rows: readonly (readonly string[])[]): boolean => {
  const several = rows.filter((row) => row.length > 1);
  const isThing = (cell: string): boolean => guessFamily(cell) !== null && !isMicrophone(cell);
  const share = (cells: readonly string[]): number =>
    cells.length ? cells.filter((cell) => isThing(cell.trim())).length / cells.length : 0;
  return share(several.map(([first = ""]) => first)) >= 0.5 && share(several.flatMap((row) => row.slice(1))) >= 0.6;
};

interface Piece {
  readonly text: string;
  readonly from: number;
  readonly to: number;
}

/** The pieces of a line that two blanks or a tab part, with where they stand. */
const pieces = (line: string): readonly Piece[] => {
  const found: Piece[] = [];
  let from = -1;
  let blanks = 0;
  for (let at = 0; at <= line.length; at++) {
    const blank = at === line.length || line[at] === " " || line[at] === "\t";
    if (!blank) {
      if (from < 0) from = at;
      blanks = 0;
      continue;
    }
    blanks += at === line.length || line[at] === "\t" ? 2 : 1;
    if (from >= 0 && blanks >= 2) {
      const text = line.slice(from, at).trim();
      found.push({ text, from, to: from + text.length });
      from = -1;
    }
  }
  return found;
};

/** Share of the lines that may reach over a gap between two columns, as long cells do. */
const MAY_REACH = 0.08;
const MANY = 6;
/** As far to the right as columns are looked for. */
const MOST_WIDTH = 1000;

type Pieces = readonly (readonly Piece[])[];

/** Where columns begin: after a place at which next to none of the lines has something. */
const startsOf = (lines: Pieces): readonly number[] => {
  const several = lines.filter((row) => row.length > 1);
  if (!several.length) return [];
  const width = Math.min(
    MOST_WIDTH,
    several.reduce((most, row) => Math.max(most, row.at(-1)?.to ?? 0), 0),
  );
  const cover = new Int32Array(width + 2);
  for (const row of several)
    for (const { from, to } of row)
      for (let at = Math.min(from, width); at < Math.min(to, width); at++) cover[at] = (cover[at] ?? 0) + 1;
  // One long cell may reach over in a short list as well.
  const least = Math.max(several.length * MAY_REACH, several.length >= MANY ? 1 : 0);
  return Array.from(cover.keys()).filter(
    (at) => at < width && (cover[at] ?? 0) > least && (at === 0 || (cover[at - 1] ?? 0) <= least),
  );
};

/** A piece that reaches over the beginning of the next column with a blank before it is two. */
const cutAt = ({ text, from, to }: Piece, starts: readonly number[]): readonly Piece[] => {
  const next = starts.find((start) => start > from + 1 && start < to);
  const at = next === undefined ? 0 : next - from;
  return next !== undefined && text[at - 1] === " " && text[at] !== " "
    ? [
        { text: text.slice(0, at).trim(), from, to: next - 1 },
        ...cutAt({ text: text.slice(at), from: next, to }, starts),
      ]
    : [{ text, from, to }];
};

const inColumns = (row: readonly Piece[], starts: readonly number[]): readonly string[] => {
  const [only] = row;
  if (row.length <= 1) return [only?.text ?? ""];
  const cells = starts.map(() => "");
  for (const { text, from, to } of row.flatMap((piece) => cutAt(piece, starts))) {
    const within = Math.max(
      0,
      starts.findLastIndex((start) => start <= from),
    );
    const next = starts[within + 1];
    const at = next !== undefined && next < to && next - from < 3 ? within + 1 : within;
    cells[at] = cells[at] ? `${cells[at]} ${text}` : text;
  }
  return cells;
};

/** Neighbouring lines whose columns stand below one another; a blank line may part those that do not. */
const paragraphs = (lines: Pieces): readonly Pieces[] => {
  const found: Pieces[] = [];
  let now: (readonly Piece[])[] = [];
  for (const row of lines) {
    now.push(row);
    if (!row.length) {
      found.push(now);
      now = [];
    }
  }
  found.push(now);
  const joined: Pieces[] = [];
  for (const part of found) {
    const before = joined.at(-1);
    const [a, b] = [before ? startsOf(before).length : 0, startsOf(part).length];
    const together = before ? startsOf([...before, ...part]).length : 0;
    if (before && together >= Math.max(a, b)) joined[joined.length - 1] = [...before, ...part];
    else joined.push(part);
  }
  return joined;
};

/** Paragraphs that are looked at one by one; beyond, a text is one. */
const MOST_PARAGRAPHS = 40;

/** Cells of a text whose columns stand below one another. Null where lines have no gaps. */
const byGaps = (lines: readonly string[]): readonly (readonly string[])[] | null => {
  const all = lines.map(pieces);
  const several = all.filter((row) => row.length > 1).length;
  const filled = all.filter((row) => row.length > 0).length;
  if (several < 2 || several < filled * 0.5) return null;
  const blanks = all.filter((row) => !row.length).length;
  const parts = blanks > MOST_PARAGRAPHS ? [all] : paragraphs(all);
  if (startsOf(parts.reduce((a, b) => (b.length > a.length ? b : a))).length < 2) return null;
  return parts.flatMap((part) => {
    const starts = startsOf(part);
    return part.map((row) => inColumns(row, starts));
  });
};

/** Bars before the first cell and behind the last, as tables in plain text have them, are no cells. */
const withoutRim = (rows: readonly (readonly string[])[]): readonly (readonly string[])[] =>
  rows.every((row) => row.length < 2 || (row[0] === "" && row.at(-1) === ""))
    ? rows.map((row) => (row.length < 2 ? row : row.slice(1, -1)))
    : rows;

const NONE: ReadonlySet<string> = new Set();

/** A lone quotation mark between two delimiters: "as above", and no beginning of a quoted cell. */
const LONE: Readonly<Record<string, RegExp>> = {
  ",": /(^|[,\n])"(?=[,\r\n]|$)/g,
  ";": /(^|[;\n])"(?=[;\r\n]|$)/g,
  "\t": /(^|[\t\n])"(?=[\t\r\n]|$)/g,
  "|": /(^|[|\n])"(?=[|\r\n]|$)/g,
};

const parsed = (text: string, character: string): readonly (readonly string[])[] => {
  const read = (of: string) =>
    dsvFormat(character)
      .parseRows(of)
      .map((row) => row.map(clean));
  const first = read(text);
  const broken = first.some((row) => row.some((cell) => cell.includes("\n") && cell.includes(character)));
  const rows = broken ? read(text.replace(LONE[character] ?? /(?!)/, "$1″")) : first;
  return character === "|" ? withoutRim(rows) : rows;
};

/**
 * Splits a text into cells by the delimiter (comma, semicolon, tab or bar) that explains it best, quoted cells as in RFC
 * 4180; by gaps of blanks where columns stand below one another; else each line is one cell. A byte order mark is
 * dropped. Linear in the text.
 */
export const splitTable = (text: string, mostRows: number): Cells | { readonly excess: string } => {
  const body = text.replace(/^\uFEFF/, "");
  const sample = body.slice(0, SAMPLE);
  const tries = DELIMITERS.map(({ character, name }) => {
    const rows = dsvFormat(character).parseRows(sample);
    return { character, rows, ...tryOf(name, rows) };
  });
  const best = tries.reduce((a, b) => (b.points > a.points ? b : a));
  const tooMuch = excess(body, best.character, mostRows);
  if (tooMuch !== null) return { excess: tooMuch };
  const listed = (best.by === "comma" || best.by === "semicolon") && areThings(best.rows.slice(0, 200));
  const isTable = !listed && best.points > 0 && (best.share >= 0.5 || best.points >= 8) && !areLines(best.rows);
  if (isTable && (best.by !== "comma" || best.share >= 0.5))
    return { by: best.by, rows: parsed(body, best.character), held: NONE };
  const lines = body.split(/\r\n?|\n/).map((line) => line.replace(/[\u00a0\u2007\u202f]/g, " "));
  const gaps = byGaps(lines);
  if (gaps) return { by: "gaps", rows: gaps.map((row) => row.map(clean)), held: NONE };
  return { by: "lines", rows: lines.map((line) => [clean(line)]), held: NONE };
};
