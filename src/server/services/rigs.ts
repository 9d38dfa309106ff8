import { and, count, desc, eq, isNull, ne, type SQL, sql } from "drizzle-orm";
import { LRUCache } from "lru-cache";
import { nanoid } from "nanoid";
import type { RigList, RigState, RigTouches } from "@/contracts/answers";
import type { CreateRigRequest } from "@/contracts/requests";
import type { RigId } from "@/core/model/ids";
import { emptyRig, type Rig } from "@/core/model/rig";
import { freeName } from "@/core/planning/free-name";
import { FITTING_NAME, rigThatFits } from "@/core/planning/rig-that-fits";
import { type Database, inTransaction, type Queryable } from "../db/database";
import { rigs, templates } from "../db/schema";
import { shortHash } from "../tasks/apply-batch";
import type { RigFacts } from "../tasks/kinds";
import { documentStore } from "./document-store";
import { Failure } from "./failure";
import { head, iso } from "./heads";
import { task } from "./pool";
import { studioText } from "./studio";
import { seenOf } from "./surroundings";
import { UNREADABLE } from "./unreadable";

export const rigStore = documentStore<"rig">({ what: "rig" });

export const loadRig = (db: Queryable, id: string): Promise<RigState> => rigStore.load(db, id);
export const addRig = (db: Database, rig: Rig, name?: string): Promise<RigState> => rigStore.add(db, rig, name);

/** All rigs of the studio, oldest first, by what is kept of them beside their documents. */
export const listRigs = async (db: Queryable): Promise<RigList> => {
  const rows = await db
    .select({ id: rigs.id, name: rigs.name, head: rigs.head, summary: rigs.summary, templates: count(templates.id) })
    .from(rigs)
    .leftJoin(templates, and(eq(templates.rigId, rigs.id), isNull(templates.deletedAt), eq(templates.sessionDate, "")))
    .where(isNull(rigs.deletedAt))
    .groupBy(rigs.id)
    .orderBy(rigs.createdAt, rigs.id);
  return {
    rigs: rows.map((row) => {
      const facts = row.summary === null || row.summary === UNREADABLE ? null : (JSON.parse(row.summary) as RigFacts);
      return {
        id: row.id as RigId,
        name: row.name,
        inputs: facts?.inputs ?? 0,
        devices: facts?.devices ?? 0,
        templates: row.templates,
        revision: row.head,
        unreadable: facts ? null : "This rig can't be read. Save it as it is stored, then delete it.",
      };
    }),
  };
};

/** The oldest rig: what lists are put on when nobody says which. Null when there is none. */
export const firstRigId = async (db: Queryable): Promise<string | null> => {
  const [row] = await db
    .select({ id: rigs.id })
    .from(rigs)
    .where(isNull(rigs.deletedAt))
    .orderBy(rigs.createdAt, rigs.id)
    .limit(1);
  return row?.id ?? null;
};

/** The rig of the template that was last changed; null where no template is on a rig that is there. */
export const lastRigId = async (db: Queryable): Promise<string | null> => {
  const [row] = await db
    .select({ id: rigs.id })
    .from(templates)
    .innerJoin(rigs, eq(rigs.id, templates.rigId))
    .where(and(isNull(templates.deletedAt), isNull(rigs.deletedAt)))
    .orderBy(desc(templates.changedAt), desc(templates.id))
    .limit(1);
  return row?.id ?? null;
};

/**
 * A rig of shipped devices for a studio that has none, with as many inputs as are needed; null where there are rigs,
 * and one of them is to be chosen.
 */
export const fittingRig = async (db: Queryable, inputs: number): Promise<Rig | null> =>
  (await firstRigId(db)) ? null : rigThatFits({ id: nanoid(12) as RigId, name: FITTING_NAME, inputs });

const freeRigName = async (db: Queryable, name: string): Promise<string> => {
  const lower = sql<string>`lower(${rigs.name})`;
  const rows = await db
    .select({ name: lower })
    .from(rigs)
    .where(and(isNull(rigs.deletedAt), sql`starts_with(${lower}, ${name.toLowerCase()})`));
  return freeName(
    name,
    rows.map((row) => row.name),
  );
};

/** The id of what is made under a key: the same key gives the same id, so that the same thing is not made twice. */
export const idFor = (what: string, key: string | undefined, length = 12): string =>
  key ? shortHash(`${what} ${key}`) : nanoid(length);
export const markFor = (key: string | undefined, parts: () => readonly string[]): string | null =>
  key ? `made ${shortHash(JSON.stringify(parts()))}` : null;

/**
 * A new rig: empty, or a copy of one under a name of its own. Ports keep their ids, so that templates can move between
 * the two.
 */
