import { nanoid } from "nanoid";
import type { ImportPreview, PreviewRow } from "@/contracts/answers";
import type { Deletable } from "@/contracts/kinds";
import { readRigJson, readTemplateJson } from "@/core/formats/document-json";
import { isFamily, keyOfRow, withChanges } from "@/core/formats/input-list/changes";
import type { ImportChoices } from "@/core/formats/input-list/import-choices";
import type { InputList, ListChoices, ListRow, ReadList, Report } from "@/core/formats/input-list/list-types";
import type { Meaning } from "@/core/formats/input-list/meanings";
import { type ImportPlan, planImport } from "@/core/formats/input-list/plan-import";
import { OUTSIDE_QUESTION, PROPOSE_QUESTION } from "@/core/formats/input-list/questions";
import { readCells, readInputList } from "@/core/formats/input-list/read-input-list";
import { UNCOLOURED } from "@/core/model/colours";
import { type Family, plain } from "@/core/model/families";
import type { IdSource, RigId, TemplateId } from "@/core/model/ids";
import { monitorOutputs, rigInputOf } from "@/core/model/read-rig";
import type { Rig } from "@/core/model/rig";
import type { SessionKind } from "@/core/model/session-kinds";
import type { Studio } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import { emptyTemplate, type Format, type Template, withoutSession } from "@/core/model/template";
import { applyAll } from "@/core/planning/edits/template-editing";
import { taughtWords } from "@/core/queries/taught-words";
import { plainText } from "@/core/reading/plain-text";
import { decodeText } from "../services/decode-text";
import { Failure } from "../services/failure";
import { type Stored, stored } from "./apply-batch";
import { isTooDeep } from "./json-body";
import { readStored } from "./kinds";
import { isOldSpreadsheet, isPacked, readSpreadsheet } from "./spreadsheet";

export interface ListInput {
  readonly bytes: Uint8Array;
  readonly columns: readonly string[] | undefined;
  readonly choices: ImportChoices;
  readonly rig: string;
  readonly studio: string;
}

const chanceIds: IdSource = <T extends string>(kind: string) => `${kind}-${nanoid(10)}` as T;

export const unreadable = (detail: string) =>
  new Failure(422, "The list can't be read", detail, { errors: [{ pointer: "/file", detail }] });

const wholeReport = (list: InputList, plan: ImportPlan): Report => ({
  understood: list.report.understood,
  guessed: [...list.report.guessed, ...plan.guessed],
  leftOut: [...list.report.leftOut, ...plan.leftOut],
});

interface Found {
  readonly sheets: readonly string[];
  readonly sheet: number;
  readonly read: (choices: ListChoices) => ReadList;
}

/** How much like an input list a sheet is: its tracks with inputs count most. */
const likeness = (read: ReadList): number =>
  read.ok ? read.list.balance.tracks + 2 * (read.list.balance.lines - read.list.balance.withoutInput) : 0;

/** Sheets that are looked at to find the likeliest. */
const MOST_LOOKED_AT = 24;

const foundIn = async (bytes: Uint8Array, sheet: number | undefined): Promise<Found> => {
  if (isOldSpreadsheet(bytes))
    throw unreadable("This spreadsheet is of an old kind. Save it as .xlsx, .ods or CSV, and drop that.");
  if (!isPacked(bytes)) {
    const decoded = decodeText(bytes);
    if (!decoded.ok) throw unreadable(decoded.message);
    return { sheets: [], sheet: 0, read: (choices) => readInputList(decoded.text, choices) };
  }
  const book = await readSpreadsheet(bytes);
  if (!book.ok) throw unreadable(book.message);
  const { sheets } = book;
  const points = sheets.slice(0, MOST_LOOKED_AT).map(({ cells }) => likeness(readCells(cells)));
  const chosen = sheet !== undefined && sheets[sheet] ? sheet : points.indexOf(Math.max(...points));
  const cells = sheets[chosen]?.cells ?? { by: "sheet" as const, rows: [], held: new Set<string>() };
  return { sheets: sheets.map(({ name }) => name), sheet: chosen, read: (choices) => readCells(cells, choices) };
};

/** By which lists of the same headings are known again; empty where there are none. */
export const headingsOf = (list: InputList): string =>
  list.columns.some(({ heading }, at) => heading !== `Column ${at + 1}`)
    ? list.columns
        .map(({ heading }) => plain(heading))
        .join(" | ")
        .slice(0, 4000)
    : "";

