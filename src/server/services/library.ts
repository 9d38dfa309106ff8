import { and, count, desc, eq, isNotNull, isNull, lt, or, type SQL, sql } from "drizzle-orm";
import { nanoid } from "nanoid";
import type { TemplateList, TemplateState, TemplateSummary } from "@/contracts/answers";
import { KINDS, WHATS } from "@/contracts/kinds";
import type { CreateTemplateRequest, ListQuery } from "@/contracts/requests";
import type { LevelsAsked } from "@/core/layout/delay-answer";
import type { Colour } from "@/core/model/colours";
import type { IdSource, RigId, TemplateId } from "@/core/model/ids";
import { monitorOutputs } from "@/core/model/read-rig";
import type { SessionKind } from "@/core/model/session-kinds";
import type { Studio } from "@/core/model/studio";
import { DEFAULT_FORMAT, emptyTemplate, type Format } from "@/core/model/template";
import { makeStarter, STARTERS, starterInputs } from "@/core/starters/starters";
import { isDatabaseAway, withoutValues } from "../db/away";
import { type Database, inTransaction, type Queryable } from "../db/database";
import { tablesOf } from "../db/documents";
import { rigs, templates } from "../db/schema";
import { onBehalfOf } from "./asking";
import { columnsByProperty } from "./document-store";
import { factsIn } from "./facts";
import { Failure } from "./failure";
import { documentAt, head } from "./heads";
import { inTurn } from "./in-turn";
import { task } from "./pool";
import { addRig, fittingRig, idFor, loadRig, markFor, rigStore } from "./rigs";
import { searched } from "./searched";
import { loadStudio } from "./studio";
import { markOf, type Surroundings, seenOf, surroundingsOf } from "./surroundings";
import { loadTemplate, templateStore } from "./templates";
import { UNREADABLE } from "./unreadable";

const PAGE = 50;

const columns = {
  id: templates.id,
  name: templates.name,
  kind: templates.kind,
  rigId: templates.rigId,
  rigName: rigs.name,
  summary: templates.summary,
  judged: templates.judged,
  problems: templates.problems,
  hints: templates.hints,
  unjudged: templates.unjudged,
  revision: templates.head,
  changedAt: templates.changedAt,
};

type Row = { readonly [K in keyof typeof columns]: (typeof columns)[K]["_"]["data"] | null } & {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly changedAt: Date;
};

type Counts = Pick<TemplateSummary, "problems" | "hints" | "unjudged">;
const NOT_YET: Counts = { problems: null, hints: null, unjudged: null };

const summaryOf = (row: Row, counts: Counts): TemplateSummary => {
  const readable = row.summary !== UNREADABLE;
  const { ownColours: _own, ...facts } = factsIn(row.summary);
  return {
    ...facts,
    selvedge: facts.selvedge as readonly Colour[],
    id: row.id as TemplateId,
    name: row.name,
    kind: row.kind as SessionKind,
    rig: { id: (row.rigId ?? "") as RigId, name: row.rigName ?? "" },
    ...counts,
    changedAt: row.changedAt.toISOString(),
    revision: row.revision,
    unreadable: readable ? null : "This template can't be read. Save it as it is stored, then delete it.",
  };
};

/** What is being judged or waits for it, by template and the state it is judged in. */
const underWay = new Set<string>();
/** So many are taken out of the database to be judged at a time: a page of large ones is not held in memory at once. */
const JUDGED_AT_ONCE = 3;
let turn = 0;

type Revised = Pick<Row, "id" | "revision">;

const judgeHead = async (db: Queryable, { id, revision }: Revised, around: Surroundings): Promise<void> => {
  const { revision: now, text } = await templateStore.head(db, id);
  if (now !== revision) return;
  const counts = await task("judge", seenOf(around, text), { about: id }).catch((error: unknown) => {
    if (!(error instanceof Failure) || error.status !== 422) throw error;
    return { problems: null, hints: null, unjudged: error.message };
  });
  await db
    .update(templates)
    .set({ judged: markOf(around, { revision }), unjudged: null, ...counts })
    .where(and(eq(templates.id, id), eq(templates.head, revision)));
};

/**
 * Counts what is wrong with a template and keeps the counts; what can't be counted is remembered with its reason, until
 * the template, its rig or the studio changes.
 */
const judgeNow = async (db: Queryable, { id, revision }: Revised, around: Surroundings): Promise<void> => {
  const key = `${id} ${markOf(around, { revision })}`;
  if (underWay.has(key)) return;
  underWay.add(key);
  try {
    await inTurn(`judging ${turn++ % JUDGED_AT_ONCE}`, () => judgeHead(db, { id, revision }, around));
  } catch (error) {
    // Whoever looks next asks for it again.
    if (!(error instanceof Failure) && !isDatabaseAway(error)) console.error(withoutValues(error));
  } finally {
    underWay.delete(key);
  }
};

