import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readAddPhrase } from "../planning/add-tracks";
import { countOn } from "../planning/block";
import { stem } from "../planning/edits/track-edits";
import { fileName } from "../reading/file-name";
import { readDecibels, readInputs } from "../reading/read-cells";
import { readNumber, readRange } from "../reading/rig-cells";
import { bothSides, sideStem } from "../reading/sides";
import { blankOr, dropEnd, dropEnds, dropStart, lastNumber, numberAtEnd } from "./ends";

describe("ends of texts", () => {
  it.each([
    [dropEnd("Above (L))", blankOr("()")), "Above (L"],
    [dropEnd(" . . ", blankOr(".")), ""],
    [dropStart("--a-", blankOr("-")), "a-"],
    [dropEnds(" – a, b – ", blankOr(",–-")), "a, b"],
  ])("%#: %j", (dropped, left) => expect(dropped).toBe(left));

  it.each([
    ["E5", { before: "E", number: "5" }],
    ["007", { before: "", number: "007" }],
    ["E", null],
    ["", null],
  ])("the number at the end of %j", (text, found) => expect(numberAtEnd(text)).toEqual(found));

  it.each([
    ["Tom 2 (low)", { before: "Tom ", number: "2", after: " (low)" }],
    ["1 and 12", { before: "1 and ", number: "12", after: "" }],
    ["Tom", null],
  ])("the last number in %j", (text, found) => expect(lastNumber(text)).toEqual(found));

  it("what is dropped and what is left are the text", () => {
    fc.assert(
      fc.property(
        fc.string(),
        (text) => text.startsWith(dropEnd(text, blankOr("ab"))) && text.endsWith(dropStart(text, blankOr("ab"))),
      ),
    );
  });
});

describe("names keep what they said before they were read in one walk", () => {
  it.each([
    ["Above L", "Above"],
    ["Above (left)", "Above"],
    ["Cimbalom_R", "Cimbalom"],
    ["Piano - rechts", "Piano"],
    ["Well", "Well"],
    ["L", "L"],
    ["Snare [r]", "Snare"],
  ])("%j without its side is %j", (name, bare) => expect(stem(name)).toBe(bare));

  it.each([
    ["8 mono from 3", { count: 8, layout: "mono", from: "3" }],
    ["  8  x  mono   from  input  3 ", { count: 8, layout: "mono", from: "3" }],
    ["2 stereo tracks from E 5", { count: 2, layout: "stereo", from: "E5" }],
    ["4", { count: 4, layout: "mono", from: null }],
    ["stereo", { count: 1, layout: "stereo", from: null }],
    ["3 tracks ab 9", { count: 3, layout: "mono", from: "9" }],
    ["mono from", null],
    ["", null],
  ])("%j adds %j", (text, phrase) => expect(readAddPhrase(text)).toEqual(phrase && { ...phrase, begin: {} }));
});

/** Texts on which a pattern that begins anew from every place takes the square of their length or more. */
const LONG = 200_000;
const HOSTILE = [
  ")".repeat(LONG),
  " -".repeat(LONG / 2),
  `${" -".repeat(LONG / 2)} left`,
  "0".repeat(LONG),
  `0-0${"0".repeat(LONG)}n`,
  "{".repeat(LONG),
  "\t".repeat(LONG),
  `${" ".repeat(LONG)}x`,
  `1 to ${" ".repeat(LONG)}x`,
];
const READERS: Readonly<Record<string, (text: string) => unknown>> = {
  sideStem,
  bothSides,
  readInputs,
  readDecibels,
  readRange,
  readAddPhrase,
  fileName,
  stem,
  countOn: (text) => countOn(text, 1),
  readNumber: (text) => readNumber(text, { min: 0, max: 1 }),
};

describe("no text keeps a reader busy", () => {
  it.each(Object.keys(READERS))("%s reads each of the hostile ones in a walk", (name) => {
    // A walk over such a text takes some milliseconds. The patterns of before took from 18 seconds to minutes, and
    // would not get to the end of this test.
    for (const text of HOSTILE) expect(() => READERS[name]?.(text)).not.toThrow();
  });
});
