import { and, eq, sql } from "drizzle-orm";
import type { Newer, SavedOn } from "@/contracts/answers";
import type { What } from "@/contracts/kinds";
import type { Command } from "@/core/commands/command";
import { isTaken } from "../db/away";
import { type Database, inTransaction, type Queryable } from "../db/database";
import { tablesOf } from "../db/documents";
import { type Asked, applyTo, type BatchDone } from "../tasks/apply-batch";
import { isCurrent, readStored } from "../tasks/kinds";
import { CHANGES, changeOf } from "./change-channel";
import { Failure } from "./failure";
import { documentAt, forget, head, headMark, iso, noSuch, type Remembered, recall, remember, textOf } from "./heads";
import { inTurn } from "./in-turn";
import { newer } from "./newer";
import { task } from "./pool";

/** So often a batch is put on the newest revision before its sender is told that others were always faster. */
const MOST_TRIES = 5;
/**
 * Every so many revisions the whole document is kept, so that any can be put together from less than as many changes.
 */
const WHOLE_EVERY = 64;
/**
 * Documents and gestures up to this many bytes are done here: a millisecond or two, less than the way to a thread and
 * back is worth.
 */
export const LITTLE_DOCUMENT = 96 * 1024;
const LITTLE_BODY = 32 * 1024;
/** So many revisions are remembered with a head. */
const RECENT = 48;

/**
 * Refuses what must not be stored although the document by itself is whole; asked in the transaction that stores it.
 */
export type Stands = (tx: Queryable, copies: Readonly<Record<string, string>>) => Promise<void>;

interface Saving {
  readonly db: Database;
  readonly what: What;
  readonly id: string;
  readonly stands?: Stands | undefined;
  readonly signal?: AbortSignal | undefined;
}

/** What is to be stored: of a little document as a value, of a large one as text. */
interface Done extends BatchDone {
  readonly doc: object | null;
}

interface Tried {
  readonly asked: Asked;
  readonly done: Done | null;
}

/** The document of a head that nobody here holds any more. */
const fetchedText = async ({ db, what, id }: Saving, now: Remembered): Promise<string> => {
  const text = textOf(now) ?? (await documentAt(db, what, { id, number: now.revision }));
  if (text === null) throw noSuch(what, id);
  return text;
};

const isWholeAt = (number: number, now: Remembered): boolean => number % WHOLE_EVERY === 0 || !now.current;

/**
 * Applies a batch to a head: here when both are little, else in the thread of edits, which is given the document only
 * when it does not hold it.
 */
const apply = async (saving: Saving, body: string, now: Remembered): Promise<Tried> => {
  const { what, id, signal } = saving;
  const mark = { number: now.revision, savedAt: now.savedAt };
  const little =
    now.bytes <= LITTLE_DOCUMENT && body.length <= LITTLE_BODY
      ? (now.doc ?? readStored(what, await fetchedText(saving, now)))
      : null;
  if (little) {
    const { done, ...asked } = applyTo(what, body, { ...mark, doc: little });
    const patches = done && JSON.stringify(done.patches);
    return {
      asked,
      done: done && { ...done, document: null, patches: patches ?? "", bytes: now.bytes + (patches?.length ?? 0) },
    };
  }
  const order = { what, id, hash: now.hash, body, head: mark, whole: isWholeAt(now.revision + 1, now) };
  const about = `${what} ${id}`;
  const tried =
    (await task("applyBatch", { ...order, document: null }, { signal, about })) ??
    (await task("applyBatch", { ...order, document: await fetchedText(saving, now) }, { signal, about }));
  if (!tried) throw new Error("expected the batch to be applied to the document it came with, got nothing");
  const { done, ...asked } = tried;
  return { asked, done: done && { ...done, doc: null } };
};

interface SavedAt {
  readonly revision: number;
  readonly savedAt: string;
}

/**
 * The next revision and the head that points to it in one statement, which the database does whole or not at all; no
 * row: the head moved, or went. Said in SQL, as the builder can't put an update and an insert that depend on one locked
 * row into one statement; prepared, as planning it takes longer than doing it.
 */
