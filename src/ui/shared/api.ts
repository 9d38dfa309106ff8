import { nanoid } from "nanoid";
import type {
  BinAnswer,
  BroughtBack,
  ColourUses,
  HistoryAnswer,
  Imported,
  ImportPreview,
  LessonsAnswer,
  Life,
  NewerAnswer,
  Problem,
  RevisionState,
  RigList,
  RigState,
  RigTouches,
  SavedOn,
  SessionList,
  StudioState,
  TemplateList,
  TemplateState,
  Version,
} from "@/contracts/answers";
import { type Deletable, KINDS, type What } from "@/contracts/kinds";
import type { Command } from "@/core/commands/command";
import type { ImportChoices } from "@/core/formats/input-list/import-choices";
import { whoIsHere } from "./who";

/** What the service refused, or why it could not be reached (status 0). */
export class ServiceError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly problem: Problem | null = null,
  ) {
    super(message);
  }

  /** Away: not reached, or its database is. Trying again later makes sense. */
  get away(): boolean {
    return this.status === 0 || this.status >= 500;
  }
}

const TIMEOUT_MS = 15_000;

const call = async (path: string, init: RequestInit = {}): Promise<Response> => {
  let response: Response;
  try {
    response = await fetch(path, { ...init, signal: init.signal ?? AbortSignal.timeout(TIMEOUT_MS) });
  } catch {
    throw new ServiceError(0, "The server can't be reached.");
  }
  if (response.ok) return response;
  const problem = (await response.json().catch(() => null)) as Problem | null;
  throw new ServiceError(response.status, problem?.detail ?? `The server answered with ${response.status}.`, problem);
};

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { "content-type": "application/json" },
  body: JSON.stringify(body),
});
const read = async <T>(response: Promise<Response>): Promise<T> => (await response).json() as Promise<T>;

interface Filter {
  readonly query?: string;
  readonly kind?: string;
  readonly cursor?: string;
}

interface NewTemplateFields {
  readonly name?: string;
  readonly kind?: string;
  readonly rigId?: string;
  readonly copyOf?: string;
  readonly copyRevision?: number;
  readonly asTemplate?: boolean;
  readonly starter?: string;
}

export interface VersionFields {
  readonly revision?: number;
  readonly name: string;
  readonly note?: string;
  readonly tried?: string;
  readonly by?: string;
}

export interface SessionFields {
  readonly templateId: string;
  readonly revision?: number;
  readonly name: string;
  readonly date: string;
  readonly place?: string;
  readonly rigId?: string;
  readonly people?: readonly string[];
  readonly drop?: readonly string[];
}

interface ImportFields {
  readonly key?: string;
  readonly file: File;
  readonly rigId?: string;
  readonly name?: string;
  readonly kind?: string;
  readonly columns?: readonly string[];
  readonly choices?: ImportChoices;
}

const importForm = ({ file, columns, choices, ...fields }: ImportFields): FormData => {
  const form = new FormData();
  form.set("file", file);
  for (const [key, value] of Object.entries(fields)) if (value) form.set(key, value);
  if (columns) form.set("columns", JSON.stringify(columns));
  if (choices) form.set("choices", JSON.stringify(choices));
  return form;
};

interface Batch {
  readonly base: number;
  readonly baseSavedAt: string;
  readonly batch: string;
  readonly made?: number;
  readonly name?: string;
  /** Who does it, where this browser was given a name. */
  readonly by?: string;
  readonly commands: readonly Command[];
}

/** Saving and catching up, the same for every kind of document. */
const remoteOf = <S>(kind: What, path: (id: string) => string = KINDS[kind].path) => ({
  kind,
  load: (id: string) => read<S>(call(path(id))),
  save: (id: string, body: Batch) => read<SavedOn>(call(`${path(id)}/commands`, json("POST", body))),
  newer: (id: string, since: number) => read<NewerAnswer>(call(`${path(id)}/newer?since=${since}`)),
});

/**
 * Keys of what was asked to be made and not answered yet: the same thing asked for again has the same key, so that it
 * is not made twice.
 */
const keys = new Map<string, string>();

const makeOnce = async <T>(about: readonly unknown[], make: (key: string) => Promise<T>): Promise<T> => {
  const name = JSON.stringify(about);
  const key = keys.get(name) ?? nanoid(20);
  keys.set(name, key);
  const made = await make(key);
  keys.delete(name);
  return made;
};

