import { eq } from "drizzle-orm";
import { fileName } from "@/core/reading/file-name";
import type { Queryable } from "../db/database";
import { rigs, templates } from "../db/schema";
import { Failure } from "./failure";
import { task } from "./pool";
import { rigStore } from "./rigs";
import { studioText } from "./studio";
import { templateStore } from "./templates";

export interface ExportedFile {
  readonly fileName: string;
  readonly contentType: string;
  readonly body: string | Uint8Array;
}

const JSON_TYPE = "application/json; charset=utf-8";
const CONTENT_TYPES = { json: JSON_TYPE, csv: "text/csv; charset=utf-8", pdf: "application/pdf" } as const;

/** The head of a template in an open format, or as it is stored. */
export const exportTemplate = async (
  db: Queryable,
  id: string,
  format: "csv" | "json" | "pdf" | "raw",
  signal?: AbortSignal,
): Promise<ExportedFile> => {
  const { text, savedAt, revision } = await templateStore.head(db, id);
  const [row] = await db
    .select({ name: templates.name, rigId: templates.rigId })
    .from(templates)
    .where(eq(templates.id, id));
  const name = fileName(row?.name ?? "") || "template";
  if (format === "raw") return { fileName: `${name}, as stored.json`, contentType: JSON_TYPE, body: text };
  const rig = format === "json" ? null : await rigOf(db, row?.rigId ?? "");
  const body = await task(
    "writeTemplate",
    { template: text, rigs: rig ? [rig] : [], studio: (await studioText(db)).text, revision, savedAt, format },
    { signal, about: id },
  );
  return {
    fileName: format === "pdf" ? `${name}, patching sheet.pdf` : `${name}.${format}`,
    contentType: CONTENT_TYPES[format],
    body,
  };
};

const rigOf = async (db: Queryable, id: string): Promise<string> => {
  try {
    return (await rigStore.head(db, id)).text;
  } catch (error) {
    if (error instanceof Failure && error.status === 404)
      throw new Failure(
        422,
        "Its rig is not here",
        "The rig that this template stands on was deleted. Fit the template to another one first; as JSON it can be saved as it is.",
      );
    throw error;
  }
};

/** The head of a rig as JSON. */
export const exportRig = async (db: Queryable, id: string, format: "json" | "raw" = "json"): Promise<ExportedFile> => {
  const { text } = await rigStore.head(db, id);
  const [row] = await db.select({ name: rigs.name }).from(rigs).where(eq(rigs.id, id));
  const name = fileName(row?.name ?? "") || "rig";
  if (format === "raw") return { fileName: `${name}, as stored.json`, contentType: JSON_TYPE, body: text };
  return { fileName: `${name}.json`, contentType: JSON_TYPE, body: await task("writeRig", { rig: text }) };
};
