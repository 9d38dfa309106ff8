import type { Colour } from "../../model/colours";
import { type Icon, isIcon } from "../../model/families";
import { MOST } from "../../model/limits";
import type { Line } from "../../model/tables/lines";
import { LIST_COLUMNS, type MeaningColumn } from "../../queries/columns";
import { isSign, readAnswer } from "../../reading/answers";
import { readField } from "../../reading/field-text";
import { readColour } from "../../reading/read-cells";
import { PAD, POLARITY } from "./free-item";
import { unguard } from "./guard";
import { FOLDER_SEPARATOR, type Mark, type Notes, PAIR_SEPARATOR, remark } from "./list-types";
import { MEANING_NAMES, type Meaning } from "./meanings";

export interface RowContext {
  readonly meanings: readonly Meaning[];
  readonly notes: Notes;
  readonly row: number;
  /** What a sign in a column of answers means: as a person said, else yes. */
  readonly signOf: (meaning: Meaning, sign: string) => boolean;
  readonly marks: Mark[];
  /** Cells that were read as a sign: what is asked once for a column. */
  readonly signs: { readonly meaning: Meaning; readonly sign: string; readonly row: number }[];
  /** Our own list: each cell is just what it says. */
  readonly literal: boolean;
}

export type CellOf = (meaning: Meaning) => string;

export type Half = readonly [string, string];

