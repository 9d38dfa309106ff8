import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { wholeMill } from "@/core/demo/rigs";
import { EMPTY_HISTORY } from "@/core/history/history";
import { hashOf } from "@/core/model/hash";
import { sequentialIds } from "@/core/model/ids";
import { tracksOf } from "@/core/model/read-template";
import { TEMPLATE } from "@/core/model/template";
import { pasteBlock } from "@/core/planning/block";
import { aChoir } from "@/core/testing/a-choir";
import { aTemplate } from "@/core/testing/a-template";
import { perform, undo } from "@/core/testing/undoing";
import { setHeader } from "@/core/testing/verbs";
import { type Database, inTransaction } from "../db/database";
import { closeTestDatabase, openTestDatabase } from "../testing/test-database";
import { exportTemplate } from "./exports";
import { Failure } from "./failure";
import { importTemplate } from "./imports";
import { createTemplate, deleteTemplate, fillSummaries, listTemplates } from "./library";
import { closePools, task } from "./pool";
import { createRig, deleteRig, loadRig } from "./rigs";
import { studioText } from "./studio";
import { addTemplate, saveCommands, templateStore } from "./templates";

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase();
});
afterAll(async () => {
  await closePools();
  await closeTestDatabase();
});

const failure = async (promise: Promise<unknown>): Promise<Failure> => {
  const error = await promise.catch((caught) => caught);
  if (!(error instanceof Failure)) throw new Error(`expected a failure, got ${error}`);
  return error;
};
const rename = (id: string, name: string) => setHeader(id, { name });
const list = (text: string) => ({ fileName: "list.csv", bytes: new TextEncoder().encode(text) });

let serial = 0;
const stored = async (name: string) =>
  (
    await addTemplate(db, {
      ...aTemplate().track("Fiddle", { input: "9" }).build(),
      id: `bounds-${Date.now()}-${serial++}` as never,
      name,
    })
  ).document;

describe("keys of what is made", () => {
  it("the same asked for twice, also at once, is made once", async () => {
    const ask = () => createTemplate(db, { key: "k-one", name: "Made by a key", rigId: "duo" });
    const [a, b] = await Promise.all([ask(), ask()]);
    expect([b.document.id, (await ask()).document.id]).toEqual([a.document.id, a.document.id]);
    expect((await listTemplates(db, { query: "made by a key" })).total).toBe(1);
    expect(await failure(createTemplate(db, { key: "k-one", name: "Other", rigId: "duo" }))).toMatchObject({
      status: 422,
      message: expect.stringContaining("Choose another one"),
    });
  });

  it("so is a list that is read, and a rig", async () => {
    const read = () => importTemplate(db, list("Input,Source\n1,Fiddle\n"), { key: "k-list", rigId: "duo" });
    expect((await read()).template.id).toBe((await read()).template.id);
    expect(
      (await failure(importTemplate(db, list("Input,Source\n1,Viola\n"), { key: "k-list", rigId: "duo" }))).status,
    ).toBe(422);
    const rig = () => createRig(db, { key: "k-rig", copyOf: "duo" });
    expect((await rig()).document.id).toBe((await rig()).document.id);
  });

  it("a batch that was saved with other commands is refused", async () => {
    const { id } = await stored("Batches");
    await saveCommands(db, id, { base: 1, batch: "b", commands: [rename(id, "One")] });
    expect(await failure(saveCommands(db, id, { base: 1, batch: "b", commands: [rename(id, "Two")] }))).toMatchObject({
      status: 422,
      extra: { errors: [{ pointer: "/batch" }] },
    });
    expect(await failure(saveCommands(db, id, { base: 2, batch: "b", commands: [rename(id, "Two")] }))).toMatchObject({
      status: 422,
    });
  });
});

describe("a window that knows another past", () => {
  it("is told, whether it is ahead or its base is another", async () => {
    const { id } = await stored("Pasts");
    const { savedAt } = await saveCommands(db, id, { base: 1, commands: [rename(id, "Two")] });
    expect(await failure(saveCommands(db, id, { base: 7, commands: [rename(id, "X")] }))).toMatchObject({
      status: 409,
      extra: { parted: true, head: 2 },
    });
    expect(
      await failure(
        saveCommands(db, id, { base: 2, baseSavedAt: "2020-01-01T00:00:00.000Z", commands: [rename(id, "X")] }),
      ),
    ).toMatchObject({
      status: 409,
      extra: { parted: true },
    });
    expect(
      await saveCommands(db, id, { base: 2, baseSavedAt: savedAt, commands: [rename(id, "Three")] }),
    ).toMatchObject({ revision: 3 });
    expect(await templateStore.newer(db, id, 9)).toMatchObject({ head: 3, sinceSavedAt: null, newer: [] });
    expect(await templateStore.newer(db, id, 2)).toMatchObject({ head: 3, sinceSavedAt: savedAt, more: false });
  });
});

