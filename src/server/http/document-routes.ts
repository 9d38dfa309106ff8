import { NewerQuery } from "@/contracts/requests";
import type { DocumentStore } from "../services/document-store";
import type { ExportedFile } from "../services/exports";
import { readBytes } from "./read-body";
import { json, jsonText, readQuery, route } from "./route";
import { MOST_COMMAND_BYTES, takeCommands } from "./take-commands";

/** The route that tells a document as it stands. */
export const stateRoute = (store: DocumentStore) =>
  route(async ({ db, params }) => jsonText(await store.answer(db, params.id ?? "studio")));

/** The route that applies commands to a document of one kind, where the framework is asked. */
export const commandsRoute =
  (store: DocumentStore) =>
  async (request: Request, context: { readonly params: Promise<Record<string, string>> }): Promise<Response> => {
    const { body, ...init } = await takeCommands({
      what: store.what,
      id: (await context.params)?.id ?? "studio",
      header: (name) => request.headers.get(name),
      text: async () => Buffer.from(await readBytes(request, MOST_COMMAND_BYTES)).toString(),
      signal: request.signal,
    });
    return new Response(body, init);
  };

/** The route that tells what came after a revision. */
export const newerRoute = (store: DocumentStore) =>
  route(async ({ db, params, url }) => {
    const { since } = readQuery(NewerQuery, url, { numbers: ["since"] });
    return json(await store.newer(db, params.id ?? "studio", since));
  });

/** A file to be saved, under a name that every browser takes. */
export const attachment = (file: ExportedFile): Response => {
  const plain = file.fileName.replace(/[^\x20-\x7e]|["\\]/g, "_");
  const disposition = `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(file.fileName)}`;
  return new Response(file.body as BodyInit, {
    headers: { "content-type": file.contentType, "content-disposition": disposition, "cache-control": "no-store" },
  });
};
