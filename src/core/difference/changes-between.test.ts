import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { brokenInvariants, templateEngine } from "../commands/template-engine";
import { demoTemplates } from "../demo/templates";
import { hashOf } from "../model/hash";
import { NO_SESSION, TEMPLATE, type Template } from "../model/template";
import { apply } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { freeze } from "../testing/freeze";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { patchesOf, withNeeds } from "./carry";
import type { Change } from "./change";
import { changesBetween } from "./changes-between";

const hash = (doc: Template): string => hashOf(TEMPLATE, doc);
const edited = (doc: Template, chance: () => number, times: number): Template => {
  let at = doc;
  for (let n = 0; n < times; n++) {
    const done = apply(at, randomEdit(at, chance));
    if (done.ok) at = done.doc;
  }
  return at;
};
const carried = (here: Template, changes: readonly Change[], chosen: Iterable<string>) => {
  const patches = patchesOf(changes, chosen);
  if (!patches.length) return { ok: true as const, doc: here, patches: [], inverse: [] };
  return templateEngine.apply(here, { kind: "restore", undoes: "Carry", carries: true, patches });
};
const shown = (changes: readonly Change[]) => changes.filter(({ quiet }) => quiet === null);
const all = (changes: readonly Change[]) => shown(changes).map(({ id }) => id);

const nine = demoTemplates().find(({ name }) => name === "The Tidewrack Nine") ?? expect.unreachable();

/** What may differ although it was neither chosen nor needed: what a removal repairs, and the keys of a place. */
const untouched = (
  before: Template,
  after: Template,
  touched: ReadonlySet<string>,
  gone: ReadonlySet<string>,
): readonly string[] =>
  Object.keys(TEMPLATE.tables).flatMap((table) => {
    const [was, is] = [before, after].map((doc) => (doc as never)[table] as Readonly<Record<string, object>>) as [
      Readonly<Record<string, object>>,
      Readonly<Record<string, object>>,
    ];
    return Object.keys({ ...was, ...is }).filter(
      (id) =>
        was[id] !== is[id] &&
        JSON.stringify(was[id]) !== JSON.stringify(is[id]) &&
        !touched.has(`${table}/${id}`) &&
        // What referred to something that went.
        ![...gone].some((target) => JSON.stringify(was[id]).includes(`"${target}"`)) &&
        // A thing that went because nothing holds it any more.
        !(is[id] === undefined && (table === "lines" || table === "gangs")),
    );
  });

describe("the difference of two documents", () => {
  it("done to the one gives the other, hash for hash; undone it gives the one again; nothing chosen changes nothing", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const start = edited(nine, chance, 6);
        const [here, there] = [freeze(edited(start, chance, 18)), freeze(edited(start, chance, 18))];
        const changes = changesBetween(TEMPLATE, { here, there });
        const done = carried(here, changes, all(changes));
        expect(done.ok && hash(done.doc)).toBe(hash(there));
        if (done.ok && done.inverse.length) {
          const back = templateEngine.apply(done.doc, { kind: "restore", undoes: "x", patches: done.inverse });
          expect(back.ok && hash(back.doc)).toBe(hash(here));
        }
        expect(patchesOf(changes, [])).toEqual([]);
        expect(changesBetween(TEMPLATE, { here: there, there })).toEqual([]);
      }),
      { numRuns: runs(60, 1000), seed: 20261202 },
    );
  });

  it("from the ancestor, all that is theirs gives the other", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const base = edited(nine, chance, 6);
        const there = edited(base, chance, 20);
        const changes = changesBetween(TEMPLATE, { here: base, there, base });
        expect(changes.every(({ side }) => side === "theirs")).toBe(true);
        const done = carried(base, changes, all(changes));
        expect(done.ok && hash(done.doc)).toBe(hash(there));
      }),
      { numRuns: runs(40, 1000), seed: 20261203 },
    );
  });

  it("some of it, with what it needs, is refused in words or leaves the rest untouched", () => {
    let refused = 0;
    let tried = 0;
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const start = edited(nine, chance, 6);
        const [here, there] = [edited(start, chance, 18), edited(start, chance, 18)];
        const changes = changesBetween(TEMPLATE, { here, there });
        const chosen = all(changes).filter(() => chance() < 0.3);
        const found = withNeeds(changes, chosen);
        const patches = patchesOf(changes, chosen);
        if (!patches.length) return;
        tried += 1;
        const done = carried(here, changes, chosen);
        if (!done.ok) {
          refused += 1;
          expect(done.refusal.message).toMatch(/\w.*\.$/);
          return;
        }
        expect(brokenInvariants(done.doc)).toEqual([]);
        const touched = new Set(patches.map(({ path: [table, id] }) => `${table}/${id}`));
        const gone = new Set(patches.flatMap(({ op, path }) => (op === "remove" ? [path[1] ?? ""] : [])));
        expect(untouched(here, done.doc, touched, gone)).toEqual([]);
        for (const id of found)
          for (const {
            op,
            path: [table = "", entry = ""],
          } of changes.find((change) => change.id === id)?.patches ?? [])
            if (table in TEMPLATE.tables) expect(entry in (done.doc as never)[table]).toBe(op !== "remove");
      }),
      { numRuns: runs(60, 1000), seed: 20261204 },
    );
    expect(refused / tried).toBeLessThan(0.1);
  });

  it("of a template and its session leaves out what makes it a session", () => {
    const session: Template = { ...nine, session: { ...NO_SESSION, date: "2026-11-08" }, name: "Harbour hall" };
    expect(changesBetween(TEMPLATE, { here: nine, there: session, leaving: ["name", "session"] })).toEqual([]);
    expect(all(changesBetween(TEMPLATE, { here: nine, there: session }))).toEqual([
      `document/${nine.id}#name`,
      `document/${nine.id}#session.date`,
    ]);
  });
});

