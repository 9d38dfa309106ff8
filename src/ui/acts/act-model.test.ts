import { describe, expect, it } from "vitest";
import { chordOf } from "./act-model";
import { CHORDS } from "./chords";

const press = (
  code: string,
  held: Partial<Record<"altKey" | "ctrlKey" | "metaKey" | "shiftKey", true>> = { altKey: true },
  key = "",
) => chordOf({ altKey: false, ctrlKey: false, metaKey: false, shiftKey: false, ...held, code, key });

describe("the chord that is pressed", () => {
  it("is as acts show it, by where the key lies", () => {
    expect([
      press("KeyA"),
      press("KeyZ", { altKey: true, shiftKey: true }),
      press("ArrowUp"),
      press("ArrowDown"),
      press("Comma"),
    ]).toEqual(["Alt A", "Alt Shift Z", "Alt ↑", "Alt ↓", "Alt ,"]);
  });

  it("is by what it writes without Alt: F2, Delete, a question mark, a letter of its own", () => {
    expect([
      press("F2", {}, "F2"),
      press("Delete", {}, "Delete"),
      press("Minus", { shiftKey: true }, "?"),
      press("KeyN", {}, "n"),
      press("KeyN", { shiftKey: true }, "N"),
      press("KeyG", {}, "g"),
    ]).toEqual(["F2", "Delete", "?", "N", null, null]);
  });

  it("means one thing on all screens: no key stands twice in the register, and browsers keep theirs", () => {
    const keys = Object.values(CHORDS).map(({ key }) => key);
    expect(new Set(keys).size).toBe(keys.length);
    const kept = ["Alt D", "Alt E", "Alt F", "Alt Shift I", "Alt Shift T", "Alt ←", "Alt →"];
    expect(keys.filter((key) => kept.includes(key))).toEqual([]);
    expect(new Set(Object.values(CHORDS).map(({ means }) => means)).size).toBe(keys.length);
  });

  it("is none without Alt, with Ctrl or Command, or of a key that acts do not have", () => {
    expect([
      press("KeyA", {}),
      press("KeyA", { altKey: true, ctrlKey: true }),
      press("KeyA", { altKey: true, metaKey: true }),
      press("Digit1"),
      press("Tab"),
    ]).toEqual([null, null, null, null, null]);
  });
});
