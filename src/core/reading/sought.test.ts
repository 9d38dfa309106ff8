import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../testing/how-many";
import { alsoCalled, seek } from "./sought";

const PROCESSORS = [
  "Gain",
  "High-pass",
  "Low-pass",
  "Equaliser",
  "Compressor",
  "De-esser",
  "Reverb",
  "Delay",
  "Amplifier",
];
const found = (typed: string, labels: readonly string[] = PROCESSORS) =>
  seek(
    typed,
    labels.map((label) => ({ label })),
  ).map(({ label }) => label);

describe("what is sought by the words of the trade", () => {
  it.each([
    ["high-pass", "High-pass"],
    ["HPF", "High-pass"],
    ["low cut", "High-pass"],
    ["hi", "High-pass"],
    ["highpass", "High-pass"],
    ["high cut", "Low-pass"],
    ["EQ", "Equaliser"],
    ["comp", "Compressor"],
    ["verb", "Reverb"],
    ["deess", "De-esser"],
    ["echo", "Delay"],
    ["phase", "Gain"],
  ])("%s finds %s first", (typed, first) => expect(found(typed)[0]).toBe(first));

  it("a plain word beats a synonym, and its beginning beats its inside", () => {
    expect(found("delay", ["Echo unit", "A delay", "Delay"])).toEqual(["Delay", "A delay", "Echo unit"]);
    expect(found("str", ["Low strings", "Strings"])).toEqual(["Strings", "Low strings"]);
  });

  it("finds nothing for what nothing is called, signs alone included, and all while nothing is typed", () => {
    expect(found("xyzzy")).toEqual([]);
    expect(found("---")).toEqual([]);
    expect(found("  ")).toEqual(PROCESSORS);
  });

  it("finds by own words and by all the words in any order", () => {
    expect(seek("vox lead", [{ label: "Lead voice" }, { label: "Second voice" }])).toEqual([{ label: "Lead voice" }]);
    expect(seek("brindle", [{ label: "Outputs 1–2", words: ["Brindle 16"] }])).toHaveLength(1);
  });

  it("does not take a synonym out of the inside of a word", () => {
    expect(alsoCalled("Gated plate").includes("noise gate")).toBe(false);
    expect(found("hh", ["Hat", "Chatter"])).toEqual(["Hat"]);
  });

  it("whatever is typed: a part of what there is, each once, and any label finds itself first", () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ maxLength: 12 }), { maxLength: 8 }),
        fc.string({ maxLength: 8 }),
        (labels, typed) => {
          const all = [...new Set(labels)].map((label) => ({ label }));
          const answer = seek(typed, all);
          expect(new Set(answer).size).toBe(answer.length);
          for (const one of answer) expect(all).toContain(one);
        },
      ),
      { numRuns: runs(200, 4000), seed: 20261201 },
    );
  });
});
