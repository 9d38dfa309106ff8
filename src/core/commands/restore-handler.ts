import { applyPatches, type Patch as ImmerPatch } from "immer";
import { isReserved } from "../model/schema-parts";
import type { Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import { type HandlerOf, type Patch, type RestoreCommand, refuse } from "./engine";
import { brokenInvariants } from "./invariants";

const asImmer = (patches: readonly Patch[]): ImmerPatch[] => patches.map((patch) => ({ ...patch, path: [...patch.path] }));

/** Steps of a path that are never taken: the schema, ids, and what is no field at all. */
const forbidden = (step: string): boolean => step === "schema" || step === "id" || isReserved(step);

/** Whether the place a patch leads to is there. Only its last step may be new, something must be put there; root, schema and document id are not to be touched, and no table can go. */
const reachable = (doc: object, { path, op, value }: Patch): boolean => {
  if (op === "remove" ? path.length === 1 : value === undefined) return false;
  if (path.length === 0 || path.some((step) => forbidden(String(step)))) return false;
  let at: unknown = doc;
  for (const [depth, step] of path.entries()) {
    if (typeof at !== "object" || at === null) return false;
    if (depth === path.length - 1) return op === "add" || Object.hasOwn(at, step);
    at = (at as Record<string | number, unknown>)[step];
  }
  return true;
};

/**
 * The document with only those entries of its tables that the patches touch. The others were held to the schema when they came in,
 * so that taking back a small edit of a large document does not cost the whole of it.
 */
const touchedOnly = <D extends object>(next: D, tables: readonly (keyof D & string)[], patches: readonly Patch[]): D => {
  const touched = (table: keyof D & string) => {
    const whole = next[table];
    if (typeof whole !== "object" || whole === null || patches.some((patch) => patch.path[0] === table && patch.path.length === 1)) return whole;
    const ids = new Set(patches.flatMap((patch) => (patch.path[0] === table ? [String(patch.path[1])] : [])));
    return Object.fromEntries(Object.entries(whole).filter(([id]) => ids.has(id)));
  };
  return { ...next, ...Object.fromEntries(tables.map((table) => [table, touched(table)])) };
};

const restored = <D extends object>(doc: D, patches: readonly Patch[]): D | null => {
  if (!patches.every((patch) => reachable(doc, patch))) return null;
  try {
    return applyPatches(doc, asImmer(patches));
  } catch {
    return null;
  }
};

interface Rules<D> {
  readonly tables: readonly (keyof D & string)[];
  /** Where a document departs from its schema. */
  readonly faults: (doc: D) => readonly unknown[];
  /** What must hold in every revision and does not. */
  readonly broken: (doc: D) => readonly string[];
}

/** Undo as a command: the inverse patches of a gesture, held to schema and rules like any other edit. */
export const restoreHandler = <D extends { readonly id: string }>({ tables, faults, broken }: Rules<D>): HandlerOf<D, RestoreCommand> => ({
  check: (doc, { undoes, patches }) => {
    const next = restored(doc, patches);
    if (!next) return refuse("missing", doc.id, `“${undoes}” can't be undone: what it changed is no longer there.`);
    return faults(touchedOnly(next, tables, patches)).length || broken(next).length
      ? refuse("unfit", doc.id, `“${undoes}” can't be undone: something that came after it builds on it. Undo that first.`)
      : null;
  },
  edit: (draft, { patches }) => {
    applyPatches(draft as object, asImmer(patches));
  },
  name: (_doc, { undoes }) => `Undo: ${undoes}`,
});

export const templateRestore = restoreHandler<Template>({ tables: ["lines", "channels", "folders", "accepted"], faults: templateFaults, broken: brokenInvariants });
