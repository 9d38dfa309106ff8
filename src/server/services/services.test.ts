import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { FindingsAnswer } from "@/contracts/answers";
import type { Command } from "@/core/commands/command";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { hashOf } from "@/core/model/hash";
import { TEMPLATE } from "@/core/model/template";
import { aTemplate } from "@/core/testing/a-template";
import { busesInARow } from "@/core/testing/shapes";
import { add, remove, set } from "@/core/testing/verbs";
import { isDatabaseAway } from "../db/away";
import type { Database } from "../db/database";
import { eventStream } from "../http/event-stream";
import { judgedList } from "../testing/judged";
import { closeTestDatabase, openTestDatabase } from "../testing/test-database";
import { closeStreams } from "./changes";
import { decodeText } from "./decode-text";
import { loadDemo } from "./demo";
import { exportRig, exportTemplate } from "./exports";
import { Failure } from "./failure";
import { documentAt } from "./heads";
import { bringBackTemplate, createTemplate, deleteTemplate, listTemplates, templateFindings } from "./library";
import { createRig, deleteRig, importRig, listRigs, loadRig, rigStore, rigTouches } from "./rigs";
import { loadStudio, studioStore } from "./studio";
import { addTemplate, loadTemplate, saveCommands, templateStore } from "./templates";

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase();
});
afterAll(closeTestDatabase);

const rename = (id: string, name: string): Command => set("channels", id, { name });
const failure = async (promise: Promise<unknown>): Promise<Failure> => {
  const error = await promise.catch((caught) => caught);
  if (!(error instanceof Failure)) throw new Error(`expected a failure, got ${error}`);
  return error;
};

let serial = 0;
const stored = async (name = "Evening") => {
  const doc = {
    ...aTemplate().track("Fiddle", { input: "9", player: "Wynn Solari" }).track("Snare", { input: "1" }).build(),
    id: `test-${Date.now()}-${serial++}` as never,
    name,
  };
  return (await addTemplate(db, doc)).document;
};

