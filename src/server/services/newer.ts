import { and, asc, eq, gt, lte, or, sql } from "drizzle-orm";
import type { Newer, NewerAnswer } from "@/contracts/answers";
import type { What } from "@/contracts/kinds";
import type { Queryable } from "../db/database";
import { tablesOf } from "../db/documents";
import { headMark, iso, noSuch } from "./heads";

/** What is newer is answered up to this many revisions and bytes at once. */
const MOST_NEWER = 500;
const MOST_NEWER_BYTES = 4 * 1024 * 1024;

/** The newest revision, what came after one, and where that is told from: "since" may be one that is not here. */
export const newer = async (
  db: Queryable,
  what: What,
  { id, since }: { readonly id: string; readonly since: number },
): Promise<NewerAnswer> => {
  const mark = await headMark(db, what, id);
  if (!mark) throw noSuch(what, id);
  const { revisions } = tablesOf(what);
  const [from] = await db
    .select({ savedAt: revisions.savedAt })
    .from(revisions)
    .where(and(eq(revisions.of, id), eq(revisions.number, since)));
  const bytes = sql<number>`sum(length(${revisions.commands}::text)) over (order by ${revisions.number})`.as("bytes");
  const found = db
    .select({
      number: revisions.number,
      batch: revisions.batch,
      names: revisions.names,
      commands: revisions.commands,
      by: revisions.by,
      origin: revisions.origin,
      savedAt: revisions.savedAt,
      bytes,
    })
    .from(revisions)
    .where(and(eq(revisions.of, id), gt(revisions.number, since)))
    .orderBy(asc(revisions.number))
    .limit(MOST_NEWER)
    .as("found");
  const rows = await db
    .select()
    .from(found)
    .where(or(lte(found.bytes, MOST_NEWER_BYTES), eq(found.number, since + 1)))
    .orderBy(asc(found.number));
  const told: readonly Newer[] = rows.map((row) => ({
    revision: row.number,
    savedAt: iso(row.savedAt),
    batch: row.batch,
    names: row.names,
    by: row.by,
    origin: row.origin,
    commands: row.commands,
  }));
  return {
    head: mark.revision,
    sinceSavedAt: from ? iso(from.savedAt) : null,
    newer: told,
    more: (told.at(-1)?.revision ?? since) < mark.revision,
  };
};
