import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { LessonsAnswer, TemplateState } from "@/contracts/answers";
import { wholeMill } from "@/core/demo/rigs";
import type { Template } from "@/core/model/template";
import { aTemplate } from "@/core/testing/a-template";
import { set } from "@/core/testing/verbs";
import type { Database } from "../db/database";
import { closeTestDatabase, openTestDatabase } from "../testing/test-database";
import { emptyBin, listBin } from "./bin";
import { loadDemo } from "./demo";
import { Failure } from "./failure";
import { bringBackTemplate, createTemplate, deleteTemplate, listTemplates } from "./library";
import { dropVersion, historyOf, keepVersion, lifeOf, revisionText } from "./life";
import { lessonsAnswer, listSessions, startSession } from "./sessions";
import { addTemplate, loadTemplate, saveCommands, templateStore } from "./templates";

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase();
  await loadDemo(db);
});
afterAll(closeTestDatabase);

const failure = async (promise: Promise<unknown>): Promise<Failure> => {
  const error = await promise.catch((caught) => caught);
  if (!(error instanceof Failure)) throw new Error(`expected a failure, got ${error}`);
  return error;
};

let serial = 0;
/** A template of two folders, on the whole mill. */
const stored = async (): Promise<Template> => {
  const doc = {
    ...aTemplate()
      .folder("Strings")
      .folder("Drums")
      .track("Fiddle", { input: "9", folder: "Strings", player: "Wynn Solari" })
      .track("Snare", { input: "1", folder: "Drums" })
      .build(),
    id: `life-${Date.now()}-${serial++}` as never,
    rigId: wholeMill.id,
  };
  return (await addTemplate(db, doc)).document;
};
const rename = async (id: string, base: number, name: string) =>
  saveCommands(db, id, { base, name: `Call it ${name}`, commands: [set("channels", "track-1", { name })] });
const read = async (id: string, revision: number) =>
  JSON.parse(await revisionText(db, id, revision)) as TemplateState & { readonly version: string | null };

describe("versions", () => {
  it("keep a revision under a name, read as it was however much came after", async () => {
    const { id } = await stored();
    await rename(id, 1, "Viola");
    const kept = await keepVersion(db, id, { name: " Spring ", tried: "plugged in once", by: "Nadia" });
    expect(kept).toMatchObject({ revision: 2, name: "Spring", tried: "plugged in once", by: "Nadia", note: "" });
    for (let at = 2; at < 70; at++) await rename(id, at, `Name ${at}`);
    const then = await read(id, 2);
    expect([then.version, then.document.channels["track-1" as never]]).toMatchObject(["Spring", { name: "Viola" }]);
    expect((await read(id, 40)).document.channels["track-1" as never]).toMatchObject({ name: "Name 39" });
    expect((await lifeOf(db, id)).versions.map(({ name, revision }) => [name, revision])).toEqual([["Spring", 2]]);
  });

  it("have one name each; kept again they are called anew; without a name there is none", async () => {
    const { id } = await stored();
    await rename(id, 1, "Viola");
    await keepVersion(db, id, { revision: 1, name: "First" });
    expect(await failure(keepVersion(db, id, { name: "first" }))).toMatchObject({ status: 422 });
    expect(await failure(keepVersion(db, id, { name: "  " }))).toMatchObject({ status: 400 });
    expect(await failure(keepVersion(db, id, { revision: 9, name: "Ninth" }))).toMatchObject({ status: 404 });
    await keepVersion(db, id, { revision: 1, name: "The very first", note: "made from a list" });
    expect((await lifeOf(db, id)).versions).toMatchObject([{ name: "The very first", note: "made from a list" }]);
    await dropVersion(db, id, 1);
    expect((await lifeOf(db, id)).versions).toEqual([]);
    expect(await failure(dropVersion(db, id, 1))).toMatchObject({ status: 404 });
    expect((await read(id, 1)).document.channels["track-1" as never]).toMatchObject({ name: "Fiddle" });
  });

  it("can become templates of their own that remember where they came from", async () => {
    const { id } = await stored();
    await rename(id, 1, "Viola");
    const copy = await createTemplate(db, { copyOf: id, copyRevision: 1, name: "Four" });
    expect(copy.document.channels["track-1" as never]).toMatchObject({ name: "Fiddle" });
    expect((await lifeOf(db, id)).descendants).toMatchObject([{ name: "Four", revision: 1 }]);
    expect((await lifeOf(db, copy.document.id)).ancestor).toMatchObject({ id, revision: 1, gone: false });
    await deleteTemplate(db, id);
    expect((await lifeOf(db, copy.document.id)).ancestor).toMatchObject({ id, gone: true });
  });
});

describe("what was done", () => {
  it("tells every gesture, newest first, with who and when, and finds words in them", async () => {
    const { id } = await stored();
    await rename(id, 1, "Viola");
    await templateStore.saveBody(
      db,
      id,
      JSON.stringify({
        base: 2,
        batch: "b",
        by: "Tom",
        name: "Phantom on",
        commands: [set("lines", "line-1", { phantom: true })],
      }),
    );
    const all = await historyOf(db, id, {});
    expect(all.done.map(({ names, by }) => [names, by])).toEqual([
      [["Phantom on"], "Tom"],
      [["Call it Viola"], ""],
      [["Made"], ""],
    ]);
    expect((await historyOf(db, id, { query: "tom phan" })).done.map(({ revision }) => revision)).toEqual([3]);
    expect((await historyOf(db, id, { query: "100%" })).done).toEqual([]);
    expect((await historyOf(db, id, { before: 2 })).done.map(({ revision }) => revision)).toEqual([1]);
  });
});

