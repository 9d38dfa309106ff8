import { describe, expect, it } from "vitest";
import { plainText, plainTexts } from "./plain-text";

describe("plain text", () => {
  it("has no control characters but tabs and line breaks", () => {
    expect(plainText("Sna\u0000re\u0007\tdrum\r\nmoved\u001b[0m\u007f")).toBe("Snare\tdrum\r\nmoved[0m");
  });

  it("has whole characters only: half of a pair is replaced, a whole one stays", () => {
    expect(plainText("a\ud800b\udc00")).toBe("a\ufffdb\ufffd");
    expect(plainText("drum \ud83e\udd41 and umlauts: öäü, ﬂ, é")).toBe("drum \ud83e\udd41 and umlauts: öäü, ﬂ, é");
  });

  it("is made of every text in a value, names of fields too", () => {
    expect(plainTexts({ a: ["x\u0000", 1, null, { "k\u0001": "y" }], b: true })).toEqual({
      a: ["x", 1, null, { k: "y" }],
      b: true,
    });
  });

  it("what is plain already is answered as it is, part by part", () => {
    const clean = { a: [{ b: "x" }], c: Number.NaN };
    expect(plainTexts(clean.a)).toBe(clean.a);
    const mixed = { clean, dirty: "\u0000" };
    expect(plainTexts(mixed).clean.a).toBe(clean.a);
  });
});
