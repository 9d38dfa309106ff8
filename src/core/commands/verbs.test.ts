import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { tracksOf } from "../model/read-template";
import { rigFaults } from "../model/rig-schema";
import { studioFaults } from "../model/studio-schema";
import { templateFaults } from "../model/template-schema";
import { aTemplate } from "../testing/a-template";
import { brokenStudio } from "../testing/broken-studio";
import { freeze } from "../testing/freeze";
import { runs } from "../testing/how-many";
import { chanceRuns } from "../testing/random-edits";
import { randomVerb } from "../testing/random-verbs";
import { add, remove, set, setHeader } from "../testing/verbs";
import type { Command } from "./command";
import type { Engine } from "./engine";
import { isOrderKey, LONGEST_KEY } from "./order-keys";
import { brokenRig, rigEngine } from "./rig-engine";
import { studioEngine } from "./studio-engine";
import { brokenInvariants, templateEngine } from "./template-engine";

const template = aTemplate()
  .folder("Strings")
  .folder("Drums")
  .track("Fiddle", { input: "9", folder: "Strings" })
  .track("Above", { input: ["5", "6"], folder: "Drums" })
  .track("Snare", { input: "1", folder: "Drums" })
  .build();

interface Kind<D> {
  readonly engine: Engine<D>;
  readonly start: D;
  readonly broken: (doc: D) => readonly string[];
  readonly faults: (doc: D) => readonly unknown[];
}

const wear = <D extends { readonly id: string }>({
  engine,
  start,
  broken,
  faults,
}: Kind<D>): Readonly<Record<string, number>> => {
  const done: Record<string, number> = {};
  fc.assert(
    fc.property(chanceRuns, (chance) => {
      // Whoever changes a document in place throws.
      let doc = freeze(start);
      for (let n = 0; n < 40; n++) {
        const command = randomVerb(engine.description, doc, chance);
        const applied = engine.apply(doc, command);
        if (!applied.ok) {
          expect(applied.refusal.message.length).toBeGreaterThan(10);
          continue;
        }
        expect([broken(applied.doc), faults(applied.doc)], JSON.stringify(command)).toEqual([[], []]);
        expect(engine.commandName(doc, command).length).toBeGreaterThan(3);
        const back = engine.apply(applied.doc, { kind: "restore", undoes: "it", patches: applied.inverse });
        if (applied.patches.length) expect(back.ok && back.doc, JSON.stringify(command)).toEqual(doc);
        else expect(applied.doc).toBe(doc);
        if ("table" in command && applied.patches.length)
          done[`${command.kind} ${command.table}`] = (done[`${command.kind} ${command.table}`] ?? 0) + 1;
        doc = freeze(applied.doc);
      }
    }),
    { numRuns: runs(60, 1600), seed: 20261126 },
  );
  return done;
};

describe("any verbs on any table keep every rule, and each is taken back to the document of before", () => {
  it("of a template", () => {
    const done = wear({ engine: templateEngine, start: template, broken: brokenInvariants, faults: templateFaults });
    for (const what of [
      "add folders",
      "add channels",
      "add accepted",
      "set lines",
      "set channels",
      "set folders",
      "set document",
      "move channels",
      "move folders",
      "remove channels",
      "remove folders",
    ])
      expect(done[what] ?? 0, what).toBeGreaterThan(3);
  });

  it("of a rig", () => {
    const done = wear({ engine: rigEngine, start: wholeMill, broken: brokenRig, faults: rigFaults });
    for (const table of Object.keys(rigEngine.description.tables))
      expect((done[`add ${table}`] ?? 0) + (done[`set ${table}`] ?? 0), table).toBeGreaterThan(2);
    for (const what of ["remove devices", "remove banks", "remove links", "move devices", "move microphones"])
      expect(done[what] ?? 0, what).toBeGreaterThan(2);
  });

  it("of the studio", () => {
    const done = wear({ engine: studioEngine, start: demoStudio, broken: brokenStudio, faults: studioFaults });
    for (const what of [
      "add rooms",
      "add people",
      "add hiddenStarters",
      "set rooms",
      "set families",
      "set kinds",
      "set targets",
      "move people",
      "remove rooms",
    ])
      expect(done[what] ?? 0, what).toBeGreaterThan(2);
  });
});

const done = (...commands: readonly Command[]) => {
  const applied = templateEngine.applyAll(template, commands);
  if (!applied.ok) throw new Error(applied.refusal.message);
  return applied.doc;
};
const refusal = (...commands: readonly Command[]): string => {
  const applied = templateEngine.applyAll(template, commands);
  return applied.ok ? "" : applied.refusal.message;
};

describe("what refers to something that goes", () => {
  it("a folder leaves its tracks to the one around it, each at a place of its own", () => {
    const doc = done(remove("folders", "folder-1", "folder-2"));
    expect(tracksOf(doc).map((track) => track.folderId)).toEqual([null, null, null]);
    expect(new Set(tracksOf(doc).map((track) => track.order)).size).toBe(3);
  });

  it("a line leaves a track with nothing, and a pair with the side that is left", () => {
    const doc = done(remove("lines", "line-1", "line-2"));
    expect([doc.channels["track-1" as never], doc.channels["track-2" as never]]).toMatchObject([
      { input: { kind: "none" } },
      { input: { kind: "line", lineId: "line-3" } },
    ]);
  });

  it("a track takes the lines along that only it took", () => {
    expect(Object.keys(done(remove("channels", "track-2")).lines)).toEqual(["line-1", "line-4"]);
  });

  it("the main bus stays", () =>
    expect(refusal(remove("channels", "main"))).toContain("is routed to something that can take no sound"));
});