const aboutFile = ({ name, size, lastModified }: File) => [name, size, lastModified];

export const api = {
  listTemplates: (filter: Filter, signal?: AbortSignal) => {
    const query = new URLSearchParams(Object.entries(filter).filter(([, value]) => value) as [string, string][]);
    return read<TemplateList>(call(`/api/templates?${query}`, signal ? { signal } : {}));
  },
  listRigs: () => read<RigList>(call("/api/rigs")),
  createTemplate: (fields: NewTemplateFields) =>
    makeOnce(["template", fields], (key) =>
      read<TemplateState>(call("/api/templates", json("POST", { ...fields, key }))),
    ),
  loadTemplate: (id: string) => read<TemplateState>(call(`/api/templates/${id}`)),
  deleted: (what: Deletable, id: string) => {
    const by = whoIsHere();
    return call(`${KINDS[what].path(id)}${by ? `?by=${encodeURIComponent(by)}` : ""}`, { method: "DELETE" });
  },
  bin: () => read<BinAnswer>(call("/api/bin")),
  emptyBin: (upTo: string) =>
    read<{ readonly gone: number }>(call(`/api/bin?upTo=${encodeURIComponent(upTo)}`, { method: "DELETE" })),
  bringRigBack: (id: string) => read<RigState>(call(`/api/rigs/${id}/restore`, { method: "POST" })),
  bringBack: (id: string) => read<BroughtBack>(call(`/api/templates/${id}/restore`, { method: "POST" })),
  templates: remoteOf<TemplateState>("template"),
  rigs: remoteOf<RigState>("rig"),
  studio: remoteOf<StudioState>("studio"),
  loadRig: (id: string) => read<RigState>(call(`/api/rigs/${id}`)),
  createRig: (fields: { readonly name?: string; readonly copyOf?: string }) =>
    makeOnce(["rig", fields], (key) => read<RigState>(call("/api/rigs", json("POST", { ...fields, key })))),
  importRig: (file: File) =>
    makeOnce(["rig", aboutFile(file)], (key) =>
      read<RigState>(call("/api/rigs/import", { method: "POST", body: importForm({ file, key }) })),
    ),
  rigTouches: (id: string) => read<RigTouches>(call(`/api/rigs/${id}/touches`)),
  colourUses: (colour: string) => read<ColourUses>(call(`/api/studio/uses?colour=${encodeURIComponent(colour)}`)),
  life: (id: string) => read<Life>(call(`/api/templates/${id}/life`)),
  lessons: (id: string) => read<LessonsAnswer>(call(`/api/templates/${id}/lessons`)),
  keepVersion: (id: string, fields: VersionFields) =>
    read<Version>(call(`/api/templates/${id}/versions`, json("POST", fields))),
  dropVersion: (id: string, revision: number) =>
    call(`/api/templates/${id}/versions/${revision}`, { method: "DELETE" }),
  history: (id: string, filter: { readonly before?: number; readonly query?: string }) => {
    const query = new URLSearchParams(
      Object.entries(filter).flatMap(([key, value]) => (value ? [[key, String(value)]] : [])),
    );
    return read<HistoryAnswer>(call(`/api/templates/${id}/revisions?${query}`));
  },
  revision: (id: string, revision: number) => read<RevisionState>(call(`/api/templates/${id}/revisions/${revision}`)),
  listSessions: (filter: { readonly query?: string; readonly cursor?: string }, signal?: AbortSignal) => {
    const query = new URLSearchParams(Object.entries(filter).filter(([, value]) => value));
    return read<SessionList>(call(`/api/sessions?${query}`, signal ? { signal } : {}));
  },
  startSession: (fields: SessionFields) =>
    makeOnce(["session", fields], (key) =>
      read<TemplateState>(call("/api/sessions", json("POST", { ...fields, key }))),
    ),
  loadStudio: () => read<StudioState>(call("/api/studio")),
  previewImport: (fields: ImportFields, signal?: AbortSignal) =>
    read<ImportPreview>(
      call("/api/templates/import?preview=true", {
        method: "POST",
        body: importForm(fields),
        ...(signal ? { signal } : {}),
      }),
    ),
  importTemplate: ({ file, ...fields }: ImportFields) =>
    makeOnce(["list", aboutFile(file), fields], (key) =>
      read<Imported>(call("/api/templates/import", { method: "POST", body: importForm({ file, ...fields, key }) })),
    ),
};