const statementOf = (what: What, columns: readonly string[]): { readonly name: string; readonly text: string } => ({
  // Of one kind of document all have the same columns; the name is cut at 63 letters.
  name: `store ${what} ${columns.length}`,
  text: `
    with held as (
      select h.id from ${what}s h join ${what}_revisions r on r.${what}_id = h.id and r.number = h.head
      where h.id = $1 and h.head = $2 and r.saved_at = $3::timestamptz and h.deleted_at is null for update of h
    ),
    made as (
      insert into ${what}_revisions (${what}_id, number, document, patches, hash, commands, names, batch, made_by)
      select id, $4, $5::json, $6::json, $7, $8::json, $9::json, $10, $11 from held returning saved_at
    ),
    moved as (update ${what}s h set head = $4, changed_at = now()${columns.map((column, at) => `, ${column} = $${at + 13}`).join("")} from held where h.id = held.id)
    select saved_at as saved, pg_notify('${CHANGES}', $12) from made`,
});

const storeAtOnce = async (
  db: Queryable,
  { what, id }: Saving,
  { asked, done, now }: { readonly asked: Asked; readonly done: Done; readonly now: Remembered },
): Promise<SavedAt | null> => {
  const number = now.revision + 1;
  const isWhole = isWholeAt(number, now) || done.patches.length > now.bytes;
  const { rows } = await db.$client.query<{ readonly saved: Date }>({
    ...statementOf(what, Object.keys(done.copies)),
    values: [
      id,
      now.revision,
      now.savedAt,
      number,
      isWhole ? textOf({ text: done.document, doc: done.doc }) : null,
      done.patches,
      done.hash,
      asked.commands,
      JSON.stringify(done.names),
      asked.batch,
      asked.by,
      changeOf({ kind: what, id, revision: number, on: done.copies.rig_id }),
      ...Object.values(done.copies),
    ],
  });
  return rows[0] ? { revision: number, savedAt: iso(rows[0].saved) } : null;
};

/**
 * Stores what was computed, if the head is still what it was computed from; null when it is not, or when the batch is
 * there already.
 */
const store = async (
  saving: Saving,
  made: { readonly asked: Asked; readonly done: Done; readonly now: Remembered },
): Promise<SavedAt | null> => {
  const { db, stands } = saving;
  try {
    if ((made.done.copies.rig_id ?? null) === made.now.rigId) return await storeAtOnce(db, saving, made);
    // A template that goes to another rig: that must be there, and stay until it is done.
    return await inTransaction(db, async (tx) => {
      await stands?.(tx, made.done.copies);
      return storeAtOnce(tx, saving, made);
    });
  } catch (error) {
    if (isTaken(error, "batch")) return null;
    throw error;
  }
};

/**
 * What came between the base of a batch and the head it is put on; null when that can't be told whole, or the base is
 * of another past.
 */
const between = async (
  { db, what, id }: Saving,
  { base, baseSavedAt }: Asked,
  now: Remembered,
): Promise<readonly Newer[] | null> => {
  if (base === now.revision) return [];
  const from = now.recent.findIndex(({ revision }) => revision === base);
  const known = now.recent[from];
  if (known) return baseSavedAt === null || baseSavedAt === known.savedAt ? now.recent.slice(from + 1) : null;
  const { newer: since, sinceSavedAt, more } = await newer(db, what, { id, since: base });
  const whole = !more && since.at(-1)?.revision === now.revision && since.at(-1)?.savedAt === now.savedAt;
  return whole && (baseSavedAt === null || baseSavedAt === sinceSavedAt) ? since : null;
};

/** Tries once: null when the head moved meanwhile, or the batch can't be put on it. */
const saveOn = async (saving: Saving, { asked, done }: Tried, now: Remembered): Promise<SavedOn | null> => {
  if (!done) return null;
  const since = await between(saving, asked, now);
  const saved = since && (await store(saving, { asked, done, now }));
  if (!saved) return null;
  const stored: Newer = {
    ...saved,
    batch: asked.batch,
    names: done.names,
    by: asked.by,
    origin: null,
    commands: JSON.parse(asked.commands) as readonly Command[],
  };
  const recent = asked.commands.length > LITTLE_BODY ? [] : [...now.recent, stored].slice(-RECENT);
  remember(saving.what, {
    id: saving.id,
    ...saved,
    hash: done.hash,
    rigId: done.copies.rig_id ?? null,
    text: done.document,
    doc: done.doc,
    bytes: done.bytes,
    recent,
    current: true,
  });
  return { ...saved, hash: done.hash, ...(since.length ? { newer: since } : {}) };
};

