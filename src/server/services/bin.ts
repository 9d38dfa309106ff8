import { and, desc, eq, isNotNull, notExists, sql } from "drizzle-orm";
import type { BinAnswer, Binned } from "@/contracts/answers";
import { type Database, inTransaction, type Queryable } from "../db/database";
import { rigRevisions, rigs, templateRevisions, templates, versions } from "../db/schema";
import { Failure } from "./failure";
import { forget, iso } from "./heads";
import { rigStore } from "./rigs";

/** So much of the bin is told at once; the newest of it. */
const MOST_TOLD = 500;

/** What was deleted, newest first, with when and by whom. */
export const listBin = async (db: Queryable): Promise<BinAnswer> => {
  const columns = (table: typeof templates | typeof rigs) => ({
    id: table.id,
    name: table.name,
    at: table.deletedAt,
    by: table.deletedBy,
  });
  const [documents, hardware] = await Promise.all([
    db
      .select({ ...columns(templates), date: templates.sessionDate })
      .from(templates)
      .where(isNotNull(templates.deletedAt))
      .orderBy(desc(templates.deletedAt))
      .limit(MOST_TOLD),
    db.select(columns(rigs)).from(rigs).where(isNotNull(rigs.deletedAt)).orderBy(desc(rigs.deletedAt)).limit(MOST_TOLD),
  ]);
  const binned: readonly Binned[] = [
    ...documents.map(({ at, date, ...row }) => ({
      ...row,
      kind: date ? ("session" as const) : ("template" as const),
      at: iso(at ?? new Date(0)),
    })),
    ...hardware.map(({ at, ...row }) => ({ ...row, kind: "rig" as const, at: iso(at ?? new Date(0)) })),
  ];
  return { binned: [...binned].sort((a, b) => (a.at < b.at ? 1 : -1)).slice(0, MOST_TOLD) };
};

/** Brings a rig back from the bin. */
export const bringRigBack = (db: Database, id: string): Promise<void> =>
  inTransaction(db, async (tx) => {
    const [rig] = await tx
      .update(rigs)
      .set({ deletedAt: null, deletedBy: "" })
      .where(and(eq(rigs.id, id), isNotNull(rigs.deletedAt)))
      .returning({ head: rigs.head });
    if (!rig) throw new Failure(404, "No such rig", "There is no deleted rig with this id.");
    await rigStore.tell(tx, id, rig.head, { gone: false });
  });

/** The database itself refuses to remove what was saved, but for whoever empties the bin and says so. */
const emptying = (tx: Queryable) => tx.execute(sql`select set_config('wandel.emptying', 'yes', true)`);

const removeTemplate = (db: Database, id: string): Promise<boolean> =>
  inTransaction(db, async (tx) => {
    const [there] = await tx
      .select({ id: templates.id })
      .from(templates)
      .where(and(eq(templates.id, id), isNotNull(templates.deletedAt)))
      .for("update");
    if (!there) return false;
    await emptying(tx);
    await tx.delete(versions).where(eq(versions.of, id));
    await tx.delete(templateRevisions).where(eq(templateRevisions.of, id));
    await tx.delete(templates).where(eq(templates.id, id));
    forget("template", id);
    return true;
  });

/** A rig that something in the bin or out of it still stands on stays. */
const removeRig = (db: Database, id: string): Promise<boolean> =>
  inTransaction(db, async (tx) => {
    const standing = tx.select({ id: templates.id }).from(templates).where(eq(templates.rigId, rigs.id));
    const [there] = await tx
      .select({ id: rigs.id })
      .from(rigs)
      .where(and(eq(rigs.id, id), isNotNull(rigs.deletedAt), notExists(standing)))
      .for("update");
    if (!there) return false;
    await emptying(tx);
    await tx.delete(rigRevisions).where(eq(rigRevisions.of, id));
    await tx.delete(rigs).where(eq(rigs.id, id));
    forget("rig", id);
    return true;
  });

/**
 * Removes for good what the bin held when it was looked at last (`upTo`): what was deleted since stays. Each thing by
 * itself, whole or not at all. Answers how many went.
 */
export const emptyBin = async (db: Database, upTo: Date): Promise<number> => {
  const { binned } = await listBin(db);
  let gone = 0;
  const old = binned.filter(({ at }) => new Date(at) <= upTo);
  for (const { id, kind } of old) if (kind !== "rig" && (await removeTemplate(db, id))) gone += 1;
  for (const { id, kind } of old) if (kind === "rig" && (await removeRig(db, id))) gone += 1;
  return gone;
};
