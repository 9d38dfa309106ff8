import type { Colour } from "../../model/colours";
import { type Icon, isIcon } from "../../model/families";
import { MOST } from "../../model/limits";
import type { Line } from "../../model/tables/lines";
import { LIST_COLUMNS, type MeaningColumn } from "../../queries/columns";
import { readField } from "../../reading/field-text";
import { readColour, readInputs, readLayout, readSide } from "../../reading/read-cells";
import { numberAtEnd } from "../../units/ends";
import { findHeading, MEANING_NAMES, type Meaning, meaningsByContent, meaningsByHeading } from "./columns";
import { unguard } from "./guard";
import { type Cells, splitTable } from "./split-table";

/** One remark of a report. Rows count from 1 as in the file, columns from 0; null when it concerns the whole. */
export interface Remark {
  readonly message: string;
  readonly row: number | null;
  readonly column: number | null;
}

export interface Report {
  readonly understood: readonly Remark[];
  readonly guessed: readonly Remark[];
  readonly leftOut: readonly Remark[];
}

/** One side of what a row tells: a mono row has one, a stereo row two. */
export interface Side {
  readonly input: string | null;
  readonly microphone: string;
  /** Whether the list has a column for phantom; without one, the microphone decides. */
  readonly saysPhantom: boolean;
  /** What it says of the line besides. */
  readonly values: Partial<Line>;
}

export interface ListRow {
  /** Row in the file, from 1. */
  readonly row: number;
  readonly name: string;
  readonly sides: readonly [Side] | readonly [Side, Side];
  /** Names of folders, outermost first. */
  readonly folder: readonly string[];
  readonly colour: Colour | null;
  /** Null: the list says that there is none; undefined: it has no column for it. */
  readonly icon: Icon | null | undefined;
  readonly note: string;
}

export interface Column {
  readonly heading: string;
  readonly meaning: Meaning;
  /** A filled cell, for a person to see what is in it. */
  readonly example: string;
}

export interface InputList {
  readonly columns: readonly Column[];
  readonly rows: readonly ListRow[];
  readonly report: Report;
}

export type ReadList =
  | { readonly ok: true; readonly list: InputList }
  | { readonly ok: false; readonly message: string };

interface Notes {
  understood: Remark[];
  guessed: Remark[];
  leftOut: Remark[];
}

export const FOLDER_SEPARATOR = " › ";
/** Between what differs on the two sides of a stereo row. */
export const PAIR_SEPARATOR = " + ";

const remark = (message: string, row: number | null = null, column: number | null = null): Remark => ({
  message,
  row,
  column,
});

type Half = readonly [string, string];

/** "32 + 28" are the two sides; with one of them empty, spaces at the end of a cell are lost: "32 +", "+ 28". */
const halves = (cell: string): Half => {
  const whole = cell.startsWith("+ ") ? ` ${cell}` : cell.endsWith(" +") ? `${cell} ` : cell;
  const [first = "", second] = whole.split(PAIR_SEPARATOR);
  return [first, second ?? first];
};

interface Context {
  readonly meanings: readonly Meaning[];
  readonly notes: Notes;
}

type CellOf = (meaning: Meaning) => string;

interface RowContext {
  readonly stereo: boolean;
  readonly row: number;
  readonly context: Context;
}

/** What a list says of a line in columns of their own; the microphone is looked up on the shelf by its name. */
const LINE_COLUMNS = LIST_COLUMNS.filter(({ of, meaning }) => of === "line" && meaning !== "microphone");

/**
 * The two sides of a cell, each read as its field is described; what can't be read is told, and left as if the cell
 * were empty.
 */
const sidesOf = (
  { meaning, field }: MeaningColumn,
  cell: CellOf,
  { stereo, row, context: { notes, meanings } }: RowContext,
): readonly unknown[] => {
  if (!field) throw new Error(`expected a field for the column ${meaning}, got none`);
  const text = meaning === "source" ? cell("source") || cell("track") : cell(meaning);
  const read = (stereo || field.kind !== "text" ? halves(text) : [text]).map((side) => readField(field, side));
  const fault = read.find((side) => !side.ok);
  if (fault && !fault.ok)
    notes.leftOut.push(
      remark(`Row ${row}: ${meaning} “${text}” ${fault.says}; it is left off.`, row, meanings.indexOf(meaning)),
    );
  return read.map((side) => (side.ok ? side.value : field.initial));
};

