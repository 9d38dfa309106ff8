import { describe, expect, it } from "vitest";
import { chordOf } from "./act-model";

const press = (
  code: string,
  held: Partial<Record<"altKey" | "ctrlKey" | "metaKey" | "shiftKey", true>> = { altKey: true },
) => chordOf({ altKey: false, ctrlKey: false, metaKey: false, shiftKey: false, ...held, code });

describe("the chord that is pressed", () => {
  it("is as acts show it, by where the key lies", () => {
    expect([
      press("KeyA"),
      press("KeyZ", { altKey: true, shiftKey: true }),
      press("ArrowUp"),
      press("ArrowDown"),
    ]).toEqual(["Alt A", "Alt Shift Z", "Alt ↑", "Alt ↓"]);
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