describe("saving", () => {
  it("keeps each batch as a revision, and nothing is overwritten", async () => {
    const { id } = await stored();
    expect(await saveCommands(db, id, { base: 1, commands: [rename("track-1", "Viola")] })).toMatchObject({
      revision: 2,
    });
    expect(
      await saveCommands(db, id, { base: 2, commands: [rename("track-1", "Cello"), rename("track-2", "Side drum")] }),
    ).toMatchObject({ revision: 3 });
    const names = await db.execute(sql`select names from template_revisions where template_id = ${id} order by number`);
    expect(names.rows.map((row) => row.names)).toEqual([
      ["Made"],
      ["Rename Fiddle to Viola"],
      ["Rename Viola to Cello", "Rename Snare to Side drum"],
    ]);
    const tracks = await Promise.all(
      [1, 2, 3].map(
        async (number) =>
          JSON.parse((await documentAt(db, "template", { id, number })) ?? "{}").channels["track-1"].name,
      ),
    );
    expect(tracks).toEqual(["Fiddle", "Viola", "Cello"]);
    expect(await documentAt(db, "template", { id, number: 4 })).toBeNull();
  });

  it("keeps of most revisions what they changed, of every sixty-fourth the whole, and any of them is read back to its hash", async () => {
    const { id } = await stored();
    for (let number = 1; number < 140; number++)
      await saveCommands(db, id, {
        base: number,
        commands: [rename(number % 2 ? "track-1" : "track-2", `Name ${number}`)],
      });
    const { rows } = await db.execute(
      sql`select number, hash, document is not null as whole from template_revisions where template_id = ${id} order by number`,
    );
    expect(rows.filter((row) => row.whole).map((row) => row.number)).toEqual([1, 64, 128]);
    for (const { number, hash } of rows) {
      const text = await documentAt(db, "template", { id, number: Number(number) });
      expect(hashOf(TEMPLATE, JSON.parse(text ?? "null"))).toBe(hash);
    }
    expect(await loadTemplate(db, id)).toMatchObject({
      revision: 140,
      document: { channels: { "track-1": { name: "Name 139" } } },
    });
  });

  it("the database itself refuses to change or remove a revision", async () => {
    const { id } = await stored();
    await expect(
      db.execute(sql`update template_revisions set names = '[]' where template_id = ${id}`),
    ).rejects.toMatchObject({
      cause: { message: expect.stringContaining("immutable") },
    });
    await expect(db.execute(sql`delete from template_revisions where template_id = ${id}`)).rejects.toMatchObject({
      cause: { message: expect.stringContaining("immutable") },
    });
  });

  it("a stale batch that still can be done is put on the newest, and answered with what came between", async () => {
    const { id } = await stored();
    const first = await saveCommands(db, id, { base: 1, batch: "first", commands: [rename("track-1", "Viola")] });
    const saved = await saveCommands(db, id, { base: 1, commands: [rename("track-2", "Side drum")] });
    expect(saved).toMatchObject({
      revision: 3,
      newer: [
        {
          revision: 2,
          savedAt: first.savedAt,
          batch: "first",
          names: ["Rename Fiddle to Viola"],
          commands: [rename("track-1", "Viola")],
        },
      ],
    });
    expect((await loadTemplate(db, id)).document.channels).toMatchObject({
      "track-1": { name: "Viola" },
      "track-2": { name: "Side drum" },
    });
  });

  it("one that can't be done any more is answered with what is newer, and stores nothing", async () => {
    const { id } = await stored();
    await saveCommands(db, id, { base: 1, batch: "first", commands: [remove("channels", "track-1")] });
    const stale = await failure(saveCommands(db, id, { base: 1, commands: [rename("track-1", "Viola")] }));
    expect(stale).toMatchObject({ status: 409, extra: { head: 2, newer: [{ revision: 2, batch: "first" }] } });
    expect((await loadTemplate(db, id)).revision).toBe(2);
  });

  it("one whose base is of another past is told so, also when it could be done", async () => {
    const { id } = await stored();
    await saveCommands(db, id, { base: 1, commands: [rename("track-1", "Viola")] });
    const stale = await failure(
      saveCommands(db, id, {
        base: 1,
        baseSavedAt: "2020-01-01T00:00:00.000Z",
        commands: [rename("track-2", "Side drum")],
      }),
    );
    expect(stale).toMatchObject({ status: 409, extra: { parted: true } });
  });

  it("a batch that has a name is told by it, one without by what its commands are called", async () => {
    const { id } = await stored();
    const commands = [rename("track-1", "Viola"), rename("track-2", "Side drum")];
    await templateStore.saveBody(
      db,
      id,
      JSON.stringify({ base: 1, batch: "named", name: "Name two tracks", commands }),
    );
    await saveCommands(db, id, { base: 2, commands: [rename("track-1", "Fiddle")] });
    expect((await templateStore.newer(db, id, 1)).newer.map(({ names }) => names)).toEqual([
      ["Name two tracks"],
      ["Rename Viola to Fiddle"],
    ]);
  });

  it("who made it is kept with it and told; a copy knows which revision of what it is one of", async () => {
    const { id } = await stored();
    await templateStore.saveBody(
      db,
      id,
      JSON.stringify({ base: 1, batch: "named", by: " Ilse's tablet ", commands: [rename("track-1", "Viola")] }),
    );
    await saveCommands(db, id, { base: 2, commands: [rename("track-1", "Fiddle")] });
    expect((await templateStore.newer(db, id, 1)).newer.map(({ by }) => by)).toEqual(["Ilse's tablet", ""]);
    const { document } = await createTemplate(db, { copyOf: id });
    const [first] = (await templateStore.newer(db, document.id, 0)).newer;
    expect(first).toMatchObject({ revision: 1, origin: { kind: "template", id, revision: 3 } });
    expect((await templateStore.newer(db, id, 0)).newer[0]?.origin).toBeNull();
  });

  it("one of another age is told so before anything is looked at", async () => {
    const { id } = await stored();
    const strange = { base: 1, batch: "old", made: GESTURE_VERSION + 1, commands: [{ kind: "levitate" }] };
    expect(await failure(templateStore.saveBody(db, id, JSON.stringify(strange)))).toMatchObject({
      status: 409,
      title: "This server is older",
      extra: { renewed: true },
    });
    expect((await loadTemplate(db, id)).revision).toBe(1);
  });

  it("all commands of a batch or none", async () => {
    const { id } = await stored();
    const refused = await failure(
      saveCommands(db, id, { base: 1, commands: [rename("track-1", "Viola"), rename("nobody", "X")] }),
    );
    expect(refused).toMatchObject({ status: 422, extra: { errors: [{ pointer: "/commands/1" }] } });
    const { revision, document } = await loadTemplate(db, id);
    expect([revision, document.channels["track-1" as never]]).toMatchObject([1, { name: "Fiddle" }]);
  });

  it("a batch sent again because its answer was lost is not done twice", async () => {
    const { id } = await stored();
    const batch = { base: 1, batch: "once", commands: [rename("track-1", "Viola")] };
    const [first, second] = [await saveCommands(db, id, batch), await saveCommands(db, id, batch)];
    expect(second).toEqual(first);
    expect((await loadTemplate(db, id)).revision).toBe(2);
  });

  it("many at once on one base are all kept, one after the other, and each learns of those before it", async () => {
    const { id } = await stored();
    const saved = await Promise.all(
      Array.from({ length: 8 }, (_, n) =>
        saveCommands(db, id, { base: 1, batch: `b${n}`, commands: [rename("track-1", `Name ${n}`)] }),
      ),
    );
    expect(saved.map(({ revision }) => revision)).toEqual([2, 3, 4, 5, 6, 7, 8, 9]);
    expect(saved.map(({ newer = [] }) => newer.map(({ batch }) => batch))).toEqual(
      Array.from({ length: 8 }, (_, n) => Array.from({ length: n }, (_each, at) => `b${at}`)),
    );
    expect((await loadTemplate(db, id)).document.channels).toMatchObject({ "track-1": { name: "Name 7" } });
  });

  it("what is newer, applied to the base, is the head", async () => {
    const doc = await stored();
    await saveCommands(db, doc.id, { base: 1, commands: [rename("track-1", "Viola")] });
    await saveCommands(db, doc.id, { base: 2, commands: [remove("channels", "track-2")] });
    const { templateEngine } = await import("@/core/commands/template-engine");
    const replayed = templateEngine.applyAll(
      doc,
      (await templateStore.newer(db, doc.id, 1)).newer.flatMap((revision) => revision.commands),
    );
    expect(replayed.ok && hashOf(TEMPLATE, replayed.doc)).toBe(
      hashOf(TEMPLATE, (await loadTemplate(db, doc.id)).document),
    );
  });
});

