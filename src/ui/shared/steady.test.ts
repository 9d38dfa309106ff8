import { describe, expect, it } from "vitest";
import { kept } from "./steady";

const was = [
  { id: "a", own: new Set(["x"]) },
  { id: "b", own: new Set<string>() },
];

describe("kept", () => {
  it("is the list of before where all of it says the same", () => {
    expect(kept(was, structuredClone(was))).toBe(was);
  });

  it("has the objects of before beside the one that changed", () => {
    const now = kept(was, [
      { id: "a", own: new Set(["x"]) },
      { id: "b", own: new Set(["y"]) },
    ]);
    expect(now).not.toBe(was);
    expect(now[0]).toBe(was[0]);
    expect(now[1]).toEqual({ id: "b", own: new Set(["y"]) });
  });

  it("follows a list that grows and one that shrinks", () => {
    const more = [...structuredClone(was), { id: "c", own: new Set<string>() }];
    expect(kept(was, more)).toEqual(more);
    expect(kept(was, more)[1]).toBe(was[1]);
    expect(kept(was, was.slice(0, 1))).toEqual([was[0]]);
    expect(kept([], was)).toEqual(was);
  });
});