/** "32 + 28" are the two sides; with one of them empty, spaces at the end of a cell are lost: "32 +", "+ 28". */
export const halves = (cell: string): Half => {
  const whole = cell.startsWith("+ ") ? ` ${cell}` : cell.endsWith(" +") ? `${cell} ` : cell;
  const [first = "", second] = whole.split(PAIR_SEPARATOR);
  return [first, second ?? first];
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

/** The cell of a meaning, without our own guard against formulas and no longer than a template keeps. */
export const cellReader =
  (cells: readonly string[], meanings: readonly Meaning[]): CellOf =>
  (meaning) =>
    unguard(cells[meanings.indexOf(meaning)] ?? "").slice(0, LONGEST.get(meaning) ?? LONGEST_OTHER);

export const noteCuts = (cells: readonly string[], { meanings, notes, row }: RowContext): void => {
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

/** What a list says of a line in columns of their own; the microphone is looked up on the shelf by its name. */
export const LINE_COLUMNS = LIST_COLUMNS.filter(({ of, meaning }) => of === "line" && meaning !== "microphone");

const SWITCHES: readonly Meaning[] = ["phantom", "pad", "polarity"];

/** A cell that could not be read: told, marked, and kept in the note. */
export const noteUnread = (meaning: Meaning, says: string, { notes, marks, row, meanings }: RowContext): void => {
  notes.leftOut.push(remark(says, row, meanings.indexOf(meaning)));
  marks.push({ field: meaning, outcome: "unread", says });
};

/** A switch by its words and signs. A sign that is neither yes nor no by itself is taken as a person said, and asked. */
const switchOf = (meaning: Meaning, text: string, context: RowContext): boolean => {
  const answer = readAnswer(text);
  if (answer === "yes" || answer === "no") return answer === "yes";
  if (answer === "asked" || isSign(text)) {
    context.signs.push({ meaning, sign: text.trim(), row: context.row });
    return context.signOf(meaning, text.trim());
  }
  noteUnread(meaning, `Row ${context.row}: ${meaning} “${text}” says neither yes nor no; it is left off.`, context);
  return false;
};

/**
 * The two sides of a cell, each read as its field is described; what can't be read is told, and left as if the cell
 * were empty.
 */
export const sidesOfCell = (
  { meaning, field }: MeaningColumn,
  text: string,
  context: RowContext & { readonly stereo: boolean },
): readonly unknown[] => {
  if (!field) throw new Error(`expected a field for the column ${meaning}, got none`);
  const parts = context.stereo || field.kind !== "text" ? halves(text) : [text];
  if (SWITCHES.includes(meaning)) {
    const [left = "", right = left] = parts;
    const read = (side: string): boolean => {
      const said = readField(field, side);
      return said.ok ? Boolean(said.value) : switchOf(meaning, side, context);
    };
    const one = read(left);
    return [one, right === left ? one : read(right)];
  }
  const read = parts.map((side) => readField(field, side));
  const fault = read.find((side) => !side.ok);
  if (fault && !fault.ok)
    noteUnread(meaning, `Row ${context.row}: ${meaning} “${text}” ${fault.says}; it is left off.`, context);
  return read.map((side) => (side.ok ? side.value : field.initial));
};

export const iconOf = (cell: CellOf, { meanings, notes, row }: RowContext): Icon | null | undefined => {
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

export const colourOfCell = (cell: CellOf, context: RowContext): Colour | null => {
  const text = cell("colour");
  if (!text) return null;
  const { notes, marks, meanings, row } = context;
  const colour = readColour(text);
  const column = meanings.indexOf("colour");
  if (!colour)
    noteUnread(
      "colour",
      `Row ${row}: the colour “${text}” is no dye, no colour by name and no hex value; the family decides instead.`,
      context,
    );
  else if (!colour.exact) {
    const says = `Row ${row}: the colour ${text} is taken as ${colour.colour}, the nearest dye.`;
    notes.guessed.push(remark(says, row, column));
    marks.push({ field: "colour", outcome: "guessed", says });
  }
  return colour?.colour ?? null;
};

export const folderPath = (text: string, { meanings, notes, row }: RowContext): readonly string[] => {
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

const PHANTOM_BESIDE = /[\s,(+/]{1,3}(?:\+ ?48 ?v?|48 ?v|p ?48|phantom)\)?$/i;

/** "LDC +48" in the column of microphones: the microphone, and that it is to have 48 V. */
export const microphoneAndPhantom = (text: string): { readonly microphone: string; readonly phantom: boolean } => {
  const found = PHANTOM_BESIDE.exec(text);
  return found && found.index > 0
    ? { microphone: text.slice(0, found.index).trim(), phantom: true }
    : { microphone: text, phantom: false };
};

/** A name without what is written behind it in set words: "Snare bottom (Ø)", "Vox +48". */
export const nameWithout = (
  written: string,
  { literal, marks, row }: RowContext,
): { readonly name: string; readonly phantom: boolean; readonly inverted: boolean } => {
  if (literal) return { name: written, phantom: false, inverted: false };
  const { microphone: bare, phantom } = microphoneAndPhantom(written);
  const found = /[\s(]{1,3}(?:[Øø∅⌀]|phase|polarity)(?: ?(?:inv|rev|flip)\.?)?\)?$/iu.exec(bare);
  const inverted = found !== null && found.index > 0;
  if (inverted)
    marks.push({ field: "polarity", outcome: "guessed", says: `Row ${row}: “${written}” turns the polarity over.` });
  return { name: inverted ? bare.slice(0, found.index).trim() : bare, phantom, inverted };
};

/** What a note says of polarity and pad, in set words: it stays in the note, and is set. */
export const setByNote = (note: string, values: Partial<Line>, context: RowContext): Partial<Line> => {
  const { meanings, marks, row } = context;
  const set: { polarityInverted?: boolean; pad?: boolean } = {};
  if (!meanings.includes("polarity") && (POLARITY.test(note) || /^(?:phase|polarity|fase)\W*$/i.test(note))) {
    set.polarityInverted = true;
    marks.push({ field: "polarity", outcome: "guessed", says: `Row ${row}: “${note}” turns the polarity over.` });
  }
  if (!meanings.includes("pad") && PAD.test(note)) {
    set.pad = true;
    marks.push({ field: "pad", outcome: "guessed", says: `Row ${row}: “${note}” puts the pad in.` });
  }
  return { ...values, ...set };
};
