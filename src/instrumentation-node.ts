import { newStudio } from "./core/model/studio";
import { database, isDatabaseAway, migrateDatabase } from "./server/db/database";
import { closeStreams } from "./server/services/changes";
import { loadDemo } from "./server/services/demo";
import { ensureStudio } from "./server/services/studio";

const TRIES = 20;
const PAUSE_MS = 500;

const whenReachable = async (act: () => Promise<void>): Promise<void> => {
  for (let left = TRIES; ; left--) {
    try {
      return await act();
    } catch (error) {
      if (left === 0 || !isDatabaseAway(error)) throw error;
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
  }
};

/** Migrations first, then the demo where it is asked for. Waits for a database that is still starting. */
export const boot = (): Promise<void> =>
  whenReachable(async () => {
    const db = database();
    await migrateDatabase(db);
    if (process.env.WANDEL_DEMO === "1") await loadDemo(db);
    await ensureStudio(db, newStudio("The studio"));
    for (const signal of ["SIGTERM", "SIGINT"] as const) process.once(signal, closeStreams);
  });
