import { join } from "node:path";
import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { Pool, type PoolClient } from "pg";
import { isDatabaseAway } from "./away";
import * as schema from "./schema";

export type Database = NodePgDatabase<typeof schema> & { readonly $client: Pool | PoolClient };
/** A database or a transaction in it. */
export type Queryable = Pick<Database, "select" | "insert" | "update" | "delete" | "execute"> & {
  readonly $client: Pick<Pool, "query">;
};

interface Open {
  readonly url: string;
  readonly pool: Pool;
  readonly db: Database;
}

/** One pool a process, also over the reloads of development. */
const holder = globalThis as typeof globalThis & { wandelDatabase?: Open };

/**
 * Nothing waits for the database without end: what it can't do within these is answered as such, and its connection is
 * let go.
 */
const BOUNDS = {
  connectionTimeoutMillis: 4000,
  statement_timeout: 8000,
  lock_timeout: 4000,
  query_timeout: 10_000,
  idle_in_transaction_session_timeout: 15_000,
};

const OPTIONS = { schema, casing: "snake_case" } as const;

export const database = (): Database => {
  const url = process.env.DATABASE_URL;
  if (!url)
    throw new Error(
      "expected DATABASE_URL in the environment, got none: start with npm run demo, npm run dev or npm start",
    );
  if (holder.wandelDatabase?.url === url) return holder.wandelDatabase.db;
  const pool = new Pool({ connectionString: url, max: 10, ...BOUNDS });
  // A connection that dies while idle (the database was stopped) must not end the server; the next query opens another.
  pool.on("error", (error) => console.error(`database connection lost: ${error.message}`));
  const db = drizzle(pool, OPTIONS);
  holder.wandelDatabase = { url, pool, db };
  return db;
};

const rollBack = async (client: PoolClient): Promise<boolean> => {
  try {
    await client.query("rollback");
    return true;
  } catch {
    return false;
  }
};

/**
 * Does several things as one: all or none. Within another it is part of that one. A connection on which anything went
 * wrong that is not a plain refusal is closed and not used again, so that a database that was away for a while leaves
 * none behind that only waits.
 */
export const inTransaction = async <T>(db: Database, act: (tx: Database) => Promise<T>): Promise<T> => {
  if (!(db.$client instanceof Pool)) return act(db);
  const pool = holder.wandelDatabase?.pool;
  if (!pool) throw new Error("expected an open database, got none");
  const client = await pool.connect();
  let usable = false;
  try {
    await client.query("begin");
    const result = await act(drizzle(client, OPTIONS));
    await client.query("commit");
    usable = true;
    return result;
  } catch (error) {
    usable = !isDatabaseAway(error) && (await rollBack(client));
    throw error;
  } finally {
    client.release(!usable);
  }
};

/** A number of ours for the lock of those who prepare the data. */
export const PREPARING = 0x57_41_4e_44;
const PAUSE_MS = 150;
/** So often it is asked before that is told. */
const TOLD_AFTER = 20;

/**
 * One server after the other, of all that stand on this database. Asked for again and again instead of waited for: a
 * wait would be cut off as a statement that takes too long. The lock hangs on a connection, and goes with it when its
 * server is killed.
 */
export const oneAfterTheOther = async <T>(act: () => Promise<T>): Promise<T> => {
  database();
  const client = await (holder.wandelDatabase as Open).pool.connect();
  const ask = async (what: "pg_try_advisory_lock" | "pg_advisory_unlock"): Promise<boolean> =>
    (await client.query(`select ${what}(${PREPARING}) as done`)).rows[0].done;
  let left = false;
  try {
    for (let tries = 0; !(await ask("pg_try_advisory_lock")); tries++) {
      if (tries === TOLD_AFTER)
        console.error("Another Wandel is preparing this database. This one waits until it is done.");
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
    const result = await act();
    left = await ask("pg_advisory_unlock");
    return result;
  } finally {
    client.release(!left);
  }
};

/** Brings the database to the present shape; nothing to do when it is there. */
export const migrateDatabase = (db: Database): Promise<void> =>
  migrate(db, { migrationsFolder: join(process.cwd(), "src/server/db/migrations") });
