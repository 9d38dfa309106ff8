import { newStudio } from "./core/model/studio";
import { isDatabaseAway, withoutValues } from "./server/db/away";
import { database, migrateDatabase } from "./server/db/database";
import { closeStreams } from "./server/services/changes";
import { loadDemo } from "./server/services/demo";
import { fillSummaries } from "./server/services/library";
import { closePools } from "./server/services/pool";
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

/** What others write down of an error (the framework does of those on pages) is kept free of documents as well. */
const keepLogsPlain = (): void => {
  const write = console.error.bind(console);
  console.error = (...words) => write(...words.map(withoutValues));
};

/** Migrations first, then the demo where it is asked for. Waits for a database that is still starting. */
export const boot = async (): Promise<void> => {
  keepLogsPlain();
  (globalThis as { wandelClose?: () => void }).wandelClose = () => {
    closeStreams();
    void closePools();
  };
  await whenReachable(async () => {
    const db = database();
    await migrateDatabase(db);
    await fillSummaries(db);
    if (process.env.WANDEL_DEMO === "1") await loadDemo(db);
    await ensureStudio(db, newStudio("The studio"));
  });
};

/** A page that could not be drawn because the database was away: the door tells it by this, and answers 503. */
export const noteAway = (error: unknown): void => {
  if (isDatabaseAway(error)) (globalThis as { wandelAwayAt?: number }).wandelAwayAt = Date.now();
};
