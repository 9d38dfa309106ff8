import { and, asc, desc, eq, gt, isNotNull, isNull, lte, type SQL, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { LRUCache } from "lru-cache";
import type { Newer } from "@/contracts/answers";
import { type Deletable, KINDS, type What } from "@/contracts/kinds";
import type { Queryable } from "../db/database";
import { tablesOf } from "../db/documents";
import { templates } from "../db/schema";
import { isCurrent } from "../tasks/kinds";
import { Failure } from "./failure";
import { task } from "./pool";

/** Which revision of a document is the newest. */
export interface HeadMark {
  readonly id: string;
  readonly revision: number;
  readonly savedAt: string;
  readonly hash: string;
  /** The rig that a template stands on; null of other documents. */
  readonly rigId: string | null;
}

/** A head with its document as it is stored, as JSON. */
export interface Head extends HeadMark {
  readonly text: string;
}

/**
 * A head as it is remembered: as text, as a value, or both; of a large one, which the thread of edits holds, as
 * neither. A value is never changed, so that it can be built on.
 */
export interface Remembered extends HeadMark {
  readonly text: string | null;
  readonly doc: object | null;
  /** About how large it is as text. */
  readonly bytes: number;
  /** What was stored last, newest last, so that whoever is a little behind is told without a look into the database. */
  readonly recent: readonly Newer[];
  /** It is stored in today's shape, so that what comes after it can be told by patches. */
  readonly current: boolean;
}

/**
 * Heads that were read or stored by this server, so that neither the next edit nor the next look need put them together
 * again. Held to the row when one is used: whatever another server stored is seen.
 */
/** Larger ones are remembered without their text. */
const MOST_ENTRY_BYTES = 2 * 1024 * 1024;

const remembered = new LRUCache<string, Remembered>({
  max: 400,
  maxSize: 48 * 1024 * 1024,
  maxEntrySize: MOST_ENTRY_BYTES + 4096,
  sizeCalculation: ({ text, doc, bytes }) => (text === null && doc === null ? 0 : bytes) + 2048,
});
const keyOf = (what: What, id: string): string => `${what} ${id}`;

export const remember = (what: What, head: Remembered): void => {
  const large = head.bytes > MOST_ENTRY_BYTES;
  remembered.set(keyOf(what, head.id), large ? { ...head, text: null, doc: null } : head);
};
export const recall = (what: What, id: string): Remembered | undefined => remembered.get(keyOf(what, id));
export const forget = (what: What, id: string): void => void remembered.delete(keyOf(what, id));

/** The text of a head that is remembered; null where it is held elsewhere. */
export const textOf = ({ text, doc }: Pick<Remembered, "text" | "doc">): string | null =>
  text ?? (doc && JSON.stringify(doc));

/** A time as ISO 8601 in UTC, with milliseconds, as it is told to windows. */
export const iso = (date: Date): string => date.toISOString();

export const noSuch = (what: What, id: string): Failure =>
  new Failure(404, `No such ${what}`, `There is no ${what} with the id ${id.slice(0, 64)}. ${KINDS[what].gone}`.trim());

const rigOf = (what: What): SQL<string | null> =>
  what === "template" ? sql<string | null>`${templates.rigId}` : sql<string | null>`null`;

const isHead = (what: What, id: string): SQL | undefined => {
  const { heads } = tablesOf(what);
  return and(eq(heads.id, id), isNull(heads.deletedAt));
};

/** Which revision is the newest, without its document; null when there is none of this id. */
export const headMark = async (db: Queryable, what: What, id: string): Promise<HeadMark | null> => {
  const { heads, revisions } = tablesOf(what);
  const [row] = await db
    .select({ revision: heads.head, savedAt: revisions.savedAt, hash: revisions.hash, rigId: rigOf(what) })
    .from(heads)
    .innerJoin(revisions, and(eq(revisions.of, heads.id), eq(revisions.number, heads.head)))
    .where(isHead(what, id));
  return row ? { id, revision: row.revision, savedAt: iso(row.savedAt), hash: row.hash, rigId: row.rigId } : null;
};

/** The last whole document up to the head of each row, beside it. */
export const lastWhole = (db: Queryable, what: What) => {
  const { heads, revisions } = tablesOf(what);
  const whole = alias(revisions, "whole");
  return db
    .select({
      number: whole.number,
      document: sql<string>`${whole.document}::text`.as("document"),
      bytes: sql<number>`octet_length(${whole.document}::text)`.as("bytes"),
    })
    .from(whole)
    .where(and(eq(whole.of, heads.id), isNotNull(whole.document), lte(whole.number, heads.head)))
    .orderBy(desc(whole.number))
    .limit(1)
    .as("last_whole");
};

/**
 * A revision as text, as it is stored: the last whole document up to it with what came after that, less than sixty-four
 * changes. Null when there is none of this number.
 */
export const documentAt = async (
  db: Queryable,
  what: What,
  { id, number }: { readonly id: string; readonly number: number },
): Promise<string | null> => {
  const { revisions } = tablesOf(what);
  const upTo = and(eq(revisions.of, id), lte(revisions.number, number));
  const [whole] = await db
    .select({ number: revisions.number, document: sql<string>`${revisions.document}::text` })
    .from(revisions)
    .where(and(upTo, isNotNull(revisions.document)))
    .orderBy(desc(revisions.number))
    .limit(1);
  if (!whole || whole.number === number) return whole?.document ?? null;
  const rows = await db
    .select({ number: revisions.number, patches: sql<string>`${revisions.patches}::text` })
    .from(revisions)
    .where(and(upTo, gt(revisions.number, whole.number)))
    .orderBy(asc(revisions.number));
  if (rows.at(-1)?.number !== number) return null;
  return task("broughtTogether", { document: whole.document, patches: rows.map(({ patches }) => patches) });
};

/**
 * The newest revision as text, as it is stored: put together from the last whole one and what came after it, unless it
 * is remembered.
 */
export const head = async (db: Queryable, what: What, id: string): Promise<Head> => {
  const mark = await headMark(db, what, id);
  if (!mark) throw noSuch(what, id);
  const known = recall(what, id);
  const same = known && known.revision === mark.revision && known.savedAt === mark.savedAt ? known : null;
  const at = same && textOf(same);
  if (at) return { ...mark, text: at };
  // Whoever edits it last holds it; else it is put together.
  const text =
    (same ? await task("documentHeld", { what, id, hash: mark.hash }) : null) ??
    (await documentAt(db, what, { id, number: mark.revision }));
  if (text === null) throw noSuch(what, id);
  remember(what, {
    ...mark,
    text,
    doc: null,
    bytes: text.length,
    recent: same?.recent ?? [],
    current: isCurrent(what, text),
  });
  return { ...mark, text };
};

/** What is told of a document without taking it out of the database; null when there is none of this id. */
export const headOf = async (
  db: Queryable,
  what: Deletable,
  id: string,
): Promise<{ readonly name: string; readonly bytes: number; readonly rigId: string | null } | null> => {
  const { heads } = tablesOf(what);
  const whole = lastWhole(db, what);
  const [row] = await db
    .select({ name: heads.name, rigId: rigOf(what), bytes: whole.bytes })
    .from(heads)
    .innerJoinLateral(whole, sql`true`)
    .where(isHead(what, id));
  return row ?? null;
};
