import { csvFormatRows, csvParseRows } from "d3-dsv";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../../testing/how-many";
import { guard, unguard } from "./guard";

describe("cells that a spreadsheet would take for a formula", () => {
  it.each([
    "=1+1",
    "+1",
    "-1",
    "@x",
    "\t=1",
    "\r=1",
    "\n=1",
    " =1",
    "\u00a0=1",
    "\u200b=1",
    "\u200b \ufeff=1",
    "＝1",
    "＋1",
    "－1",
    "＠x",
    "\u2028=1",
    "'=1",
    "''=1",
  ])("%j is guarded, and comes back as it was", (cell) => {
    expect(guard(cell)).toBe(`'${cell}`);
    expect(unguard(guard(cell))).toBe(cell);
  });

  it.each(["Fiddle", "1", "", "'tis", "a=b", " x", "−6 dB", "(=)"])("%j is left as it is", (cell) => {
    expect(guard(cell)).toBe(cell);
    expect(unguard(cell)).toBe(cell);
  });

  it("whatever a cell says, it comes back from a spreadsheet's file as it was, and never begins one", () => {
    const letters = fc
      .array(fc.constantFrom("=", "+", "-", "@", "'", " ", "\u00a0", "\u200b", "＝", "a", "1", '"', ","), {
        maxLength: 8,
      })
      .map((all) => all.join(""));
    fc.assert(
      fc.property(letters, (cell) => {
        const [[back = ""] = []] = csvParseRows(csvFormatRows([[guard(cell), "x"]]));
        expect(unguard(back)).toBe(cell);
        expect(/^[\s\u200b]*[=+\-@＝]/.test(back)).toBe(false);
      }),
      { numRuns: runs(200, 2000), seed: 20261126 },
    );
  });
});
