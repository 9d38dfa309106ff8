import { count } from "drizzle-orm";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { demoStudio } from "@/core/demo/studio";
import { demoTemplates } from "@/core/demo/templates";
import type { Database } from "../db/database";
import { rigs } from "../db/schema";
import { addTemplate } from "./revisions";
import { addRig } from "./rigs";
import { ensureStudio } from "./studio";

/** Fills a database that has no rig with the rigs and templates of the demo. One that has is left as it is. */
export const loadDemo = async (db: Database): Promise<void> => {
  const [found] = await db.select({ rigs: count() }).from(rigs);
  if (found && found.rigs > 0) return;
  await ensureStudio(db, demoStudio);
  for (const rig of DEMO_RIGS) await addRig(db, rig);
  for (const template of demoTemplates()) await addTemplate(db, template);
};
