import { strToU8, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { readCells } from "@/core/formats/input-list/read-input-list";
import { isOldSpreadsheet, isPacked, readSpreadsheet } from "./spreadsheet";

type Xlsx = typeof import("@e965/xlsx");

const ROWS = [
  ["Saturday band"],
  ["Ch", "Grp", "Source", "Mic", "+48", "Note"],
  [1, "Drums", "Kick in", "dyn", "", ""],
  [2, "", "Sn T", "dyn", "", ""],
  ["3-4", "", "OH", "SDC", "x", ""],
  [5, "Bass", "Bass DI", "act. DI", "x", ""],
  [],
  ["Outputs"],
  [1, "", "Wedge 1"],
];

const book = async (kind: "xlsx" | "ods", change: (sheet: Record<string, unknown>, xlsx: Xlsx) => void = () => {}) => {
  const xlsx = await import("@e965/xlsx");
  const sheet = xlsx.utils.aoa_to_sheet(ROWS);
  sheet["!merges"] = [{ s: { r: 2, c: 1 }, e: { r: 4, c: 1 } }];
  change(sheet as never, xlsx);
  const made = xlsx.utils.book_new();
  xlsx.utils.book_append_sheet(made, xlsx.utils.aoa_to_sheet([["Cover"]]), "Cover");
  xlsx.utils.book_append_sheet(made, sheet, "Inputs");
  return new Uint8Array(xlsx.write(made, { type: "array", bookType: kind }) as ArrayBuffer);
};

const message = async (bytes: Uint8Array): Promise<string> => {
  const read = await readSpreadsheet(bytes);
  return read.ok ? "" : read.message;
};

describe("spreadsheets", () => {
  it.each(["xlsx", "ods"] as const)("%s: sheets as cells, joined cells held by all their rows", async (kind) => {
    const bytes = await book(kind);
    expect(isPacked(bytes)).toBe(true);
    const read = await readSpreadsheet(bytes);
    const sheets = read.ok ? read.sheets : expect.unreachable();
    expect(sheets.map(({ name }) => name)).toEqual(["Cover", "Inputs"]);
    const cells = sheets[1]?.cells ?? expect.unreachable();
    expect(cells.rows.slice(2, 5).map((row) => row[1])).toEqual(["Drums", "Drums", "Drums"]);
    expect([...cells.held]).toEqual(["3:1", "4:1"]);
    const list = readCells(cells);
    expect(list.ok && list.list.rows.map(({ name, folder, sides }) => `${name} ${folder} ${sides.length}`)).toEqual([
      "Kick in Drums 1",
      "Sn T Drums 1",
      "OH Drums 2",
      "Bass DI Bass 1",
    ]);
  });

  it("formulas by the values that were kept with them; a hidden row is a row", async () => {
    const bytes = await book("xlsx", (sheet) => {
      sheet.A6 = { t: "n", v: 7, f: "A5+2" };
      sheet["!rows"] = [];
      (sheet["!rows"] as object[])[3] = { hidden: true };
    });
    const read = await readSpreadsheet(bytes);
    const rows = read.ok ? (read.sheets[1]?.cells.rows ?? []) : [];
    expect([rows[5]?.[0], rows[3]?.[2]]).toEqual(["7", "Sn T"]);
  });

  it("one that unpacks to more than may be is stopped while it is unpacked", async () => {
    const bomb = zipSync({ "xl/workbook.xml": new Uint8Array(65 * 1024 * 1024) }, { level: 9 });
    expect(bomb.length).toBeLessThan(200_000);
    expect(await message(bomb)).toContain("unpacks to more than 64 MiB");
  });

  it("entities, damage and what is no spreadsheet are answered with what to do", async () => {
    const entities = zipSync({
      "xl/workbook.xml": strToU8('<?xml version="1.0"?><!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>'),
    });
    expect(await message(entities)).toContain("defines entities");
    const bytes = await book("xlsx");
    expect(await message(bytes.slice(0, bytes.length / 3))).toMatch(/cut short|can be read|empty/);
    expect(await message(strToU8("PK\u0003\u0004 and no more"))).toMatch(/cut short|can be read|empty/);
    expect(await message(zipSync({ "readme.txt": strToU8("hello") }))).toMatch(/can be read|empty/);
    expect(isOldSpreadsheet(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0]))).toBe(true);
  });
});
