import { Unzip, UnzipInflate } from "fflate";
import { MOST_ROWS } from "@/core/formats/input-list/read-input-list";
import { type Cells, MOST_CELL, MOST_COLUMNS } from "@/core/formats/input-list/split-table";
import { plainText } from "@/core/reading/plain-text";

/** What a packed spreadsheet may grow to: counted while it is unpacked, and stopped there. */
const MOST_UNPACKED = 64 * 1024 * 1024;
/** Files inside a spreadsheet; usual ones have a dozen. */
const MOST_FILES = 2000;
/** How much of each file is looked through for entities: they stand before everything else. */
const HEAD = 4096;
/** So many rows may stand before those of the list. */
const BEFORE = 32;

export interface Sheet {
  readonly name: string;
  readonly cells: Cells;
}

export type Spreadsheet =
  | { readonly ok: true; readonly sheets: readonly Sheet[] }
  | { readonly ok: false; readonly message: string };

/** Whether a file is packed as spreadsheets are: by its first four bytes, whatever it is called. */
export const isPacked = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 0x03 || bytes[2] === 0x05);

/** What the spreadsheet programs of old wrote: a file system of its own, which is not read. */
export const isOldSpreadsheet = (bytes: Uint8Array): boolean =>
  bytes[0] === 0xd0 && bytes[1] === 0xcf && bytes[2] === 0x11 && bytes[3] === 0xe0;

const CUT = "The spreadsheet is cut short or damaged. Open it, save it anew, and drop that.";

/**
 * Unpacks a spreadsheet only to count: answers with what is wrong with it, or null. Nothing is kept, and it stops at the
 * limit.
 */
const fault = (bytes: Uint8Array): string | null => {
  let [files, unpacked, found] = [0, 0, null as string | null];
  const stop = (message: string): void => {
    found ??= message;
  };
  const unzip = new Unzip((file) => {
    if (++files > MOST_FILES) return stop(`The spreadsheet holds more than ${MOST_FILES} files; it is no input list.`);
    let head = "";
    file.ondata = (error, chunk) => {
      if (found) return;
      if (error) return stop(CUT);
      unpacked += chunk.length;
      if (unpacked > MOST_UNPACKED)
        return stop(
          `The spreadsheet unpacks to more than ${MOST_UNPACKED / 1024 / 1024} MiB. An input list is far smaller: copy its rows into a new sheet, and drop that.`,
        );
      if (head.length < HEAD) head += String.fromCharCode(...chunk.subarray(0, HEAD - head.length));
      if (/<!(?:DOCTYPE|ENTITY)/i.test(head))
        stop("The spreadsheet defines entities, which no list needs; it is not read. Save it anew, and drop that.");
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length && !found; at += 16_384)
      unzip.push(bytes.subarray(at, at + 16_384), at + 16_384 >= bytes.length);
  } catch {
    return found ?? CUT;
  }
  return found ?? (files ? null : CUT);
};

type Loose = Readonly<Record<string, unknown>>;

interface RawCell {
  /** Kind of the value: text, number, yes or no, error, date, empty. */
  readonly t?: string;
  readonly v?: unknown;
  /** As the spreadsheet shows it. */
  readonly w?: string;
}

const textOf = (cell: RawCell | undefined): string => {
  if (!cell || cell.t === "z" || cell.v === undefined || cell.v === null) return "";
  if (cell.t === "b") return cell.v ? "yes" : "no";
  if (cell.t === "e") return "";
  const shown =
    cell.t === "n" && typeof cell.v === "number" && Number.isInteger(cell.v)
      ? String(cell.v)
      : (cell.w ?? String(cell.v));
  return plainText(shown.slice(0, MOST_CELL))
    .replace(/\r\n?/g, "\n")
    .replace(/[\u00a0\u2007\u202f]/g, " ")
    .trim();
};

interface Range {
  readonly s: { readonly r: number; readonly c: number };
  readonly e: { readonly r: number; readonly c: number };
}

/** Writes the value of joined cells into those below it, and answers which hold it so. */
const fillDown = (rows: string[][], merges: readonly Range[]): ReadonlySet<string> => {
  const held = new Set<string>();
  for (const { s, e } of merges) {
    const value = rows[s.r]?.[s.c];
    // Joined across columns only, it is a title or the name of a group, and stands once.
    if (!value || e.r === s.r) continue;
    for (let row = s.r + 1; row <= Math.min(e.r, rows.length - 1); row++) {
      const cells = rows[row];
      if (!cells) continue;
      cells[s.c] = value;
      held.add(`${row}:${s.c}`);
    }
  }
  return held;
};

/** The cells of a sheet, without empty rows and columns behind the last; joined ones hold their value in all rows. */
const cellsOf = (raw: readonly (readonly RawCell[])[], merges: readonly Range[]): Cells => {
  // Empty rows are holes in what the package gives.
  const width = Math.min(
    MOST_COLUMNS,
    raw.reduce((most, row) => Math.max(most, row.length), 0),
  );
  const rows = Array.from({ length: raw.length }, (_, at) =>
    Array.from({ length: width }, (_column, column) => textOf(raw[at]?.[column])),
  );
  const held = fillDown(rows, merges);
  while (rows.length && rows.at(-1)?.every((cell) => !cell)) rows.pop();
  const last = rows.reduce((most, row) => Math.max(most, row.findLastIndex(Boolean) + 1), 0);
  return { by: "sheet", rows: rows.map((row) => row.slice(0, last)), held };
};

/**
 * The sheets of a spreadsheet (.xlsx, .ods) as cells: formulas by the values that were kept with them, joined cells
 * known. What is too large, damaged or no spreadsheet is answered with what to do. Linear in the unpacked bytes.
 */
export const readSpreadsheet = async (bytes: Uint8Array): Promise<Spreadsheet> => {
  const wrong = fault(bytes);
  if (wrong !== null) return { ok: false, message: wrong };
  const { read } = await import("@e965/xlsx");
  try {
    const book = read(bytes, {
      type: "array",
      dense: true,
      sheetRows: MOST_ROWS + BEFORE + 1,
      cellFormula: false,
      cellHTML: false,
      cellText: true,
    });
    const sheets = book.SheetNames.flatMap((name): readonly Sheet[] => {
      const sheet = book.Sheets[name] as unknown as Loose | undefined;
      const raw = (sheet?.["!data"] ?? []) as readonly (readonly RawCell[])[];
      const cells = cellsOf(raw, (sheet?.["!merges"] ?? []) as readonly Range[]);
      return cells.rows.length ? [{ name: plainText(name).slice(0, 100), cells }] : [];
    });
    return sheets.length
      ? { ok: true, sheets }
      : { ok: false, message: "The spreadsheet is empty. An input list has one row for each input." };
  } catch {
    return {
      ok: false,
      message: "This is no spreadsheet that can be read. Save the list as .xlsx, .ods or CSV, and drop that.",
    };
  }
};
