import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { createStore } from "zustand/vanilla";
import type { Newer, SavedOn } from "@/contracts/answers";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { wheelhouseCart } from "@/core/demo/rigs";
import type { Rig } from "@/core/model/rig";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { rigEditing } from "@/core/planning/edits/rig-editing";
import { ServiceError } from "../shared/api";
import type { Told } from "./changes";
import { adopt, answered, type DocState, doIn, openState, redoIn, takeNewer, undoIn } from "./doc-store";
import { type Remote, Saver } from "./saver";

type State = DocState<Rig, RigEdit>;
const open = () =>
  createStore<State>(() => openState<Rig, RigEdit>(rigEditing, { document: wheelhouseCart, revision: 1, savedAt: "" }));
const name = (port: string, to: string): RigEdit => ({
  kind: "ports.name",
  names: [{ portId: port as never, name: to }],
});
const nameOf = (rig: Rig, port: string) => rig.ports[port as keyof typeof rig.ports]?.name;
const planned = (edits: readonly RigEdit[]) => {
  const plan = rigEditing.plan(wheelhouseCart, edits);
  if (!plan.ok) throw new Error(plan.refusal.message);
  return plan.commands;
};
const revision = (number: number, ...edits: readonly RigEdit[]): Newer => ({
  revision: number,
  savedAt: "",
  batch: `b${number}`,
  by: "",
  origin: null,
  names: ["Elsewhere"],
  commands: planned(edits),
});

describe("any kind of document in a window", () => {
  it("is edited, undone and redone, each with its name in the log", () => {
    const store = open();
    expect(doIn(store, { edits: [name("brindle:in:1", "Wall")] })).toBeNull();
    undoIn(store);
    redoIn(store);
    expect(nameOf(store.getState().doc, "brindle:in:1")).toBe("Wall");
    expect(store.getState().log.map((entry) => [entry.name, entry.by])).toEqual([
      ["Name Brindle 16 input 1 Wall", "here"],
      ["Undo: Name Brindle 16 input 1 Wall", "here"],
      ["Name Brindle 16 input 1 Wall", "here"],
    ]);
  });

  it("answers what can't be done, and stays as it was", () => {
    const store = open();
    expect(doIn(store, { edits: [name("nobody", "x")] })).toContain("no longer there");
    expect(store.getState().doc).toBe(wheelhouseCart);
  });

  it("takes in what another window did, names it, and does its own again on top", () => {
    const store = open();
    doIn(store, { edits: [name("brindle:in:1", "Wall")] });
    takeNewer(store, [
      revision(2, name("brindle:in:2", "Floor")),
      revision(3, { kind: "document.rename", name: "Cart" }),
    ]);
    const { doc, base, pending, log } = store.getState();
    expect([nameOf(doc, "brindle:in:1"), nameOf(doc, "brindle:in:2"), doc.name, base.revision, pending.length]).toEqual(
      ["Wall", "Floor", "Cart", 3, 1],
    );
    expect(log.filter((entry) => entry.by === "elsewhere").map((entry) => entry.name)).toEqual([
      "Elsewhere",
      "Elsewhere",
    ]);
  });

  it("its own edit coming back is not told as another window's", () => {
    const store = open();
    doIn(store, { edits: [name("brindle:in:1", "Wall")] });
    const own = store.getState().pending[0];
    takeNewer(store, [
      {
        revision: 2,
        savedAt: "",
        batch: own?.id ?? "",
        by: "",
        origin: null,
        names: ["Own"],
        commands: own?.commands ?? [],
      },
    ]);
    expect([store.getState().pending.length, store.getState().log.map((entry) => entry.by)]).toEqual([0, ["here"]]);
  });

  it("what an earlier page left is taken up once, and told when it can't be done any more", () => {
    const store = open();
    const left = [
      { id: "a", name: "Name a port", commands: [name("brindle:in:3", "Left")] },
      { id: "b", name: "Name a gone port", commands: [name("gone", "x")] },
    ];
    adopt(store, left);
    adopt(store, left.slice(0, 1));
    expect([
      nameOf(store.getState().doc, "brindle:in:3"),
      store.getState().pending.map((gesture) => gesture.id),
    ]).toEqual(["Left", ["a"]]);
    expect(store.getState().lost).toMatchObject([{ name: "Name a gone port" }]);
  });

  it("an edit that was saved before the reload is not done twice", () => {
    const store = open();
    adopt(store, [{ id: "a", name: "x", made: GESTURE_VERSION, commands: planned([name("brindle:in:3", "Left")]) }]);
    answered(store, "a", { revision: 1, savedAt: "" });
    expect([store.getState().pending, store.getState().base.revision]).toEqual([[], 1]);
  });
});