/**
 * What is known of the templates of a page; what nobody has counted since they, their rig or the studio changed is
 * counted beside, and told with the next look.
 */
const judgedRows = async (db: Queryable, rows: readonly Row[]): Promise<readonly TemplateSummary[]> => {
  const byRig = new Map<string | null, Promise<Surroundings>>();
  const around = (rigId: string | null): Promise<Surroundings> => {
    const known = byRig.get(rigId) ?? surroundingsOf(db, rigId);
    byRig.set(rigId, known);
    return known;
  };
  return Promise.all(
    rows.map(async (row): Promise<TemplateSummary> => {
      if (row.summary === UNREADABLE) return summaryOf(row, NOT_YET);
      const surroundings = await around(row.rigId);
      if (row.judged === markOf(surroundings, row))
        return summaryOf(row, { problems: row.problems, hints: row.hints, unjudged: row.unjudged });
      // On nobody's behalf: whoever looks asks for no judgement.
      void onBehalfOf(null, () => judgeNow(db, row, surroundings));
      return summaryOf(row, NOT_YET);
    }),
  );
};

/** A cursor is the change date and id of the last row of a page. */
const writeCursor = (row: { changedAt: Date; id: string }): string =>
  Buffer.from(`${row.changedAt.toISOString()} ${row.id}`).toString("base64url");

/** Years that the database keeps; a date of ours lies well within. */
const isDate = (date: Date): boolean =>
  !Number.isNaN(date.getTime()) && date.getUTCFullYear() >= 1970 && date.getUTCFullYear() < 10_000;

const readCursor = (cursor: string): { readonly changedAt: Date; readonly id: string } => {
  const [date = "", id = "", surplus] = Buffer.from(cursor, "base64url").toString().split(" ");
  const changedAt = new Date(date);
  if (!id || surplus !== undefined || id.includes("\0") || id.length > 64 || !isDate(changedAt))
    throw new Failure(400, "Unknown cursor", "This cursor was not given out by the library. Start again without one.", {
      errors: [{ pointer: "/cursor", detail: "not a cursor" }],
    });
  return { changedAt, id };
};

/**
 * The library, newest change first. The search looks for each of its words in names, players, microphones, folders and
 * notes.
 */
export const listTemplates = async (db: Queryable, { query, kind, cursor }: ListQuery): Promise<TemplateList> => {
  const filters: (SQL | undefined)[] = [
    isNull(templates.deletedAt),
    eq(templates.sessionDate, ""),
    kind ? eq(templates.kind, kind) : undefined,
    ...searched(query),
  ];
  const after = cursor ? readCursor(cursor) : null;
  const page = after
    ? or(
        lt(templates.changedAt, after.changedAt),
        and(eq(templates.changedAt, after.changedAt), lt(templates.id, after.id)),
      )
    : undefined;
  // What is searched for is looked through once, and counted with it; without a search the index gives the page, and
  // counting is a pass of its own.
  const atOnce = Boolean(query?.trim()) && !after;
  const rows = (await db
    .select({ ...columns, total: atOnce ? sql<number>`count(*) over ()::int` : sql<null>`null` })
    .from(templates)
    .leftJoin(rigs, eq(rigs.id, templates.rigId))
    .where(and(...filters, page))
    .orderBy(desc(templates.changedAt), desc(templates.id))
    .limit(PAGE + 1)) as (Row & { readonly total: number | null })[];
  const counted = async () =>
    (
      await db
        .select({ total: count() })
        .from(templates)
        .where(and(...filters))
    )[0]?.total;
  const total = atOnce ? rows[0]?.total : await counted();
  const shown = rows.slice(0, PAGE);
  const last = shown.at(-1);
  return {
    templates: await judgedRows(db, shown),
    cursor: rows.length > PAGE && last ? writeCursor(last) : null,
    total: total ?? 0,
  };
};

/**
 * Rows of an older Wandel have no summary: made once, at the start. A document that can't be read is marked, and keeps
 * no other from being shown.
 */
export const fillSummaries = async (db: Database): Promise<void> => {
  for (const what of WHATS.filter((one) => KINDS[one].summary)) {
    const table = tablesOf(what).heads as unknown as typeof rigs;
    const rows = await db.select({ id: table.id, head: table.head }).from(table).where(isNull(table.summary));
    for (const { id, head: number } of rows) {
      const copies = await head(db, what, id)
        .then(({ text }) => task("copiesOf", { what, document: text }))
        .catch(() => null);
      await db
        .update(table)
        .set(copies ? columnsByProperty(copies) : { summary: UNREADABLE })
        .where(and(eq(table.id, id), eq(table.head, number)));
    }
  }
};

