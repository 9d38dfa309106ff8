import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { describe, expect, it } from "vitest";
import type { PatchingSheet, SheetRow } from "@/core/layout/patching-sheet";
import { MOST } from "@/core/model/limits";
import { renderPatchingSheet } from "./patching-sheet-pdf";

const aRow = (at: number, more: Partial<SheetRow> = {}): SheetRow => ({
  key: `line-${at}`,
  input: String(at),
  through: "",
  source: `Source ${at}`,
  microphone: "Pale condenser",
  phantom: null,
  settings: "",
  sharedWith: [],
  sharedWithMore: 0,
  player: "",
  track: "",
  colour: "madder",
  note: "",
  ...more,
});

const aSheet = (rows: readonly SheetRow[]): PatchingSheet => ({
  title: "Long Night",
  subtitle: "Band · Wheelhouse cart",
  sections: [{ title: "Stage box", rows }],
  lineCount: rows.length,
  phantomCount: 0,
});

/** The words of every page, as a reader of PDFs finds them. */
const pagesOf = async (sheet: PatchingSheet): Promise<readonly (readonly string[])[]> => {
  const data = await renderPatchingSheet(sheet, { revision: 7, savedAt: "2026-11-26T10:00:00.000Z", ownColours: [] });
  const pdf = await getDocument({ data, verbosity: 0 }).promise;
  const pages: string[][] = [];
  for (let number = 1; number <= pdf.numPages; number += 1) {
    const { items } = await (await pdf.getPage(number)).getTextContent();
    pages.push(items.flatMap((item) => ("str" in item && item.str.trim() ? [item.str.trim()] : [])));
  }
  await pdf.destroy();
  return pages;
};

const rows = (count: number) => Array.from({ length: count }, (_, at) => aRow(at + 1));

describe("the patching sheet as PDF", () => {
  it("has title, headings and foot on every page, and every row once", async () => {
    const pages = await pagesOf(aSheet(rows(100)));
    expect(pages).toHaveLength(3);
    for (const [at, words] of pages.entries())
      expect(words).toEqual(
        expect.arrayContaining([
          at ? "Stage box, continued" : "Stage box",
          "Input",
          "Microphone or box",
          "48 V",
          `${at + 1} of 3`,
          "Long Night · revision 7, 2026-11-26",
        ]),
      );
    expect(pages[0]).toEqual(
      expect.arrayContaining(["Long Night", "Patching sheet · Band · Wheelhouse cart · 100 lines, 0 with 48 V"]),
    );
    expect(pages.flat().filter((word) => /^Source \d+$/.test(word))).toEqual(rows(100).map(({ source }) => source));
  });

  it("says what is on an input besides, its phantom and its settings", async () => {
    const [words] = await pagesOf(
      aSheet([aRow(1, { phantom: "bank", settings: "pad", sharedWith: ["Rim"], sharedWithMore: 3 })]),
    );
    expect(words?.join(" ")).toMatch(/same input as Rim and\s+3 more.*48 V by.*pad/);
  });

  it("writes a note that is too long for its column under its row, and cuts nothing", async () => {
    const note = Array.from({ length: 900 }, (_, at) => `word${at}`).join(" ");
    const pages = await pagesOf(aSheet([...rows(30), aRow(31, { note }), aRow(32)]));
    const words = pages.flat().join(" ");
    expect(note.split(" ").filter((word) => !words.includes(word))).toEqual([]);
    expect(pages.every((page, at) => page.includes(`${at + 1} of ${pages.length}`))).toBe(true);
    expect(words).toContain("Source 32");
  });

  it("takes as many lines as a template may have", async () => {
    const pages = await pagesOf(aSheet(rows(MOST.lines)));
    expect([
      pages.flat().filter((word) => word.startsWith("Source ")).length,
      pages.at(-1)?.includes(`${pages.length} of ${pages.length}`),
    ]).toEqual([MOST.lines, true]);
  }, 60_000);
});