describe("the library", () => {
  it("finds by track, player and microphone, without regard to case, and takes no wildcard", async () => {
    await stored("Search me");
    const names = async (query: string) =>
      (await listTemplates(db, { query })).templates.map((template) => template.name);
    expect(await names("SEARCH me")).toEqual(["Search me"]);
    expect(await names("wynn solari")).toContain("The Tidewrack Nine");
    expect(await names("passive ribbon")).toContain("The Tidewrack Nine");
    expect(await names("passive ribbon")).not.toContain("Pocket sketch");
    expect(await names("%")).toEqual([]);
    expect(await names("no such thing")).toEqual([]);
  });

  it("takes a search apart: each word is looked for by itself, in any order", async () => {
    // Other tests may have read the same list into a template of the same name before.
    const names = async (query: string) => [
      ...new Set((await listTemplates(db, { query })).templates.map((template) => template.name)),
    ];
    expect(await names("nine  pell tidewrack")).toEqual(["The Tidewrack Nine"]);
    expect(await names("tidewrack cantata")).toEqual([]);
    expect(await names("100% _nine")).toEqual([]);
  });

  it("answers before a heavy template is judged, and fills in what is said of it", async () => {
    const doc = {
      ...busesInARow({ buses: 400, sends: 9000, cues: 32, each: 64 }),
      id: "heavy-row" as never,
      name: "Heavy row",
    };
    await addTemplate(db, doc);
    const began = performance.now();
    const { templates } = await listTemplates(db, { query: "heavy row" });
    expect(templates[0]).toMatchObject({ problems: null, unjudged: null });
    expect(performance.now() - began).toBeLessThan(2000);
    const [judged] = (await judgedList(db, { query: "heavy row" })).templates;
    expect(judged?.hints).toBeGreaterThan(0);
    await deleteTemplate(db, "heavy-row");
  });

  it("filters by kind", async () => {
    const { templates } = await listTemplates(db, { kind: "solo" });
    expect(templates.map((template) => template.name)).toContain("Pocket sketch");
    expect(new Set(templates.map((template) => template.kind))).toEqual(new Set(["solo"]));
  });

  it("tells of each template what it is, how big and what is wrong", async () => {
    const { templates } = await judgedList(db, { query: "tidewrack" });
    expect(templates[0]).toMatchObject({
      name: "The Tidewrack Nine",
      kind: "band",
      rig: { name: "Whole mill" },
      rateAndDepth: "48 kHz · 24 bit",
      inputs: 18,
      tracks: 16,
      problems: 2,
      hints: 1,
    });
    expect(templates[0]?.selvedge).toHaveLength(16);
  });

  it("is not kept from any template by one whose name was cut through a character", async () => {
    const { id } = await stored(`${"x".repeat(189)}\u{1f941}\u{1f941}`);
    const { document } = await createTemplate(db, { copyOf: id });
    expect(document.name).toBe(`${"x".repeat(189)}\ufffd, copy`);
    expect((await loadTemplate(db, document.id)).document.name).toBe(document.name);
    expect((await listRigs(db)).rigs.length).toBeGreaterThan(2);
    expect((await rigTouches(db, document.rigId)).templates.map((template) => template.id)).toContain(document.id);
  });

  it("goes on page by page without losing or repeating any", async () => {
    for (let n = 0; n < 53; n++) await stored(`Paged ${n}`);
    const first = await listTemplates(db, { query: "paged" });
    expect([first.templates.length, first.total]).toEqual([50, 53]);
    const second = await listTemplates(db, { query: "paged", cursor: first.cursor ?? "" });
    expect([second.templates.length, second.cursor]).toEqual([3, null]);
    expect(new Set([...first.templates, ...second.templates].map((template) => template.id)).size).toBe(53);
  });

  it("knows its own cursors only", async () => {
    expect((await failure(listTemplates(db, { cursor: "nonsense" }))).status).toBe(400);
  });

  it("a copy has everything and a name of its own, and goes its own way", async () => {
    const doc = await stored("Original");
    const copy = await createTemplate(db, { copyOf: doc.id });
    expect(copy.document).toEqual({ ...doc, id: copy.document.id, name: "Original, copy" });
    await saveCommands(db, copy.document.id, { base: 1, commands: [rename("track-1", "Viola")] });
    expect((await loadTemplate(db, doc.id)).revision).toBe(1);
  });

  it("a deleted template is gone, and comes back whole", async () => {
    const { id } = await stored("Deleted");
    await deleteTemplate(db, id);
    expect((await failure(loadTemplate(db, id))).status).toBe(404);
    expect((await failure(saveCommands(db, id, { base: 1, commands: [rename("track-1", "X")] }))).status).toBe(404);
    expect((await listTemplates(db, { query: "deleted" })).total).toBe(0);
    expect((await failure(deleteTemplate(db, id))).status).toBe(404);
    await bringBackTemplate(db, id);
    expect((await loadTemplate(db, id)).document.name).toBe("Deleted");
    expect((await failure(bringBackTemplate(db, id))).status).toBe(404);
  });

  it("a template whose rig was deleted after it comes back with its rig", async () => {
    const rig = await createRig(db, { name: "Short-lived", copyOf: "wheelhouse-cart" });
    const { document } = await createTemplate(db, { name: "Standing on it", kind: "band", rigId: rig.document.id });
    await deleteTemplate(db, document.id);
    await deleteRig(db, rig.document.id);
    expect(await bringBackTemplate(db, document.id)).toBe(rig.document.name);
    expect((await loadRig(db, rig.document.id)).document.name).toBe("Short-lived");
    expect(String((await exportTemplate(db, document.id, "csv")).body)).toContain("Input,Track");
    await deleteTemplate(db, document.id);
    expect(await bringBackTemplate(db, document.id)).toBeNull();
  });

  it("a template brought back while its rig is deleted never stands on one that is gone", async () => {
    const rig = await createRig(db, { name: "At the same moment", copyOf: "duo" });
    const { document } = await createTemplate(db, { name: "Raced", kind: "band", rigId: rig.document.id });
    for (let round = 0; round < 12; round++) {
      await deleteTemplate(db, document.id);
      await Promise.allSettled([deleteRig(db, rig.document.id), bringBackTemplate(db, document.id)]);
      expect((await loadRig(db, rig.document.id)).document.id).toBe(rig.document.id);
    }
  });

  it("an empty template stands on its rig with its main bus at the monitors", async () => {
    const { document } = await createTemplate(db, { name: " New one ", kind: "spoken-word", rigId: "duo" });
    expect(document).toMatchObject({
      name: "New one",
      kind: "spoken-word",
      rigId: "duo",
      channels: { main: { output: { portIds: ["duo:out:1", "duo:out:2"] } } },
    });
    expect((await failure(createTemplate(db, { name: "X" }))).status).toBe(400);
    expect((await failure(createTemplate(db, { name: "X", rigId: "nowhere" }))).status).toBe(404);
  });

  it("findings are those of the head", async () => {
    const { findings, revision } = JSON.parse(await templateFindings(db, "tidewrack-nine"));
    expect(revision).toBeGreaterThan(0);
    expect(findings.map((finding: { readonly rule: string }) => finding.rule)).toEqual([
      "phantom-missing",
      "hears-twice",
      "processor-missing",
    ]);
  });
});