const iconOf = (cell: CellOf, { meanings, notes }: Context, row: number): Icon | null | undefined => {
  if (!meanings.includes("icon")) return undefined;
  const word = cell("icon").toLowerCase();
  if (!word || isIcon(word)) return isIcon(word) ? word : null;
  notes.leftOut.push(
    remark(
      `Row ${row}: there is no icon “${cell("icon")}”; the family decides instead.`,
      row,
      meanings.indexOf("icon"),
    ),
  );
  return undefined;
};

const colourOf = (cell: CellOf, { meanings, notes }: Context, row: number): Colour | null => {
  const text = cell("colour");
  if (!text) return null;
  const colour = readColour(text);
  const column = meanings.indexOf("colour");
  if (!colour)
    notes.leftOut.push(
      remark(
        `Row ${row}: the colour “${text}” is no dye, no colour by name and no hex value; the family decides instead.`,
        row,
        column,
      ),
    );
  else if (!colour.exact)
    notes.guessed.push(
      remark(`Row ${row}: the colour ${text} is taken as ${colour.colour}, the nearest dye.`, row, column),
    );
  return colour?.colour ?? null;
};

const inputsOf = (cell: CellOf, { meanings, notes }: Context, row: number): readonly string[] => {
  const text = cell("input");
  const column = meanings.indexOf("input");
  const inputs = readInputs(text);
  if (inputs === null)
    notes.leftOut.push(
      remark(`Row ${row}: the input “${text}” can't be read; the line is kept without an input.`, row, column),
    );
  const layout = readLayout(cell("format"));
  if (layout === null)
    notes.leftOut.push(
      remark(`Row ${row}: “${cell("format")}” is neither mono nor stereo.`, row, meanings.indexOf("format")),
    );
  const [only] = inputs ?? [];
  if (layout !== "stereo" || inputs?.length !== 1 || !only) return inputs ?? [];
  const ending = numberAtEnd(only);
  const next = ending ? `${ending.before}${Number(ending.number) + 1}` : only;
  notes.guessed.push(remark(`Row ${row}: stereo with one input; the right side is put on ${next}.`, row, column));
  return [only, next];
};

/** How long a text may be, by what it is; the same as in a template. A stereo row has two of them in one cell. */
const LONGEST: ReadonlyMap<Meaning, number> = new Map(
  LIST_COLUMNS.map(({ meaning, field }) => [
    meaning,
    meaning === "folder" ? 4000 : ((field?.schema.maxLength as number | undefined) ?? 200),
  ]),
);
const LONGEST_OTHER = 200;
const LONGEST_FOLDER = 200;

const noteCuts = (cells: readonly string[], row: number, { meanings, notes }: Context): void => {
  for (const [column, meaning] of meanings.entries()) {
    const most = LONGEST.get(meaning) ?? LONGEST_OTHER;
    const length = cells[column]?.length ?? 0;
    if (meaning !== "ignore" && length > most)
      notes.leftOut.push(
        remark(
          `Row ${row}: ${MEANING_NAMES[meaning]} has ${length} characters, and up to ${most} are kept; the rest is left out.`,
          row,
          column,
        ),
      );
  }
};

const folderPath = (text: string, row: number, { meanings, notes }: Context): readonly string[] => {
  const names = text
    .split(FOLDER_SEPARATOR)
    .map((name) => name.trim().slice(0, LONGEST_FOLDER))
    .filter(Boolean);
  if (names.length > MOST.depth)
    notes.leftOut.push(
      remark(
        `Row ${row}: its folders lie ${names.length} deep in one another, and ${MOST.depth} is the most; the innermost are left out.`,
        row,
        meanings.indexOf("folder"),
      ),
    );
  return names.slice(0, MOST.depth);
};

