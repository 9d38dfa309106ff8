import { sql } from "drizzle-orm";
import type { Queryable } from "../db/database";

export interface HeadOf {
  readonly name: string;
  /** Size of its document as it is stored. */
  readonly bytes: number;
  readonly rigId: string | null;
}

/** What is told of a document without taking it out of the database; null when there is none of this id. */
export const headOf = async (db: Queryable, what: "template" | "rig", id: string): Promise<HeadOf | null> => {
  const [heads, revisions, key, rig] = [`${what}s`, `${what}_revisions`, `${what}_id`, what === "template" ? "rig_id" : "id"].map((name) => sql.identifier(name));
  const [row] = (
    await db.execute(
      sql`select h.name, h.${rig} as rig, octet_length(r.document::text) as bytes from ${heads} h join ${revisions} r on r.${key} = h.id and r.number = h.head where h.id = ${id} and h.deleted_at is null`,
    )
  ).rows;
  return row ? { name: String(row.name), bytes: Number(row.bytes), rigId: row.rig === null ? null : String(row.rig) } : null;
};
