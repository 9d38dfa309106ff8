import { sql } from "drizzle-orm";
import type { Queryable } from "../db/database";
import { studioText } from "./studio";

/** The rigs a template is seen against are held in memory with it: its own, and others as long as they come to this much. */
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
  const { rows } = await db.execute(sql`
    select id, number, text from (
      select h.id, r.number, r.document::text as text, h.id = ${own} as own, h.created_at,
        sum(length(r.document::text)) over (order by h.id = ${own} desc, h.created_at, h.id) as bytes
      from rigs h join rig_revisions r on r.rig_id = h.id and r.number = h.head where h.deleted_at is null
    ) found where own or bytes <= ${MOST_BYTES} order by own desc, created_at, id`);
  return rows.map((row) => ({ id: String(row.id), revision: Number(row.number), text: String(row.text) }));
};

export const surroundingsOf = async (db: Queryable, rigId: string | null): Promise<Surroundings> => {
  const [rigs, studio] = await Promise.all([rigTexts(db, rigId), studioText(db)]);
  return { rigs, studio };
};

/** Names the state of everything a template is judged against: while it is the same, so are its findings. */
export const markOf = ({ rigs, studio }: Surroundings, template: { readonly revision: number }): string =>
  [template.revision, studio.revision, ...rigs.map((rig) => `${rig.id}:${rig.revision}`)].join(" ");

export const seenOf = ({ rigs, studio }: Surroundings, template: string) => ({ template, rigs: rigs.map((rig) => rig.text), studio: studio.text });
