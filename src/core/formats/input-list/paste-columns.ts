import { type CellColumn, listColumn } from "../../queries/columns";
import { findBlocks } from "./blocks";
import { findColumns } from "./columns";
import type { Meaning } from "./meanings";

interface PasteColumns {
  readonly cells: readonly (readonly string[])[];
  /** What each column is, where the block tells it by a heading or by what is in it; null where it does not. */
  readonly columns: readonly CellColumn[] | null;
  /** Columns that say something, but not what: for a person. */
  readonly leftOut: readonly string[];
}

const asTold = (
  rows: readonly (readonly string[])[],
  { meanings, heading }: { readonly meanings: readonly Meaning[]; readonly heading: readonly string[] | null },
): PasteColumns => {
  const unknown = meanings.flatMap((meaning, at) =>
    meaning === "ignore" && rows.some((row) => row[at]) ? [heading?.[at] || `${at + 1}`] : [],
  );
  const known = meanings.flatMap((meaning, at) =>
    meaning === "ignore" ? [] : [{ at, column: listColumn(meaning).column }],
  );
  const named = known.some(({ column }) => column === "name");
  // A list without track names: what is recorded gives the name as well.
  const all = named
    ? known
    : [...known, ...known.flatMap(({ at, column }) => (column === "source" ? [{ at, column: "name" as const }] : []))];
  return {
    cells: rows.map((row) => all.map(({ at }) => row[at] ?? "")),
    columns: all.map(({ column }) => column),
    leftOut: unknown.map((name) => `The column “${name}” has no known meaning.`),
  };
};

/** Whether what stands in the columns of a block tells that it is a list: names, and a number or a microphone. */
const isList = (meanings: readonly Meaning[]): boolean =>
  meanings.includes("source") && (meanings.includes("input") || meanings.includes("microphone"));

/**
 * A block that begins with a row of known headings says itself what its columns are; the row is taken off, and columns
 * without a meaning are left out and told. One without headings is read by what is in it, as lists are, where that
 * tells names with inputs or microphones; else it goes where the cursor stands.
 */
export const pasteColumns = (cells: readonly (readonly string[])[]): PasteColumns => {
  const asIs: PasteColumns = { cells, columns: null, leftOut: [] };
  if (cells.length < 2) return asIs;
  const { blocks } = findBlocks({ by: "tab", rows: cells, held: new Set() });
  const [block] = blocks;
  if (!block || blocks.length > 1 || block.kind !== "inputs") return asIs;
  const { meanings } = findColumns(block.heading, block.rows, { people: new Set() });
  const rows = block.rows.map((row) => row.cells);
  if (block.heading && block.headingRows[0] === 1) return asTold(rows, { meanings, heading: block.heading });
  return rows.length === cells.length && isList(meanings) ? asTold(rows, { meanings, heading: null }) : asIs;
};
