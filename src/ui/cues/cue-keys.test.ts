import fc from "fast-check";
import { describe, expect, it, vi } from "vitest";
import { type CueKeyed, cueKey } from "./cue-keys";
import { barOf, levelAt } from "./cue-scale";

const keyed = (): { readonly [K in keyof CueKeyed]: CueKeyed[K] } => ({
  step: vi.fn(),
  open: vi.fn(),
  fold: vi.fn(),
  takeOut: vi.fn(),
  type: vi.fn(),
});
const press = (key: string, more: object = {}) => {
  const does = keyed();
  const act = cueKey({ key, shiftKey: false, altKey: false, ctrlKey: false, metaKey: false, ...more } as never, does);
  act?.();
  return { does, taken: act !== null };
};

describe("keys of the matrix", () => {
  it.each([
    ["ArrowDown", {}, "step", [1, 0, { range: false }]],
    ["ArrowLeft", { shiftKey: true }, "step", [0, -1, { range: true }]],
    ["End", {}, "step", [0, Number.POSITIVE_INFINITY, { range: false }]],
    ["PageUp", {}, "step", [-10, 0, { range: false }]],
    ["Enter", {}, "open", []],
    ["F2", {}, "open", []],
    [" ", {}, "fold", []],
    ["Delete", {}, "takeOut", []],
    ["7", {}, "type", ["7"]],
    ["-", {}, "type", ["-"]],
    ["b", {}, "type", ["b"]],
    ["o", {}, "type", ["o"]],
    ["∞", {}, "type", ["∞"]],
  ] as const)("%s with %o does %s", (key, more, what, given) => {
    const { does, taken } = press(key, more);
    expect(taken).toBe(true);
    expect(does[what]).toHaveBeenCalledExactlyOnceWith(...given);
  });

  it("leave to others what is theirs", () => {
    for (const [key, more] of [
      ["z", { ctrlKey: true }],
      ["ArrowDown", { metaKey: true }],
      ["m", { altKey: true }],
      ["ArrowUp", { altKey: true, shiftKey: true }],
      ["Tab", {}],
      ["Escape", {}],
    ] as const)
      expect(press(key, more).taken, key).toBe(false);
  });
});

describe("the bar of a level", () => {
  it("is longer the louder it is, a sliver where it is quiet, and nothing for silence", () => {
    expect([barOf(null), barOf(-100), barOf(-42), barOf(-18), barOf(6), barOf(12)]).toEqual([0, 0.02, 0.02, 0.5, 1, 1]);
    expect([levelAt(0), levelAt(-1), levelAt(0.5), levelAt(1), levelAt(2)]).toEqual([null, null, -18, 6, 6]);
  });

  it("is dragged to the level that it shows, to half a decibel", () => {
    fc.assert(
      fc.property(fc.integer({ min: -80, max: 12 }), (halves) => {
        const db = halves / 2;
        expect(levelAt(barOf(db))).toBeCloseTo(Math.max(-41, Math.min(6, db)), 0);
      }),
      { seed: 20261126 },
    );
  });
});
