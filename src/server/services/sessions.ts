import { and, count, desc, eq, isNull, lt, ne, or, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { SessionList, SessionSummary, TemplateState } from "@/contracts/answers";
import type { SessionsQuery, StartSessionRequest } from "@/contracts/requests";
import type { Colour } from "@/core/model/colours";
import type { RigId, TemplateId } from "@/core/model/ids";
import type { SessionState } from "@/core/model/template";
import type { Database, Queryable } from "../db/database";
import { rigs, templates } from "../db/schema";
import { factsIn } from "./facts";
import { Failure } from "./failure";
import { documentAt, head } from "./heads";
import { task } from "./pool";
import { idFor, markFor } from "./rigs";
import { searched } from "./searched";
import { rigTexts } from "./surroundings";
import { loadTemplate, templateStore } from "./templates";

const origin = alias(templates, "origin");

const columns = {
  id: templates.id,
  name: templates.name,
  date: templates.sessionDate,
  state: templates.sessionState,
  summary: templates.summary,
  rigId: templates.rigId,
  rigName: rigs.name,
  fromId: templates.fromId,
  fromName: origin.name,
  fromRevision: templates.fromRevision,
  revision: templates.head,
};

type Row = { readonly [K in keyof typeof columns]: (typeof columns)[K]["_"]["data"] | null };

const summaryOf = (row: Row): SessionSummary => {
  const facts = factsIn(row.summary);
  return {
    id: row.id ?? "",
    name: row.name ?? "",
    date: row.date ?? "",
    place: facts.place,
    state: (row.state || "planned") as SessionState,
    selvedge: facts.selvedge as readonly Colour[],
    inputs: facts.inputs,
    tracks: facts.tracks,
    rig: { id: row.rigId ?? "", name: row.rigName ?? "" },
    from: row.fromId ? { id: row.fromId, name: row.fromName ?? "", revision: row.fromRevision ?? 1 } : null,
    revision: row.revision ?? 1,
  };
};

const PAGE = 50;
/** So many sessions of one template are shown with its life. */
const MOST_OF_ONE = 500;
/** So many of them, the newest, are looked at for what they taught, as long as they come to this much together. */
const MOST_COUNTED = 60;
const MOST_COUNTED_BYTES = 32 * 1024 * 1024;

const selected = async (db: Queryable, where: SQL | undefined, limit: number): Promise<readonly SessionSummary[]> => {
  const rows = await db
    .select(columns)
    .from(templates)
    .leftJoin(rigs, eq(rigs.id, templates.rigId))
    .leftJoin(origin, eq(origin.id, templates.fromId))
    .where(and(isNull(templates.deletedAt), ne(templates.sessionDate, ""), where))
    .orderBy(desc(templates.sessionDate), desc(templates.id))
    .limit(limit);
  return (rows as readonly Row[]).map(summaryOf);
};

/** The sessions of a template, newest date first. */
export const sessionRows = (db: Queryable, { of }: { readonly of: string }): Promise<readonly SessionSummary[]> =>
  selected(db, eq(templates.fromId, of), MOST_OF_ONE);

/** All sessions by date, newest first, a page at a time; with a search those in which each of its words is found. */
export const listSessions = async (db: Queryable, { cursor, query }: SessionsQuery): Promise<SessionList> => {
  const [date, id] = cursor ? Buffer.from(cursor, "base64url").toString().split(" ") : [];
  if (cursor && (!id || !/^\d{4}-\d\d-\d\d$/.test(date ?? "") || id.length > 64 || id.includes("\0")))
    throw new Failure(400, "Unknown cursor", "This cursor was not given out here. Start again without one.", {
      errors: [{ pointer: "/cursor", detail: "not a cursor" }],
    });
  const after =
    date && id
      ? or(lt(templates.sessionDate, date), and(eq(templates.sessionDate, date), lt(templates.id, id)))
      : undefined;
  const rows = await selected(db, and(after, ...searched(query)), PAGE + 1);
  const last = rows[PAGE - 1];
  return {
    sessions: rows.slice(0, PAGE),
    cursor: rows.length > PAGE && last ? Buffer.from(`${last.date} ${last.id}`).toString("base64url") : null,
  };
};

/** Whether a date is one: the thirtieth of February has the shape of one only. */
const isDay = (date: string): boolean => {
  const at = new Date(`${date}T00:00:00.000Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(date);
};

const needed = (pointer: string, message: string): Failure =>
  new Failure(400, "Malformed request", message, { errors: [{ pointer, detail: message }] });

/**
 * Makes a session: a copy of a revision of a template, under its own name and for its date, on its rig or another one,
 * without the families that are not needed. The template is not touched.
 */
export const startSession = async (db: Database, request: StartSessionRequest): Promise<TemplateState> => {
  const { key, templateId, ...rest } = request;
  if (!request.name.trim()) throw needed("/name", "A session needs a name, for example its day and place.");
  if (!isDay(request.date)) throw needed("/date", `${request.date} is no day of the calendar.`);
  const id = idFor("session", key) as TemplateId;
  const mark = markFor(key, () => [JSON.stringify({ templateId, ...rest })]);
  if (await templateStore.knownMaking(db, { id, name: "", mark })) return loadTemplate(db, id);
  const { revision: newest, text, rigId } = await head(db, "template", templateId);
  const revision = request.revision ?? newest;
  const template = revision === newest ? text : await documentAt(db, "template", { id: templateId, number: revision });
  if (template === null)
    throw new Failure(404, "No such revision", `There is no revision ${revision} of this template.`, {
      errors: [{ pointer: "/revision", detail: "not there" }],
    });
  const about = [...new Set([rigId, request.rigId ?? null])];
  const around = (await Promise.all(about.map((one) => rigTexts(db, one)))).flat();
  const made = await task("sessionOf", {
    template,
    rigs: [...new Map(around.map((rig) => [rig.id, rig.text])).values()],
    id,
    name: request.name.trim(),
    date: request.date,
    place: request.place ?? "",
    people: request.people ?? [],
    rigId: (request.rigId ?? null) as RigId | null,
    drop: request.drop ?? [],
  });
  await templateStore.addStored(db, made, {
    id,
    mark,
    name: "Session started",
    origin: { kind: "template", id: templateId, revision },
  });
  return loadTemplate(db, id);
};

/** What the newest sessions of a template taught, against its head, and how much of each could be carried back. */
export const lessonsAnswer = async (db: Queryable, id: string, signal?: AbortSignal): Promise<string> => {
  const { revision, text, rigId } = await head(db, "template", id);
  const those = await db
    .select({ id: templates.id, revision: templates.fromRevision, state: templates.sessionState })
    .from(templates)
    .where(and(eq(templates.fromId, id), isNull(templates.deletedAt), ne(templates.sessionDate, "")))
    .orderBy(desc(templates.sessionDate), desc(templates.id))
    .limit(MOST_COUNTED);
  const bases = new Map<number, Promise<string | null>>();
  const baseOf = (number: number): Promise<string | null> => {
    const known = bases.get(number) ?? documentAt(db, "template", { id, number });
    bases.set(number, known);
    return known;
  };
  const sessions: {
    readonly id: string;
    readonly done: boolean;
    readonly base: string;
    readonly began: string;
    readonly session: string;
  }[] = [];
  let bytes = 0;
  for (const one of those) {
    if (bytes > MOST_COUNTED_BYTES) break;
    const [base, began, { text: session }] = await Promise.all([
      baseOf(one.revision ?? 1),
      documentAt(db, "template", { id: one.id, number: 1 }),
      head(db, "template", one.id),
    ]);
    bytes += (base?.length ?? 0) + (began?.length ?? 0) + session.length;
    if (base !== null && began !== null)
      sessions.push({ id: one.id, done: one.state === "done", base, began, session });
  }
  const counted = sessions.filter(({ done }) => done).length;
  const [all] = await db
    .select({ done: count() })
    .from(templates)
    .where(and(eq(templates.fromId, id), isNull(templates.deletedAt), eq(templates.sessionState, "done")));
  const rigs = (await rigTexts(db, rigId)).slice(0, 1).map((rig) => rig.text);
  // Oldest first: of what was added by hand the newest is taken over.
  const told = await task("lessonsOf", { head: text, rigs, sessions: sessions.reverse() }, { signal, about: id });
  return `{"revision":${revision},"sessions":${counted},"uncounted":${(all?.done ?? 0) - counted},${told.slice(1)}`;
};