const copyName = (name: string): string => `${name.slice(0, 190)}, copy`;

const chanceIds: IdSource = <T extends string>(kind: string) => `${kind}-${nanoid(10)}` as T;

/** Inputs of the rig that is made on the way for an empty template, in a studio without one. */
const EMPTY_INPUTS = 16;

/** A copy of a template or session, of its newest revision or another; of a session as a template where that is asked. */
const copyTemplate = async (
  db: Database,
  { copyOf = "", copyRevision, asTemplate, name }: CreateTemplateRequest,
  { id, mark }: { readonly id: TemplateId; readonly mark: string | null },
): Promise<void> => {
  const newest = await templateStore.head(db, copyOf);
  const revision = copyRevision ?? newest.revision;
  const isNewest = revision === newest.revision;
  const text = isNewest ? newest.text : await documentAt(db, "template", { id: copyOf, number: revision });
  if (text === null) throw new Failure(404, "No such revision", `There is no revision ${revision} of this template.`);
  const [row] = await db.select({ name: templates.name }).from(templates).where(eq(templates.id, copyOf));
  const made = await task("renamed", {
    what: "template",
    document: text,
    id,
    name: name?.trim() || copyName(row?.name ?? ""),
    asTemplate: asTemplate === true,
  });
  await templateStore.addStored(db, made, {
    id,
    mark,
    name: "Made",
    origin: { kind: "template", id: copyOf, revision },
  });
};

/** A new template: empty on a rig, or a copy that shares nothing with its original but the name it came from. */
export const createTemplate = async (db: Database, request: CreateTemplateRequest): Promise<TemplateState> => {
  const { key, ...rest } = request;
  const id = idFor("template", key) as TemplateId;
  const mark = markFor(key, () => [JSON.stringify(rest)]);
  if (await templateStore.knownMaking(db, { id, name: "", mark })) return loadTemplate(db, id);
  if (request.copyOf) {
    await copyTemplate(db, request, { id, mark });
    return loadTemplate(db, id);
  }
  const starter = request.starter ? STARTERS.find((candidate) => candidate.id === request.starter) : undefined;
  if (request.starter && !starter)
    throw new Failure(404, "No such starter", `There is no starter with the id ${request.starter}.`);
  const first = request.rigId ? null : await fittingRig(db, starter ? starterInputs(starter) : EMPTY_INPUTS);
  if (first) await addRig(db, first);
  const rigId = request.rigId ?? first?.id;
  if (!rigId)
    throw new Failure(400, "No rig named", "A template needs a rig: the interface its lines are plugged into.", {
      errors: [{ pointer: "/rigId", detail: "required" }],
    });
  const [{ document: rig }, { document: studio }] = await Promise.all([loadRig(db, rigId), loadStudio(db)]);
  const name = request.name?.trim() || starter?.name || "Untitled template";
  const kind = starter?.kind ?? ((request.kind ?? "band") as SessionKind);
  const format = formatFor(studio, kind);
  const document = starter
    ? makeStarter(starter, { id, name, rig, format, styles: studio.families, studio, ids: chanceIds })
    : emptyTemplate({ id, name, kind, rigId: rig.id, format, mainOutputs: monitorOutputs(rig) });
  const made = await task("stored", { what: "template", document: JSON.stringify(document) });
  await templateStore.addStored(db, made, {
    id,
    mark,
    name: starter ? `Made from the starter ${starter.name}` : "Made",
  });
  return loadTemplate(db, id);
};

/** What a new template of a kind starts with in this studio. */
export const formatFor = (studio: Studio, kind: SessionKind): Format => {
  const { sampleRateHz, bitDepth, meetsPicture } = studio.kinds[kind];
  return { ...DEFAULT_FORMAT, sampleRateHz, bitDepth, meetsPicture };
};

/**
 * A template that is brought back to the library needs its rig there: one that was deleted meanwhile comes back with
 * it.
 */
const bringRigBack = async (tx: Queryable, rigId: string | null): Promise<string | null> => {
  if (!rigId) return null;
  // Held before it is looked at: whoever deletes it at this moment is either seen to have done so, or sees the template
  // that stands on it again.
  await tx.select({ id: rigs.id }).from(rigs).where(eq(rigs.id, rigId)).for("update");
  const [rig] = await tx
    .update(rigs)
    .set({ deletedAt: null })
    .where(and(eq(rigs.id, rigId), isNotNull(rigs.deletedAt)))
    .returning({ head: rigs.head, name: rigs.name });
  if (!rig) return null;
  await rigStore.tell(tx, rigId, rig.head, { gone: false });
  return rig.name;
};

