import { newStudio } from "@/core/model/studio";
import { database, migrateDatabase, oneAfterTheOther } from "../db/database";
import { loadDemo } from "./demo";
import { fillSummaries } from "./library";
import { ensureStudio } from "./studio";

/**
 * What a server finds or makes in its database before its first answer: the present shape, the demo where it is asked
 * for, a studio. Two that start at once do it one after the other: both would else make the same tables, and the second
 * would fail for good.
 */
export const prepareData = (demo: boolean): Promise<void> =>
  oneAfterTheOther(async () => {
    const db = database();
    await migrateDatabase(db);
    await fillSummaries(db);
    if (demo) await loadDemo(db);
    await ensureStudio(db, newStudio("The studio"));
  });