describe("rigs", () => {
  it("are listed with the inputs that can be used", async () => {
    expect((await listRigs(db)).rigs.map((rig) => [rig.name, rig.inputs])).toEqual(
      expect.arrayContaining([
        ["Wheelhouse cart", 14],
        ["Whole mill", 22],
        ["Duo", 2],
      ]),
    );
    expect((await loadRig(db, "duo")).document.name).toBe("Duo");
    expect((await failure(loadRig(db, "nope"))).status).toBe(404);
  });

  it("the demo is loaded once only, in the order it is written in", async () => {
    const before = (await listRigs(db)).rigs.length;
    expect((await listRigs(db)).rigs.slice(0, DEMO_RIGS.length).map(({ id }) => id)).toEqual(
      DEMO_RIGS.map(({ id }) => id),
    );
    await loadDemo(db);
    expect((await listRigs(db)).rigs).toHaveLength(before);
  });
});

describe("changing rigs", () => {
  it("a copy goes its own way, and each edit of it is a revision with a name", async () => {
    const { document } = await createRig(db, { copyOf: "wheelhouse-cart" });
    expect(document.name).toBe("Wheelhouse cart, copy");
    const named = set("ports", "brindle:in:7", { name: "Piano low" });
    expect(await rigStore.save(db, document.id, { base: 1, batch: "b1", commands: [named] })).toMatchObject({
      revision: 2,
    });
    expect((await rigStore.newer(db, document.id, 1)).newer).toMatchObject([
      { revision: 2, batch: "b1", names: ["Rename Brindle 16 input 7 to Piano low"] },
    ]);
    expect(await rigStore.save(db, document.id, { base: 1, commands: [named] })).toMatchObject({
      revision: 3,
      newer: [{ batch: "b1" }],
    });
    expect((await loadRig(db, "wheelhouse-cart")).document.ports["brindle:in:7" as never]).toMatchObject({ name: "" });
    await expect(db.execute(sql`delete from rig_revisions where rig_id = ${document.id}`)).rejects.toMatchObject({
      cause: { message: expect.stringContaining("immutable") },
    });
  });

  it("what is refused stores nothing and says why", async () => {
    const { document } = await createRig(db, { copyOf: "duo" });
    const refused = await failure(
      rigStore.save(db, document.id, { base: 1, commands: [set("ports", "duo:in:1", { neighbourId: "duo:out:1" })] }),
    );
    expect(refused).toMatchObject({ status: 422, message: expect.stringContaining("can't be its neighbour") });
    expect((await loadRig(db, document.id)).revision).toBe(1);
  });

  it("tells the templates that stand on it, and stays while there are any", async () => {
    const touches = await rigTouches(db, "duo");
    expect(
      touches.templates.map((template) => [template.name, template.lines.map((line) => line.portId)]),
    ).toContainEqual(["Pocket sketch", ["duo:in:1", "duo:in:2"]]);
    expect(await failure(deleteRig(db, "duo"))).toMatchObject({
      status: 422,
      message: expect.stringContaining("Pocket sketch"),
    });
    // What was said before is only kept for as long as nothing changes.
    const { id, rigId } = await stored("Beside");
    const taken = async () =>
      (await rigTouches(db, rigId)).templates
        .find((template) => template.id === id)
        ?.lines.filter(({ portId }) => portId).length;
    expect([await taken(), await taken()]).toEqual([2, 2]);
    await saveCommands(db, id, { base: 1, commands: [set("lines", "line-1", { portId: null })] });
    expect(await taken()).toBe(1);
    const { document } = await createRig(db, { name: "Spare" });
    await deleteRig(db, document.id);
    expect((await failure(loadRig(db, document.id))).status).toBe(404);
  });

  it("is written as JSON and read back as a rig of its own", async () => {
    const file = await exportRig(db, "whole-mill");
    const read = await importRig(db, Buffer.from(String(file.body)));
    const { document } = await loadRig(db, "whole-mill");
    expect(read.document).toEqual({ ...document, id: read.document.id, name: read.document.name });
    expect(read.document.name).toMatch(/^Whole mill \d+$/);
    expect(await failure(importRig(db, Buffer.from("{}")))).toMatchObject({
      status: 422,
      message: expect.stringContaining("not a Wandel rig"),
    });
  });
});

