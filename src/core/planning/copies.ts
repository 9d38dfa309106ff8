import { type Loose, referencesOf, splitKey, type Tables, targetsOf } from "../commands/references";
import { Work } from "../commands/work";
import type { DocumentDescription, TableDescription } from "../model/describe/table";
import type { IdSource } from "../model/ids";

/** Where a copy begins: entries of one table, and of these all. */
interface Root {
  readonly table: string;
  readonly ids: readonly string[];
}

export interface Copies {
  /**
   * Copies by table, without their places: those come with the command that adds them. In the order in which their
   * originals stand.
   */
  readonly entries: Readonly<Record<string, readonly (Loose & { readonly id: string })[]>>;
  /** The id of the copy of each that was copied, by `table/id`. */
  readonly idOf: ReadonlyMap<string, string>;
}

/** Whether an entry is a part of another, by a reference that says so: it comes along when that is copied. */
const comesWith = (
  of: TableDescription,
  entry: Loose,
  { table, id }: { readonly table: string; readonly id: string },
): boolean =>
  (of.alongside === table && entry.id === id) ||
  referencesOf(of, entry).some(
    (reference) =>
      reference.reference.brings && reference.reference.to === table && targetsOf(reference, entry).includes(id),
  );

/** The same value with other ids in it, wherever it names one of them. */
export const renamedIn = (value: unknown, to: ReadonlyMap<string, string>): unknown => {
  if (typeof value === "string") return to.get(value) ?? value;
  if (Array.isArray(value)) return value.map((one) => renamedIn(one, to));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [key, key === "kind" ? inner : renamedIn(inner, to)]),
  );
};

/**
 * All that comes along with entries, whatever hangs on what, by `table/id`, each once: linear in what refers to them.
 */
const closure = (work: Work<{ readonly id: string }>, { table, ids }: Root): ReadonlySet<string> => {
  const found = new Set(ids.filter((id) => work.entry(table, id)).map((id) => `${table}/${id}`));
  for (const key of found) {
    const [at, id] = splitKey(key);
    for (const referrer of work.references.referrers(at, id)) {
      const [from, fromId] = splitKey(referrer);
      const [of, entry] = [work.description.tables[from], work.entry(from, fromId)];
      if (of && entry && comesWith(of, entry, { table: at, id })) found.add(referrer);
    }
  }
  return found;
};

/**
 * Copies of entries with all that hangs on them, under new ids: what the descriptions say belongs to them, and what
 * belongs to that. What they refer to beside themselves stays what it is. Plain entries: whoever adds them says where
 * they come, and what else becomes of them.
 * @example copiesOf(TEMPLATE, doc, { table: "channels", ids: [track] }, ids) // the track, its sends, its processors with their bands and side-chains, its levels in cues
 */
export const copiesOf = (
  description: DocumentDescription,
  doc: { readonly id: string },
  root: Root,
  ids: IdSource,
): Copies => {
  const work = new Work(description, doc);
  const found = closure(work, root);
  const idOf = new Map<string, string>();
  // Ids of the same name in two tables are two things.
  const byTable = new Map<string, Map<string, string>>();
  for (const [table, of] of Object.entries(description.tables)) {
    const made = new Map<string, string>();
    for (const key of found) {
      const [at, id] = splitKey(key);
      if (at !== table) continue;
      const copy = of.alongside ? (byTable.get(of.alongside)?.get(id) ?? id) : ids<string>(of.one.replaceAll(" ", "-"));
      made.set(id, copy);
      idOf.set(key, copy);
    }
    byTable.set(table, made);
  }
  const entries: Record<string, readonly (Loose & { readonly id: string })[]> = {};
  for (const [table, of] of Object.entries(description.tables)) {
    const made = byTable.get(table) ?? new Map<string, string>();
    if (!made.size) continue;
    const there = (doc as unknown as Tables)[table] ?? {};
    const originals = [...made.keys()].map((id) => there[id] as Loose);
    if (of.order) originals.sort((a, b) => (String(a.order) < String(b.order) ? -1 : 1));
    entries[table] = originals.map(({ order: _order, ...entry }) => {
      const copy: Record<string, unknown> = { ...entry, id: made.get(String(entry.id)) ?? String(entry.id) };
      // A field may refer to several tables.
      for (const { field, reference } of referencesOf(of, entry))
        copy[field] = renamedIn(copy[field], byTable.get(reference.to) ?? new Map());
      return copy as Loose & { readonly id: string };
    });
  }
  return { entries, idOf };
};
