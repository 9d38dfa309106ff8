import { CommandsRequest, NewerQuery } from "@/contracts/requests";
import { type Parsed, parse } from "@/contracts/validate";
import type { DocumentStore } from "../services/document-store";
import type { ExportedFile } from "../services/exports";
import { accept, json, readJson, readQuery, route } from "./route";

/** The route that applies commands to a document of one kind. */
export const commandsRoute = <D, C>(store: DocumentStore<D, C>, parseAll: (values: readonly object[]) => Parsed<readonly C[]>) =>
  route(async ({ db, request, params }) => {
    const { base, batch, commands } = accept(parse(CommandsRequest, await readJson(request)));
    return json(await store.save(db, params.id ?? "studio", { base, batch, commands: accept(parseAll(commands)) }));
  });

/** The route that tells what came after a revision. */
export const newerRoute = <D, C>(store: DocumentStore<D, C>) =>
  route(async ({ db, params, url }) => {
    const { since } = readQuery(NewerQuery, url, { numbers: ["since"] });
    return json({ newer: await store.newer(db, params.id ?? "studio", since) });
  });

/** A file to be saved, under a name that every browser takes. */
export const attachment = (file: ExportedFile): Response => {
  const plain = file.fileName.replace(/[^\x20-\x7e]|["\\]/g, "_");
  const disposition = `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(file.fileName)}`;
  return new Response(file.body as BodyInit, { headers: { "content-type": file.contentType, "content-disposition": disposition, "cache-control": "no-store" } });
};
