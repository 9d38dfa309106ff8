import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../../testing/how-many";
import { fitted, wrapped } from "./fitted";

describe("a text that has so many pixels", () => {
  it("is cut with an ellipsis, or broken between words, of which none is left out", () => {
    expect(fitted("Stair chamber", 60, 12)).toBe("Stair ch…");
    expect(wrapped("above 6.5 kHz, up to 6 dB off", 100, 12)).toEqual(["above 6.5 kHz,", "up to 6 dB off"]);
    expect(wrapped("", 100, 12)).toEqual([]);
    expect(wrapped("Unbreakablewordthatislong", 64, 12)).toEqual(["Unbreakabl", "ewordthati", "slong"]);
  });

  it("loses nothing when it is broken, and no line is longer than it may be", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 80 }), fc.integer({ min: 30, max: 300 }), (text, width) => {
        const lines = wrapped(text, width, 12);
        const most = Math.max(4, Math.floor(width / (12 * 0.53)));
        expect(lines.join("").replaceAll(" ", "")).toBe(text.replaceAll(" ", ""));
        expect(lines.every((line) => [...line].length <= most)).toBe(true);
      }),
      { numRuns: runs(200, 4000), seed: 20261201 },
    );
  });
});