describe("what a verb can't do is said with its place", () => {
  it.each<[string, Command, string]>([
    ["a table that is none", remove("widgets", "x"), "has no widgets"],
    ["something that is gone", set("channels", "gone", { name: "x" }), "no longer there"],
    ["a parent by setting it", set("channels", "track-1", { folderId: "folder-2" }), "no field folderId"],
    ["a place by setting it", set("channels", "track-1", { order: "a0" }), "no field order"],
    ["a kind", set("channels", "track-1", { kind: "main" }), "no field kind"],
    ["a value of another kind", set("lines", "line-1", { phantom: "yes" }), "does not fit at phantom of Fiddle"],
    ["another document", setHeader("another", { name: "x" }), "not the template it was meant for"],
    ["a field that a document has not", setHeader(template.id, { schema: 9 }), "no field schema"],
    ["a name that says nothing", setHeader(template.id, { name: "" }), "does not fit at name"],
    ["nobody", { kind: "move", table: "channels", ids: [], before: null }, "No track was named"],
    ["the main bus", { kind: "move", table: "channels", ids: ["main"], before: null }, "can be moved"],
    ["one thing twice", { kind: "move", table: "channels", ids: ["track-1", "track-1"], before: null }, "can be moved"],
    ["a line", { kind: "move", table: "lines", ids: ["line-1"], before: null }, "can be moved"],
    [
      "a folder into itself",
      { kind: "move", table: "folders", ids: ["folder-1"], parent: "folder-1", before: null },
      "lies in itself",
    ],
    [
      "a line without a track",
      add("lines", { ...template.lines["line-1" as never], id: "new", source: "Stray" } as never),
      "line Stray has no track",
    ],
    ["a verb of another age", { kind: "levitate" } as never, "another version of Wandel"],
  ])("%s", (_what, command, words) => expect(refusal(command)).toContain(words));
});

it("a rule is asked of what refers to the changed as well", () => {
  const [one, other] = Object.values(wholeMill.ports).filter((port) => port.neighbourId && port.direction === "out");
  const device = Object.keys(wholeMill.devices).find((id) => id !== other?.deviceId) ?? "";
  const applied = rigEngine.apply(wholeMill, {
    kind: "set",
    table: "ports",
    values: { [other?.id ?? ""]: { neighbourId: null, deviceId: device, number: 77 } },
  });
  expect(applied).toMatchObject({
    ok: false,
    refusal: { message: `That can't be: port ${one?.number} pairs with a port that can't be its neighbour.` },
  });
});

describe("−0", () => {
  it("is 0 in the window as well, as it is once it was saved", () => {
    const lineId = Object.keys(template.lines)[0] ?? "";
    const loud = templateEngine.apply(template, { kind: "set", table: "lines", values: { [lineId]: { gainDb: 12 } } });
    const silent = templateEngine.apply(loud.ok ? loud.doc : template, {
      kind: "set",
      table: "lines",
      values: { [lineId]: { gainDb: -0 } },
    });
    const after = silent.ok ? silent.doc : expect.unreachable();
    expect(Object.is(after.lines[lineId as never]?.gainDb, 0)).toBe(true);
    expect(JSON.parse(JSON.stringify(after))).toStrictEqual(after);
  });
});

describe("places", () => {
  it("a thousand times between the same two, one after the other: keys stay short, and everything where it was put", () => {
    let doc = done();
    for (let n = 0; n < 1000; n++) {
      const moved = templateEngine.apply(doc, {
        kind: "move",
        table: "channels",
        ids: [n % 2 ? "track-1" : "track-3"],
        parent: "folder-2",
        before: "track-2",
      });
      if (!moved.ok) throw new Error(moved.refusal.message);
      doc = moved.doc;
      const inside = tracksOf(doc).filter((track) => track.folderId === "folder-2");
      const first = n === 0 ? [] : n % 2 ? ["track-3"] : ["track-1"];
      expect(inside.map((track) => track.id)).toEqual([...first, n % 2 ? "track-1" : "track-3", "track-2"]);
    }
    for (const { order } of tracksOf(doc))
      expect([isOrderKey(order), order.length <= LONGEST_KEY]).toEqual([true, true]);
  });

  it("two windows that put different tracks at one place: both are there, each at a place of its own", () => {
    const doc = done(
      { kind: "move", table: "channels", ids: ["track-1"], parent: "folder-2", before: "track-2" },
      { kind: "move", table: "channels", ids: ["track-3"], parent: "folder-2", before: "track-2" },
    );
    expect(tracksOf(doc).map((track) => track.id)).toEqual(["track-1", "track-3", "track-2"]);
  });

  it("what stands there already is not touched", () => {
    const moved = templateEngine.apply(template, {
      kind: "move",
      table: "channels",
      ids: ["track-2", "track-3"],
      parent: "folder-2",
      before: null,
    });
    expect(moved.ok && moved.doc).toBe(template);
  });
});