describe("one bad document", () => {
  it("never shuts the library: it is shown as such, exported as it is stored, and deleted", async () => {
    const { id } = await stored("Spoilt");
    const text = JSON.stringify({ schema: 1, odd: true });
    await db.execute(
      sql`insert into template_revisions (template_id, number, document, hash, commands, names) values (${id}, 2, ${text}::json, 'x', '[]', '[]')`,
    );
    await db.execute(sql`update templates set head = 2, summary = null, judged = null where id = ${id}`);
    await fillSummaries(db);
    const { templates, total } = await listTemplates(db, {});
    expect(total).toBeGreaterThan(4);
    expect(templates.find((template) => template.id === id)).toMatchObject({
      name: "Spoilt",
      problems: null,
      unreadable: expect.stringContaining("Save it as it is stored"),
    });
    expect(await failure(templateStore.load(db, id))).toMatchObject({
      status: 422,
      message: expect.stringContaining("export?format=raw"),
    });
    expect((await exportTemplate(db, id, "raw")).body).toBe(text);
    await deleteTemplate(db, id);
    expect((await listTemplates(db, { query: "spoilt" })).total).toBe(0);
  });
});

describe("work beside the thread that answers", () => {
  it("leaves that thread free while a large list is read", async () => {
    const text = `Input,Source,Folder\n${Array.from({ length: 4000 }, (_, at) => `${at + 1},Source ${at},Folder ${at % 50}`).join("\n")}`;
    let beats = 0;
    const beating = setInterval(() => beats++, 5);
    const { template } = await importTemplate(db, list(text), { rigId: "whole-mill" });
    clearInterval(beating);
    expect(beats).toBeGreaterThan(20);
    const saved = await saveCommands(db, template.id, {
      base: 1,
      commands: [rename(template.id, "Large and renamed")],
    });
    expect(saved.revision).toBe(2);
    expect((await listTemplates(db, { query: "large and renamed" })).templates[0]).toMatchObject({
      inputs: 4000,
      tracks: 4000,
    });
  }, 60_000);

  it("ends when whoever asked has gone", async () => {
    const gone = new AbortController();
    const text = `Input,Source\n${Array.from({ length: 4000 }, (_, at) => `${at + 1},${"\ufdfa".repeat(150)}`).join("\n")}`;
    const asked = importTemplate(db, list(text), { rigId: "whole-mill" }, gone.signal);
    setTimeout(() => gone.abort(), 300);
    expect((await failure(asked)).status).toBe(499);
    // The next one is served all the same.
    const input = {
      ...list("Input,Source\n1,A\n"),
      name: "n",
      columns: undefined,
      choices: {},
      rig: JSON.stringify((await loadRig(db, "duo")).document),
      studio: (await studioText(db)).text,
    };
    expect(JSON.parse(await task("previewList", input)).rows).toMatchObject([{ track: "A", inputs: ["1"] }]);
  }, 60_000);
});

describe("what stands on another thing", () => {
  it("a rig is not taken away while a template is made on it, whatever comes first", async () => {
    const { document } = await createRig(db, { copyOf: "duo", name: "Contested" });
    const results = await Promise.allSettled([
      ...Array.from({ length: 6 }, () => createTemplate(db, { name: "On it", rigId: document.id })),
      deleteRig(db, document.id),
    ]);
    const made = results.slice(0, 6).filter((result) => result.status === "fulfilled").length;
    const deleted = results[6]?.status === "fulfilled";
    expect(deleted && made > 0).toBe(false);
  });

  it("a transaction that fails leaves nothing half done and its connection usable", async () => {
    const { id } = await stored("Half done");
    for (let n = 0; n < 15; n++)
      await inTransaction(db, async (tx) => {
        await tx.execute(sql`update templates set name = 'half' where id = ${id}`);
        throw new Failure(422, "No", "No.");
      }).catch(() => {});
    const { rows } = await db.execute(sql`select name from templates where id = ${id}`);
    expect(rows).toEqual([{ name: "Half done" }]);
  });
});

describe("a gesture of many steps", () => {
  it("2,048 rows of ten columns pasted are kept, and so is taking them back", async () => {
    const doc = { ...aChoir(2048), id: `many-${Date.now()}` as never, name: "Many" };
    await addTemplate(db, doc);
    const columns = [
      "name",
      "microphone",
      "phantom",
      "folder",
      "player",
      "note",
      "source",
      "gain",
      "pad",
      "position",
    ] as const;
    const cells = Array.from({ length: 2048 }, (_, n) => [
      `N${n}`,
      "condenser",
      "no",
      `F${n % 50}`,
      `P${n}`,
      `n${n}`,
      `S${n}`,
      "20",
      "yes",
      "left",
    ]);
    const { planned } = pasteBlock(doc, wholeMill, {
      cells,
      trackIds: tracksOf(doc).map((track) => track.id),
      columns,
      folderId: null,
      ids: sequentialIds(),
    });
    if (!planned.ok) throw new Error(planned.message);
    const step = perform(doc, EMPTY_HISTORY, planned.gesture);
    const back = step.ok ? undo(step.doc, step.history) : step;
    if (!step.ok || !back.ok) throw new Error("expected the paste to be done and taken back");
    expect(planned.gesture.edits.length).toBeGreaterThan(5000);
    await saveCommands(db, doc.id, { base: 1, commands: step.commands });
    expect(hashOf(TEMPLATE, (await templateStore.load(db, doc.id)).document)).toBe(hashOf(TEMPLATE, step.doc));
    await saveCommands(db, doc.id, { base: 2, commands: back.commands });
    expect(hashOf(TEMPLATE, (await templateStore.load(db, doc.id)).document)).toBe(hashOf(TEMPLATE, doc));
    await deleteTemplate(db, doc.id);
  }, 60_000);
});
