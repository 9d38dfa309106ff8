import { generateNKeysBetween } from "fractional-indexing";
import { type Loose, tableOf } from "./loose";

/**
 * Whole numbers by which entries stood in an order become keys between which others can be put: apart for each parent,
 * as they stood.
 */
export const keyed = (value: unknown, within: (entry: Loose) => string | null = () => ""): Record<string, Loose> => {
  const table = tableOf(value);
  const homes = new Map<string, { readonly key: string; readonly order: number }[]>();
  for (const [key, entry] of Object.entries(table)) {
    const home = within(entry);
    if (home === null) continue;
    const there = homes.get(home) ?? [];
    there.push({ key, order: Number(entry.order) });
    homes.set(home, there);
  }
  const keys = new Map<string, string>();
  for (const standing of homes.values()) {
    const made = generateNKeysBetween(null, null, standing.length);
    for (const [at, { key }] of standing.sort((a, b) => a.order - b.order || (a.key < b.key ? -1 : 1)).entries())
      keys.set(key, made[at] ?? "");
  }
  return Object.fromEntries(
    Object.entries(table).map(([key, entry]) => [key, keys.has(key) ? { ...entry, order: keys.get(key) } : entry]),
  );
};

/** An entry with a field under another name, where it stood. */
export const renamedField = (entry: Loose, from: string, to: string): Loose =>
  Object.fromEntries(Object.entries(entry).map(([field, value]) => [field === from ? to : field, value]));
