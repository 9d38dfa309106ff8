import type { Reference } from "../model/describe/fields";
import { type DocumentDescription, fieldsOf, isOrdered, type TableDescription } from "../model/describe/table";

export type Loose = Readonly<Record<string, unknown>>;
export type Tables = Readonly<Record<string, Readonly<Record<string, Loose>>>>;

interface ReferenceOf {
  readonly field: string;
  readonly reference: Reference;
}

const kept = new WeakMap<TableDescription, Map<unknown, readonly ReferenceOf[]>>();

/** What entries of a kind refer to others by: read out of the description once. */
export const referencesOf = (table: TableDescription, entry: Loose): readonly ReferenceOf[] => {
  const kind = table.kinds ? entry.kind : null;
  const byKind = kept.get(table) ?? new Map<unknown, readonly ReferenceOf[]>();
  kept.set(table, byKind);
  const known = byKind.get(kind);
  if (known) return known;
  const found = Object.entries(fieldsOf(table, entry)).flatMap(([field, { references = [] }]) =>
    references.map((reference) => ({ field, reference })),
  );
  byKind.set(kind, found);
  return found;
};

export const targetsOf = ({ field, reference }: ReferenceOf, entry: Loose): readonly string[] =>
  (reference.ids as (value: unknown) => readonly string[])(entry[field]);

const keyOf = (table: string, id: string): string => `${table}/${id}`;
export const splitKey = (key: string): readonly [table: string, id: string] => {
  const at = key.indexOf("/");
  return [key.slice(0, at), key.slice(at + 1)];
};

const allTargets = (description: TableDescription, entry: Loose): readonly string[] => {
  const found = referencesOf(description, entry).flatMap((of) =>
    targetsOf(of, entry).map((id) => keyOf(of.reference.to, id)),
  );
  return description.alongside ? [...found, keyOf(description.alongside, String(entry.id))] : found;
};

/** The parent within which an entry stands in an order, as a key; null when it stands in none. */
const homeOf = (table: string, description: TableDescription, entry: Loose): string | null =>
  isOrdered(description, entry.kind)
    ? keyOf(table, description.order?.within ? String(entry[description.order.within]) : "")
    : null;

/**
 * Whether an edit of an entry changes what it refers to or where it stands; one that does not leaves the index as it
 * is.
 */
export const touchesIndex = (of: TableDescription, before: Loose | undefined, after: Loose | undefined): boolean => {
  if (!before || !after || before.order !== after.order) return true;
  const parent = of.order?.within;
  return (
    referencesOf(of, after).some(({ field }) => before[field] !== after[field]) ||
    Boolean(parent && before[parent] !== after[parent])
  );
};

interface Home {
  readonly ids: Set<string>;
  /** In their order; made when it is first asked for, and kept up from then on. */
  sorted: string[] | null;
}

const NONE: ReadonlySet<string> = new Set();

/**
 * What refers to what, and what stands where: kept beside a document and moved on with each of its edits. Building it
 * is linear in the document, moving it on in what was touched.
 */
export class Index {
  private readonly referrersOf = new Map<string, Set<string>>();
  private readonly homes = new Map<string, Home>();

  constructor(
    private readonly description: DocumentDescription,
    tables: Tables,
  ) {
    for (const [table, of] of Object.entries(description.tables))
      for (const entry of Object.values(tables[table] ?? {})) this.enter(table, of, entry);
  }

  referrers(table: string, id: string): ReadonlySet<string> {
    return this.referrersOf.get(keyOf(table, id)) ?? NONE;
  }

  /** Ids of what stands in one order with an entry, in that order. */
  siblings(table: string, parent: string | null, orderOf: (id: string) => string): readonly string[] {
    const home = this.homes.get(keyOf(table, this.description.tables[table]?.order?.within ? String(parent) : ""));
    if (!home) return [];
    home.sorted ??= [...home.ids].sort((a, b) => compare([orderOf(a), a], [orderOf(b), b]));
    return home.sorted;
  }

  /** An entry is another one now, came or went. Answers what it no longer refers to. */
  move(
    table: string,
    before: Loose | undefined,
    after: Loose | undefined,
    orderOf: (id: string) => string,
  ): readonly string[] {
    const of = this.description.tables[table];
    if (!of || !touchesIndex(of, before, after)) return [];
    const [was, is] = [before ? allTargets(of, before) : [], after ? allTargets(of, after) : []];
    const key = keyOf(table, String((after ?? before)?.id));
    const released = was.filter((target) => !is.includes(target));
    for (const target of released) this.referrersOf.get(target)?.delete(key);
    for (const target of is) this.refer(target, key);
    this.reseat(table, of, { before, after, orderOf });
    return released;
  }

  private refer(target: string, key: string): void {
    const there = this.referrersOf.get(target);
    if (there) there.add(key);
    else this.referrersOf.set(target, new Set([key]));
  }

  private enter(table: string, of: TableDescription, entry: Loose): void {
    const id = String(entry.id);
    for (const target of allTargets(of, entry)) this.refer(target, keyOf(table, id));
    const home = homeOf(table, of, entry);
    if (home !== null) this.homeAt(home).ids.add(id);
  }

  private homeAt(key: string): Home {
    const there = this.homes.get(key);
    if (there) return there;
    const made: Home = { ids: new Set(), sorted: null };
    this.homes.set(key, made);
    return made;
  }

  private reseat(
    table: string,
    of: TableDescription,
    {
      before,
      after,
      orderOf,
    }: {
      readonly before: Loose | undefined;
      readonly after: Loose | undefined;
      readonly orderOf: (id: string) => string;
    },
  ): void {
    const [from, to] = [before ? homeOf(table, of, before) : null, after ? homeOf(table, of, after) : null];
    if (from === to && before?.order === after?.order) return;
    if (from !== null && before) {
      const home = this.homeAt(from);
      home.ids.delete(String(before.id));
      if (home.sorted) take(home.sorted, String(before.order), String(before.id), orderOf);
    }
    if (to !== null && after) {
      const home = this.homeAt(to);
      home.ids.add(String(after.id));
      if (home.sorted)
        home.sorted.splice(placeIn(home.sorted, String(after.order), String(after.id), orderOf), 0, String(after.id));
    }
  }
}

const compare = ([a, idA]: readonly [string, string], [b, idB]: readonly [string, string]): number =>
  a < b ? -1 : a > b ? 1 : idA < idB ? -1 : idA > idB ? 1 : 0;

/** Where an id of an order key stands among others, or would: halved until it is found. */
const placeIn = (sorted: readonly string[], order: string, id: string, orderOf: (id: string) => string): number => {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const there = sorted[middle] ?? "";
    if (compare([there === id ? order : orderOf(there), there], [order, id]) < 0) low = middle + 1;
    else high = middle;
  }
  return low;
};

const take = (sorted: string[], order: string, id: string, orderOf: (id: string) => string): void => {
  const at = placeIn(sorted, order, id, orderOf);
  if (sorted[at] === id) sorted.splice(at, 1);
};

const indexes = new WeakMap<object, Index>();

/**
 * The index of a document, taken from beside it or built; whoever takes it moves it on and keeps it beside the newer
 * document.
 */
export const takeIndex = (description: DocumentDescription, doc: object): Index => {
  const there = indexes.get(doc);
  indexes.delete(doc);
  return there ?? new Index(description, doc as Tables);
};
export const hasIndex = (doc: object): boolean => indexes.has(doc);
export const keepIndex = (doc: object, index: Index): void => void indexes.set(doc, index);
