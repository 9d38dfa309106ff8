import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";

/** What of a browser the keeper needs: a store of texts, and locks that are held for as long as a page lives. */
class FakeStorage {
  private readonly map = new Map<string, string>();
  full = false;
  get length(): number {
    return this.map.size;
  }
  key(at: number): string | null {
    return [...this.map.keys()][at] ?? null;
  }
  getItem(key: string): string | null {
    return this.map.get(key) ?? null;
  }
  setItem(key: string, value: string): void {
    if (this.full) throw new Error("full");
    this.map.set(key, value);
  }
  removeItem(key: string): void {
    this.map.delete(key);
  }
}

let storage: FakeStorage;
let held: Set<string>;

const browser = () => ({
  locks: {
    request: (name: string, ...rest: readonly unknown[]) => {
      const run = rest.at(-1) as (lock: object | null) => unknown;
      if (rest.length === 2) return Promise.resolve(run(held.has(name) ? null : {}));
      held.add(name);
      return run({});
    },
  },
});

/** Another page: the module anew, with a name of its own. */
const page = async () => {
  vi.resetModules();
  return (await import("./pending-keeper")).PendingKeeper;
};

const gesture = (id: string) => ({
  id,
  name: `Edit ${id}`,
  commands: [{ kind: "remove" as const, table: "x", ids: ["y"] }],
});

beforeEach(() => {
  storage = new FakeStorage();
  held = new Set();
  vi.stubGlobal("localStorage", storage);
  vi.stubGlobal("navigator", browser());
});
afterEach(() => vi.unstubAllGlobals());

describe("what is not saved yet", () => {
  it("is kept in the browser, and taken out once it is saved", async () => {
    const Keeper = await page();
    const keeper = new Keeper("template:t");
    keeper.keep([gesture("a"), gesture("b")], "Evening");
    expect([storage.length, Keeper.countWaiting()]).toEqual([1, 2]);
    keeper.keep([], "Evening");
    expect([storage.length, Keeper.countWaiting()]).toEqual([0, 0]);
  });

  it("of a page that is gone is taken up by the next one on the same document, once", async () => {
    const First = await page();
    new First("template:t").keep([gesture("a")], "Evening");
    held.clear();
    const Second = await page();
    expect(await new Second("template:other").takeOrphans()).toEqual([]);
    expect(await new Second("template:t").takeOrphans()).toEqual([
      { ...gesture("a"), made: GESTURE_VERSION, of: "Evening" },
    ]);
    expect(await new Second("template:t").takeOrphans()).toEqual([]);
  });

  it("of pages that are gone is told by document, and given up for one of them without the others", async () => {
    const First = await page();
    new First("template:t").keep([gesture("a")], "Evening");
    new First("template:t").keep([gesture("b"), gesture("c")], "Late evening");
    new First("rig:r").keep([gesture("d")], "Cart");
    const lives = await page();
    expect(await lives.allOrphans()).toEqual([]);
    held.clear();
    const Third = await page();
    const cart = { about: "rig:r", name: "Cart", edits: ["Edit d"] };
    expect(await Third.allOrphans()).toEqual([
      { about: "template:t", name: "Late evening", edits: ["Edit a", "Edit b", "Edit c"] },
      cart,
    ]);
    await Third.dropOrphans("template:t");
    expect(await Third.allOrphans()).toEqual([cart]);
  });

  it("of a page that lives is left to it", async () => {
    const First = await page();
    new First("template:t").keep([gesture("a")], "Evening");
    const Second = await page();
    expect(await new Second("template:t").takeOrphans()).toEqual([]);
    expect(Second.countWaiting()).toBe(1);
  });

  it("a browser that keeps nothing loses nothing that is in the page", async () => {
    const Keeper = await page();
    storage.full = true;
    expect(() => new Keeper("template:t").keep([gesture("a")], "Evening")).not.toThrow();
  });
});
