import { ImportRequest } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import { plainText, plainTexts } from "@/core/reading/plain-text";
import { Failure } from "../services/failure";
import type { Upload } from "../services/imports";
import { accept } from "./route";

/** Largest file taken: an input list of thousands of rows is far below it. */
const MOST_BYTES = 4 * 1024 * 1024;

const tooLarge = () => new Failure(413, "Too large", `The file is larger than ${MOST_BYTES / 1024 / 1024} MiB. An input list is a few kilobytes: save only the list.`);

const readForm = async (request: Request): Promise<FormData> => {
  if (!/^multipart\/form-data\b/.test(request.headers.get("content-type") ?? "")) throw new Failure(415, "Not a form", "Send the file as multipart/form-data in the field file.");
  if (Number(request.headers.get("content-length") ?? 0) > MOST_BYTES + 65_536) throw tooLarge();
  try {
    return await request.formData();
  } catch {
    throw new Failure(400, "Malformed form", "The form can't be read: it is cut short or has no boundary.");
  }
};

const readColumns = (value: string | null): unknown => {
  if (value === null) return undefined;
  try {
    return JSON.parse(value);
  } catch {
    throw new Failure(400, "Malformed request", "columns is a JSON list of meanings.", { errors: [{ pointer: "/columns", detail: "not JSON" }] });
  }
};

/** The file and the fields of an import, each held to its class. */
export const readUpload = async (request: Request): Promise<{ readonly upload: Upload; readonly fields: ImportRequest }> => {
  const form = await readForm(request);
  const file = form.get("file");
  if (!(file instanceof File)) throw new Failure(400, "No file", "The form has no file in the field file.", { errors: [{ pointer: "/file", detail: "required" }] });
  if (file.size > MOST_BYTES) throw tooLarge();
  const text = (name: string) => {
    const value = form.get(name);
    return typeof value === "string" && value !== "" ? value : undefined;
  };
  const plain = { rigId: text("rigId"), name: text("name"), kind: text("kind"), columns: readColumns(text("columns") ?? null) };
  const given = Object.fromEntries(Object.entries(plain).filter(([, value]) => value !== undefined));
  return { upload: { fileName: plainText(file.name), bytes: new Uint8Array(await file.arrayBuffer()) }, fields: accept(parse(ImportRequest, plainTexts(given))) };
};
