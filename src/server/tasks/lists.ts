import { nanoid } from "nanoid";
import type { ImportPreview } from "@/contracts/answers";
import type { Deletable } from "@/contracts/kinds";
import { readRigJson, readTemplateJson } from "@/core/formats/document-json";
import type { Meaning } from "@/core/formats/input-list/meanings";
import { type ImportPlan, planImport } from "@/core/formats/input-list/plan-import";
import type { InputList, Report } from "@/core/formats/input-list/list-types";
import { readInputList } from "@/core/formats/input-list/read-input-list";
import { UNCOLOURED } from "@/core/model/colours";
import type { IdSource, RigId, TemplateId } from "@/core/model/ids";
import { monitorOutputs } from "@/core/model/read-rig";
import type { SessionKind } from "@/core/model/session-kinds";
import { emptyTemplate, type Format } from "@/core/model/template";
import { applyAll } from "@/core/planning/edits/template-editing";
import { plainText } from "@/core/reading/plain-text";
import { decodeText } from "../services/decode-text";
import { Failure } from "../services/failure";
import { type Stored, stored } from "./apply-batch";
import { isTooDeep } from "./json-body";
import { readStored } from "./kinds";

export interface ListInput {
  readonly bytes: Uint8Array;
  readonly columns: readonly string[] | undefined;
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

const readList = ({ bytes, columns }: ListInput): InputList => {
  const decoded = decodeText(bytes);
  if (!decoded.ok) throw unreadable(decoded.message);
  const read = readInputList(decoded.text, { meanings: columns as readonly Meaning[] | undefined });
  if (!read.ok) throw unreadable(read.message);
  return read.list;
};

/** What an input list would become, without storing anything; as JSON, which goes on to the window as it is. */
export const previewList = (input: ListInput & { readonly name: string }): string => JSON.stringify(preview(input));

const preview = (input: ListInput & { readonly name: string }): ImportPreview => {
  const rig = readStored("rig", input.rig);
  const list = readList(input);
  const plan = planImport(list, rig, chanceIds, { styles: readStored("studio", input.studio).families });
  return {
    name: input.name,
    rigId: rig.id,
    columns: list.columns,
    report: wholeReport(list, plan),
    rows: list.rows.map((row, at) => ({
      row: row.row,
      inputs: row.sides.flatMap((side) => side.input ?? []),
      track: row.name,
      source: row.sides[0].values.source ?? "",
      microphone: [...new Set(row.sides.map((side) => side.microphone))].join(" + "),
      phantom: plan.tracks[at]?.lines.some((line) => line.phantom) ?? false,
      layout: row.sides.length === 2 ? "stereo" : "mono",
      player: row.sides[0].values.player ?? "",
      folder: plan.tracks[at]?.folder ?? "",
      colour: plan.tracks[at]?.colour ?? UNCOLOURED,
      note: row.note,
      trouble: plan.tracks[at]?.trouble ?? null,
    })),
  };
};

export interface MadeOf extends Stored {
  readonly name: string;
  /** The report as JSON, which goes on to the window as it is. */
  readonly report: string;
}

/** The template that an input list becomes, ready to be stored. */
export const templateOfList = (
  input: ListInput & { readonly id: string; readonly name: string; readonly kind: string; readonly format: Format },
): MadeOf => {
  const rig = readStored("rig", input.rig);
  const list = readList(input);
  const plan = planImport(list, rig, chanceIds, { styles: readStored("studio", input.studio).families });
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
}: {
  readonly what: Deletable;
  readonly document: string;
  readonly id: string;
  readonly name: string;
}): Stored => stored(what, { ...readStored(what, document), id, name: plainText(name) } as object);
