import { plain } from "../../model/families";
import { guessFamily } from "../../model/guess-family";
import { headingWords } from "./heading-words";
import {
  isInputTitle,
  isOutputHeading,
  isOutputName,
  isPageFoot,
  isRule,
  isTotal,
  type Outside,
  outsideTitle,
} from "./outside-words";
import { readPlaces } from "./places";
import type { Cells } from "./split-table";

/** A row of a block with what it stands under. */
export interface BodyRow {
  /** Row in the file, from 1. */
  readonly row: number;
  readonly cells: readonly string[];
  /** The row of a group that it stands under; null where there is none. */
  readonly group: string | null;
  /** Columns whose value a spreadsheet's joined cell holds from above. */
  readonly held: ReadonlySet<number>;
}

/** Neighbouring rows of one shape, with their heading. */
export interface Block {
  readonly kind: "inputs" | Outside;
  /** What stands over it, else what its kind is called. */
  readonly title: string;
  readonly heading: readonly string[] | null;
  readonly headingRows: readonly number[];
  readonly rows: readonly BodyRow[];
  /** Columns of the file that it begins at, where two blocks stand side by side. */
  readonly from: number;
}

export type OutsideReason =
  | "block title"
  | "title"
  | "greeting"
  | "total"
  | "page"
  | "rule"
  | "repeated heading"
  | "note";

export interface LeftRow {
  readonly row: number;
  readonly why: OutsideReason;
  readonly text: string;
}

export interface Blocks {
  readonly blocks: readonly Block[];
  readonly left: readonly LeftRow[];
  /** Rows that are taken as the group of those below. */
  readonly groups: readonly { readonly row: number; readonly name: string }[];
}

const filledOf = (cells: readonly string[]): readonly string[] => cells.filter(Boolean);
const isNumber = (cell: string): boolean => /^\d{1,4}$/.test(cell) && cell !== "48";

/** The number of an input, and no word of a heading: "7-8", "A5"; a heading may say 48 V. */
const isPlaceCell = (cell: string): boolean =>
  /\d/.test(cell) && !/48/.test(cell) && cell.length <= 12 && readPlaces(cell) !== null;

/** A number alone in its row, with a short name before it at most; "Input list v3" is a title. */
const isPlaceAlone = (text: string): boolean => /^\p{L}{0,3} ?\d/u.test(text) && readPlaces(text) !== null;

/** Whether what stands in a cell is known as a heading: as a whole, or by at least half of its words. */
const isHeadingCell = (cell: string): boolean => {
  if (cell.length > 60) return false;
  const { whole, told, known } = headingWords(cell);
  return whole !== null || (told.length > 0 && known >= 0.5);
};

/** How many cells of a row are known as headings; 0 when it can't be one. */
const headingCells = (cells: readonly string[]): number => {
  const filled = filledOf(cells);
  if (filled.length < 2 || filled.some((cell) => isNumber(cell) || isPlaceCell(cell))) return 0;
  const known = filled.filter(isHeadingCell).length;
  if (known > 0 && isOutputHeading(filled) && !filled.some((cell) => /\d/.test(cell))) return 2;
  return known >= 2 && known >= filled.length * 0.4 ? known : 0;
};

const same = (a: readonly string[], b: readonly string[]): boolean =>
  a.join("\n").toLowerCase() === b.join("\n").toLowerCase();

/** A row below a heading that goes on with it: "Input / No.", or the same in another language. */
const goesOn = (cells: readonly string[]): boolean => {
  const filled = filledOf(cells);
  return (
    filled.length > 0 &&
    !filled.some((cell) => /\d/.test(cell) && !/48/.test(cell)) &&
    filled.filter(isHeadingCell).length >= Math.max(1, filled.length * 0.6)
  );
};

const joined = (a: readonly string[], b: readonly string[]): readonly string[] =>
  Array.from({ length: Math.max(a.length, b.length) }, (_, at) => [a[at] ?? "", b[at] ?? ""].filter(Boolean).join(" "));

/** The text of a row that has one cell, or the same in all of them, as joined cells have; null when it has several. */
const onlyText = (cells: readonly string[], width: number): string | null => {
  const filled = filledOf(cells);
  if (width < 2 || !filled.length) return null;
  return new Set(filled).size === 1 && (filled.length === 1 || filled.length === width) ? (filled[0] ?? null) : null;
};

/** A name of a group without the signs around it. */
export const bareTitle = (text: string): string =>
  text
    .replace(/^[\s\-–—=*#>•[(~_]+/, "")
    .replace(/[\s\-–—=*:\])~_]+$/, "")
    .trim();

