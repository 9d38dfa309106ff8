import type { Patch } from "../commands/command";
import type { Change } from "./change";

/** What is chosen, with all that it needs and that needs in turn. Linear. */
export const withNeeds = (changes: readonly Change[], chosen: Iterable<string>): ReadonlySet<string> => {
  const byId = new Map(changes.map((change) => [change.id, change]));
  const found = new Set([...chosen].filter((id) => byId.has(id)));
  for (const id of found) for (const need of byId.get(id)?.needs ?? []) found.add(need);
  return found;
};

/** What of those can't be left once some are taken away: whatever needs one of them. Linear in the needs. */
export const withoutNeeding = (
  changes: readonly Change[],
  chosen: ReadonlySet<string>,
  left: string,
): ReadonlySet<string> => {
  const gone = new Set([left]);
  for (const away of gone)
    for (const { id, needs } of changes) if (chosen.has(id) && needs.includes(away)) gone.add(id);
  return new Set([...chosen].filter((id) => !gone.has(id)));
};

/** The patches of all changes: they give the other document. */
export const allPatches = (changes: readonly Change[]): readonly Patch[] =>
  patchesOf(
    changes,
    changes.map(({ id }) => id),
  );

const isCarried = ({ id, quiet, needs }: Change, found: ReadonlySet<string>, isAll: boolean): boolean =>
  found.has(id) || (quiet === "with" && needs.every((need) => found.has(need))) || (quiet === "all" && isAll);

/**
 * The patches that carry what is chosen, with what it needs, onto the document that the changes were worked out for.
 * What two of them do alike is done once. None chosen: none.
 */
export const patchesOf = (changes: readonly Change[], chosen: Iterable<string>): readonly Patch[] => {
  const found = withNeeds(changes, chosen);
  if (!found.size) return [];
  const isAll = changes.every(({ id, quiet }) => quiet !== null || found.has(id));
  const patches = new Map<string, Patch>();
  for (const change of changes)
    if (isCarried(change, found, isAll))
      for (const patch of change.patches) patches.set(JSON.stringify([patch.op, ...patch.path]), patch);
  return [...patches.values()];
};
