import { applyPatches, type Draft, type Patch as ImmerPatch, produce } from "immer";
import { isReserved } from "../model/schema-parts";
import { type HandlerOf, type Patch, type RestoreCommand, refuse } from "./engine";
import { newlyBroken, type StandingRules, touchedOnly } from "./standing";

type Loose = Readonly<Record<string, unknown>>;

const asImmer = (patches: readonly Patch[]): ImmerPatch[] => patches.map((patch) => ({ ...patch, path: [...patch.path] }));

/** Steps of a path that are never taken: the schema, ids, and what is no field at all. */
const forbidden = (step: string): boolean => step === "schema" || step === "id" || isReserved(step);

/** The part of a schema that describes what lies one step further; none when the schema knows no such place. */
const stepInto = (schemas: readonly Loose[], step: string | number, at: unknown): readonly Loose[] =>
  schemas.flatMap((schema) => {
    const parts = [...((schema.anyOf ?? schema.allOf ?? []) as Loose[]), ...(schema.then ? [schema.then as Loose] : [])];
    if (parts.length) return stepInto(parts, step, at);
    if (Array.isArray(at)) return schema.items && typeof step === "number" ? [schema.items as Loose] : [];
    if (typeof step !== "string") return [];
    const properties = (schema.properties ?? {}) as Record<string, Loose>;
    if (Object.hasOwn(properties, step)) return [properties[step] as Loose];
    return typeof schema.additionalProperties === "object" && schema.additionalProperties ? [schema.additionalProperties as Loose] : [];
  });

/** The last step into a list: one of its places, the one behind its end, or a shorter length. A length beyond the list would make places of nothing, four billion of them if asked to. */
const inList = (list: readonly unknown[], { op, value }: Patch, step: string | number): boolean => {
  if (step === "length") return op === "replace" && typeof value === "number" && Number.isInteger(value) && value >= 0 && value <= list.length;
  return typeof step === "number" && Number.isInteger(step) && step >= 0 && step <= (op === "add" ? list.length : list.length - 1);
};

/**
 * Whether the place a patch leads to is there, and one that the schema of the document knows. Only its last step may be new, something must be put
 * there; root, schema and document id are not to be touched, and no table can go.
 */
const reachable = (doc: object, schema: Loose, patch: Patch): boolean => {
  const { path, op, value } = patch;
  if (op === "remove" ? path.length === 1 : value === undefined) return false;
  if (path.length === 0 || path.some((step) => forbidden(String(step)))) return false;
  let at: unknown = doc;
  let known: readonly Loose[] = [schema];
  for (const [depth, step] of path.entries()) {
    if (typeof at !== "object" || at === null) return false;
    const last = depth === path.length - 1;
    if (Array.isArray(at) && last) return known.length > 0 && inList(at, patch, step);
    known = stepInto(known, step, at);
    if (!known.length) return false;
    if (last) return op === "add" || Object.hasOwn(at, step);
    at = Object.hasOwn(at, step) ? (at as Record<string | number, unknown>)[step] : undefined;
  }
  return true;
};

interface Rules<D> extends StandingRules<D> {
  /** JSON Schema of the document: patches reach only what it knows. */
  readonly schema: object;
  /** Mends what taking back can leave next to what came since: run on what the patches left. */
  readonly settle?: (draft: Draft<D>, patches: readonly Patch[]) => void;
}

/** Patches are done one after the other, each looked at in the document that the ones before it left. */
const restored = <D extends { readonly id: string }>(doc: D, { schema }: Rules<D>, patches: readonly Patch[]): D | null => {
  let possible = true;
  const next = produce(doc, (draft) => {
    for (const patch of patches) {
      possible &&= reachable(draft, schema as Loose, patch);
      if (!possible) return;
      try {
        applyPatches(draft as object, asImmer([patch]));
      } catch {
        possible = false;
        return;
      }
    }
  });
  return possible ? next : null;
};

/** Undo as a command: the inverse patches of a gesture, held to schema and rules like any other edit. */
export const restoreHandler = <D extends { readonly id: string }>(rules: Rules<D>): HandlerOf<D, RestoreCommand> => ({
  check: (doc, { undoes, patches }) => {
    const { tables, faults, broken, settle } = rules;
    const next = restored(doc, rules, patches);
    if (!next) return refuse("missing", doc.id, `“${undoes}” can't be undone: what it changed is no longer there.`);
    const fits = faults(touchedOnly(next, tables, patches)).length === 0;
    const settled = fits && settle ? produce(next, (draft) => settle(draft, patches)) : next;
    return fits && !newlyBroken(broken, doc, settled) ? null : refuse("unfit", doc.id, `“${undoes}” can't be undone: something that came after it builds on it. Undo that first.`);
  },
  edit: (draft, { patches }) => {
    applyPatches(draft as object, asImmer(patches));
    rules.settle?.(draft, patches);
  },
  name: (_doc, { undoes }) => `Undo: ${undoes}`,
});
