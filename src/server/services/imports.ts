import { nanoid } from "nanoid";
import type { Imported, ImportPreview } from "@/contracts/answers";
import type { ImportRequest } from "@/contracts/requests";
import { applyAll } from "@/core/commands/apply";
import { readTemplateJson } from "@/core/formats/document-json";
import type { Meaning } from "@/core/formats/input-list/columns";
import { type ImportPlan, planImport } from "@/core/formats/input-list/plan-import";
import { type InputList, type Report, readInputList } from "@/core/formats/input-list/read-input-list";
import { UNDYED } from "@/core/model/dyes";
import type { IdSource } from "@/core/model/ids";
import { monitorOutputs } from "@/core/model/read-rig";
import type { Rig } from "@/core/model/rig";
import { emptyTemplate, type SessionKind, type Template } from "@/core/model/template";
import type { Database } from "../db/database";
import { decodeText } from "./decode-text";
import { Failure } from "./failure";
import { formatFor, newTemplateId } from "./library";
import { addTemplate } from "./revisions";
import { allRigs, loadRig } from "./rigs";
import { loadStudio } from "./studio";

export interface Upload {
  readonly fileName: string;
  readonly bytes: Uint8Array;
}

const chanceIds: IdSource = <T extends string>(kind: string) => `${kind}-${nanoid(10)}` as T;

const unreadable = (detail: string) => new Failure(422, "The list can't be read", detail, { errors: [{ pointer: "/file", detail }] });

const nameFrom = (fileName: string): string => {
  const words = fileName
    .replace(/\.[^.]*$/, "")
    .replace(/^\d+[-_ ]+/, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return words ? words[0]?.toUpperCase() + words.slice(1) : "From an input list";
};

const rigFor = async (db: Database, rigId: string | undefined): Promise<Rig> => {
  if (rigId) return (await loadRig(db, rigId)).document;
  const [first] = await allRigs(db);
  if (!first) throw new Failure(422, "No rig", "There is no rig to put the lines on. Make one first.");
  return first.document;
};

const wholeReport = (list: InputList, plan: ImportPlan): Report => ({
  understood: list.report.understood,
  guessed: [...list.report.guessed, ...plan.guessed],
  leftOut: [...list.report.leftOut, ...plan.leftOut],
});

const readList = (upload: Upload, columns: readonly string[] | undefined): InputList => {
  const decoded = decodeText(upload.bytes);
  if (!decoded.ok) throw unreadable(decoded.message);
  const read = readInputList(decoded.text, columns as readonly Meaning[] | undefined);
  if (!read.ok) throw unreadable(read.message);
  return read.list;
};

/** What an input list would become, without storing anything. */
export const previewImport = async (db: Database, upload: Upload, request: ImportRequest): Promise<ImportPreview> => {
  const rig = await rigFor(db, request.rigId);
  const list = readList(upload, request.columns);
  const plan = planImport(list, rig, chanceIds, (await loadStudio(db)).document.families);
  return {
    name: request.name?.trim() || nameFrom(upload.fileName),
    rigId: rig.id,
    columns: list.columns,
    report: wholeReport(list, plan),
    rows: list.rows.map((row, at) => ({
      row: row.row,
      inputs: row.sides.flatMap((side) => side.input ?? []),
      track: row.name,
      source: row.sides[0].source,
      microphone: [...new Set(row.sides.map((side) => side.microphone))].join(" + "),
      phantom: plan.tracks[at]?.lines.some((line) => line.phantom) ?? false,
      layout: row.sides.length === 2 ? "stereo" : "mono",
      player: row.sides[0].player,
      folder: plan.tracks[at]?.folder ?? "",
      dye: plan.tracks[at]?.dye ?? UNDYED,
      note: row.note,
      trouble: plan.tracks[at]?.trouble ?? null,
    })),
  };
};

const storeList = async (db: Database, upload: Upload, request: ImportRequest): Promise<Imported> => {
  const rig = await rigFor(db, request.rigId);
  const list = readList(upload, request.columns);
  const plan = planImport(list, rig, chanceIds, (await loadStudio(db)).document.families);
  const name = (request.name?.trim() || nameFrom(upload.fileName)).slice(0, 200);
  const kind = (request.kind ?? "band") as SessionKind;
  const format = formatFor((await loadStudio(db)).document, kind);
  const empty = emptyTemplate({ id: newTemplateId(), name, kind, rigId: rig.id, format, mainOutputs: monitorOutputs(rig) });
  const made = applyAll(empty, plan.commands);
  if (!made.ok) throw unreadable(made.refusal.message);
  const { document } = await addTemplate(db, made.doc);
  return { template: { id: document.id, name: document.name }, report: wholeReport(list, plan) };
};

const rigOfDocument = async (db: Database, doc: Template, request: ImportRequest): Promise<Rig> => {
  const rigs = (await allRigs(db)).map((state) => state.document);
  const rig = rigs.find((candidate) => candidate.id === (request.rigId ?? doc.rigId));
  if (!rig) throw unreadable(`The template is made for a rig (${doc.rigId}) that is not here. Choose one of the rigs here for it.`);
  return rig;
};

const storeDocument = async (db: Database, text: string, request: ImportRequest): Promise<Imported> => {
  const read = readTemplateJson(text);
  if (!read.ok) throw new Failure(422, "The template can't be read", read.message, { errors: [{ pointer: read.pointer, detail: read.message }] });
  const rig = await rigOfDocument(db, read.doc, request);
  const { document } = await addTemplate(db, { ...read.doc, id: newTemplateId(), rigId: rig.id, name: (request.name?.trim() || read.doc.name).slice(0, 200) });
  const lines = Object.keys(document.lines).length;
  return {
    template: { id: document.id, name: document.name },
    report: { understood: [{ message: `A Wandel template of schema version ${read.from} with ${lines} lines.`, row: null, column: null }], guessed: [], leftOut: [] },
  };
};

const isDocument = ({ fileName, bytes }: Upload): boolean => /\.json$/i.test(fileName) || bytes.find((byte) => ![0x20, 0x09, 0x0a, 0x0d, 0xef, 0xbb, 0xbf].includes(byte)) === 0x7b;

/** Makes a template of an input list or of a template document, and stores it. */
export const importTemplate = async (db: Database, upload: Upload, request: ImportRequest): Promise<Imported> => {
  if (!isDocument(upload)) return storeList(db, upload, request);
  const decoded = decodeText(upload.bytes);
  if (!decoded.ok) throw unreadable(decoded.message);
  return storeDocument(db, decoded.text, request);
};
