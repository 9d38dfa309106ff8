import Busboy from "@fastify/busboy";
import { ImportRequest } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import { plainText, plainTexts } from "@/core/reading/plain-text";
import { accept } from "../services/accept";
import { Failure } from "../services/failure";
import type { Upload } from "../services/imports";
import { readBody } from "../tasks/json-body";
import { bodyParts } from "./read-body";

/** Largest list taken: one of thousands of rows is far below it. */
const MOST_LIST_BYTES = 4 * 1024 * 1024;
/** Largest document: a template with as many lines as one may have. */
const MOST_BYTES = 16 * 1024 * 1024;
/** The form around the file. */
const MOST_FORM_BYTES = 1024 * 1024;

const tooLarge = (most: number) =>
  new Failure(
    413,
    "Too large",
    `The file is larger than ${most / 1024 / 1024} MiB. An input list is a few kilobytes: save only the list.`,
  );
const malformed = () =>
  new Failure(
    400,
    "Malformed form",
    "The form can't be read: it is cut short, has no boundary, or more fields than are taken.",
  );

interface Form {
  readonly file: { readonly name: string; readonly bytes: Uint8Array } | null;
  readonly fields: ReadonlyMap<string, string>;
}

/** What has come in of a form. */
const formOf = (contentType: string) => {
  let busboy: ReturnType<typeof Busboy>;
  try {
    busboy = Busboy({
      headers: { "content-type": contentType },
      limits: { files: 1, fields: 8, parts: 10, fileSize: MOST_BYTES, fieldSize: MOST_FORM_BYTES, headerPairs: 20 },
    });
  } catch {
    throw malformed();
  }
  let file: Form["file"] = null;
  const fields = new Map<string, string>();
  const done = new Promise<Form>((resolve, reject) => {
    busboy.on("file", (name, stream, fileName) => {
      const chunks: Buffer[] = [];
      stream.on("data", (chunk: Buffer) => chunks.push(chunk));
      stream.on("limit", () => reject(tooLarge(MOST_BYTES)));
      stream.on("end", () => {
        if (name === "file") file = { name: fileName ?? "", bytes: joined(chunks) };
      });
      stream.on("error", () => reject(malformed()));
    });
    busboy.on("field", (name, value) => void fields.set(name, value));
    for (const limit of ["partsLimit", "filesLimit", "fieldsLimit"] as const)
      busboy.on(limit, () => reject(malformed()));
    busboy.on("error", () => reject(malformed()));
    busboy.on("finish", () => resolve({ file, fields }));
  });
  // Waited for by whoever feeds it; what goes wrong before that is told then.
  done.catch(() => {});
  return { busboy, done };
};

/** In memory of their own, so that a thread can take them over without a copy. */
const joined = (chunks: readonly Buffer[]): Uint8Array => {
  const bytes = new Uint8Array(chunks.reduce((sum, chunk) => sum + chunk.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
};

const readForm = async (request: Request, contentType: string): Promise<Form> => {
  const { busboy, done } = formOf(contentType);
  let broken = false;
  done.catch(() => {
    broken = true;
  });
  for await (const part of bodyParts(request, MOST_BYTES + MOST_FORM_BYTES, "The file")) {
    // What follows of a form that can't be read is let in and dropped, up to the same limit: whoever is still sending
    // hears the answer.
    if (!broken) busboy.write(Buffer.from(part.buffer, part.byteOffset, part.byteLength));
  }
  if (!broken) busboy.end();
  return done;
};

const readJsonField = (name: string, value: string | undefined, what: string): unknown => {
  if (value === undefined) return undefined;
  try {
    return readBody(value);
  } catch {
    throw new Failure(400, "Malformed request", `${name} is ${what}.`, {
      errors: [{ pointer: `/${name}`, detail: `not ${what}` }],
    });
  }
};

/** The file and the fields of an import, each held to its class. */
export const readUpload = async (
  request: Request,
): Promise<{ readonly upload: Upload; readonly fields: ImportRequest }> => {
  const contentType = request.headers.get("content-type") ?? "";
  if (!/^multipart\/form-data\b/.test(contentType))
    throw new Failure(415, "Not a form", "Send the file as multipart/form-data in the field file.");
  const form = await readForm(request, contentType);
  if (!form.file)
    throw new Failure(400, "No file", "The form has no file in the field file.", {
      errors: [{ pointer: "/file", detail: "required" }],
    });
  if (form.file.bytes.length > MOST_LIST_BYTES && !/\.json$/i.test(form.file.name)) throw tooLarge(MOST_LIST_BYTES);
  const text = (name: string) => form.fields.get(name) || undefined;
  const plain = {
    key: text("key"),
    rigId: text("rigId"),
    name: text("name"),
    kind: text("kind"),
    columns: readJsonField("columns", text("columns"), "a JSON list of meanings"),
    choices: readJsonField("choices", text("choices"), "a JSON object"),
  };
  const given = Object.fromEntries(Object.entries(plain).filter(([, value]) => value !== undefined));
  return {
    upload: { fileName: plainText(form.file.name), bytes: form.file.bytes },
    fields: accept(parse(ImportRequest, plainTexts(given))),
  };
};