export const createRig = async (db: Database, { key, name, copyOf }: CreateRigRequest): Promise<RigState> => {
  const id = idFor("rig", key) as RigId;
  const mark = markFor(key, () => [name ?? "", copyOf ?? ""]);
  if (await rigStore.knownMaking(db, { id, name: "", mark })) return loadRig(db, id);
  const original = copyOf ? await rigStore.head(db, copyOf) : null;
  const originalName = original ? await nameOf(db, original.id) : "";
  const wanted = name?.trim() || (original ? `${originalName.slice(0, 180)}, copy` : "New rig");
  const document = original?.text ?? JSON.stringify(emptyRig(id, wanted));
  const made = await task("renamed", { what: "rig", document, id, name: await freeRigName(db, wanted) });
  const origin = original ? { origin: { kind: "rig" as const, id: original.id, revision: original.revision } } : {};
  await rigStore.addStored(db, made, { id, mark, name: original ? `Copied from ${originalName}` : "Made", ...origin });
  return loadRig(db, id);
};

const nameOf = async (db: Queryable, id: string): Promise<string> => {
  const [row] = await db.select({ name: rigs.name }).from(rigs).where(eq(rigs.id, id));
  return row?.name ?? "";
};

/** How many templates of a rig are looked at one by one. */
const MOST_TOUCHED = 60;

const templatesOn = (id: string): SQL | undefined => and(eq(templates.rigId, id), isNull(templates.deletedAt));

/**
 * What was said of a template in one state, on a rig and in a studio in theirs: whoever looks again has only what
 * changed judged anew.
 */
const looked = new LRUCache<string, RigTouches["templates"][number]>({
  max: 1000,
  maxSize: 200_000,
  sizeCalculation: ({ lines }) => lines.length + 1,
});

/** Of these, what a change of the rig still reaches: sessions that are done are over. */
const touchedOn = (id: string): SQL | undefined => and(templatesOn(id), ne(templates.sessionState, "done"));

/** The templates that stand on a rig: what a change of it would touch. */
export const rigTouches = async (db: Queryable, id: string, signal?: AbortSignal): Promise<RigTouches> => {
  const rig = await rigStore.head(db, id);
  const studio = await studioText(db);
  const [counted] = await db.select({ total: count() }).from(templates).where(touchedOn(id));
  const rows = await db
    .select({ id: templates.id, head: templates.head, changedAt: templates.changedAt })
    .from(templates)
    .where(and(touchedOn(id), ne(templates.summary, UNREADABLE)))
    .orderBy(desc(templates.changedAt), templates.id)
    .limit(MOST_TOUCHED);
  const around = shortHash(`${rig.text} ${studio.text}`);
  const answers = [];
  for (const row of rows) {
    const state = `${around} ${row.id} ${row.head} ${iso(row.changedAt)}`;
    const touched =
      looked.get(state) ??
      (await task("touched", seenOf({ rigs: [rig], studio }, (await head(db, "template", row.id)).text), { signal }));
    looked.set(state, touched);
    answers.push(touched);
  }
  return { revision: rig.revision, total: counted?.total ?? 0, templates: answers };
};

/** Takes a rig away. While templates stand on it, it stays, and they are named. */
export const deleteRig = (db: Database, id: string, by = ""): Promise<void> =>
  inTransaction(db, async (tx) => {
    const [rig] = await tx
      .select({ head: rigs.head })
      .from(rigs)
      .where(and(eq(rigs.id, id), isNull(rigs.deletedAt)))
      .for("update");
    if (!rig)
      throw new Failure(
        404,
        "No such rig",
        `There is no rig with the id ${id.slice(0, 64)}. It may have been deleted already.`,
      );
    const standing = await tx
      .select({ name: templates.name, total: sql<number>`count(*) over ()::int` })
      .from(templates)
      .where(templatesOn(id))
      .orderBy(templates.createdAt, templates.id)
      .limit(3);
    const total = standing[0]?.total ?? 0;
    if (total)
      throw new Failure(
        422,
        "Templates stand on it",
        `${standing.map((row) => row.name).join(", ")}${total > 3 ? ` and ${total - 3} more` : ""} ${total === 1 ? "stands" : "stand"} on this rig. Fit ${total === 1 ? "it" : "them"} to another one first.`,
      );
    await tx.update(rigs).set({ deletedAt: new Date(), deletedBy: by }).where(eq(rigs.id, id));
    await rigStore.tell(tx, id, rig.head, { gone: true });
  });

/** Makes a rig of a rig document. */
export const importRig = async (
  db: Database,
  bytes: Uint8Array,
  { key, signal }: { readonly key?: string | undefined; readonly signal?: AbortSignal } = {},
): Promise<RigState> => {
  const id = idFor("rig", key);
  const mark = markFor(key, () => [shortHash(bytes)]);
  if (await rigStore.knownMaking(db, { id, name: "", mark })) return loadRig(db, id);
  const read = await task("rigOfDocument", { bytes }, { signal });
  const made = await task(
    "renamed",
    { what: "rig", document: read.document, id, name: await freeRigName(db, read.name) },
    { signal },
  );
  await rigStore.addStored(db, made, { id, mark, name: "Read from a file" });
  return loadRig(db, id);
};
