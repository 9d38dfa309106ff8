import type { DocumentDescription } from "../model/describe/table";
import { differingIds, knownToDiffer } from "../model/table";

type Loose = Readonly<Record<string, unknown>>;

/**
 * How one document differs from another, entry by entry: what is new or another one, what is gone, and fields of the
 * document itself.
 */
export interface Difference {
  readonly header: Loose;
  readonly tables: Readonly<
    Record<string, { readonly put: readonly { readonly id: string }[]; readonly gone: readonly string[] }>
  >;
}

type Tables = Readonly<Record<string, Readonly<Record<string, { readonly id: string }>>>>;

/**
 * The difference of two documents of which one came from the other: what both have in common is known by being the very
 * same. Linear in the entries of tables that differ.
 */
export const differenceOf = (description: DocumentDescription, before: object, after: object): Difference => {
  const [was, is] = [before as unknown as Loose & Tables, after as unknown as Loose & Tables];
  const header = Object.keys(description.header).flatMap((field) =>
    was[field] === is[field] ? [] : [[field, is[field]] as const],
  );
  const tables = Object.keys(description.tables).flatMap((table) => {
    const [old, now] = [was[table] ?? {}, is[table] ?? {}];
    if (old === now) return [];
    const ids = differingIds(old, now);
    const put = ids.flatMap((id) => now[id] ?? []);
    return [[table, { put, gone: ids.filter((id) => now[id] === undefined) }] as const];
  });
  return { header: Object.fromEntries(header), tables: Object.fromEntries(tables) };
};

/** A document with a difference to it done: entries that are not in it stay the very same. */
export const withDifference = <D extends object>(before: D, { header, tables }: Difference): D => {
  const next: Record<string, unknown> = { ...before, ...header };
  for (const [table, { put, gone }] of Object.entries(tables)) {
    const entries: Record<string, unknown> = { ...(before as unknown as Tables)[table] };
    for (const id of gone) delete entries[id];
    for (const entry of put) entries[entry.id] = entry;
    const was = (before as unknown as Tables)[table];
    if (was) knownToDiffer(was, entries, [...put.map(({ id }) => id), ...gone]);
    next[table] = entries;
  }
  return next as D;
};