/** Answers the name of a rig that came back with the template. */
const setDeleted = (db: Database, id: string, deletedAt: Date | null, by = ""): Promise<string | null> =>
  inTransaction(db, async (tx) => {
    const [changed] = await tx
      .update(templates)
      .set({ deletedAt, deletedBy: by })
      .where(and(eq(templates.id, id), deletedAt ? isNull(templates.deletedAt) : isNotNull(templates.deletedAt)))
      .returning({ head: templates.head, rigId: templates.rigId });
    if (!changed)
      throw new Failure(
        404,
        "No such template",
        deletedAt ? "It was deleted already, or never was." : "There is no deleted template with this id.",
      );
    const rig = deletedAt ? null : await bringRigBack(tx, changed.rigId);
    await templateStore.tell(tx, id, changed.head, { gone: deletedAt !== null });
    return rig;
  });

/** Takes a template out of the library. Its revisions stay, so that it can be brought back whole. */
export const deleteTemplate = async (db: Database, id: string, by = ""): Promise<void> =>
  void (await setDeleted(db, id, new Date(), by));
export const bringBackTemplate = (db: Database, id: string) => setDeleted(db, id, null);

/** A template with all that it is seen against, as it is stored. */
const seenWhole = async (db: Queryable, id: string) => {
  const { revision, text } = await templateStore.head(db, id);
  const [row] = await db.select({ rigId: templates.rigId }).from(templates).where(eq(templates.id, id));
  return { revision, seen: seenOf(await surroundingsOf(db, row?.rigId ?? null), text) };
};

/** What the checks say of the head, as the JSON of an answer. */
export const templateFindings = async (db: Queryable, id: string, signal?: AbortSignal): Promise<string> => {
  const { revision, seen } = await seenWhole(db, id);
  const findings = await task("findingsOf", seen, { signal, about: id });
  return `{"revision":${revision},"findings":${findings}}`;
};

/** What is computed of the head against its rig and the studio. */
const computed = async <K extends "delayOf" | "levelsOf" | "lowLatencyOf">(
  db: Queryable,
  id: string,
  { what, asked, signal }: { readonly what: K; readonly asked?: object; readonly signal?: AbortSignal },
): Promise<string> => {
  const { revision, seen } = await seenWhole(db, id);
  const answer = await task(what, { ...seen, ...asked }, { signal, about: id });
  return `{"revision":${revision},"${WHAT[what]}":${answer}}`;
};

const WHAT = { delayOf: "delay", levelsOf: "levels", lowLatencyOf: "lowLatency" } as const;

/** How late everybody hears themself, by person and part. */
export const templateDelay = (
  db: Queryable,
  id: string,
  { signal, ...asked }: { readonly rateHz?: number; readonly buffer?: number; readonly signal?: AbortSignal },
) => computed(db, id, { what: "delayOf", asked, signal });
/** How loud everything is, in both bounds. */
export const templateLevels = (
  db: Queryable,
  id: string,
  { signal, ...asked }: LevelsAsked & { readonly signal?: AbortSignal },
) => computed(db, id, { what: "levelsOf", asked, signal });
/** What would bring everybody on time. */
export const templateLowLatency = (db: Queryable, id: string, signal?: AbortSignal) =>
  computed(db, id, { what: "lowLatencyOf", signal });

/** What an evening takes of the disk. */
export const templateStorage = async (
  db: Queryable,
  id: string,
  { signal, ...asked }: { readonly hours?: number; readonly takes?: number; readonly signal?: AbortSignal },
): Promise<string> => {
  const { revision, text } = await templateStore.head(db, id);
  return `{"revision":${revision},"storage":${await task("storageTold", { template: text, ...asked }, { signal, about: id })}}`;
};

/** How the channels of the head are routed. */
export const templateFlow = async (db: Queryable, id: string, signal?: AbortSignal): Promise<string> => {
  const { revision, seen } = await seenWhole(db, id);
  return `{"revision":${revision},"flow":${await task("flowOf", seen, { signal, about: id })}}`;
};

/** Every way of the sound between two channels of the head. */
export const templatePaths = async (
  db: Queryable,
  id: string,
  { from, to, signal }: { readonly from: string; readonly to: string; readonly signal?: AbortSignal },
): Promise<string> => {
  const { revision, seen } = await seenWhole(db, id);
  const paths = await task("pathsOf", { ...seen, from, to }, { signal, about: id });
  if (paths === null)
    throw new Failure(
      404,
      "No such channel",
      `One of the channels ${from.slice(0, 64)} and ${to.slice(0, 64)} is not in this template. GET …/flow lists those that are.`,
    );
  return `{"revision":${revision},"from":${JSON.stringify(from)},"to":${JSON.stringify(to)},"ways":${paths}}`;
};
