import { join } from "node:path";
import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { Pool } from "pg";
import * as schema from "./schema";

export type Database = NodePgDatabase<typeof schema>;
/** A database or a transaction in it. */
export type Queryable = Pick<Database, "select" | "insert" | "update" | "delete" | "execute">;

interface Open {
  readonly url: string;
  readonly pool: Pool;
  readonly db: Database;
}

/** One pool a process, also over the reloads of development. */
const holder = globalThis as typeof globalThis & { wandelDatabase?: Open };

export const database = (): Database => {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("expected DATABASE_URL in the environment, got none: start with npm run demo, npm run dev or npm start");
  if (holder.wandelDatabase?.url === url) return holder.wandelDatabase.db;
  const pool = new Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 4000 });
  // A connection that dies while idle (the database was stopped) must not end the server; the next query opens another.
  pool.on("error", (error) => console.error(`database connection lost: ${error.message}`));
  const db = drizzle(pool, { schema, casing: "snake_case" });
  holder.wandelDatabase = { url, pool, db };
  return db;
};

export const closeDatabase = async (): Promise<void> => {
  await holder.wandelDatabase?.pool.end();
  holder.wandelDatabase = undefined;
};

/** Brings the database to the present shape; nothing to do when it is there. */
export const migrateDatabase = (db: Database): Promise<void> => migrate(db, { migrationsFolder: join(process.cwd(), "src/server/db/migrations") });

const UNREACHABLE = /ECONNREFUSED|ECONNRESET|ENOTFOUND|57P0[123]|08\d{3}|53300/;

/** Whether an error means that the database is away (stopped, starting, refusing), as against a mistake of ours. */
export const isDatabaseAway = (error: unknown): boolean => {
  for (let at: unknown = error; at instanceof Error; at = at.cause) {
    const code = "code" in at ? String(at.code) : "";
    if (UNREACHABLE.test(code) || /Connection terminated|timeout exceeded when trying to connect|connection timeout/i.test(at.message)) return true;
    if (at instanceof AggregateError && at.errors.some(isDatabaseAway)) return true;
  }
  return false;
};