describe("the studio", () => {
  it("has the rooms and people of the demo, and its edits are revisions", async () => {
    const { document, revision } = await loadStudio(db);
    expect([document.name, Object.values(document.rooms).map((room) => room.name)]).toEqual([
      "Mossgate Mill",
      ["Wheelhouse", "Loft", "Booth", "Stair", "Office"],
    ]);
    await studioStore.save(db, "studio", {
      base: revision,
      commands: [set("families", "brass", { colour: "saffron" })],
    });
    expect((await loadStudio(db)).document.families.brass.colour).toBe("saffron");
    expect((await studioStore.newer(db, "studio", revision)).newer[0]?.names).toEqual(["Set the dye of brass"]);
    await studioStore.save(db, "studio", {
      base: revision + 1,
      commands: [set("families", "brass", { colour: "ochre" })],
    });
  });
});

describe("what is wrong with a template", () => {
  it("is the same in the library, among its findings and beside its rig, with the studio's own dyes", async () => {
    const { revision } = await loadStudio(db);
    const colour = (cloth: string, night: string) => ({ id: "own-brick", name: "brick", cloth, night });
    await studioStore.save(db, "studio", { base: revision, commands: [add("colours", colour("#ca4137", "#f7796b"))] });
    const made = aTemplate()
      .folder("Drums", "madder")
      .folder("Voices", "own-brick" as never)
      .track("Snare", { folder: "Drums", input: "1" })
      .track("Lead", { folder: "Voices", input: "2" })
      .build();
    const { document } = await addTemplate(db, {
      ...made,
      id: "own-dyes" as never,
      name: "Own dyes beside each other",
    });
    const told = async () => {
      const [{ findings }, { templates }, touches] = await Promise.all([
        templateFindings(db, document.id).then((text) => JSON.parse(text) as FindingsAnswer),
        judgedList(db, { query: "own dyes beside" }),
        rigTouches(db, document.rigId),
      ]);
      const beside = touches.templates.find((template) => template.id === document.id);
      return {
        findings: findings.map((finding) => finding.rule),
        library: [templates[0]?.problems, templates[0]?.hints],
        beside: [beside?.problems, beside?.hints],
      };
    };
    expect(await told()).toEqual({ findings: ["dye-clash"], library: [0, 1], beside: [0, 1] });
    await studioStore.save(db, "studio", {
      base: revision + 1,
      commands: [set("colours", "own-brick", { cloth: "#1d86ba", night: "#63b9ea" })],
    });
    expect(await told()).toEqual({ findings: [], library: [0, 0], beside: [0, 0] });
  });
});

