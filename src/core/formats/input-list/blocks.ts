import { plain } from "../../model/families";
import { guessFamily } from "../../model/guess-family";
import { readPlaces } from "../../reading/places";
import { blankOr, dropEnds } from "../../units/ends";
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
  /^\p{L}{0,3} ?\d/u.test(cell) && !/48/.test(cell) && cell.length <= 12 && readPlaces(cell) !== null;

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
  // "48" alone is a heading, but a number like others where others stand beside it.
  if (filled.includes("48") && filled.some((cell) => cell !== "48" && /\d/.test(cell))) return 0;
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
export const bareTitle = (text: string): string => {
  const bare = dropEnds(text, blankOr("-–—=*:#>•~_"));
  const wrapped = /^[[(](.*)[\])]$/.exec(bare);
  return wrapped && !/[()[\]]/.test(wrapped[1] ?? "") ? (wrapped[1] ?? "").trim() : bare;
};

const GREETING =
  /^(?:hi|hello|hey|dear|hallo|moin|liebe[rs]?|guten|servus|bonjour|salut|ch[eè]re?|hola|buenas|buenos|querid[oa]|ciao|salve|buongiorno|caro|cara|gentile|thanks|thank you|thx|cheers|best|regards|kind regards|see you|danke|viele gr|liebe gr|gru(?:ß|ss)|gr[uü](?:ß|ss)e|lg|mfg|vg|bis |merci|cordialement|bien à|à bient|gracias|un saludo|saludos|abrazo|grazie|saluti|a presto|sent from|von meinem|gesendet|envoy|enviado|inviato|here (?:is|are|comes)|hier (?:ist|kommt|die)|voici|aqu[ií] |ecco|anbei|attached|ci-joint|adjunt|in allegato|please|bitte|por favor|per favore|s'il)(?:\b|\s|,|!|$)/i;

export const isGreeting = (text: string): boolean => GREETING.test(text);

/** A full stop at the end, or one that another sentence follows. */
export const isSentence = (text: string): boolean => /[.!?]$/.test(text) || /\p{Ll}[.!?] \p{Lu}/u.test(text);

/** Prose rather than a name: many words, or a sentence that ends. */
export const isProse = (text: string): boolean =>
  isGreeting(text) ||
  text.split(/\s+/).length > 9 ||
  /\p{Ll}[.!?] \p{Lu}/u.test(text) ||
  (/[.!?]$/.test(text) && text.split(/\s+/).length > 4);

/** The title of the whole, and no group within it. */
const IS_LIST =
  /\b(?:list|liste|lista|patch|plot|rider|belegung|kanalliste|eingangsliste|inputliste|inputs?|plan|setup|session|version|v\d)\b/;

/** A block while its rows are still coming in. */
interface Open {
  kind: Block["kind"];
  title: string;
  heading: readonly string[] | null;
  headingRows: number[];
  rows: BodyRow[];
  group: string | null;
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

/** The walk over the rows of a table: what was found, and the block that is open. */
interface Walk {
  readonly cells: Cells;
  readonly width: number;
  /** Where the first heading over inputs stands; −1 where there is none. */
  readonly headingAt: number;
  readonly anyHeading: boolean;
  readonly from: number;
  readonly blocks: Block[];
  readonly left: LeftRow[];
  readonly groups: { row: number; name: string }[];
  now: Open;
  /** The heading that was read last: rows after a block of outputs stand under it again. */
  last: readonly string[] | null;
}

const fresh = (kind: Block["kind"], title: string): Open => ({
  kind,
  title,
  heading: null,
  headingRows: [],
  rows: [],
  group: null,
});

const close = (walk: Walk, next: Open): void => {
  if (walk.now.rows.length) walk.blocks.push({ ...walk.now, from: walk.from });
  walk.now = next;
};

const leave = ({ left }: Walk, at: number, why: OutsideReason, text: string): void =>
  void left.push({ row: at + 1, why, text });

const setHeading = (walk: Walk, row: readonly string[], rows: readonly number[]): void => {
  walk.now.heading = row;
  walk.now.headingRows = [...rows];
  walk.last = row;
};

const takeHeading = (walk: Walk, row: readonly string[], at: number): void => {
  const { now } = walk;
  if (now.heading && same(row, now.heading) && now.headingRows.length)
    return void leave(walk, at, "repeated heading", filledOf(row).join(" · "));
  const kind = isOutputHeading(row) ? "outputs" : now.rows.length ? "inputs" : now.kind;
  const keep = now.rows.length ? "" : now.title;
  const group = now.rows.length || kind !== "inputs" ? null : now.group;
  close(walk, { ...fresh(kind, kind === "inputs" ? keep : keep || OUTSIDE_NAMES[kind]), group });
  setHeading(walk, row, [at + 1]);
};

/** What a text alone in its row is, besides a group; null when it may be one. */
const aloneIs = (text: string): OutsideReason | null => {
  if (isTotal(text)) return "total";
  if (isPageFoot(text)) return "page";
  return isProse(text) ? "greeting" : null;
};

/** Whether a text alone in its row names the group of the rows below it. */
const namesGroup = ({ cells, width, anyHeading, now }: Walk, bare: string, at: number): boolean => {
  if (!leadsOn(cells.rows, at, width)) return false;
  const begun = now.rows.length > 0 || now.heading !== null;
  const family = guessFamily(bare);
  if (family && begun && /^\p{L}+s?$/u.test(bare)) return true;
  return !IS_LIST.test(plain(bare)) && (begun || (!anyHeading && (family !== null || bare.endsWith(":"))));
};

const takeTitle = (walk: Walk, text: string, at: number): void => {
  const bare = bareTitle(text);
  const outside = outsideTitle(bare);
  const alone = aloneIs(text);
  if (outside) {
    leave(walk, at, "block title", text);
    close(walk, fresh(outside, bare));
  } else if (isInputTitle(bare)) {
    leave(walk, at, "title", text);
    if (walk.now.kind !== "inputs") close(walk, { ...fresh("inputs", bare), heading: walk.last });
  } else if (alone) leave(walk, at, alone, text);
  else if (!namesGroup(walk, text.endsWith(":") ? `${bare}:` : bare, at))
    leave(walk, at, walk.now.rows.length > 0 || walk.now.heading !== null ? "note" : "title", text);
  else {
    if (walk.now.kind !== "inputs") close(walk, { ...fresh("inputs", ""), heading: walk.last });
    walk.now.group = bare;
    walk.groups.push({ row: at + 1, name: bare });
  }
};

const heldIn = ({ held }: Cells, at: number, width: number): ReadonlySet<number> =>
  held.size
    ? new Set(Array.from({ length: width }, (_, column) => column).filter((column) => held.has(`${at}:${column}`)))
    : NOTHING_HELD;

/** A row with several cells below or without a heading. */
const takeBody = (walk: Walk, row: readonly string[], at: number): void => {
  const { now, anyHeading, headingAt, cells } = walk;
  const filled = filledOf(row);
  const text = filled.join(" · ");
  if (isTotal(filled.join(" ")) || isTotal(filled[0] ?? "")) return void leave(walk, at, "total", text);
  if (!anyHeading && !now.rows.length && !now.heading && isUnknownHeading(cells.rows, at))
    return void setHeading(walk, row, [at + 1]);
  // What stands before the heading and has no number tells of the evening, and not of an input.
  if (headingAt > at && !now.rows.length && !filled.some((cell) => isNumber(cell) || isPlaceCell(cell)))
    return void leave(walk, at, "title", text);
  now.rows.push({ row: at + 1, cells: row, group: now.group, held: heldIn(cells, at, row.length) });
};

const takeRow = (walk: Walk, row: readonly string[], at: number): void => {
  const filled = filledOf(row);
  if (!filled.length) return;
  if (isRule(row)) return void leave(walk, at, "rule", filled.join(" "));
  const { now } = walk;
  const onHeading = now.heading !== null && !now.rows.length && now.headingRows.at(-1) === at;
  if (onHeading && now.headingRows.length < MOST_HEADING_ROWS && goesOn(row))
    return void setHeading(walk, joined(now.heading ?? [], row), [...now.headingRows, at + 1]);
  if (headingCells(row)) return void takeHeading(walk, row, at);
  const only = onlyText(row, walk.width);
  if (only !== null && (isPageFoot(only) || isTotal(only) || !isPlaceAlone(only)))
    return void takeTitle(walk, only, at);
  takeBody(walk, row, at);
};

const MOST_HEADING_ROWS = 3;

/**
 * The blocks of a table: rows of one shape below their heading, groups within them, and what stands before, between and
 * after them. One walk from the first row to the last.
 */
export const findBlocks = (cells: Cells, from = 0): Blocks => {
  const { rows } = cells;
  const walk: Walk = {
    cells,
    width: rows.reduce((most, row) => Math.max(most, row.length), 0),
    headingAt: rows.findIndex((row) => headingCells(row) > 0 && !isOutputHeading(row)),
    anyHeading: rows.some((row) => headingCells(row) > 0),
    from,
    blocks: [],
    left: [],
    groups: [],
    now: fresh("inputs", ""),
    last: null,
  };
  for (const [at, row] of rows.entries()) takeRow(walk, row, at);
  close(walk, fresh("inputs", ""));
  return { blocks: walk.blocks.flatMap(withoutOutputs), left: walk.left, groups: walk.groups };
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
