import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../testing/how-many";
import { fileName, nameFault } from "./file-name";

describe("names of files", () => {
  it.each([
    ["Fiddle", "Fiddle"],
    ["a/b:c", "a-b-c"],
    [" Take. ", "Take"],
    ["CON", "CON track"],
    ["nul.wav", "nul track.wav"],
    ["Ü – 1", "Ü – 1"],
    ["...", ""],
  ])("%j is written %j", (name, expected) => expect(fileName(name)).toBe(expected));

  it.each([
    ["Fiddle", null],
    ["Snare, top (2)", null],
    ["Contrabass", null],
    ["Com 1", null],
    ["COM1", "is a name that file systems keep for devices"],
    ["a\nb", "can't be a file name because of a line break"],
    ["x?", "can't be a file name because of ?"],
    ["x ", "begins or ends with a space or a full stop, which file systems drop"],
  ])("%j: %j", (name, fault) => expect(nameFault(name)).toBe(fault));

  it("what is made fit is fit, and stays as it is", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 300 }), (name) => {
        const fit = fileName(name);
        if (fit) expect(nameFault(fit)).toBeNull();
        expect(fileName(fit)).toBe(fit);
      }),
      { numRuns: runs(500, 5000), seed: 20261125 },
    );
  });
});