describe("changes as they happen", () => {
  it("every saved revision is told, and a stream ends when it is told to", async () => {
    const response = eventStream(new AbortController().signal);
    const reader = response.body?.getReader();
    const seen: string[] = [];
    const until = async (words: string) => {
      while (!seen.join("").includes(words)) {
        const part = await reader?.read();
        if (!part || part.done) throw new Error(`expected ${words}, got the end: ${seen.join("")}`);
        seen.push(new TextDecoder().decode(part.value));
      }
    };
    await until("event: again");
    const { id, rigId } = await stored("Watched");
    await until(`"id":"${id}","revision":1,"on":"${rigId}"`);
    await saveCommands(db, id, { base: 1, commands: [rename("track-1", "Viola")] });
    await until(`"id":"${id}","revision":2,"on":"${rigId}"`);
    closeStreams();
    while (!(await reader?.read())?.done);
    expect(response.headers.get("content-type")).toBe("text/event-stream");
  });
});

describe("exports", () => {
  it("CSV, JSON and a PDF that begins like one", async () => {
    const csv = await exportTemplate(db, "tidewrack-nine", "csv");
    expect([csv.fileName, String(csv.body).split("\n")[1]]).toEqual([
      "The Tidewrack Nine.csv",
      "1,Bass drum,Bass drum,Low moving-coil,no,mono,Pell Marrow,Percussion,madder,inside the shell",
    ]);
    expect(JSON.parse(String((await exportTemplate(db, "tidewrack-nine", "json")).body)).name).toBe(
      "The Tidewrack Nine",
    );
    const pdf = (await exportTemplate(db, "tidewrack-nine", "pdf")).body as Uint8Array;
    expect(new TextDecoder().decode(pdf.slice(0, 5))).toBe("%PDF-");
  });
});

