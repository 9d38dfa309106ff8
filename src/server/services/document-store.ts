import { type SQL, sql } from "drizzle-orm";
import type { NewerOf } from "@/contracts/answers";
import type { Engine } from "@/core/commands/engine";
import { plainTexts } from "@/core/reading/plain-text";
import type { Database, Queryable } from "../db/database";
import { CHANGES } from "./change-channel";
import { Failure } from "./failure";
import { hashOf } from "./hash";

export interface StateOf<D> {
  readonly revision: number;
  readonly savedAt: string;
  readonly document: D;
}

export interface BatchOf<C> {
  readonly base: number;
  readonly batch?: string | undefined;
  readonly commands: readonly C[];
}

interface Spec<D, C extends { readonly kind: string }> {
  /** "template": names the tables (`templates`, `template_revisions`) and stands in sentences. */
  readonly what: "template" | "rig" | "studio";
  readonly engine: Engine<D, C>;
  /** A stored document of any version in today's shape. */
  readonly read: (value: unknown) => D;
  /** What the row of the head copies out of the document, by column. */
  readonly copies: (doc: D) => Readonly<Record<string, string>>;
}

export interface DocumentStore<D, C> {
  load(db: Queryable, id: string): Promise<StateOf<D>>;
  /** Heads of all that are not deleted, oldest first; `r` in a condition is the revision. */
  all(db: Queryable, condition?: SQL): Promise<readonly StateOf<D>[]>;
  newer(db: Queryable, id: string, base: number): Promise<readonly NewerOf<C>[]>;
  add(db: Database, doc: D, name?: string): Promise<StateOf<D>>;
  save(db: Database, id: string, batch: BatchOf<C>): Promise<{ readonly revision: number; readonly savedAt: string }>;
}

const iso = (column: string) => sql.raw(`to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`);

