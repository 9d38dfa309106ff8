import { describe, expect, it } from "vitest";
import { alongList, between, inList, wayOf } from "./grid-core";

const key = (name: string, { shift = false, ctrl = false } = {}) => ({ key: name, shiftKey: shift, ctrlKey: ctrl });

describe("the way of a key", () => {
  it.each([
    [key("ArrowDown"), { down: 1, right: 0, range: false }],
    [key("ArrowLeft", { shift: true }), { down: 0, right: -1, range: true }],
    [key("PageUp"), { down: -12, right: 0, range: false }],
    [key("Home"), { down: 0, right: Number.NEGATIVE_INFINITY, range: false }],
    [key("End", { ctrl: true }), { down: Number.POSITIVE_INFINITY, right: 0, range: false }],
  ])("%j leads %j", (pressed, way) => expect(wayOf(pressed, 12)).toEqual(way));

  it.each(["Enter", "a", "Tab", " ", "Escape"])("%s is none", (name) => expect(wayOf(key(name), 12)).toBeNull());
});

it("what lies between two places is the same from either side, and ends with the list", () => {
  const list = ["a", "b", "c", "d"];
  expect([between(list, 1, 2), between(list, 2, 1), between(list, 2, 9), between(list, -1, 0)]).toEqual([
    ["b", "c"],
    ["b", "c"],
    ["c", "d"],
    ["a"],
  ]);
});

it("in a list of one column Home and End go to its ends, and sideways is nowhere", () => {
  const by = (name: string) => alongList(wayOf(key(name), 12) ?? expect.unreachable());
  expect([by("ArrowDown"), by("PageUp"), by("Home"), by("End"), by("ArrowRight")]).toEqual([
    1,
    -12,
    Number.NEGATIVE_INFINITY,
    Number.POSITIVE_INFINITY,
    0,
  ]);
});

it("a place beyond an end is the end", () =>
  expect([inList(Number.NEGATIVE_INFINITY, 4), inList(2, 4), inList(Number.POSITIVE_INFINITY, 4)]).toEqual([0, 2, 3]));
