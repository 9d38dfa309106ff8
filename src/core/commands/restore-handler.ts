import { applyPatches, enablePatches, type Patch as ImmerPatch } from "immer";
import type { Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import type { Patch } from "./command";
import { type Handlers, refuse } from "./handler";
import { brokenInvariants } from "./invariants";

enablePatches();

const asImmer = (patches: readonly Patch[]): ImmerPatch[] => patches.map((patch) => ({ ...patch, path: [...patch.path] }));

const forbidden = new Set(["__proto__", "prototype", "constructor", "schema", "id"]);

/** Whether the place a patch leads to is there. Only its last step may be new, and the root, schema and document id are not to be touched. */
const reachable = (doc: Template, { path, op }: Patch): boolean => {
  if (path.length === 0 || path.some((step) => forbidden.has(String(step)))) return false;
  let at: unknown = doc;
  for (const [depth, step] of path.entries()) {
    if (typeof at !== "object" || at === null) return false;
    if (depth === path.length - 1) return op === "add" || Object.hasOwn(at, step);
    at = (at as Record<string | number, unknown>)[step];
  }
  return true;
};

/**
 * The document with only those lines, channels and folders that the patches touch. The others were held to the schema when they came in,
 * so that taking back a small edit of a large template does not cost the whole of it.
 */
const touchedOnly = (next: Template, patches: readonly Patch[]): Template => {
  const touched = (table: "lines" | "channels" | "folders") => {
    if (patches.some((patch) => patch.path[0] === table && patch.path.length === 1)) return next[table];
    const ids = new Set(patches.flatMap((patch) => (patch.path[0] === table ? [String(patch.path[1])] : [])));
    return Object.fromEntries(Object.entries(next[table]).filter(([id]) => ids.has(id)));
  };
  return { ...next, lines: touched("lines"), channels: touched("channels"), folders: touched("folders") };
};

const restored = (doc: Template, patches: readonly Patch[]): Template | null => {
  if (!patches.every((patch) => reachable(doc, patch))) return null;
  try {
    return applyPatches(doc, asImmer(patches));
  } catch {
    return null;
  }
};

export const restoreHandlers: Handlers<"document"> = {
  "document.restore": {
    check: (doc, { undoes, patches }) => {
      const next = restored(doc, patches);
      if (!next) return refuse("missing", doc.id, `“${undoes}” can't be undone: what it changed is no longer there.`);
      return templateFaults(touchedOnly(next, patches)).length || brokenInvariants(next).length
        ? refuse("unfit", doc.id, `“${undoes}” can't be undone: something that came after it builds on it. Undo that first.`)
        : null;
    },
    edit: (draft, { patches }) => {
      applyPatches(draft, asImmer(patches));
    },
    name: (_doc, { undoes }) => `Undo: ${undoes}`,
  },
};
