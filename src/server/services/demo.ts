import { count, eq } from "drizzle-orm";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { demoStudio } from "@/core/demo/studio";
import { demoTemplates } from "@/core/demo/templates";
import { type Database, inTransaction } from "../db/database";
import { rigs, templates } from "../db/schema";
import { addRig } from "./rigs";
import { ensureStudio } from "./studio";
import { addTemplate } from "./templates";

/**
 * Fills a database that has no rig with the rigs and templates of the demo, all or none: a start may be killed halfway.
 * One that has is left as it is. They are made a millisecond apart, as they follow each other: what is done as one has
 * one time, and the library shows them by it.
 */
export const loadDemo = (db: Database): Promise<void> =>
  inTransaction(db, async (tx) => {
    const [found] = await tx.select({ rigs: count() }).from(rigs);
    if (found && found.rigs > 0) return;
    await ensureStudio(tx, demoStudio);
    let time = Date.now();
    const made = async (table: typeof rigs | typeof templates, id: string): Promise<void> => {
      const at = new Date(time++);
      await tx.update(table).set({ createdAt: at, changedAt: at }).where(eq(table.id, id));
    };
    for (const rig of DEMO_RIGS) {
      await addRig(tx, rig);
      await made(rigs, rig.id);
    }
    for (const template of demoTemplates()) {
      await addTemplate(tx, template);
      await made(templates, template.id);
    }
  });
