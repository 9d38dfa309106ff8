import { sql } from "drizzle-orm";
import { LRUCache } from "lru-cache";
import { nanoid } from "nanoid";
import type { Newer, NewerAnswer, SavedOn } from "@/contracts/answers";
import type { Command } from "@/core/commands/command";
import { plainTexts } from "@/core/reading/plain-text";
import { isTaken } from "../db/away";
import { type Database, inTransaction, type Queryable } from "../db/database";
import type { Stored } from "../tasks/apply-batch";
import { type DocumentOf, isCurrent, readStored, type What } from "../tasks/kinds";
import { CHANGES } from "./change-channel";
import { Failure } from "./failure";
import { inTurn } from "./in-turn";
import { task } from "./pool";

export interface StateOf<D> {
  readonly revision: number;
  readonly savedAt: string;
  readonly document: D;
}

/** A head with its document as it is stored, as JSON. */
export interface Head {
  readonly id: string;
  readonly revision: number;
  readonly savedAt: string;
  readonly text: string;
  /** The rig that a template stands on; null of other documents. */
  readonly rigId: string | null;
}

export interface Batch {
  readonly base: number;
  readonly batch?: string | undefined;
  readonly baseSavedAt?: string | undefined;
  readonly commands: readonly Command[];
}

interface Spec {
  /** "template": names the tables (`templates`, `template_revisions`) and stands in sentences. */
  readonly what: What;
  /** Refuses what must not be stored although the document by itself is whole; asked in the transaction that stores it. */
  readonly stands?: (tx: Queryable, copies: Readonly<Record<string, string>>) => Promise<void>;
}

interface SavedAt {
  readonly revision: number;
  readonly savedAt: string;
}

/** What a new document is stored with. The same key with the same request is answered with what it made before. */
interface Making {
  readonly id: string;
  readonly name: string;
  /** A mark of the request; null when it came without a key. */
  readonly mark?: string | null;
}

const iso = (column: string) => sql.raw(`to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`);

/** What is newer is answered up to this many revisions and bytes at once. */
const MOST_NEWER = 500;
const MOST_NEWER_BYTES = 4 * 1024 * 1024;

/** So often a batch is put on the newest revision before its sender is told that others were always faster. */
const MOST_TRIES = 5;

