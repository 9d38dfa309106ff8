import type { ImportRequest } from "@/contracts/requests";
import type { TemplateId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import type { SessionKind } from "@/core/model/session-kinds";
import type { Database } from "../db/database";
import { shortHash } from "../tasks/apply-batch";
import { type MadeOf, unreadable } from "../tasks/lists";
import { Failure } from "./failure";
import { formatFor } from "./library";
import { task } from "./pool";
import { addRig, firstRigId, fittingRig, idFor, lastRigId, markFor, rigStore } from "./rigs";
import { loadStudio, studioText } from "./studio";
import { templateStore } from "./templates";

export interface Upload {
  readonly fileName: string;
  readonly bytes: Uint8Array;
}

const nameFrom = (fileName: string): string => {
  const words = fileName
    .replace(/\.[^.]*$/, "")
    .replace(/^\d+[-_ ]+/, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return words ? words[0]?.toUpperCase() + words.slice(1) : "From an input list";
};

/** The most inputs that a rig is made for on the way. */
const MOST_INPUTS = 64;

/** How many lines a list has at most: what a rig that is made for it must take. */
const linesIn = ({ bytes }: Upload): number => {
  let lines = 1;
  for (const byte of bytes) if (byte === 0x0a && ++lines >= MOST_INPUTS) break;
  return lines;
};

/**
 * The rig that lines are put on: the one that is named, else the one last used, else the oldest; in a studio that has none yet, one that fits,
 * which is to be made.
 */
const rigTextFor = async (
  db: Database,
  upload: Upload,
  rigId: string | undefined,
): Promise<{ readonly text: string; readonly made: Rig | null }> => {
  const made = rigId ? null : await fittingRig(db, linesIn(upload));
  if (made) return { text: JSON.stringify(made), made };
  const id = rigId ?? (await lastRigId(db)) ?? (await firstRigId(db));
  if (!id) throw new Failure(422, "No rig", "There is no rig to put the lines on. Make one first.");
  return { text: (await rigStore.head(db, id)).text, made: null };
};

const nameOf = (upload: Upload, request: ImportRequest): string =>
  (request.name?.trim() || nameFrom(upload.fileName.slice(-300))).slice(0, 200);

/** What an input list would become, without storing anything. */
export const previewImport = async (
  db: Database,
  upload: Upload,
  request: ImportRequest,
  signal?: AbortSignal,
): Promise<string> => {
  const input = {
    name: nameOf(upload, request),
    bytes: upload.bytes,
    columns: request.columns,
    choices: request.choices ?? {},
    rig: (await rigTextFor(db, upload, request.rigId)).text,
    studio: (await studioText(db)).text,
  };
  return task("previewList", input, { signal });
};

const ofList = async (db: Database, { upload, request, id, signal }: Reading): Promise<MadeOf> => {
  const kind = (request.kind ?? "band") as SessionKind;
  const studio = await loadStudio(db);
  const rig = await rigTextFor(db, upload, request.rigId);
  const input = {
    bytes: upload.bytes,
    columns: request.columns,
    choices: request.choices ?? {},
    rig: rig.text,
    studio: JSON.stringify(studio.document),
  };
  const list = await task(
    "templateOfList",
    { ...input, id, name: nameOf(upload, request), kind, format: formatFor(studio.document, kind) },
    { signal },
  );
  if (rig.made) await addRig(db, rig.made);
  return list;
};

const ofDocument = async (db: Database, { upload, request, id, signal }: Reading): Promise<MadeOf> => {
  const made = await task(
    "templateOfDocument",
    { bytes: upload.bytes, id, name: request.name?.trim(), rigId: request.rigId },
    { signal },
  );
  try {
    await rigStore.head(db, made.rigId);
  } catch (error) {
    if (error instanceof Failure && error.status === 404)
      throw unreadable(
        `The template is made for a rig (${made.rigId}) that is not here. Choose one of the rigs here for it.`,
      );
    throw error;
  }
  return made;
};

interface Reading {
  readonly upload: Upload;
  readonly request: ImportRequest;
  readonly id: string;
  readonly signal?: AbortSignal | undefined;
}

const isDocument = ({ fileName, bytes }: Upload): boolean =>
  /\.json$/i.test(fileName) ||
  bytes.find((byte) => ![0x20, 0x09, 0x0a, 0x0d, 0xef, 0xbb, 0xbf].includes(byte)) === 0x7b;

const REPORT_KNOWN = JSON.stringify({
  understood: [
    { message: "This was read before under the same key; nothing was made twice.", row: null, column: null },
  ],
  guessed: [],
  leftOut: [],
});

/** What was made, with its report as JSON. */
export interface ImportedText {
  readonly template: { readonly id: TemplateId; readonly name: string };
  readonly report: string;
}

/** Makes a template of an input list or of a template document, and stores it. */
export const importTemplate = async (
  db: Database,
  upload: Upload,
  request: ImportRequest,
  signal?: AbortSignal,
): Promise<ImportedText> => {
  const { key, ...rest } = request;
  const id = idFor("template", key);
  const mark = markFor(key, () => [JSON.stringify(rest), upload.fileName, shortHash(upload.bytes)]);
  if (await templateStore.knownMaking(db, { id, name: "", mark })) {
    const { document } = await templateStore.load(db, id);
    return { template: { id: document.id, name: document.name }, report: REPORT_KNOWN };
  }
  const made = await (isDocument(upload) ? ofDocument : ofList)(db, { upload, request, id, signal });
  await templateStore.addStored(db, made, { id, mark, name: "Made" });
  return { template: { id: id as TemplateId, name: made.name }, report: made.report };
};
