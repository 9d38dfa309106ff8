import { and, count, desc, eq, isNotNull, isNull, like, lt, or, type SQL } from "drizzle-orm";
import { nanoid } from "nanoid";
import type { FindingsAnswer, RigState, StudioState, TemplateList, TemplateState, TemplateSummary } from "@/contracts/answers";
import type { CreateTemplateRequest, ListQuery } from "@/contracts/requests";
import { countFindings, evaluate } from "@/core/checks";
import { contextOf } from "@/core/checks/context";
import { selvedge } from "@/core/layout/rows";
import type { IdSource, TemplateId } from "@/core/model/ids";
import { monitorOutputs } from "@/core/model/read-rig";
import { tracksOf } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import { DEFAULT_FORMAT, emptyTemplate, type Format, type SessionKind, type Template } from "@/core/model/template";
import { makeStarter, STARTERS } from "@/core/starters/starters";
import { formatRate } from "@/core/units/hertz";
import type { Database, Queryable } from "../db/database";
import { templateRevisions, templates } from "../db/schema";
import { Failure } from "./failure";
import { addTemplate, loadTemplate, readStored } from "./revisions";
import { allRigs, loadRig } from "./rigs";
import { loadStudio } from "./studio";

const PAGE = 50;

/** What a template is seen against. */
interface Surroundings {
  readonly rigs: readonly RigState[];
  readonly studio: StudioState;
}

const surroundings = async (db: Queryable): Promise<Surroundings> => {
  const [rigs, studio] = await Promise.all([allRigs(db), loadStudio(db)]);
  return { rigs, studio };
};

const findingsOf = (doc: Template, { rigs, studio }: Surroundings) =>
  rigs.length ? evaluate(contextOf({ doc, rigs: rigs.map((rig) => rig.document), studio: studio.document })) : [];

interface Head {
  readonly id: string;
  readonly revision: number;
  readonly changedAt: Date;
  readonly document: Template;
}

/** Summaries by revision of template, rigs and studio: all are immutable, so what was computed once stays true. */
const kept = new Map<string, TemplateSummary>();
const MOST_KEPT = 2000;

const summaryOf = (head: Head, around: Surroundings): TemplateSummary => {
  const key = [head.id, head.revision, around.studio.revision, ...around.rigs.map((rig) => `${rig.document.id} ${rig.revision}`)].join("\n");
  const known = kept.get(key);
  if (known) return known;
  const made = summarise(readStored(head.document), around, head);
  if (kept.size >= MOST_KEPT) kept.clear();
  kept.set(key, made);
  return made;
};

const summarise = (doc: Template, around: Surroundings, row: Head): TemplateSummary => {
  const findings = findingsOf(doc, around);
  return {
    id: doc.id,
    name: doc.name,
    kind: doc.kind,
    rig: { id: doc.rigId, name: around.rigs.find((rig) => rig.document.id === doc.rigId)?.document.name ?? "" },
    rateAndDepth: `${formatRate(doc.format.sampleRateHz)} · ${doc.format.bitDepth} bit`,
    inputs: entriesOf(doc.lines).length,
    tracks: tracksOf(doc).length,
    selvedge: selvedge(doc),
    ...countFindings(findings),
    changedAt: row.changedAt.toISOString(),
    revision: row.revision,
  };
};

const pattern = (query: string): string =>
  `%${query
    .trim()
    .toLowerCase()
    .replace(/[\\%_]/g, (c) => `\\${c}`)}%`;

/** A cursor is the change date and id of the last row of a page. */
const writeCursor = (row: { changedAt: Date; id: string }): string => Buffer.from(`${row.changedAt.toISOString()} ${row.id}`).toString("base64url");

const readCursor = (cursor: string): { readonly changedAt: Date; readonly id: string } => {
  const [date = "", id = ""] = Buffer.from(cursor, "base64url").toString().split(" ");
  const changedAt = new Date(date);
  if (!id || Number.isNaN(changedAt.getTime()))
    throw new Failure(400, "Unknown cursor", "This cursor was not given out by the library. Start again without one.", {
      errors: [{ pointer: "/cursor", detail: "not a cursor" }],
    });
  return { changedAt, id };
};

