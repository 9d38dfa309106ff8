import { dropStart } from "../../units/ends";

/**
 * What spreadsheets take for the beginning of a formula, in their own letters and in the full width of East Asian ones.
 */
const FORMULA = "=+-@＝＋－＠";

/** Blanks of every kind, and what has no width at all: a spreadsheet that drops them finds the formula behind. */
const isUnseen = (character: string): boolean =>
  character.trim() === "" ||
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are just what is looked for
  /[\u0000-\u001f\u007f-\u009f\u00ad\u200b-\u200f\u2028-\u202f\u2060-\u206f\ufeff]/.test(character);

/** Whether a spreadsheet may take a cell for a formula. */
const isRisky = (cell: string): boolean => {
  const [first = ""] = cell;
  if (first === "\t" || first === "\r" || first === "\n") return true;
  const behind = dropStart(cell, isUnseen)[0];
  return behind !== undefined && FORMULA.includes(behind);
};

/** A cell that begins with apostrophes of its own is guarded as well, so that it comes back with all of them. */
const withoutMarks = (cell: string): string => dropStart(cell, (character) => character === "'");

/**
 * A spreadsheet must not take a cell for a formula: an apostrophe goes before it, and is dropped when the list is read
 * back.
 */
export const guard = (cell: string): string => (isRisky(withoutMarks(cell)) ? `'${cell}` : cell);

/** A cell without the apostrophe that we put there ourselves. */
export const unguard = (cell: string): string =>
  cell.startsWith("'") && isRisky(withoutMarks(cell)) ? cell.slice(1) : cell;
