import { writeDocument } from "@/core/formats/document-json";
import { writeInputList } from "@/core/formats/input-list/write-input-list";
import { patchingSheet } from "@/core/layout/patching-sheet";
import { entriesOf } from "@/core/model/rig";
import { fileName } from "@/core/reading/file-name";
import type { Queryable } from "../db/database";
import { loadTemplate } from "./revisions";
import { loadRig } from "./rigs";
import { loadStudio } from "./studio";

export interface ExportedFile {
  readonly fileName: string;
  readonly contentType: string;
  readonly body: string | Uint8Array;
}

/** The head of a template in an open format. */
export const exportTemplate = async (db: Queryable, id: string, format: "csv" | "json" | "pdf"): Promise<ExportedFile> => {
  const { document, savedAt, revision } = await loadTemplate(db, id);
  const name = fileName(document.name) || "template";
  if (format === "json") return { fileName: `${name}.json`, contentType: "application/json; charset=utf-8", body: writeDocument(document) };
  const { document: rig } = await loadRig(db, document.rigId);
  if (format === "csv") return { fileName: `${name}.csv`, contentType: "text/csv; charset=utf-8", body: writeInputList(document, rig) };
  const { renderPatchingSheet } = await import("../pdf/patching-sheet-pdf");
  const body = await renderPatchingSheet(patchingSheet(document, rig), { revision, savedAt, ownDyes: entriesOf((await loadStudio(db)).document.dyes) });
  return { fileName: `${name}, patching sheet.pdf`, contentType: "application/pdf", body };
};

/** The head of a rig as JSON. */
export const exportRig = async (db: Queryable, id: string): Promise<ExportedFile> => {
  const { document } = await loadRig(db, id);
  return { fileName: `${fileName(document.name) || "rig"}.json`, contentType: "application/json; charset=utf-8", body: writeDocument(document) };
};