/** Keeps documents of one kind: an immutable revision for every batch of commands, and where the head is. */
export const documentStore = <D extends { readonly id: string }, C extends { readonly kind: string }>({ what, engine, read, copies }: Spec<D, C>): DocumentStore<D, C> => {
  const heads = sql.raw(`${what}s`);
  const revisions = sql.raw(`${what}_revisions`);
  const key = sql.raw(`${what}_id`);

  const gone = (id: string) =>
    new Failure(
      404,
      `No such ${what}`,
      `There is no ${what} with the id ${id}.${what === "template" ? " It may have been deleted; the library can bring it back for as long as its notice is shown." : ""}`,
    );

  const toState = (row: Record<string, unknown>): StateOf<D> => ({ revision: Number(row.number), savedAt: String(row.saved), document: read(row.document) });

  const select = sql`select r.number, r.document, ${iso("r.saved_at")} as saved from ${heads} h join ${revisions} r on r.${key} = h.id and r.number = h.head where h.deleted_at is null`;

  const load = async (db: Queryable, id: string): Promise<StateOf<D>> => {
    const [row] = (await db.execute(sql`${select} and h.id = ${id}`)).rows;
    if (!row) throw gone(id);
    return toState(row);
  };

  const all = async (db: Queryable, condition: SQL = sql`true`): Promise<readonly StateOf<D>[]> =>
    (await db.execute(sql`${select} and ${condition} order by h.created_at, h.id`)).rows.map(toState);

  const newer = async (db: Queryable, id: string, base: number): Promise<readonly NewerOf<C>[]> => {
    const { rows } = await db.execute(
      sql`select number, batch, names, commands, ${iso("saved_at")} as saved from ${revisions} where ${key} = ${id} and number > ${base} order by number`,
    );
    return rows.map((row) => ({
      revision: Number(row.number),
      savedAt: String(row.saved),
      batch: row.batch === null ? null : String(row.batch),
      names: row.names as readonly string[],
      commands: row.commands as readonly C[],
    }));
  };

  interface Row {
    readonly doc: D;
    readonly number: number;
    readonly names: readonly string[];
    readonly commands: readonly C[];
    readonly batch: string | null;
  }

  const insert = async (tx: Queryable, { doc, number, names, commands, batch }: Row): Promise<string> => {
    const { rows } = await tx.execute(
      sql`insert into ${revisions} (${key}, number, document, hash, commands, names, batch) values (${doc.id}, ${number}, ${JSON.stringify(doc)}::json, ${hashOf(doc)}, ${JSON.stringify(commands)}::json, ${JSON.stringify(names)}::json, ${batch}) returning ${iso("saved_at")} as saved`,
    );
    await tx.execute(sql`select pg_notify(${CHANGES}, ${JSON.stringify({ kind: what, id: doc.id, revision: number })})`);
    return String(rows[0]?.saved);
  };

  const add = (db: Database, made: D, name = "Made"): Promise<StateOf<D>> =>
    db.transaction(async (tx) => {
      const doc = plainTexts(made);
      const own = Object.entries(copies(doc));
      const columns = sql.join(
        own.map(([column]) => sql.identifier(column)),
        sql`, `,
      );
      const values = sql.join(
        own.map(([, value]) => sql`${value}`),
        sql`, `,
      );
      await tx.execute(sql`insert into ${heads} (id, head, ${columns}) values (${doc.id}, 1, ${values})`);
      return { revision: 1, savedAt: await insert(tx, { doc, number: 1, names: [name], commands: [], batch: null }), document: doc };
    });

  const applyInTurn = (doc: D, commands: readonly C[]): { readonly doc: D; readonly names: readonly string[] } => {
    let current = doc;
    const names: string[] = [];
    for (const [index, command] of commands.entries()) {
      const done = engine.apply(current, command);
      if (!done.ok) throw new Failure(422, "This can't be done", done.refusal.message, { errors: [{ pointer: `/commands/${index}`, detail: done.refusal.message }] });
      current = done.doc;
      names.push(done.name);
    }
    // A name that was cut to its length may end in half of a character, and one such document would keep the database from looking into all of them.
    return { doc: plainTexts(current), names: plainTexts(names) };
  };

  const knownBatch = async (tx: Queryable, id: string, { base, batch }: BatchOf<C>) => {
    if (!batch) return null;
    const [row] = (await tx.execute(sql`select number, ${iso("saved_at")} as saved from ${revisions} where ${key} = ${id} and batch = ${batch}`)).rows;
    // Kept before what the sender knows, or as the very next: it is in there. Later than that, others came between, and the sender must take them in first.
    return row && Number(row.number) <= base + 1 ? { revision: Number(row.number), savedAt: String(row.saved) } : null;
  };

  const save = (db: Database, id: string, request: BatchOf<C>) =>
    db.transaction(async (tx) => {
      const { base, batch, commands } = request;
      const [found] = (await tx.execute(sql`select head from ${heads} where id = ${id} and deleted_at is null for update`)).rows;
      if (!found) throw gone(id);
      const known = await knownBatch(tx, id, request);
      if (known) return known;
      const head = Number(found.head);
      if (base !== head) {
        const after = await newer(tx, id, base);
        throw new Failure(409, "Changed in the meantime", `This was based on revision ${base}, and the newest is ${head}. Apply what is newer and send again.`, {
          newer: after as never,
        });
      }
      const [row] = (await tx.execute(sql`select document from ${revisions} where ${key} = ${id} and number = ${head}`)).rows;
      const { doc, names } = applyInTurn(read(row?.document), commands);
      const number = head + 1;
      const savedAt = await insert(tx, { doc, number, names, commands, batch: batch ?? null });
      const own = sql.join(
        Object.entries(copies(doc)).map(([column, value]) => sql`${sql.identifier(column)} = ${value}`),
        sql`, `,
      );
      await tx.execute(sql`update ${heads} set head = ${number}, changed_at = now(), ${own} where id = ${id}`);
      return { revision: number, savedAt };
    });

  return { load, all, newer, add, save };
};