/** Keeps documents of one kind: an immutable revision for every batch of commands, and where the head is. */
export const documentStore = <W extends What>({ what, stands }: Spec & { readonly what: W }) => {
  type D = DocumentOf[W];
  const heads = sql.raw(`${what}s`);
  const revisions = sql.raw(`${what}_revisions`);
  const key = sql.raw(`${what}_id`);

  const gone = (id: string) =>
    new Failure(
      404,
      `No such ${what}`,
      `There is no ${what} with the id ${id.slice(0, 64)}.${what === "template" ? " It may have been deleted; the library can bring it back for as long as its notice is shown." : ""}`,
    );

  const toHead = (row: Record<string, unknown>): Head => ({
    id: String(row.id),
    revision: Number(row.number),
    savedAt: String(row.saved),
    text: String(row.text),
    rigId: row.rig_id == null ? null : String(row.rig_id),
  });
  const select = sql`select h.id, ${sql.raw(what === "template" ? "h.rig_id, " : "")}r.number, r.document::text as text, ${iso("r.saved_at")} as saved from ${heads} h join ${revisions} r on r.${key} = h.id and r.number = h.head where h.deleted_at is null`;

  const head = async (db: Queryable, id: string): Promise<Head> => {
    const [row] = (await db.execute(sql`${select} and h.id = ${id}`)).rows;
    if (!row) throw gone(id);
    return toHead(row);
  };

  const load = async (db: Queryable, id: string): Promise<StateOf<D>> => {
    const { revision, savedAt, text } = await head(db, id);
    return { revision, savedAt, document: readStored(what, text) };
  };

  /** The state as the JSON of an answer: a document in today's shape goes out as it is stored, without being taken apart. */
  const answer = async (db: Queryable, id: string): Promise<string> => {
    const { revision, savedAt, text } = await head(db, id);
    const document = isCurrent(what, text) ? text : await task("broughtUp", { what, document: text });
    return `{"revision":${revision},"savedAt":${JSON.stringify(savedAt)},"document":${document}}`;
  };

  /** The newest revision and where it is told from: "since" may be one that is not here. */
  const newer = async (db: Queryable, id: string, since: number): Promise<NewerAnswer> => {
    const [found] = (
      await db.execute(
        sql`select h.head, ${iso("r.saved_at")} as saved from ${heads} h left join ${revisions} r on r.${key} = h.id and r.number = ${since} where h.id = ${id} and h.deleted_at is null`,
      )
    ).rows;
    if (!found) throw gone(id);
    const { rows } = await db.execute(
      sql`select number, batch, names, commands, ${iso("saved_at")} as saved from (
        select *, sum(length(commands::text)) over (order by number) as bytes from ${revisions} where ${key} = ${id} and number > ${since} order by number limit ${MOST_NEWER}
      ) found where bytes <= ${MOST_NEWER_BYTES} or number = ${since} + 1 order by number`,
    );
    const revisionsSince: readonly Newer[] = rows.map((row) => ({
      revision: Number(row.number),
      savedAt: String(row.saved),
      batch: row.batch === null ? null : String(row.batch),
      names: row.names as readonly string[],
      commands: row.commands as readonly Command[],
    }));
    const last = revisionsSince.at(-1)?.revision ?? since;
    return { head: Number(found.head), sinceSavedAt: found.saved === null ? null : String(found.saved), newer: revisionsSince, more: last < Number(found.head) };
  };

  interface Row {
    readonly id: string;
    readonly number: number;
    readonly made: Stored;
    readonly names: readonly string[];
    readonly commands: string;
    readonly batch: string | null;
  }

  const tell = (tx: Queryable, id: string, revision: number, gone?: boolean) =>
    tx.execute(sql`select pg_notify(${CHANGES}, ${JSON.stringify({ kind: what, id, revision, ...(gone === undefined ? {} : { gone }) })})`);

  const insert = async (tx: Queryable, { id, number, made, names, commands, batch }: Row): Promise<string> => {
    const { rows } = await tx.execute(
      sql`insert into ${revisions} (${key}, number, document, hash, commands, names, batch) values (${id}, ${number}, ${made.document}::json, ${made.hash}, ${commands}::json, ${JSON.stringify(names)}::json, ${batch}) returning ${iso("saved_at")} as saved`,
    );
    await tell(tx, id, number);
    return String(rows[0]?.saved);
  };

  const knownMaking = async (db: Queryable, { id, mark }: Making): Promise<SavedAt | null> => {
    if (!mark) return null;
    const [row] = (await db.execute(sql`select batch, ${iso("saved_at")} as saved from ${revisions} where ${key} = ${id} and number = 1`)).rows;
    if (!row) return null;
    if (row.batch !== mark) throw new Failure(422, "This key was used", "This key was used for something else before. Choose another one for each thing that is made.");
    return { revision: 1, savedAt: String(row.saved) };
  };

  /** Stores a new document that is ready as text. */
  const addStored = async (db: Database, made: Stored, making: Making): Promise<SavedAt> => {
    const { id, name, mark = null } = making;
    const own = Object.entries(made.copies);
    const columns = sql.join(
      own.map(([column]) => sql.identifier(column)),
      sql`, `,
    );
    const values = sql.join(
      own.map(([, value]) => sql`${value}`),
      sql`, `,
    );
    try {
      return await inTransaction(db, async (tx) => {
        const known = await knownMaking(tx, making);
        if (known) return known;
        await stands?.(tx, made.copies);
        await tx.execute(sql`insert into ${heads} (id, head, ${columns}) values (${id}, 1, ${values})`);
        return { revision: 1, savedAt: await insert(tx, { id, number: 1, made, names: [name], commands: "[]", batch: mark }) };
      });
    } catch (error) {
      // The same was sent twice at once, and the other was first.
      const known = isTaken(error) ? await knownMaking(db, making) : null;
      if (known) return known;
      throw error;
    }
  };

  const add = async (db: Database, given: D, name = "Made"): Promise<StateOf<D>> => {
    const document = plainTexts(given) as D & { readonly id: string };
    const made = await task("stored", { what, document: JSON.stringify(document) });
    return { ...(await addStored(db, made, { id: document.id, name })), document };
  };

  /** A batch that was saved although its answer got lost. Later than as the very next, others came between, and the sender must take them in first. */
  const knownBatch = async (tx: Queryable, id: string, { base, batch, commands }: { readonly base: number; readonly batch: string; readonly commands: string }) => {
    const [row] = (await tx.execute(sql`select number, commands::text as commands, ${iso("saved_at")} as saved from ${revisions} where ${key} = ${id} and batch = ${batch}`)).rows;
    if (!row) return null;
    if (row.commands !== commands)
      throw new Failure(422, "This batch was saved", "A batch of this name was saved before with other commands. Choose another name for each batch.", {
        errors: [{ pointer: "/batch", detail: "used for other commands" }],
      });
    return Number(row.number) <= base + 1 ? { revision: Number(row.number), savedAt: String(row.saved) } : null;
  };

  const stale = async (db: Queryable, id: string, { base, baseSavedAt }: { readonly base: number; readonly baseSavedAt: string | null }): Promise<Failure> => {
    const { head: newest, newer: since, sinceSavedAt } = await newer(db, id, base);
    if (base > newest || (baseSavedAt !== null && sinceSavedAt !== baseSavedAt))
      return new Failure(
        409,
        "Another past",
        `This was based on revision ${base}${base > newest ? `, and the newest here is ${newest}` : ", and the one of that number here is another"}: the data were restored from before, or started afresh.`,
        { head: newest, parted: true, newer: [] },
      );
    return new Failure(409, "Changed in the meantime", `This was based on revision ${base}, and the newest is ${newest}. Apply what is newer and send again.`, {
      head: newest,
      newer: since as never,
    });
  };

  /** The newest revisions that this server stored itself, so that the next edit of the same document need not fetch it again. Held to the row when it is used. */
  const newest = new LRUCache<string, Head>({ max: 200, maxSize: 24 * 1024 * 1024, maxEntrySize: 1024 * 1024, sizeCalculation: ({ text }) => text.length });

  const columnsOf = ({ copies }: Stored) =>
    sql.join(
      Object.entries(copies).map(([column, value]) => sql`${sql.identifier(column)} = ${value}`),
      sql`, `,
    );

  type Asked = Awaited<ReturnType<typeof applyBatch>>;

  const applyBatch = (now: Head, body: string, signal: AbortSignal | undefined) =>
    task("applyBatch", { what, body, head: { number: now.revision, savedAt: now.savedAt, document: now.text } }, { signal, pool: "edits" });

  /** What came between the base of a batch and the head it is put on; null when that can't be told whole, or the base is of another past. */
  const between = async (db: Queryable, id: string, { base, baseSavedAt }: Asked, now: Head): Promise<readonly Newer[] | null> => {
    if (base === now.revision) return [];
    const { newer: since, sinceSavedAt, more } = await newer(db, id, base);
    const whole = !more && since.at(-1)?.revision === now.revision && since.at(-1)?.savedAt === now.savedAt;
    return whole && (baseSavedAt === null || baseSavedAt === sinceSavedAt) ? since : null;
  };

  /** Tries once: null when the head moved meanwhile, or the batch can't be put on it. */
  const saveOn = async (db: Database, id: string, asked: Asked, now: Head): Promise<SavedOn | null> => {
    const { done } = asked;
    if (!done) return null;
    const since = await between(db, id, asked, now);
    const saved = since && (await storeDone(db, id, { ...asked, done }, now));
    if (!saved) return null;
    newest.set(id, { id, ...saved, text: done.document, rigId: done.copies.rig_id ?? null });
    return since.length ? { ...saved, newer: since } : saved;
  };

  interface Tried {
    readonly asked: Asked;
    readonly saved: SavedOn | null;
  }

  /** On what this server stored itself, without fetching it again; null when there is nothing of it, or when it is not the newest any more. */
  const saveOnRemembered = async (db: Database, id: string, body: string, signal: AbortSignal | undefined): Promise<SavedOn | null> => {
    const now = newest.get(id);
    const saved = now && (await saveOn(db, id, await applyBatch(now, body, signal), now));
    if (!saved) newest.delete(id);
    return saved ?? null;
  };

  /** On what is fetched; again when another server on the same data was faster. */
  const saveOnFetched = async (db: Database, id: string, body: string, signal: AbortSignal | undefined): Promise<Tried> => {
    for (let tries = 1; ; tries++) {
      const now = await head(db, id);
      const asked = await applyBatch(now, body, signal);
      const saved = await saveOn(db, id, asked, now);
      const moved = !saved && asked.done !== null && (await head(db, id)).revision !== now.revision;
      if (!moved || tries === MOST_TRIES) return { asked, saved };
    }
  };

  /**
   * Applies a batch, as it was sent, to the newest revision, and stores the result as the next one: all or none. What came between its base and
   * that is answered with it. Batches for one document are taken in turn, so that nobody is sent back because of another.
   */
  const saveBody = (db: Database, id: string, body: string, signal?: AbortSignal): Promise<SavedOn> =>
    inTurn(`${what} ${id}`, async () => {
      const quick = await saveOnRemembered(db, id, body, signal);
      if (quick) return quick;
      const { asked, saved } = await saveOnFetched(db, id, body, signal);
      const known = saved ?? (await knownBatch(db, id, asked));
      if (known) return known;
      throw await stale(db, id, asked);
    });

  interface Done {
    readonly batch: string;
    readonly commands: string;
    readonly done: Stored & { readonly names: readonly string[] };
  }

  /** The next revision and the head that points to it in one statement, which the database does whole or not at all. No row: the head moved, or went. */
  const storeAtOnce = async (db: Queryable, id: string, { batch, commands, done }: Done, { revision: on, savedAt }: Head): Promise<SavedAt | null> => {
    const number = on + 1;
    const note = JSON.stringify({ kind: what, id, revision: number });
    const { rows } = await db.execute(sql`
      with held as (
        select h.id from ${heads} h join ${revisions} r on r.${key} = h.id and r.number = h.head
        where h.id = ${id} and h.head = ${on} and r.saved_at = ${savedAt}::timestamptz and h.deleted_at is null for update of h
      ),
      made as (
        insert into ${revisions} (${key}, number, document, hash, commands, names, batch)
        select id, ${number}, ${done.document}::json, ${done.hash}, ${commands}::json, ${JSON.stringify(done.names)}::json, ${batch} from held returning saved_at
      ),
      moved as (update ${heads} h set head = ${number}, changed_at = now(), ${columnsOf(done)} from held where h.id = held.id)
      select ${iso("saved_at")} as saved, pg_notify(${CHANGES}, ${note}) from made`);
    return rows[0] ? { revision: number, savedAt: String(rows[0].saved) } : null;
  };

  /** The same for a template that goes to another rig, which must be there and stay until it is done. */
  const storeElsewhere = (db: Database, id: string, done: Done, now: Head): Promise<SavedAt | null> =>
    inTransaction(db, async (tx) => {
      await stands?.(tx, done.done.copies);
      return storeAtOnce(tx, id, done, now);
    });

  /** Stores what was computed, if the head is still what it was computed from; null when it is not, or when the batch is there already. */
  const storeDone = async (db: Database, id: string, done: Done, now: Head): Promise<SavedAt | null> => {
    try {
      return await ((done.done.copies.rig_id ?? null) === now.rigId ? storeAtOnce(db, id, done, now) : storeElsewhere(db, id, done, now));
    } catch (error) {
      if (isTaken(error, "batch")) return null;
      throw error;
    }
  };

  const save = (db: Database, id: string, batch: Batch): Promise<SavedOn> => saveBody(db, id, JSON.stringify({ ...batch, batch: batch.batch ?? nanoid(12) }));

  return { what, head, load, answer, newer, add, addStored, knownMaking, saveBody, save, tell };
};

export type DocumentStore = Pick<ReturnType<typeof documentStore<What>>, "what" | "answer" | "saveBody"> & {
  newer(db: Queryable, id: string, since: number): Promise<NewerAnswer>;
};
