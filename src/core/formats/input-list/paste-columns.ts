import { type CellColumn, listColumn } from "../../queries/columns";
import { findHeading, meaningsByHeading } from "./columns";

interface PasteColumns {
  readonly cells: readonly (readonly string[])[];
  /** What each column is, when the block brought its own heading row; null when it did not. */
  readonly columns: readonly CellColumn[] | null;
  /** Columns that say something, but not what: for a person. */
  readonly leftOut: readonly string[];
}

/**
 * A block that begins with a row of known headings says itself what its columns are; the row is taken off, and columns
 * without a meaning are left out and told.
 */
export const pasteColumns = (cells: readonly (readonly string[])[]): PasteColumns => {
  const [heading = []] = cells;
  if (cells.length < 2 || findHeading([heading]) !== 0) return { cells, columns: null, leftOut: [] };
  const meanings = meaningsByHeading(heading);
  const unknown = heading.filter((_, at) => meanings[at] === "ignore" && cells.slice(1).some((row) => row[at]));
  const known = meanings.flatMap((meaning, at) =>
    meaning === "ignore" ? [] : [{ at, column: listColumn(meaning).column }],
  );
  const named = known.some(({ column }) => column === "name");
  // A list without track names: what is recorded gives the name as well.
  const all = named
    ? known
    : [...known, ...known.flatMap(({ at, column }) => (column === "source" ? [{ at, column: "name" as const }] : []))];
  return {
    cells: cells.slice(1).map((row) => all.map(({ at }) => row[at] ?? "")),
    columns: all.map(({ column }) => column),
    leftOut: unknown.map((name) => `The column “${name}” has no known meaning.`),
  };
};
