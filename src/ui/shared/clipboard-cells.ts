import { tsvParseRows } from "d3-dsv";
import { unguard } from "@/core/formats/input-list/guard";
import { plainText } from "@/core/reading/plain-text";

/** The text of a clipboard as cells: tabs and line breaks part them, quotes hold a cell with breaks together. */
export const cellsOf = (text: string): string[][] => {
  const rows = tsvParseRows(plainText(text).replace(/\r\n?/g, "\n"));
  while (rows.length && rows.at(-1)?.every((cell) => cell === "")) rows.pop();
  return rows.map((row) => row.map(unguard));
};
