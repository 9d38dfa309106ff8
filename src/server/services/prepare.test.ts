import { Client } from "pg";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { lifeOfTheNine } from "@/core/demo/life";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { demoTemplates } from "@/core/demo/templates";
import { database, migrateDatabase, PREPARING } from "../db/database";
import { rigs, studios, templates } from "../db/schema";
import { closeTestDatabase } from "../testing/test-database";
import { importTemplate, previewImport } from "./imports";
import { createTemplate } from "./library";
import { prepareData } from "./prepare";
import { listRigs } from "./rigs";
import { loadTemplate } from "./templates";

/** Nothing was made in these yet; each test has one of its own. */
const empty = (process.env.WANDEL_TEST_EMPTY_DATABASE_URLS ?? "").split(" ");

const found = async () => {
  const db = database();
  return { rigs: await db.$count(rigs), templates: await db.$count(templates), studios: await db.$count(studios) };
};
/** Sessions and descendants of the Nine are templates of the database as well. */
const COPIES = demoTemplates()
  .filter(({ id }) => id === "tidewrack-nine")
  .map(lifeOfTheNine)
  .reduce((sum, { sessions, descendants }) => sum + sessions.length + descendants.length, 0);
const WHOLE = { rigs: DEMO_RIGS.length, templates: demoTemplates().length + COPIES, studios: 1 };

describe("data that are prepared by a start", () => {
  beforeEach(async () => {
    await closeTestDatabase();
    process.env.DATABASE_URL = empty.pop() as string;
  });
  afterEach(closeTestDatabase);

  it("are there once, and whole, when several servers start at once on an empty database", async () => {
    await Promise.all([prepareData(true), prepareData(true), prepareData(true)]);
    expect(await found()).toEqual(WHOLE);
  });

  it("are all there or none when a start ends halfway, and the next one makes them", async () => {
    const db = database();
    await migrateDatabase(db);
    const last = demoTemplates().at(-1)?.id ?? "";
    await db.insert(templates).values({ id: last, name: "In the way", kind: "band", search: "", head: 1 });
    await expect(prepareData(true)).rejects.toMatchObject({ cause: { code: "23505" } });
    expect(await found()).toEqual({ rigs: 0, templates: 1, studios: 0 });
    await db.delete(templates);
    await prepareData(true);
    expect(await found()).toEqual(WHOLE);
  });

  it("a lock of a server that was killed goes with it", async () => {
    const killed = new Client({ connectionString: process.env.DATABASE_URL });
    killed.on("error", () => {});
    await killed.connect();
    await killed.query(`select pg_advisory_lock(${PREPARING})`);
    const waiting = prepareData(false);
    let done = false;
    void waiting.then(() => {
      done = true;
    });
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect(done).toBe(false);
    await killed.end();
    await waiting;
    expect(await found()).toEqual({ rigs: 0, templates: 0, studios: 1 });
  });

  it("a studio without a rig can go on: one that fits is made on the way, once", async () => {
    await prepareData(false);
    const db = database();
    const list = () => ({
      fileName: "list.csv",
      bytes: new TextEncoder().encode(
        `Input,Source\n${Array.from({ length: 18 }, (_, at) => `${at + 1},Voice ${at + 1}`).join("\n")}\n`,
      ),
    });
    expect(JSON.parse(await previewImport(db, list(), {})).rows).toHaveLength(18);
    expect(await found()).toEqual({ rigs: 0, templates: 0, studios: 1 });
    const { template } = await importTemplate(db, list(), {});
    const { document } = await loadTemplate(db, template.id);
    expect(Object.values(document.lines).filter(({ portId }) => portId === null)).toEqual([]);
    expect(await found()).toEqual({ rigs: 1, templates: 1, studios: 1 });
    await expect(createTemplate(db, { name: "Talk", starter: "talk" })).rejects.toMatchObject({ status: 400 });
    const [rig] = (await listRigs(db)).rigs;
    const talk = await createTemplate(db, { name: "Talk", starter: "talk", rigId: rig?.id ?? "" });
    expect(talk.document.rigId).toBe(rig?.id);
  });
});