/** The library, newest change first. The search looks at names, players, microphones, folders and notes. */
export const listTemplates = async (db: Queryable, { query, kind, cursor }: ListQuery): Promise<TemplateList> => {
  const filters: (SQL | undefined)[] = [
    isNull(templates.deletedAt),
    kind ? eq(templates.kind, kind) : undefined,
    query?.trim() ? like(templates.search, pattern(query)) : undefined,
  ];
  const after = cursor ? readCursor(cursor) : null;
  const page = after ? or(lt(templates.changedAt, after.changedAt), and(eq(templates.changedAt, after.changedAt), lt(templates.id, after.id))) : undefined;
  const rows = await db
    .select({ id: templates.id, revision: templates.head, changedAt: templates.changedAt, document: templateRevisions.document })
    .from(templates)
    .innerJoin(templateRevisions, and(eq(templateRevisions.templateId, templates.id), eq(templateRevisions.number, templates.head)))
    .where(and(...filters, page))
    .orderBy(desc(templates.changedAt), desc(templates.id))
    .limit(PAGE + 1);
  const [counted] = await db
    .select({ total: count() })
    .from(templates)
    .where(and(...filters));
  const around = await surroundings(db);
  const shown = rows.slice(0, PAGE);
  const last = shown.at(-1);
  return { templates: shown.map((row) => summaryOf(row, around)), cursor: rows.length > PAGE && last ? writeCursor(last) : null, total: counted?.total ?? 0 };
};

const copyName = (name: string): string => `${name.slice(0, 190)}, copy`;

const chanceIds: IdSource = <T extends string>(kind: string) => `${kind}-${nanoid(10)}` as T;

export const newTemplateId = (): TemplateId => nanoid(12) as TemplateId;

/** A new template: empty on a rig, or a copy that shares nothing with its original but the name it came from. */
export const createTemplate = async (db: Database, request: CreateTemplateRequest): Promise<TemplateState> => {
  if (request.copyOf) {
    const { document } = await loadTemplate(db, request.copyOf);
    return addTemplate(db, { ...document, id: newTemplateId(), name: request.name?.trim() || copyName(document.name) });
  }
  if (!request.rigId)
    throw new Failure(400, "No rig named", "A template needs a rig: the interface its lines are plugged into.", { errors: [{ pointer: "/rigId", detail: "required" }] });
  const [{ document: rig }, { document: studio }] = await Promise.all([loadRig(db, request.rigId), loadStudio(db)]);
  const starter = request.starter ? STARTERS.find((candidate) => candidate.id === request.starter) : undefined;
  if (request.starter && !starter) throw new Failure(404, "No such starter", `There is no starter with the id ${request.starter}.`);
  const id = newTemplateId();
  const name = request.name?.trim() || starter?.name || "Untitled template";
  const kind = starter?.kind ?? ((request.kind ?? "band") as SessionKind);
  const format = formatFor(studio, kind);
  if (starter) return addTemplate(db, makeStarter(starter, { id, name, rig, format, styles: studio.families, ids: chanceIds }), `Made from the starter ${starter.name}`);
  return addTemplate(db, emptyTemplate({ id, name, kind, rigId: rig.id, format, mainOutputs: monitorOutputs(rig) }));
};

/** What a new template of a kind starts with in this studio. */
export const formatFor = (studio: Studio, kind: SessionKind): Format => {
  const { sampleRateHz, bitDepth, meetsPicture } = studio.kinds[kind];
  return { ...DEFAULT_FORMAT, sampleRateHz, bitDepth, meetsPicture };
};

const setDeleted = async (db: Database, id: string, deletedAt: Date | null): Promise<void> => {
  const changed = await db
    .update(templates)
    .set({ deletedAt })
    .where(and(eq(templates.id, id), deletedAt ? isNull(templates.deletedAt) : isNotNull(templates.deletedAt)))
    .returning({ id: templates.id });
  if (!changed.length) throw new Failure(404, "No such template", deletedAt ? "It was deleted already, or never was." : "There is no deleted template with this id.");
};

/** Takes a template out of the library. Its revisions stay, so that it can be brought back whole. */
export const deleteTemplate = (db: Database, id: string) => setDeleted(db, id, new Date());
export const bringBackTemplate = (db: Database, id: string) => setDeleted(db, id, null);

export const templateFindings = async (db: Queryable, id: string): Promise<FindingsAnswer> => {
  const { revision, document } = await loadTemplate(db, id);
  return { revision, findings: findingsOf(document, await surroundings(db)) };
};
