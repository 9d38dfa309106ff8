import { type Database, database, migrateDatabase } from "../db/database";
import { loadDemo } from "../services/demo";

/** The database of the integration tests, migrated and with the demo in it. Its address comes from the runner. */
export const openTestDatabase = async (): Promise<Database> => {
  const url = process.env.WANDEL_TEST_DATABASE_URL;
  if (!url) throw new Error("expected WANDEL_TEST_DATABASE_URL, got none: run npm test -- integration");
  process.env.DATABASE_URL = url;
  const db = database();
  await migrateDatabase(db);
  await loadDemo(db);
  return db;
};

/** Ends the connections of this process, so that another database can be opened in it. */
export const closeTestDatabase = async (): Promise<void> => {
  const holder = globalThis as typeof globalThis & { wandelDatabase?: { readonly pool: { end(): Promise<void> } } };
  await holder.wandelDatabase?.pool.end();
  delete holder.wandelDatabase;
};