interface ReadSource extends Pick<Found, "sheets" | "sheet"> {
  readonly list: InputList;
  readonly headings: string;
  readonly remembered: boolean;
  /** Why nothing can be made of it yet; null when something can. */
  readonly unusable: string | null;
}

/** What a preview can begin with: the list, or its columns where only their meaning is missing. */
const wayIn = (read: ReadList): InputList | null => (read.ok ? read.list : (read.list ?? null));

/** The list as it is read with what a person chose; what was corrected in lists of the same headings before is taken. */
const readSource = async ({ bytes, columns, choices }: ListInput, studio: Studio): Promise<ReadSource> => {
  const { read, ...source } = await foundIn(bytes, choices.sheet);
  const people = entriesOf(studio.people).map(({ name }) => name);
  const said: ListChoices = {
    meanings: columns as readonly Meaning[] | undefined,
    answers: choices.answers,
    off: choices.off,
    people,
  };
  const whole = read(said);
  const first = wayIn(whole);
  if (!first) throw unreadable(whole.ok ? "" : whole.message);
  const headings = headingsOf(first);
  const habit =
    columns || choices.forgetful || !headings
      ? undefined
      : entriesOf(studio.listHabits).find((one) => one.headings === headings);
  const again = habit ? read({ ...said, meanings: habit.meanings as readonly Meaning[] }) : whole;
  const list = again.ok ? again.list : first;
  return {
    ...source,
    list: withChanges(list, choices.changes ?? {}),
    headings,
    remembered: habit !== undefined && again.ok,
    unusable: again.ok ? null : again.message,
  };
};

const familiesIn = (changes: ImportChoices["changes"] = {}): Readonly<Record<string, Family>> =>
  Object.fromEntries(
    Object.entries(changes).flatMap(([key, { family }]) => (isFamily(family) ? [[key, family] as const] : [])),
  );

const planOf = (
  list: InputList,
  { rig, studio, choices }: { readonly rig: Rig; readonly studio: Studio; readonly choices: ImportChoices },
): ImportPlan =>
  planImport(list, rig, chanceIds, {
    styles: studio.families,
    words: taughtWords(studio),
    families: familiesIn(choices.changes),
    propose: choices.answers?.[PROPOSE_QUESTION] === "yes",
    inFull: choices.inFull ?? false,
    places:
      choices.answers?.[OUTSIDE_QUESTION] === "yes"
        ? list.outside.filter(({ kind }) => kind !== "returns" && kind !== "other").flatMap(({ names }) => names)
        : [],
  });

/** What an input list would become, without storing anything; as JSON, which goes on to the window as it is. */
export const previewList = async (input: ListInput & { readonly name: string }): Promise<string> =>
  JSON.stringify(await preview(input));

const preview = async (input: ListInput & { readonly name: string }): Promise<ImportPreview> => {
  const rig = readStored("rig", input.rig);
  const studio = readStored("studio", input.studio);
  const { list, unusable, ...source } = await readSource(input, studio);
  const plan = planOf(list, { rig, studio, choices: input.choices });
  const keys = keyOfRow(list.rows);
  return {
    name: input.name,
    rigId: rig.id,
    by: list.by,
    ...source,
    columns: list.columns,
    questions: list.questions,
    outside: list.outside,
    source: list.source,
    balance: list.balance,
    fatal: unusable
      ? [unusable]
      : list.questions.filter(({ fatal, answered }) => fatal && !answered).map(({ asks }) => asks),
    report: wholeReport(list, plan),
    rows: list.rows.map((row, at) => previewRow(row, { key: keys[at] ?? "", track: plan.tracks[at], rig })),
  };
};

const previewRow = (
  row: ListRow,
  {
    key,
    track,
    rig,
  }: { readonly key: string; readonly track: ImportPlan["tracks"][number] | undefined; readonly rig: Rig },
): PreviewRow => {
  const { values } = row.sides[0];
  const lines = track?.lines ?? [];
  return {
    key,
    row: row.row,
    from: row.from,
    inputs: row.sides.flatMap((side, at) => side.input ?? rigInputOf(rig, lines[at]?.portId ?? null)?.label ?? []),
    track: track?.track.name ?? row.name,
    source: values.source ?? "",
    microphone: [...new Set(row.sides.map((side) => side.microphone))].join(" + "),
    phantom: lines.some((line) => line.phantom),
    polarity: lines.some((line) => line.polarityInverted),
    pad: lines.some((line) => line.pad),
    layout: row.sides.length === 2 ? "stereo" : "mono",
    player: values.player ?? "",
    folder: track?.folder ?? "",
    colour: track?.colour ?? UNCOLOURED,
    family: track?.family ?? null,
    note: row.note,
    marks: row.marks,
    trouble: track?.trouble ?? null,
  };
};