const toRow = (
  cells: readonly string[],
  row: number,
  { context, section }: { readonly context: Context; readonly section: string | null },
): ListRow => {
  const cell: CellOf = (meaning) =>
    unguard(cells[context.meanings.indexOf(meaning)] ?? "").slice(0, LONGEST.get(meaning) ?? LONGEST_OTHER);
  noteCuts(cells, row, context);
  const inputs = inputsOf(cell, context, row);
  const stereo = inputs.length === 2 || readLayout(cell("format")) === "stereo";
  const read = LINE_COLUMNS.map(
    (column) => [column.key ?? "", sidesOf(column, cell, { stereo, row, context })] as const,
  );
  const side = (at: 0 | 1): Side => ({
    input: inputs[at] ?? null,
    microphone: stereo ? halves(cell("microphone"))[at] : cell("microphone"),
    saysPhantom: context.meanings.includes("phantom"),
    values: Object.fromEntries(read.map(([key, values]) => [key, values.length > at ? values[at] : values[0]])),
  });
  const folder = cell("folder") || section || "";
  return {
    row,
    name: cell("track") || cell("source"),
    sides: stereo ? [side(0), side(1)] : [side(0)],
    folder: folderPath(folder, row, context),
    colour: colourOf(cell, context, row),
    icon: iconOf(cell, context, row),
    note: cell("note"),
  };
};

/**
 * Two rows that are the sides of one source become one stereo row: neighbours in the list, same stem, one left and one
 * right.
 */
const joinSides = (rows: readonly ListRow[], notes: Notes): readonly ListRow[] => {
  const joined: ListRow[] = [];
  for (const row of rows) {
    const before = joined.at(-1);
    const [a, b] = [before && readSide(before.name), readSide(row.name)];
    const match =
      before &&
      a &&
      b &&
      a.side !== b.side &&
      a.stem.toLowerCase() === b.stem.toLowerCase() &&
      before.sides.length === 1 &&
      row.sides.length === 1;
    if (!match) {
      joined.push(row);
      continue;
    }
    const [left, right] = a.side === "left" ? [before, row] : [row, before];
    const named = (side: Side): Side => ({
      ...side,
      values: { ...side.values, source: readSide(side.values.source ?? "")?.stem ?? side.values.source ?? "" },
    });
    joined[joined.length - 1] = {
      ...before,
      name: a.stem,
      sides: [named(left.sides[0]), named(right.sides[0])],
      note: [before.note, row.note].filter((note, at, all) => note && all.indexOf(note) === at).join("; "),
    };
    notes.understood.push(
      remark(
        `Rows ${before.row} and ${row.row}: ${before.name} and ${row.name} become one stereo track, ${a.stem}.`,
        before.row,
      ),
    );
  }
  return joined;
};

const isSection = (cells: readonly string[]): boolean =>
  cells.filter(Boolean).length === 1 &&
  cells.length > 1 &&
  !/^\S{0,3}\d+$/.test(cells.find(Boolean) ?? "") &&
  Boolean(cells[0]);

/** A last row that only counts. */
const SUM = /^(total|sum|summe|gesamt|somme)\b/i;

const readBody = (table: Cells, first: number, context: Context): readonly ListRow[] => {
  let section: string | null = null;
  const rows: ListRow[] = [];
  const hasFolders = context.meanings.includes("folder");
  const heading = first > 0 ? table.rows[first - 1] : undefined;
  for (const [at, cells] of table.rows.entries()) {
    const row = at + 1;
    if (at < first || cells.every((cell) => !cell)) continue;
    if (!hasFolders && isSection(cells)) {
      section = cells[0] ?? "";
      context.notes.guessed.push(remark(`Row ${row}: “${section}” stands alone and is taken as a folder.`, row, 0));
      continue;
    }
    if (heading && cells.join("\n").toLowerCase() === heading.join("\n").toLowerCase()) {
      context.notes.understood.push(remark(`Row ${row} repeats the heading.`, row));
      continue;
    }
    if (SUM.test(cells[0] ?? "")) {
      context.notes.leftOut.push(
        remark(`Row ${row} adds up the list and is no line: “${cells.filter(Boolean).join(" · ")}”.`, row),
      );
      continue;
    }
    const read = toRow(cells, row, { context, section });
    if (read.name || read.sides.some((side) => side.input || side.microphone)) rows.push(read);
    else
      context.notes.leftOut.push(
        remark(`Row ${row}: nothing in it says what is recorded: “${cells.filter(Boolean).join(" · ")}”.`, row),
      );
  }
  return rows;
};