/** The head as it is stored, ready to be built on. */
const fetched = async ({ db, what, id }: Saving): Promise<Remembered> => {
  const { text, ...mark } = await head(db, what, id);
  return { ...mark, text, doc: null, bytes: text.length, recent: [], current: isCurrent(what, text) };
};

/**
 * A batch that was saved although its answer got lost. Later than as the very next, others came between, and the sender
 * must take them in first.
 */
const knownBatch = async ({ db, what, id }: Saving, { base, batch, commands }: Asked): Promise<SavedOn | null> => {
  const { revisions } = tablesOf(what);
  const [row] = await db
    .select({
      number: revisions.number,
      commands: sql<string>`${revisions.commands}::text`,
      savedAt: revisions.savedAt,
      hash: revisions.hash,
    })
    .from(revisions)
    .where(and(eq(revisions.of, id), eq(revisions.batch, batch)));
  if (!row) return null;
  if (row.commands !== commands)
    throw new Failure(
      422,
      "This batch was saved",
      "A batch of this name was saved before with other commands. Choose another name for each batch.",
      {
        errors: [{ pointer: "/batch", detail: "used for other commands" }],
      },
    );
  return row.number <= base + 1 ? { revision: row.number, savedAt: iso(row.savedAt), hash: row.hash } : null;
};

const stale = async ({ db, what, id }: Saving, { base, baseSavedAt }: Asked): Promise<Failure> => {
  const { head: newest, newer: since, sinceSavedAt } = await newer(db, what, { id, since: base });
  if (base > newest || (baseSavedAt !== null && sinceSavedAt !== baseSavedAt))
    return new Failure(
      409,
      "Another past",
      `This was based on revision ${base}${base > newest ? `, and the newest here is ${newest}` : ", and the one of that number here is another"}: the data were restored from before, or started afresh.`,
      { head: newest, parted: true, newer: [] },
    );
  return new Failure(
    409,
    "Changed in the meantime",
    `This was based on revision ${base}, and the newest is ${newest}. Apply what is newer and send again.`,
    {
      head: newest,
      newer: since as never,
    },
  );
};

/**
 * On what this server remembers, without asking for it again; null when there is nothing of it, or when it is not the
 * newest any more.
 */
const saveOnRemembered = async (saving: Saving, body: string): Promise<SavedOn | null> => {
  const now = recall(saving.what, saving.id);
  const saved = now && (await saveOn(saving, await apply(saving, body, now), now));
  if (!saved) forget(saving.what, saving.id);
  return saved ?? null;
};

/** On what is fetched; again when another server on the same data was faster. */
const saveOnFetched = async (
  saving: Saving,
  body: string,
): Promise<{ readonly asked: Asked; readonly saved: SavedOn | null }> => {
  for (let tries = 1; ; tries++) {
    const now = await fetched(saving);
    const tried = await apply(saving, body, now);
    const saved = await saveOn(saving, tried, now);
    const moved =
      !saved && tried.done !== null && (await headMark(saving.db, saving.what, saving.id))?.revision !== now.revision;
    if (!moved || tries === MOST_TRIES) return { asked: tried.asked, saved };
    forget(saving.what, saving.id);
  }
};

/**
 * Applies a batch, as it was sent, to the newest revision, and stores the result as the next one: all or none. What
 * came between its base and that is answered with it, and the hash of what it became. Batches for one document are
 * taken in turn, so that nobody is sent back because of another.
 */
export const saveBatch = (saving: Saving, body: string): Promise<SavedOn> =>
  inTurn(`${saving.what} ${saving.id}`, async () => {
    const quick = await saveOnRemembered(saving, body);
    if (quick) return quick;
    const { asked, saved } = await saveOnFetched(saving, body);
    const known = saved ?? (await knownBatch(saving, asked));
    if (known) return known;
    throw await stale(saving, asked);
  });
