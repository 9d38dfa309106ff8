import { count } from "drizzle-orm";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { demoStudio } from "@/core/demo/studio";
import { demoTemplates } from "@/core/demo/templates";
import { type Database, inTransaction } from "../db/database";
import { rigs } from "../db/schema";
import { addTemplate } from "./revisions";
import { addRig } from "./rigs";
import { ensureStudio } from "./studio";

/** Fills a database that has no rig with the rigs and templates of the demo, all or none: a start may be killed halfway. One that has is left as it is. */
export const loadDemo = (db: Database): Promise<void> =>
  inTransaction(db, async (tx) => {
    const [found] = await tx.select({ rigs: count() }).from(rigs);
    if (found && found.rigs > 0) return;
    await ensureStudio(tx, demoStudio);
    for (const rig of DEMO_RIGS) await addRig(tx, rig);
    for (const template of demoTemplates()) await addTemplate(tx, template);
  });