export interface MadeOf extends Stored {
  readonly name: string;
  /** The report as JSON, which goes on to the window as it is. */
  readonly report: string;
}

/** The template that an input list becomes, ready to be stored. */
export const templateOfList = async (
  input: ListInput & { readonly id: string; readonly name: string; readonly kind: string; readonly format: Format },
): Promise<MadeOf> => {
  const rig = readStored("rig", input.rig);
  const studio = readStored("studio", input.studio);
  const { list, unusable } = await readSource(input, studio);
  if (unusable) throw unreadable(unusable);
  if (!list.rows.length) throw unreadable("All rows are switched off: nothing is left to make a template of.");
  const plan = planOf(list, { rig, studio, choices: input.choices });
  const empty = emptyTemplate({
    id: input.id as TemplateId,
    name: input.name,
    kind: input.kind as SessionKind,
    rigId: rig.id,
    format: input.format,
    mainOutputs: monitorOutputs(rig),
  });
  const made = applyAll(empty, plan.edits);
  if (!made.ok) throw unreadable(`What the list says can't be kept in a template: ${made.refusal.message}`);
  return { ...stored("template", made.doc), name: input.name, report: JSON.stringify(wholeReport(list, plan)) };
};

const textOf = (bytes: Uint8Array, what: string): string => {
  const decoded = decodeText(bytes);
  if (!decoded.ok) throw unreadable(decoded.message);
  if (isTooDeep(decoded.text))
    throw unreadable(
      `This is no ${what} of Wandel: its lists and objects lie deeper in one another than those of any ${what}.`,
    );
  return decoded.text;
};

/**
 * The template that a document of any schema version becomes, ready to be stored under an id of its own. `rigId` is
 * taken for the one it names, where given.
 */
export const templateOfDocument = ({
  bytes,
  id,
  name,
  rigId,
}: {
  readonly bytes: Uint8Array;
  readonly id: string;
  readonly name: string | undefined;
  readonly rigId: string | undefined;
}): MadeOf & { readonly rigId: string } => {
  const read = readTemplateJson(textOf(bytes, "template"));
  if (!read.ok)
    throw new Failure(422, "The template can't be read", read.message, {
      errors: [{ pointer: read.pointer, detail: read.message }],
    });
  const doc = {
    ...read.doc,
    id: id as TemplateId,
    rigId: (rigId as RigId | undefined) ?? read.doc.rigId,
    name: (name || read.doc.name).slice(0, 200),
  };
  const lines = Object.keys(doc.lines).length;
  return {
    ...stored("template", doc),
    name: doc.name,
    rigId: doc.rigId,
    report: JSON.stringify({
      understood: [
        { message: `A Wandel template of schema version ${read.from} with ${lines} lines.`, row: null, column: null },
      ],
      guessed: [],
      leftOut: [],
    }),
  };
};

/** The rig that a document becomes, under an id of its own; its name is for the store to make a free one of. */
export const rigOfDocument = ({
  bytes,
}: {
  readonly bytes: Uint8Array;
}): { readonly document: string; readonly name: string } => {
  const read = readRigJson(textOf(bytes, "rig"));
  if (!read.ok)
    throw new Failure(422, "The rig can't be read", read.message, {
      errors: [{ pointer: read.pointer, detail: read.message }],
    });
  return { document: JSON.stringify(read.doc), name: read.doc.name };
};

/** A stored document under another id and name. */
export const renamed = ({
  what,
  document,
  id,
  name,
  asTemplate = false,
}: {
  readonly what: Deletable;
  readonly document: string;
  readonly id: string;
  readonly name: string;
  /** Of a session: kept as a template. */
  readonly asTemplate?: boolean;
}): Stored => {
  const doc = readStored(what, document);
  const kept = asTemplate && what === "template" ? withoutSession(doc as Template) : doc;
  return stored(what, { ...kept, id, name: plainText(name) } as object);
};