describe("saving a rig", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  const remote = (save: (base: number) => Promise<SavedOn>): Remote<Rig> => ({
    kind: "rig",
    load: async () => ({ document: wheelhouseCart, revision: 1, savedAt: "" }),
    save: (_id, { base }) => save(base),
    newer: async (_id, since) => ({ head: since, sinceSavedAt: "", newer: [], more: false }),
  });

  it("goes out edit by edit, and says when all is kept", async () => {
    const store = open();
    const saver = new Saver<Rig, RigEdit>(
      store,
      remote(async (base) => ({ revision: base + 1, savedAt: "", hash: undefined as never })),
    );
    saver.start();
    doIn(store, { edits: [name("brindle:in:1", "Wall")] });
    doIn(store, { edits: [name("brindle:in:2", "Floor")] });
    await vi.advanceTimersByTimeAsync(50);
    expect(store.getState()).toMatchObject({ pending: [], base: { revision: 3 }, save: { kind: "saved" } });
    saver.stop();
  });

  it("waits while the server is away, and goes on by itself", async () => {
    const store = open();
    let away = true;
    const saver = new Saver<Rig, RigEdit>(
      store,
      remote(async (base) => {
        if (away) throw new ServiceError(503, "The database can't be reached.");
        return { revision: base + 1, savedAt: "", hash: undefined as never };
      }),
    );
    saver.start();
    doIn(store, { edits: [name("brindle:in:1", "Wall")] });
    await vi.advanceTimersByTimeAsync(2000);
    expect(store.getState().save).toEqual({ kind: "away", why: "The database can't be reached." });
    away = false;
    await vi.advanceTimersByTimeAsync(6000);
    expect(store.getState()).toMatchObject({ pending: [], save: { kind: "saved" } });
    saver.stop();
  });

  it.each(["a look", "an edit"])(
    "an answer to %s that was on its way when the server was told to be away is no sign that it is there",
    async (what) => {
      const store = open();
      let hear: (told: Told) => void = () => {};
      let answer = () => {};
      const late = new Promise<void>((resolve) => (answer = resolve));
      let looks = 0;
      const saver = new Saver<Rig, RigEdit>(
        store,
        {
          ...remote(async (base) => {
            if (what === "an edit") await late;
            return { revision: base + 1, savedAt: "", hash: undefined as never };
          }),
          newer: async (_id, since) => {
            looks += 1;
            if (looks > 1) throw new ServiceError(503, "The database can't be reached.");
            if (what === "a look") await late;
            return { head: since, sinceSavedAt: "", newer: [], more: false };
          },
        },
        (listener) => {
          hear = listener;
          return () => {};
        },
      );
      saver.start();
      await vi.advanceTimersByTimeAsync(10);
      if (what === "an edit") doIn(store, { edits: [name("brindle:in:1", "Wall")] });
      await vi.advanceTimersByTimeAsync(10);
      hear("away");
      answer();
      await vi.advanceTimersByTimeAsync(10);
      expect([store.getState().save.kind, store.getState().pending.length, looks]).toEqual(["away", 0, 2]);
      saver.stop();
    },
  );

  it("one the server refuses stays until a person leaves it out; the next goes its way", async () => {
    const store = open();
    let first = true;
    const saver = new Saver<Rig, RigEdit>(
      store,
      remote(async (base) => {
        if (!first) return { revision: base + 1, savedAt: "", hash: undefined as never };
        first = false;
        throw new ServiceError(422, "not today");
      }),
    );
    saver.start();
    doIn(store, { edits: [name("brindle:in:1", "Wall")] });
    doIn(store, { edits: [name("brindle:in:2", "Floor")] });
    await vi.advanceTimersByTimeAsync(50);
    expect(store.getState().save).toMatchObject({
      kind: "parted",
      how: "refused",
      why: expect.stringContaining("not today"),
    });
    saver.leaveOut();
    await vi.advanceTimersByTimeAsync(50);
    expect(store.getState().lost).toMatchObject([{ name: "Name Brindle 16 input 1 Wall" }]);
    expect([nameOf(store.getState().doc, "brindle:in:1"), nameOf(store.getState().doc, "brindle:in:2")]).toEqual([
      "",
      "Floor",
    ]);
    saver.stop();
  });
});