describe("text out of files", () => {
  const text = (bytes: Uint8Array) => {
    const decoded = decodeText(bytes);
    return decoded.ok ? decoded.text : decoded.message;
  };

  it.each([
    ["UTF-8", Buffer.from("Zoë – ok")],
    ["UTF-16, little end first", Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from("Zoë – ok", "utf16le")])],
    ["UTF-16, big end first", Buffer.concat([Buffer.from([0xfe, 0xff]), Buffer.from("Zoë – ok", "utf16le").swap16()])],
    ["Windows-1252", Buffer.from([0x5a, 0x6f, 0xeb, 0x20, 0x96, 0x20, 0x6f, 0x6b])],
  ])("%s", (_name, bytes) => expect(text(bytes).replace("\uFEFF", "")).toBe("Zoë – ok"));

  it("what is no text is told", () => {
    expect(text(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13]))).toContain("no text file");
  });
});

describe("a database that is away", () => {
  it("is known by its error, also inside another", () => {
    expect(isDatabaseAway(Object.assign(new Error("x"), { code: "ECONNREFUSED" }))).toBe(true);
    expect(isDatabaseAway(new Error("outer", { cause: Object.assign(new Error("x"), { code: "57P01" }) }))).toBe(true);
    expect(isDatabaseAway(new Error("Connection terminated unexpectedly"))).toBe(true);
    expect(isDatabaseAway(new Error("a bug"))).toBe(false);
  });
});