describe("whose a difference is", () => {
  const base = aTemplate()
    .folder("Strings")
    .track("Fiddle", { input: "9", folder: "Strings" })
    .track("Viola", { input: "10" })
    .build();
  const did = (doc: Template, ...edits: readonly object[]): Template =>
    edits.reduce<Template>((at, edit) => {
      const done = apply(at, edit as never);
      if (!done.ok) throw new Error(done.refusal.message);
      return done.doc;
    }, doc);
  const set = (table: string, id: string, to: object) => ({ kind: "entries.set", table, ids: [id], set: to });
  const sides = (here: Template, there: Template) =>
    changesBetween(TEMPLATE, { here, there, base }).map(({ id, side }) => [id, side]);

  it("is told field by field: theirs, ours, or both", () => {
    const here = did(base, set("lines", "line-1", { phantom: true }), set("channels", "track-2", { name: "Alto" }));
    const there = did(base, set("lines", "line-1", { gainDb: 30 }), set("channels", "track-2", { name: "Bratsche" }));
    expect(sides(here, there)).toEqual([
      ["lines/line-1#said-ours", "ours"],
      ["lines/line-1#said", "theirs"],
      ["channels/track-2#said-both", "both"],
    ]);
  });

  it("what one changed and the other removed is of both", () => {
    const here = did(base, { kind: "entries.remove", table: "channels", ids: ["track-2"] });
    const there = did(base, set("channels", "track-2", { name: "Bratsche" }));
    expect(sides(here, there)).toEqual([["channels/track-2", "both"]]);
    expect(sides(there, here)).toEqual([["channels/track-2", "both"]]);
  });
});

describe("what needs what", () => {
  const here = aTemplate().track("Fiddle", { input: "9" }).build();
  const there = (() => {
    const edits = [
      { kind: "channels.add", channels: [{ kind: "return", id: "plate", name: "Plate" }], feedIds: [] },
      { kind: "sends.add", sends: [{ id: "send-1", fromId: "track-1", toId: "plate" }] },
    ];
    return edits.reduce<Template>((at, edit) => {
      const done = apply(at, edit as never);
      if (!done.ok) throw new Error(done.refusal.message);
      return done.doc;
    }, here);
  })();

  it("a send to a new return brings the return, and the return alone brings no send", () => {
    const changes = changesBetween(TEMPLATE, { here, there });
    expect(changes.map(({ id, kind, needs }) => [id, kind, needs])).toEqual([
      ["channels/plate", "new", []],
      ["sends/send-1", "new", ["channels/plate"]],
    ]);
    expect([...withNeeds(changes, ["sends/send-1"])]).toEqual(["sends/send-1", "channels/plate"]);
    expect(patchesOf(changes, ["channels/plate"]).map(({ path }) => path.join("/"))).toEqual(["channels/plate"]);
  });

  it("the return that goes takes its send along", () => {
    const [change, ...more] = changesBetween(TEMPLATE, { here: there, there: here });
    expect(more).toEqual([]);
    expect(change).toMatchObject({
      id: "channels/plate",
      kind: "gone",
      along: [{ table: "sends", entryId: "send-1" }],
    });
  });
});
