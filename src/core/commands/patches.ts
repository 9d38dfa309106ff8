import type { Patch } from "./command";

type Mutable = Record<string, unknown>;

/** Does a patch in a document that nobody else holds. Throws where it leads to nothing: a saved revision never does. */
const patchIn = (doc: Mutable, { op, path, value }: Patch): void => {
  const last = path.at(-1);
  let at = doc;
  for (const step of path.slice(0, -1)) {
    const next = at[step];
    if (typeof next !== "object" || next === null)
      throw new Error(`expected something at ${path.join("/")}, got nothing at ${step}`);
    at = next as Mutable;
  }
  if (last === undefined) throw new Error("expected a patch with a path, got none");
  if (op === "remove") delete at[last];
  else at[last] = value;
};

/**
 * A document as it was after further revisions: their patches one after the other, in the document itself. It asks for
 * no description and no version, so that what an older Wandel kept is put together as it was, and brought up
 * afterwards. Linear in the patches.
 */
export const patchAll = (doc: object, sets: readonly (readonly Patch[])[]): void => {
  for (const patches of sets) for (const patch of patches) patchIn(doc as Mutable, patch);
};
