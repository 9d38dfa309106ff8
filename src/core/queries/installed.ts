import { plain } from "../model/families";
import type { Rig } from "../model/rig";
import { entriesOf, putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";

/**
 * Versions by their numbers: 1.10 is newer than 1.9. Below 0 where the first is older. What is no number counts as 0.
 */
export const compareVersions = (a: string, b: string): number => {
  const [left, right] = [a, b].map((version) =>
    version.split(".", 8).map((part) => Number.parseInt(part, 10) || 0),
  ) as [number[], number[]];
  for (let at = 0; at < Math.max(left.length, right.length); at++) {
    const by = (left[at] ?? 0) - (right[at] ?? 0);
    if (by) return by;
  }
  return 0;
};

export interface Need {
  readonly name: string;
  /** The newest version that is asked for; empty for any. */
  readonly version: string;
  readonly from: string;
  readonly state: "there" | "older" | "missing";
  /** The version that is installed. */
  readonly has: string;
  readonly processors: readonly Processor[];
}

/** What processors ask for by name, each once, and whether the rig has it in a version that will do. Sorted by name. */
export const needsOf = (processors: readonly Processor[], rig: Rig): readonly Need[] => {
  const asked = new Map<string, Processor[]>();
  for (const processor of processors) {
    const key = plain(processor.installed);
    if (key) putInto(asked, key, processor);
  }
  return [...asked]
    .map(([key, askers]): Need => {
      const version = askers.reduce(
        (newest, one) => (compareVersions(one.version, newest) > 0 ? one.version : newest),
        "",
      );
      const there = entriesOf(rig.processors)
        .filter(({ name }) => plain(name) === key)
        .sort((a, b) => compareVersions(b.version, a.version))[0];
      const state = !there ? "missing" : compareVersions(there.version, version) < 0 ? "older" : "there";
      return {
        name: askers[0]?.installed ?? key,
        version,
        from: askers.find(({ from }) => from)?.from ?? "",
        state,
        has: there?.version ?? "",
        processors: askers,
      };
    })
    .sort((a, b) => a.name.localeCompare(b.name));
};