const columnsOf = (table: Cells, heading: number | null, meanings: readonly Meaning[]): readonly Column[] =>
  meanings.map((meaning, at) => ({
    heading: (heading === null ? "" : table.rows[heading]?.[at]) || `Column ${at + 1}`,
    meaning,
    example: table.rows.slice((heading ?? -1) + 1).find((row) => row[at])?.[at] ?? "",
  }));

const noteColumns = (columns: readonly Column[], notes: Notes, asked: boolean): void => {
  for (const [at, { heading, meaning, example }] of columns.entries()) {
    if (meaning !== "ignore")
      notes.understood.push(remark(`The column “${heading}” is read as: ${MEANING_NAMES[meaning]}.`, null, at));
    else if (example && !asked)
      notes.leftOut.push(
        remark(`The column “${heading}” has no known meaning and is left out. Choose one if it matters.`, null, at),
      );
  }
};

/** The most rows a list may have. Several hundred are usual for an orchestra with its players. */
export const MOST_ROWS = 4096;

/**
 * Reads an input list: delimiter, heading and meaning of the columns are found, or `meanings` says what each column is.
 * Everything guessed and everything left out is told. Never throws; what is no list at all is answered with what to do.
 */
export const readInputList = (text: string, meanings?: readonly Meaning[]): ReadList => {
  const table = splitTable(text, MOST_ROWS);
  if ("excess" in table) return { ok: false, message: table.excess };
  if (table.rows.every((row) => row.every((cell) => !cell)))
    return {
      ok: false,
      message: "The file is empty. An input list has one row for each input: its number, what it is, the microphone.",
    };
  const heading = findHeading(table.rows);
  // The heading, and what stands before it, are no rows of the list.
  const count = table.rows.length - (heading === null ? 0 : heading + 1);
  if (count > MOST_ROWS)
    return {
      ok: false,
      message: `The list has ${count} rows; up to ${MOST_ROWS} are read. Split it, or send only the rows that are recorded.`,
    };
  const notes: Notes = { understood: [], guessed: [], leftOut: [] };
  const width = Math.max(...table.rows.map((row) => row.length));
  const found = heading === null ? meaningsByContent(table.rows) : meaningsByHeading(table.rows[heading] ?? []);
  const chosen = Array.from({ length: width }, (_, at) => meanings?.[at] ?? found[at] ?? "ignore");
  const columns = columnsOf(table, heading, chosen);
  if (heading === null && !meanings)
    notes.guessed.push(remark("There is no heading row; the columns are taken by what is in them."));
  for (const [at, row] of table.rows.slice(0, heading ?? 0).entries())
    if (row.some(Boolean))
      notes.leftOut.push(
        remark(`Row ${at + 1} stands before the heading: “${row.filter(Boolean).join(" · ")}”.`, at + 1),
      );
  noteColumns(columns, notes, meanings !== undefined);
  if (!chosen.includes("source") && !chosen.includes("track"))
    return {
      ok: false,
      message:
        "No column says what is recorded. Name one Source, Instrument or Track in its heading row, or choose its meaning.",
    };
  const rows = joinSides(readBody(table, heading === null ? 0 : heading + 1, { meanings: chosen, notes }), notes);
  if (rows.length === 0)
    return {
      ok: false,
      message: "There is a heading row and nothing below it. Add a row for each input and try again.",
    };
  notes.understood.unshift(
    remark(
      `${rows.length} tracks on ${rows.reduce((sum, row) => sum + row.sides.length, 0)} lines, cells parted by ${table.delimiter.name}.`,
    ),
  );
  return { ok: true, list: { columns, rows, report: notes } };
};
