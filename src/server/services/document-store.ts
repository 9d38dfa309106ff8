import { and, eq, sql } from "drizzle-orm";
import { nanoid } from "nanoid";
import type { NewerAnswer, SavedOn } from "@/contracts/answers";
import type { What } from "@/contracts/kinds";
import type { Command } from "@/core/commands/command";
import { plainTexts } from "@/core/reading/plain-text";
import { isTaken } from "../db/away";
import { type Database, inTransaction, type Queryable } from "../db/database";
import { tablesOf } from "../db/documents";
import type { Origin } from "../db/schema";
import type { HeadOf, Stored } from "../tasks/apply-batch";
import { type DocumentOf, isCurrent, readStored } from "../tasks/kinds";
import { onBehalfOf } from "./asking";
import { CHANGES, type Change, changeOf } from "./change-channel";
import { Failure } from "./failure";
import { type Head, head, iso } from "./heads";
import { newer } from "./newer";
import { task } from "./pool";
import { LITTLE_DOCUMENT, type Stands, saveBatch } from "./save-batch";

export interface StateOf<D> {
  readonly revision: number;
  readonly savedAt: string;
  readonly document: D;
}

export interface Batch {
  readonly base: number;
  readonly batch?: string | undefined;
  readonly baseSavedAt?: string | undefined;
  readonly name?: string | undefined;
  readonly commands: readonly Command[];
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
  /** What it is a copy of. */
  readonly origin?: Origin;
}

/**
 * Whoever opens a large document edits it next: the thread of edits takes it apart meanwhile. What comes in between
 * goes before it, and that it could not be done does no harm.
 */
const expected = async ({ document, ...of }: HeadOf & { readonly document: string }): Promise<void> => {
  const about = `${of.what} ${of.id}`;
  try {
    // On nobody's behalf: what somebody opened does not count among what they asked for.
    await onBehalfOf(
      null,
      async () =>
        (await task("holdHead", { ...of, document: null }, { about })) ||
        task("holdHead", { ...of, document }, { about }),
    );
  } catch {
    // The first edit brings the document along.
  }
};

/** Keeps documents of one kind: an immutable revision for every batch of commands, and where the head is. */
export const documentStore = <W extends What>({ what, stands }: { readonly what: W; readonly stands?: Stands }) => {
  type D = DocumentOf[W];
  const { heads, revisions } = tablesOf(what);

  const load = async (db: Queryable, id: string): Promise<StateOf<D>> => {
    const { revision, savedAt, text } = await head(db, what, id);
    return { revision, savedAt, document: readStored(what, text) };
  };

  /**
   * The state as the JSON of an answer: a document in today's shape goes out as it is stored, without being taken
   * apart.
   */
  const answer = async (db: Queryable, id: string): Promise<string> => {
    const { revision, savedAt, hash, text } = await head(db, what, id);
    if (text.length > LITTLE_DOCUMENT) void expected({ what, id, hash, document: text });
    const document = isCurrent(what, text) ? text : await task("broughtUp", { what, document: text });
    return `{"revision":${revision},"savedAt":${JSON.stringify(savedAt)},"document":${document}}`;
  };

  const tell = (tx: Queryable, id: string, revision: number, more: Pick<Change, "gone" | "on"> = {}) =>
    tx.execute(sql`select pg_notify(${CHANGES}, ${changeOf({ kind: what, id, revision, ...more })})`);

  const knownMaking = async (db: Queryable, { id, mark }: Making): Promise<SavedAt | null> => {
    if (!mark) return null;
    const [row] = await db
      .select({ batch: revisions.batch, savedAt: revisions.savedAt })
      .from(revisions)
      .where(and(eq(revisions.of, id), eq(revisions.number, 1)));
    if (!row) return null;
    if (row.batch !== mark)
      throw new Failure(
        422,
        "This key was used",
        "This key was used for something else before. Choose another one for each thing that is made.",
      );
    return { revision: 1, savedAt: iso(row.savedAt) };
  };

  /** Head and first revision of a document that is ready as text. */
  const insert = async (
    tx: Queryable,
    { document, hash, copies }: Stored,
    { id, name, mark = null, origin }: Making,
  ): Promise<SavedAt> => {
    // Only templates have columns of what they were copied from.
    const from = what === "template" && origin ? { fromId: origin.id, fromRevision: origin.revision } : {};
    await tx.insert(heads).values({ id, head: 1, ...columnsByProperty(copies), ...from } as typeof heads.$inferInsert);
    const [row] = await tx
      .insert(revisions)
      .values({
        of: id,
        number: 1,
        document: sql`${document}::json` as never,
        hash,
        commands: [],
        names: [name],
        batch: mark,
        ...(origin ? { origin } : {}),
      })
      .returning({ savedAt: revisions.savedAt });
    if (!row) throw new Error("expected the first revision to be answered, got none");
    await tell(tx, id, 1, { on: copies.rig_id });
    return { revision: 1, savedAt: iso(row.savedAt) };
  };

  /** Stores a new document that is ready as text. */
  const addStored = async (db: Database, made: Stored, making: Making): Promise<SavedAt> => {
    try {
      return await inTransaction(db, async (tx) => {
        const known = await knownMaking(tx, making);
        if (known) return known;
        await stands?.(tx, made.copies);
        return insert(tx, made, making);
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

  const saveBody = (db: Database, id: string, body: string, signal?: AbortSignal): Promise<SavedOn> =>
    saveBatch({ db, what, id, stands, signal }, body);
  const save = (db: Database, id: string, batch: Batch): Promise<SavedOn> =>
    saveBody(db, id, JSON.stringify({ ...batch, batch: batch.batch ?? nanoid(12) }));

  return {
    what,
    head: (db: Queryable, id: string): Promise<Head> => head(db, what, id),
    load,
    answer,
    newer: (db: Queryable, id: string, since: number): Promise<NewerAnswer> => newer(db, what, { id, since }),
    add,
    addStored,
    knownMaking,
    saveBody,
    save,
    tell,
  };
};

/** Columns of a head by the names that the schema has for them: `rig_id` is `rigId`. */
export const columnsByProperty = (copies: Stored["copies"]): Readonly<Record<string, string>> =>
  Object.fromEntries(
    Object.entries(copies).map(([column, value]) => [
      column.replace(/_([a-z])/g, (_all, letter: string) => letter.toUpperCase()),
      value,
    ]),
  );

export type DocumentStore = Pick<ReturnType<typeof documentStore<What>>, "what" | "answer" | "saveBody" | "newer">;