describe("the bin", () => {
  it("tells what was deleted, when and by whom; brings it back; and lets it go for good only when it is emptied", async () => {
    const { id } = await stored();
    await keepVersion(db, id, { name: "First" });
    await deleteTemplate(db, id, "Nadia");
    const inBin = async () => (await listBin(db)).binned.find((one) => one.id === id);
    expect(await inBin()).toMatchObject({ kind: "template", by: "Nadia" });
    await bringBackTemplate(db, id);
    expect(await inBin()).toBeUndefined();
    await deleteTemplate(db, id);
    const { at } = (await inBin()) ?? expect.unreachable();
    await emptyBin(db, new Date(new Date(at).getTime() - 1));
    expect(await inBin()).toBeDefined();
    expect(await emptyBin(db, new Date(at))).toBeGreaterThan(0);
    expect(await inBin()).toBeUndefined();
    expect(await failure(bringBackTemplate(db, id))).toMatchObject({ status: 404 });
  });

  it("nothing that is saved can be removed in any other way", async () => {
    const { id } = await stored();
    await expect(db.execute(sql`delete from template_revisions where template_id = ${id}`)).rejects.toThrow();
    await expect(db.execute(sql`update template_revisions set hash = '' where template_id = ${id}`)).rejects.toThrow();
  });

  it("a session whose template is gone for good lives on", async () => {
    const { id } = await stored();
    const { document } = await startSession(db, { templateId: id, name: "Alive", date: "2026-11-29" });
    await deleteTemplate(db, id);
    await emptyBin(db, new Date());
    expect((await loadTemplate(db, document.id)).document.name).toBe("Alive");
    expect((await lifeOf(db, document.id)).ancestor).toBeNull();
  });
});

describe("a session", () => {
  it("is a copy for a date, without what it does not need; its template stays byte for byte what it was", async () => {
    const { id } = await stored();
    const before = await templateStore.answer(db, id);
    const { document: session } = await startSession(db, {
      key: "evening",
      templateId: id,
      name: "Sunday",
      date: "2026-11-29",
      place: "Harbour hall",
      people: ["Wynn Solari"],
      drop: ["folder-2"],
    });
    expect(session.session).toEqual({
      date: "2026-11-29",
      place: "Harbour hall",
      state: "planned",
      people: ["Wynn Solari"],
    });
    expect(
      Object.values(session.channels)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(["Fiddle", "Main"]);
    await rename(session.id, 1, "Viola");
    expect(await templateStore.answer(db, id)).toBe(before);
    expect((await listTemplates(db, { query: "sunday" })).templates).toEqual([]);
    expect((await listSessions(db, {})).sessions.find(({ id: its }) => its === session.id)).toMatchObject({
      name: "Sunday",
      date: "2026-11-29",
      place: "Harbour hall",
      state: "planned",
      from: { id, revision: 1 },
    });
    expect((await lifeOf(db, id)).sessions).toMatchObject([{ id: session.id }]);
    const again = await startSession(db, {
      key: "evening",
      templateId: id,
      name: "Sunday",
      date: "2026-11-29",
      place: "Harbour hall",
      people: ["Wynn Solari"],
      drop: ["folder-2"],
    });
    expect(again.document.id).toBe(session.id);
  });

  it("of something that is not there is refused with what it is, and makes nothing", async () => {
    const { id } = await stored();
    const asked = { templateId: id, name: "Sunday", date: "2026-11-29" };
    const count = (await listSessions(db, {})).sessions.length;
    expect(await failure(startSession(db, { ...asked, name: "  " }))).toMatchObject({ status: 400 });
    expect(await failure(startSession(db, { ...asked, date: "2026-02-30" }))).toMatchObject({ status: 400 });
    expect(await failure(startSession(db, { ...asked, templateId: "nobody" }))).toMatchObject({ status: 404 });
    expect(await failure(startSession(db, { ...asked, revision: 7 }))).toMatchObject({ status: 404 });
    for (const none of ["folder-9", "__proto__"])
      expect(await failure(startSession(db, { ...asked, drop: [none] }))).toMatchObject({
        status: 422,
        message: expect.stringContaining(`no folder ${none}`),
      });
    expect(await failure(startSession(db, { ...asked, rigId: "no-rig" }))).toMatchObject({ status: 422 });
    expect((await listSessions(db, {})).sessions.length).toBe(count);
  });

  it("teaches nothing below three that are done, and then what they changed alike", async () => {
    const { id } = await stored();
    const lessons = async () => JSON.parse(await lessonsAnswer(db, id)) as LessonsAnswer;
    for (let at = 1; at <= 3; at++) {
      expect((await lessons()).lessons).toEqual([]);
      const { document } = await startSession(db, { templateId: id, name: `Evening ${at}`, date: `2026-11-0${at}` });
      await saveCommands(db, document.id, {
        base: 1,
        commands: [
          set("lines", "line-1", { portId: "eight:in:5", gainSetDb: 36 + at }),
          set("channels", "track-2", { parked: true }),
          { kind: "set", table: "document", values: { [document.id]: { session: { state: "done" } } } },
        ],
      });
    }
    expect((await lessons()).lessons.map(({ who, words }) => `${who}: ${words}`)).toEqual([
      "Snare: parked or not recorded in 3 of 3 sessions",
      "Fiddle: moved to input E5 in 3 of 3",
      "Fiddle gain: ended at 38 dB, 37 to 39 in 3; not planned",
    ]);
    expect((await loadTemplate(db, id)).revision).toBe(1);
  });
});
