import { beforeEach, describe, expect, it, vi } from "vitest";
import { EMPTY_HISTORY, type History } from "@/core/history/history";
import { keepHistory, keptHistory } from "./history-keeper";

const entry = (name: string, letters = 0) => ({ name, commands: [], inverse: [], note: "x".repeat(letters) });
const history = (...names: readonly string[]): History => ({ past: names.map((name) => entry(name)), future: [] });

describe("what can be undone, kept over a reload", () => {
  beforeEach(() => {
    const kept = new Map<string, string>();
    vi.stubGlobal("sessionStorage", {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => void kept.set(key, value),
      removeItem: (key: string) => void kept.delete(key),
    });
  });

  it("is there again, of that document alone", () => {
    keepHistory("template", "a", history("Rename Fiddle", "Phantom on"), 4);
    expect(keptHistory("template", "a", 4)).toMatchObject(history("Rename Fiddle", "Phantom on"));
    expect(keptHistory("template", "a", 9)).toMatchObject(history("Rename Fiddle", "Phantom on"));
    expect(keptHistory("template", "b", 4)).toEqual(EMPTY_HISTORY);
    expect(keptHistory("rig", "a", 4)).toEqual(EMPTY_HISTORY);
  });

  it("is nothing on a server that was set back, and where others wrote something else", () => {
    keepHistory("template", "a", history("Rename Fiddle"), 4);
    expect(keptHistory("template", "a", 3)).toEqual(EMPTY_HISTORY);
    for (const text of ["{", "[]", "7", '{"past":[1],"future":[]}', '{"past":[],"future":"x"}']) {
      sessionStorage.setItem("wandel:history:template:a", text);
      expect(keptHistory("template", "a", 4)).toEqual(EMPTY_HISTORY);
    }
  });

  it("leaves out what is older than fits, and goes when nothing is left to undo", () => {
    keepHistory("template", "a", { past: [entry("old", 700_000), entry("new", 700_000)], future: [] }, 1);
    expect(keptHistory("template", "a", 1).past.map(({ name }) => name)).toEqual(["new"]);
    keepHistory("template", "a", EMPTY_HISTORY, 1);
    expect(sessionStorage.getItem("wandel:history:template:a")).toBeNull();
  });
});
