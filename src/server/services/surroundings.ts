import { desc, isNull, lte, or, sql } from "drizzle-orm";
import type { Queryable } from "../db/database";
import { rigs } from "../db/schema";
import { head, lastWhole } from "./heads";
import { studioText } from "./studio";

/**
 * The rigs a template is seen against are held in memory with it: its own, and others as long as they come to this
 * much.
 */
const MOST_BYTES = 768 * 1024;

interface RigText {
  readonly id: string;
  readonly revision: number;
  readonly text: string;
}

/** What a template is seen against, as it is stored. */
export interface Surroundings {
  readonly rigs: readonly RigText[];
  readonly studio: { readonly text: string; readonly revision: number };
}

/** The rigs of the studio, the named one first and then the oldest, as many as can be looked at together. */
export const rigTexts = async (db: Queryable, own: string | null): Promise<readonly RigText[]> => {
  const whole = lastWhole(db, "rig");
  const isOwn = sql<boolean>`${rigs.id} = ${own}`;
  const bytes = sql<number>`sum(${whole.bytes}) over (order by ${isOwn} desc, ${rigs.createdAt}, ${rigs.id})`.as("sum");
  const found = db
    .select({ id: rigs.id, own: isOwn.as("own"), createdAt: rigs.createdAt, bytes })
    .from(rigs)
    .innerJoinLateral(whole, sql`true`)
    .where(isNull(rigs.deletedAt))
    .as("found");
  const rows = await db
    .select({ id: found.id })
    .from(found)
    .where(or(found.own, lte(found.bytes, MOST_BYTES)))
    .orderBy(desc(found.own), found.createdAt, found.id);
  return Promise.all(rows.map(({ id }) => head(db, "rig", id)));
};

export const surroundingsOf = async (db: Queryable, rigId: string | null): Promise<Surroundings> => {
  const [rigs, studio] = await Promise.all([rigTexts(db, rigId), studioText(db)]);
  return { rigs, studio };
};

/** Names the state of everything a template is judged against: while it is the same, so are its findings. */
export const markOf = ({ rigs, studio }: Surroundings, template: { readonly revision: number }): string =>
  [template.revision, studio.revision, ...rigs.map((rig) => `${rig.id}:${rig.revision}`)].join(" ");

export const seenOf = ({ rigs, studio }: Surroundings, template: string) => ({
  template,
  rigs: rigs.map((rig) => rig.text),
  studio: studio.text,
});
