import type { Imported, ImportPreview, NewerRevision, Problem, RigList, Saved, TemplateList, TemplateState } from "@/contracts/answers";
import type { Command } from "@/core/commands/command";

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

const json = (method: string, body: unknown): RequestInit => ({ method, headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
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
}

interface ImportFields {
  readonly file: File;
  readonly rigId?: string;
  readonly name?: string;
  readonly kind?: string;
  readonly columns?: readonly string[];
}

const importForm = ({ file, columns, ...fields }: ImportFields): FormData => {
  const form = new FormData();
  form.set("file", file);
  for (const [key, value] of Object.entries(fields)) if (value) form.set(key, value);
  if (columns) form.set("columns", JSON.stringify(columns));
  return form;
};

export const api = {
  listTemplates: (filter: Filter, signal?: AbortSignal) => {
    const query = new URLSearchParams(Object.entries(filter).filter(([, value]) => value) as [string, string][]);
    return read<TemplateList>(call(`/api/templates?${query}`, signal ? { signal } : {}));
  },
  listRigs: () => read<RigList>(call("/api/rigs")),
  createTemplate: (fields: NewTemplateFields) => read<TemplateState>(call("/api/templates", json("POST", fields))),
  loadTemplate: (id: string) => read<TemplateState>(call(`/api/templates/${id}`)),
  deleteTemplate: (id: string) => call(`/api/templates/${id}`, { method: "DELETE" }),
  bringBack: (id: string) => read<TemplateState>(call(`/api/templates/${id}/restore`, { method: "POST" })),
  save: (id: string, body: { readonly base: number; readonly batch?: string; readonly commands: readonly Command[] }) =>
    read<Saved>(call(`/api/templates/${id}/commands`, json("POST", body))),
  newer: (id: string, since: number) => read<{ readonly newer: readonly NewerRevision[] }>(call(`/api/templates/${id}/newer?since=${since}`)),
  previewImport: (fields: ImportFields, signal?: AbortSignal) =>
    read<ImportPreview>(call("/api/templates/import?preview=true", { method: "POST", body: importForm(fields), ...(signal ? { signal } : {}) })),
  importTemplate: (fields: ImportFields) => read<Imported>(call("/api/templates/import", { method: "POST", body: importForm(fields) })),
};
