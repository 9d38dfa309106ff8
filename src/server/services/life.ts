import { and, asc, desc, eq, isNull, lt, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Done, HistoryAnswer, Life, RevisionState, Version } from "@/contracts/answers";
import type { HistoryQuery, KeepVersionRequest } from "@/contracts/requests";
import { isTaken } from "../db/away";
import type { Database, Queryable } from "../db/database";
import { templateRevisions as revisions, templates, versions } from "../db/schema";
import { isCurrent } from "../tasks/kinds";
import { Failure } from "./failure";
import { documentAt, headMark, iso, noSuch } from "./heads";
import { task } from "./pool";
import { within, wordsOf } from "./searched";
import { sessionRows } from "./sessions";

/** The newest revision of a template; told where there is none of this id. */
export const headOfTemplate = async (db: Queryable, id: string) => {
  const mark = await headMark(db, "template", id);
  if (!mark) throw noSuch("template", id);
  return mark;
};

const noRevision = (revision: number): Failure =>
  new Failure(
    404,
    "No such revision",
    `There is no revision ${revision} of it. GET …/revisions tells those that there are.`,
  );

export const versionsOf = async (db: Queryable, id: string): Promise<readonly Version[]> => {
  const rows = await db
    .select({
      revision: versions.number,
      name: versions.name,
      note: versions.note,
      tried: versions.tried,
      by: versions.by,
      at: versions.at,
      savedAt: revisions.savedAt,
    })
    .from(versions)
    .innerJoin(revisions, and(eq(revisions.of, versions.of), eq(revisions.number, versions.number)))
    .where(eq(versions.of, id))
    .orderBy(asc(versions.number));
  return rows.map(({ at, savedAt, ...row }) => ({ ...row, at: iso(at), savedAt: iso(savedAt) }));
};

/** What a template began as a copy of. */
const ancestorOf = async (db: Queryable, id: string): Promise<Life["ancestor"]> => {
  const older = alias(templates, "older");
  const [row] = await db
    .select({ id: older.id, name: older.name, revision: templates.fromRevision, deletedAt: older.deletedAt })
    .from(templates)
    .innerJoin(older, eq(older.id, templates.fromId))
    .where(eq(templates.id, id));
  return row ? { id: row.id, name: row.name, revision: row.revision ?? 1, gone: row.deletedAt !== null } : null;
};

/** Its versions, the sessions it was copied for, what branched off, and what it came from. */
export const lifeOf = async (db: Queryable, id: string): Promise<Life> => {
  const mark = await headOfTemplate(db, id);
  const [[own], [first], kept, sessions, descendants, ancestor] = await Promise.all([
    db.select({ name: templates.name }).from(templates).where(eq(templates.id, id)),
    db
      .select({ savedAt: revisions.savedAt })
      .from(revisions)
      .where(eq(revisions.of, id))
      .orderBy(asc(revisions.number))
      .limit(1),
    versionsOf(db, id),
    sessionRows(db, { of: id }),
    db
      .select({ id: templates.id, name: templates.name, revision: templates.fromRevision, at: revisions.savedAt })
      .from(templates)
      .innerJoin(revisions, and(eq(revisions.of, templates.id), eq(revisions.number, 1)))
      .where(and(eq(templates.fromId, id), isNull(templates.deletedAt), eq(templates.sessionDate, "")))
      .orderBy(asc(revisions.savedAt)),
    ancestorOf(db, id),
  ]);
  return {
    id,
    name: own?.name ?? "",
    head: mark.revision,
    savedAt: mark.savedAt,
    beganAt: first ? iso(first.savedAt) : mark.savedAt,
    versions: kept,
    sessions,
    descendants: descendants.map(({ at, revision, ...row }) => ({ ...row, revision: revision ?? 1, at: iso(at) })),
    ancestor,
  };
};

