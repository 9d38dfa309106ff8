import { perDocument } from "./per-document";
/** Entries by id. */
export type Table<K extends string, T> = Readonly<Record<K, T>>;

/** All entries of a table. Object.values loses the key's brand but not the value's type. */
export const entriesOf = <T>(table: Readonly<Record<string, T>>): T[] => Object.values(table);

const listed = perDocument((table: Readonly<Record<string, unknown>>): readonly unknown[] => Object.values(table));

/**
 * The same of a table that is not changed any more: the very same list for as long as the table lives, as going through
 * an object of thousands costs more than what is looked for in it.
 */
export const listOf = <T>(table: Readonly<Record<string, T>>): readonly T[] => listed(table) as readonly T[];

/** Whether two lists hold the very same, one by one. */
export const sameList = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((one, at) => one === b[at]);

/** Puts something into the group of a key, and makes the group where it is the first. */
export const putInto = <K, T>(groups: Map<K, T[]>, key: K, one: T): void => {
  const there = groups.get(key);
  if (there) there.push(one);
  else groups.set(key, [one]);
};

let compared: { readonly before: object; readonly after: object; readonly ids: readonly string[] } | null = null;

/**
 * The ids under which two tables have something else: other, new or gone. Linear, and cheap: nearly all entries are the
 * very same. The last answer is at hand, since several ask for it in turn.
 */
export const differingIds = <T>(
  before: Readonly<Record<string, T>>,
  after: Readonly<Record<string, T>>,
): readonly string[] => {
  if (before === after) return [];
  if (compared?.before === before && compared.after === after) return compared.ids;
  const ids: string[] = [];
  for (const id in after) if (after[id] !== before[id]) ids.push(id);
  for (const id in before) if (after[id] === undefined) ids.push(id);
  compared = { before, after, ids };
  return ids;
};

/** The keys under which two maps have something else. */
export const differingKeys = <K, T>(before: ReadonlyMap<K, T>, after: ReadonlyMap<K, T>): ReadonlySet<K> => {
  const found = new Set<K>();
  if (before === after) return found;
  for (const [key, value] of after) if (before.get(key) !== value) found.add(key);
  for (const key of before.keys()) if (!after.has(key)) found.add(key);
  return found;
};

/** Says beforehand under which ids two tables differ, where whoever made the one from the other knows. */
export const knownToDiffer = (before: object, after: object, ids: readonly string[]): void => {
  compared = { before, after, ids };
};

/** More than so many changes, and what is kept of a table is made anew. */
const FEW = 16;

/**
 * Keeps what is made of a table for as long as the very table lives, and makes that of the next one from that of the
 * last where `step` can: it is given what was and what is under each id that differs, and answers null when it can't.
 */
export const stepwise = <T, R>(
  make: (table: Readonly<Record<string, T>>) => R,
  step: (last: R, changes: readonly (readonly [T, T])[]) => R | null,
) => {
  let last: { readonly table: Readonly<Record<string, T>>; readonly value: R } | null = null;
  const next = (table: Readonly<Record<string, T>>): R => {
    if (!last) return make(table);
    const before = last;
    const ids = differingIds(before.table, table);
    const changes =
      ids.length > FEW
        ? []
        : ids.flatMap((id) =>
            before.table[id] !== undefined && table[id] !== undefined ? [[before.table[id], table[id]] as const] : [],
          );
    return (changes.length === ids.length ? step(before.value, changes) : null) ?? make(table);
  };
  return perDocument((table: Readonly<Record<string, T>>): R => {
    const value = next(table);
    last = { table, value };
    return value;
  });
};

/** A list in which some are replaced by others, each at the place of the one before; null when one is not there. */
export const replacedIn = <T>(list: readonly T[], changes: readonly (readonly [T, T])[]): readonly T[] | null => {
  const next = list.slice();
  for (const [was, is] of changes) {
    const at = next.indexOf(was);
    if (at < 0) return null;
    next[at] = is;
  }
  return next;
};

interface Ordered {
  readonly id: string;
  readonly order: string;
}

const asText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/**
 * Keys of an order are compared as plain text, never by the rules of a language. Entries of two parents may have the
 * same: these go by their ids, and not by how a table came about.
 */
export const byOrder = (a: Ordered, b: Ordered): number => asText(a.order, b.order) || asText(a.id, b.id);

/** Entries of a table in their order. */
export const inOrder = <T extends Ordered>(table: Readonly<Record<string, T>>): T[] =>
  Object.values(table).sort(byOrder);
