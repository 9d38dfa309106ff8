import { and, count, isNull, sql } from "drizzle-orm";
import type { ColourUses, StudioState } from "@/contracts/answers";
import { newStudio, STUDIO_ID, type Studio } from "@/core/model/studio";
import { isDatabaseAway } from "../db/away";
import type { Database, Queryable } from "../db/database";
import { templates } from "../db/schema";
import { documentStore } from "./document-store";
import { Failure } from "./failure";

export const studioStore = documentStore<"studio">({ what: "studio" });

/** The studio of this library; one with the defaults of the house while nobody has said anything of it. */
export const loadStudio = async (db: Queryable): Promise<StudioState> => {
  try {
    return await studioStore.load(db, STUDIO_ID);
  } catch (error) {
    if (error instanceof Failure && error.status === 404)
      return { revision: 0, savedAt: new Date(0).toISOString(), document: newStudio("The studio") };
    throw error;
  }
};

/** The studio as it is stored, for tasks; its defaults where there is none. */
export const studioText = async (db: Queryable): Promise<{ readonly text: string; readonly revision: number }> => {
  try {
    return await studioStore.head(db, STUDIO_ID);
  } catch (error) {
    if (error instanceof Failure && error.status === 404)
      return { text: JSON.stringify(newStudio("The studio")), revision: 0 };
    throw error;
  }
};

/** How many templates something is dyed with a dye in, by what their rows keep of the heads. */
export const templatesWithColour = async (db: Queryable, colour: string): Promise<ColourUses> => {
  const [found] = await db
    .select({ templates: count() })
    .from(templates)
    .where(and(isNull(templates.deletedAt), sql`position(${JSON.stringify(colour)} in ${templates.summary}) > 0`));
  return { colour, templates: found?.templates ?? 0 };
};

/**
 * The studio as far as it can be had: its defaults while the database is away, so that a page can say so in its own
 * colours.
 */
export const studioOrDefault = async (db: Queryable): Promise<Studio> => {
  try {
    return (await loadStudio(db)).document;
  } catch (error) {
    if (isDatabaseAway(error)) return newStudio("The studio");
    throw error;
  }
};

/** Stores the studio when it is not there yet, so that edits have a head to build on. */
export const ensureStudio = async (db: Database, studio: Studio): Promise<void> => {
  const { revision } = await loadStudio(db);
  if (revision === 0) await studioStore.add(db, studio);
};