/** Keeps a revision under a name, with the whole document beside it, so that it is read without what came before. */
export const keepVersion = async (db: Database, id: string, request: KeepVersionRequest): Promise<Version> => {
  const head = await headOfTemplate(db, id);
  const number = request.revision ?? head.revision;
  const document = await documentAt(db, "template", { id, number });
  if (document === null) throw noRevision(number);
  const name = request.name.trim();
  if (!name)
    throw new Failure(400, "No name", "A version needs a name, for example what was new in it.", {
      errors: [{ pointer: "/name", detail: "empty" }],
    });
  try {
    await db
      .insert(versions)
      .values({
        of: id,
        number,
        name,
        note: request.note ?? "",
        tried: request.tried ?? "",
        by: request.by ?? "",
        document: sql`${document}::json` as never,
      })
      .onConflictDoUpdate({
        target: [versions.of, versions.number],
        set: { name, note: request.note ?? "", tried: request.tried ?? "" },
      });
  } catch (error) {
    if (!isTaken(error)) throw error;
    throw new Failure(422, "The name is taken", `Another version is called ${name}. Choose another name.`, {
      errors: [{ pointer: "/name", detail: "taken" }],
    });
  }
  const kept = (await versionsOf(db, id)).find(({ revision }) => revision === number);
  if (!kept) throw noRevision(number);
  return kept;
};

/** Takes the name off a version. The revision stays for as long as its neighbours do. */
export const dropVersion = async (db: Database, id: string, number: number): Promise<void> => {
  await headOfTemplate(db, id);
  const gone = await db
    .delete(versions)
    .where(and(eq(versions.of, id), eq(versions.number, number)))
    .returning({ number: versions.number });
  if (!gone.length) throw new Failure(404, "No such version", `Revision ${number} was not kept under a name.`);
};

/** A revision as JSON in today's shape, with when it was saved and what it is called. */
export const revisionText = async (
  db: Queryable,
  id: string,
  number: number,
  signal?: AbortSignal,
): Promise<string> => {
  const mark = await headOfTemplate(db, id);
  const [row] = await db
    .select({ savedAt: revisions.savedAt, name: versions.name, whole: sql<string | null>`${versions.document}::text` })
    .from(revisions)
    .leftJoin(versions, and(eq(versions.of, revisions.of), eq(versions.number, revisions.number)))
    .where(and(eq(revisions.of, id), eq(revisions.number, number)));
  const text =
    row && number <= mark.revision ? (row.whole ?? (await documentAt(db, "template", { id, number }))) : null;
  if (!row || text === null) throw noRevision(number);
  const document = isCurrent("template", text)
    ? text
    : await task("broughtUp", { what: "template", document: text }, { signal });
  return `{"revision":${number},"head":${mark.revision},"savedAt":${JSON.stringify(iso(row.savedAt))},"version":${JSON.stringify(row.name)},"document":${document}}`;
};

/** A revision for a page that reads it; null where there is none. */
export const revisionPage = async (db: Queryable, id: string, revision: string): Promise<RevisionState | null> => {
  if (!/^[1-9]\d{0,8}$/.test(revision) || id.length > 64) return null;
  try {
    return JSON.parse(await revisionText(db, id, Number(revision))) as RevisionState;
  } catch (error) {
    if (error instanceof Failure && error.status === 404) return null;
    throw error;
  }
};

const PAGE = 100;

/** What was done to a template, newest first, a page at a time; each of the words must be found. */
export const historyOf = async (
  db: Queryable,
  id: string,
  { before, query = "" }: HistoryQuery,
): Promise<HistoryAnswer> => {
  const mark = await headOfTemplate(db, id);
  const words = wordsOf(query);
  const rows = await db
    .select({
      revision: revisions.number,
      savedAt: revisions.savedAt,
      names: revisions.names,
      by: revisions.by,
      version: versions.name,
    })
    .from(revisions)
    .leftJoin(versions, and(eq(versions.of, revisions.of), eq(versions.number, revisions.number)))
    .where(
      and(
        eq(revisions.of, id),
        before ? lt(revisions.number, before) : undefined,
        ...words.map(
          (word) =>
            sql`lower(${revisions.names}::text || ' ' || ${revisions.by} || ' ' || coalesce(${versions.name}, '')) like ${within(word)}`,
        ),
      ),
    )
    .orderBy(desc(revisions.number))
    .limit(PAGE + 1);
  const done: readonly Done[] = rows.slice(0, PAGE).map(({ savedAt, ...row }) => ({ ...row, savedAt: iso(savedAt) }));
  return { head: mark.revision, done, before: rows.length > PAGE ? (done.at(-1)?.revision ?? null) : null };
};