const GREETING =
  /^(?:hi|hello|hey|dear|hallo|moin|liebe[rs]?|guten|servus|bonjour|salut|ch[eè]re?|hola|buenas|buenos|querid[oa]|ciao|salve|buongiorno|caro|cara|gentile|thanks|thank you|thx|cheers|best|regards|kind regards|see you|danke|viele gr|liebe gr|gru(?:ß|ss)|gr[uü](?:ß|ss)e|lg|mfg|vg|bis |merci|cordialement|bien à|à bient|gracias|un saludo|saludos|abrazo|grazie|saluti|a presto|sent from|von meinem|gesendet|envoy|enviado|inviato|here (?:is|are|comes)|hier (?:ist|kommt|die)|voici|aqu[ií] |ecco|anbei|attached|ci-joint|adjunt|in allegato|please|bitte|por favor|per favore|s'il)(?:\b|\s|,|!|$)/i;

export const isGreeting = (text: string): boolean => GREETING.test(text);

/** A full stop at the end, or one that another sentence follows. */
export const isSentence = (text: string): boolean => /[.!?]$/.test(text) || /\p{Ll}[.!?] \p{Lu}/u.test(text);

/** Prose rather than a name: many words, or a sentence that ends. */
export const isProse = (text: string): boolean =>
  isGreeting(text) ||
  text.split(/\s+/).length > 9 ||
  /\p{Ll}[.!?] \p{Lu}/u.test(text) || (/[.!?]$/.test(text) && text.split(/\s+/).length > 4);

/** The title of the whole, and no group within it. */
const IS_LIST =
  /\b(?:list|liste|lista|patch|plot|rider|belegung|kanalliste|eingangsliste|inputliste|inputs?|plan|setup|session|version|v\d)\b/;

interface State {
  kind: Block["kind"];
  title: string;
  heading: readonly string[] | null;
  headingRows: number[];
  rows: BodyRow[];
  group: string | null;
  /** Where the group was named, so that a blank row can end a block of outputs. */
  blanks: number;
}

const OUTSIDE_NAMES: Readonly<Record<Outside, string>> = {
  outputs: "Outputs",
  monitors: "Monitors",
  returns: "Returns",
  other: "Other rows",
};

/** Whether the next row that is not blank has something to record in it. */
const leadsOn = (rows: readonly (readonly string[])[], at: number, width: number): boolean => {
  for (let next = at + 1; next < Math.min(rows.length, at + 4); next++) {
    const cells = rows[next] ?? [];
    if (!filledOf(cells).length || isRule(cells)) continue;
    return filledOf(cells).length > 1 || onlyText(cells, width) === null;
  }
  return false;
};

/**
 * The blocks of a table: rows of one shape below their heading, groups within them, and what stands before, between and
 * after them. One walk from the first row to the last.
 */
export const findBlocks = (cells: Cells, from = 0): Blocks => {
  const blocks: Block[] = [];
  const left: LeftRow[] = [];
  const groups: { row: number; name: string }[] = [];
  const fresh = (kind: Block["kind"], title: string): State => ({
    kind,
    title,
    heading: null,
    headingRows: [],
    rows: [],
    group: null,
    blanks: 0,
  });
  let now = fresh("inputs", "");
  let last: readonly string[] | null = null;
  const close = (next: State): void => {
    if (now.rows.length) blocks.push({ ...now, from });
    now = next;
  };
  const { rows } = cells;
  const width = Math.max(0, ...rows.map((row) => row.length));
  const headingAt = rows.findIndex((row) => headingCells(row) > 0 && !isOutputHeading(row));
  const anyHeading = rows.some((row) => headingCells(row) > 0);
  const heldOf = (at: number, width: number): ReadonlySet<number> =>
    cells.held.size
      ? new Set(
          Array.from({ length: width }, (_, column) => column).filter((column) => cells.held.has(`${at}:${column}`)),
        )
      : NOTHING_HELD;

  const takeHeading = (row: readonly string[], at: number): void => {
    if (now.heading && same(row, now.heading) && now.headingRows.length) {
      left.push({ row: at + 1, why: "repeated heading", text: filledOf(row).join(" · ") });
      return;
    }
    const outside = isOutputHeading(row) ? "outputs" : now.rows.length ? "inputs" : now.kind;
    const keep = now.rows.length ? "" : now.title;
    const group = now.rows.length || outside !== "inputs" ? null : now.group;
    close({ ...fresh(outside, outside === "inputs" ? keep : keep || OUTSIDE_NAMES[outside]), group });
    now.heading = row;
    now.headingRows = [at + 1];
    last = row;
  };

  const takeTitle = (text: string, at: number): void => {
    const bare = bareTitle(text);
    const outside = outsideTitle(bare);
    if (outside) {
      left.push({ row: at + 1, why: "block title", text });
      return close(fresh(outside, bare));
    }
    if (isInputTitle(bare)) {
      left.push({ row: at + 1, why: "title", text });
      if (now.kind !== "inputs") close({ ...fresh("inputs", bare), heading: last, headingRows: [] });
      return;
    }
    if (isTotal(text)) return void left.push({ row: at + 1, why: "total", text });
    if (isPageFoot(text)) return void left.push({ row: at + 1, why: "page", text });
    if (isProse(text)) return void left.push({ row: at + 1, why: "greeting", text });
    const begun = now.rows.length > 0 || now.heading !== null;
    const family = guessFamily(bare);
    const isGroup = !IS_LIST.test(plain(bare)) && leadsOn(rows, at, width) && (begun || (!anyHeading && (family !== null || /:$/.test(text))));
    if (!isGroup && !(family && begun && /^\p{L}+s?$/u.test(bare) && leadsOn(rows, at, width)))
      return void left.push({ row: at + 1, why: begun ? "note" : "title", text });
    if (now.kind !== "inputs") close({ ...fresh("inputs", ""), heading: last });
    now.group = bare;
    groups.push({ row: at + 1, name: bare });
  };

  for (const [at, row] of rows.entries()) {
    const filled = filledOf(row);
    if (!filled.length) {
      now.blanks++;
      continue;
    }
    if (isRule(row)) {
      left.push({ row: at + 1, why: "rule", text: filled.join(" ") });
      continue;
    }
    const headed = headingCells(row);
    const onHeading: boolean =
      now.heading !== null && now.headingRows.length > 0 && !now.rows.length && now.headingRows.at(-1) === at;
    if (onHeading && goesOn(row) && now.headingRows.length < 3) {
      now.heading = joined(now.heading ?? [], row);
      now.headingRows.push(at + 1);
      last = now.heading;
    } else if (headed) takeHeading(row, at);
    else {
      const only = onlyText(row, width);
      const body = (): void => {
        // What stands before the heading and has no number tells of the evening, and not of an input.
        if (headingAt > at && !now.rows.length && !filled.some((cell) => isNumber(cell) || isPlaceCell(cell)))
          left.push({ row: at + 1, why: "title", text: filled.join(" · ") });
        else now.rows.push({ row: at + 1, cells: row, group: now.group, held: heldOf(at, row.length) });
      };
      if (only !== null && (isPageFoot(only) || isTotal(only) || !isPlaceAlone(only))) takeTitle(only, at);
      else if (isTotal(filled.join(" ")) || isTotal(filled[0] ?? ""))
        left.push({ row: at + 1, why: "total", text: filled.join(" · ") });
      else if (!anyHeading && isUnknownHeading(rows, at) && !now.rows.length && !now.heading) {
        now.heading = row;
        now.headingRows = [at + 1];
        last = row;
      } else body();
    }
    now.blanks = 0;
  }
  close(fresh("inputs", ""));
  return { blocks: blocks.flatMap(withoutOutputs), left, groups };
};

const NOTHING_HELD: ReadonlySet<number> = new Set();

/** Whether a row has words only, and numbers follow below one of them: a heading of which no word is known. */
const isUnknownHeading = (rows: readonly (readonly string[])[], at: number): boolean => {
  const row = rows[at] ?? [];
  if (filledOf(row).length < 2 || filledOf(row).some((cell) => /\d/.test(cell) || cell.length > 30)) return false;
  const below = rows.slice(at + 1, at + 40).filter((next) => filledOf(next).length > 1);
  if (below.length < 2) return false;
  return row.some(
    (cell, column) => cell && below.filter((next) => isNumber(next[column] ?? "")).length >= below.length * 0.7,
  );
};

/**
 * Rows at the end of a block that count from the beginning again and are called as outputs are ("1 Wedge", "2 IEM
 * drummer") are a block of their own.
 */
const withoutOutputs = (block: Block): readonly Block[] => {
  if (block.kind !== "inputs") return [block];
  const isOutput = ({ cells }: BodyRow): boolean => {
    const texts = filledOf(cells).filter((cell) => !/^\p{L}{0,3}\d{1,3}$/u.test(cell));
    return isOutputName(texts[0] ?? "") && !/\b(return|rtn|in)\b/.test(plain(texts[0] ?? ""));
  };
  const seen = new Set<string>();
  let first = -1;
  for (const [at, row] of block.rows.entries()) {
    const number = row.cells.find((cell) => /^\p{L}{0,4} ?\d{1,3}$/u.test(cell)) ?? "";
    const again = seen.has(number.toLowerCase()) || /^(?:out|aux|mix|bus|m|mon|a|o)\.? ?\d/i.test(number);
    if (isOutput(row) && (again || !number)) {
      if (first < 0) first = at;
    } else first = -1;
    seen.add(number.toLowerCase());
  }
  if (first <= 0) return [block];
  return [
    { ...block, rows: block.rows.slice(0, first) },
    { ...block, kind: "outputs", title: OUTSIDE_NAMES.outputs, rows: block.rows.slice(first) },
  ];
};
