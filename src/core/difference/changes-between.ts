import { HEADER, type Patch } from "../commands/command";
import { Index, type Loose, referencesOf, splitKey, type Tables, targetsOf } from "../commands/references";
import { same } from "../commands/work";
import { type DocumentDescription, fieldsOf, isOrdered, type TableDescription } from "../model/describe/table";
import type { Change, ChangeKind, Side } from "./change";
import { movedIn } from "./places";

type Document = { readonly id: string };

/** What is compared: what is here, what is there, and what both came from where that is known. */
export interface Compared {
  readonly here: Document;
  readonly there: Document;
  readonly base?: Document | null;
  /** Fields that are none of the difference: of the document itself, or as `lines.gainSetDb`. */
  readonly leaving?: readonly string[];
}

interface Mutable extends Omit<Change, "patches" | "needs" | "along"> {
  patches: Patch[];
  needs: Set<string>;
  along: { readonly table: string; readonly entryId: string }[];
}

const entryOf = (doc: object | null | undefined, table: string, id: string): Loose | undefined => {
  const of = (doc as Tables | null | undefined)?.[table];
  return of && Object.hasOwn(of, id) ? of[id] : undefined;
};

const keyOf = (table: string, id: string): string => `${table}/${id}`;

/** What of an entry is compared: the fields of its kind, and its place. */
const fieldNames = (of: TableDescription, entry: Loose): readonly string[] => [
  ...Object.keys(fieldsOf(of, entry)),
  ...(isOrdered(of, entry.kind) ? ["order"] : []),
];

/** Whether an entry goes when what it refers to goes. */
const goesWith = (of: TableDescription, entry: Loose): readonly string[] => [
  ...(of.alongside ? [keyOf(of.alongside, String(entry.id))] : []),
  ...referencesOf(of, entry).flatMap((reference) => {
    const { to, without } = reference.reference;
    return targetsOf(reference, entry)
      .filter(
        (id) =>
          without &&
          (without as (v: unknown, gone: ReadonlySet<string>) => unknown)(entry[reference.field], new Set([id])) ===
            null,
      )
      .map((id) => keyOf(to, id));
  }),
];

/** What an entry is a part of: it comes when that comes. */
const partsOf = (of: TableDescription, entry: Loose): readonly string[] => [
  ...(of.alongside ? [keyOf(of.alongside, String(entry.id))] : []),
  ...referencesOf(of, entry).flatMap((reference) =>
    reference.reference.brings ? targetsOf(reference, entry).map((id) => keyOf(reference.reference.to, id)) : [],
  ),
];

class Comparison {
  private readonly changes = new Map<string, Mutable>();
  /** Which change adds, removes or changes the entry of a key. */
  private readonly adds = new Map<string, Mutable>();
  private readonly removes = new Map<string, Mutable[]>();
  private readonly edits = new Map<string, Mutable[]>();
  private readonly indexHere: Index;
  private readonly indexThere: Index;

  constructor(
    private readonly description: DocumentDescription,
    private readonly compared: Compared,
  ) {
    this.indexHere = new Index(description, compared.here as unknown as Tables);
    this.indexThere = new Index(description, compared.there as unknown as Tables);
  }

  all(): readonly Change[] {
    this.header();
    const [came, went] = [this.newKeys(), this.goneKeys()];
    this.takeNew(came);
    this.takeGone(went);
    for (const [table, of] of Object.entries(this.description.tables)) this.takeChanged(table, of);
    this.takeHeld(came);
    this.keepHeld();
    this.findNeeds();
    return [...this.changes.values()].map(({ needs, ...change }) => ({
      ...change,
      needs: [...needs].filter((id) => id !== change.id && this.changes.has(id)).sort(),
    }));
  }

  private make(kind: ChangeKind, table: string, entryId: string, part = "", more: Partial<Mutable> = {}): Mutable {
    const id = `${table}/${entryId}${part && `#${part}`}`;
    const made: Mutable = {
      id,
      kind,
      table,
      entryId,
      fields: [],
      patches: [],
      needs: new Set(),
      along: [],
      side: "theirs",
      quiet: null,
      ...more,
    };
    this.changes.set(id, made);
    return made;
  }

  /** Seen from the ancestor: who changed a value that is one thing here and another there. */
  private sideOf(base: unknown, here: unknown, there: unknown): Side {
    if (!this.compared.base) return "theirs";
    if (same(base, here)) return "theirs";
    return same(base, there) ? "ours" : "both";
  }

  private header(): void {
    const [here, there, base] = [this.compared.here, this.compared.there, this.compared.base].map(
      (doc) => (doc ?? {}) as unknown as Loose,
    ) as [Loose, Loose, Loose];
    for (const [field, of] of Object.entries(this.description.header)) {
      if (this.compared.leaving?.includes(field) || same(here[field], there[field])) continue;
      const parts = of.fields ? Object.keys(of.fields) : [null];
      for (const part of parts) {
        const [was, is, from] = [here, there, base].map((doc) =>
          part === null ? doc[field] : (doc[field] as Loose | undefined)?.[part],
        );
        if (same(was, is)) continue;
        this.make("changed", HEADER, this.compared.here.id, part === null ? field : `${field}.${part}`, {
          fields: [part === null ? field : `${field}.${part}`],
          patches: [{ op: "replace", path: part === null ? [field] : [field, part], value: is }],
          side: this.sideOf(from, was, is),
        });
      }
    }
  }

  private keysOnlyIn(one: Document, other: Document): readonly string[] {
    return Object.keys(this.description.tables).flatMap((table) =>
      Object.keys((one as unknown as Tables)[table] ?? {})
        .filter((id) => !entryOf(other, table, id))
        .map((id) => keyOf(table, id)),
    );
  }
  private newKeys = (): ReadonlySet<string> => new Set(this.keysOnlyIn(this.compared.there, this.compared.here));
  private goneKeys = (): ReadonlySet<string> => new Set(this.keysOnlyIn(this.compared.here, this.compared.there));

  /** What comes stands for itself, or comes with the one new thing it is a part of. */
  private takeNew(came: ReadonlySet<string>): void {
    const roots = new Map<string, readonly string[]>();
    const rootsOf = (key: string): readonly string[] => {
      const known = roots.get(key);
      if (known) return known;
      const [table, id] = splitKey(key);
      const [of, entry] = [this.description.tables[table], entryOf(this.compared.there, table, id)];
      roots.set(key, [key]);
      const owners = of && entry ? [...new Set(partsOf(of, entry))].filter((owner) => came.has(owner)) : [];
      const found = owners.length ? [...new Set(owners.flatMap(rootsOf))] : [key];
      roots.set(key, found);
      return found;
    };
    const late: string[] = [];
    for (const key of came) {
      const [table, id] = splitKey(key);
      if (this.description.tables[table]?.held) continue;
      const [root, ...more] = rootsOf(key);
      if (root === key) this.adds.set(key, this.added(table, id, this.make("new", table, id)));
      else if (root !== undefined && !more.length) late.push(key);
      else {
        const quiet = this.make("new", table, id, "", { quiet: "with", needs: new Set(rootsOf(key)) });
        this.adds.set(key, this.added(table, id, quiet));
      }
    }
    for (const key of late) {
      const [table, id] = splitKey(key);
      const owner = this.adds.get(rootsOf(key)[0] ?? "");
      if (!owner) continue;
      owner.along.push({ table, entryId: id });
      this.adds.set(key, this.added(table, id, owner));
    }
  }

  private added(table: string, id: string, into: Mutable): Mutable {
    const entry = entryOf(this.compared.there, table, id);
    into.patches.push({ op: "add", path: [table, id], value: entry });
    this.sided(into, entryOf(this.compared.base, table, id), undefined, entry);
    return into;
  }

  private sided(into: Mutable, base: unknown, here: unknown, there: unknown): void {
    const side = this.sideOf(base, here, there);
    const first = into.patches.length <= 1;
    (into as { side: Side }).side = first || into.side === side ? side : "both";
  }

  /** What goes stands for itself, or goes with each of the things that it goes along with. */
  private takeGone(went: ReadonlySet<string>): void {
    const roots = new Map<string, readonly string[]>();
    const rootsOf = (key: string): readonly string[] => {
      const known = roots.get(key);
      if (known) return known;
      const [table, id] = splitKey(key);
      const [of, entry] = [this.description.tables[table], entryOf(this.compared.here, table, id)];
      roots.set(key, [key]);
      const owners = of && entry ? [...new Set(goesWith(of, entry))].filter((owner) => went.has(owner)) : [];
      const found = owners.length ? [...new Set(owners.flatMap(rootsOf))] : [key];
      roots.set(key, found);
      return found;
    };
    const keys = [...went].filter((key) => !this.letGo(key));
    for (const key of keys) {
      const [table, id] = splitKey(key);
      if (rootsOf(key)[0] === key) this.removes.set(key, [this.removed(table, id, this.make("gone", table, id))]);
    }
    for (const key of keys) {
      const [table, id] = splitKey(key);
      const owners = rootsOf(key).filter((root) => root !== key);
      if (!owners.length) continue;
      const into = owners.flatMap((owner) => this.removes.get(owner)?.[0] ?? []);
      for (const owner of into) {
        this.removed(table, id, owner);
        owner.along.push({ table, entryId: id });
      }
      this.removes.set(key, into);
    }
  }

  private removed(table: string, id: string, into: Mutable): Mutable {
    into.patches.push({ op: "remove", path: [table, id] });
    this.sided(into, entryOf(this.compared.base, table, id), entryOf(this.compared.here, table, id), undefined);
    return into;
  }

  /** What is held only by others goes by itself with the last of them. */
  private letGo(key: string): boolean {
    const [table, id] = splitKey(key);
    return Boolean(this.description.tables[table]?.held) && this.indexHere.referrers(table, id).size > 0;
  }

  /** What is held comes with the one thing that holds it, or is asked for by each that does. */
  private takeHeld(came: ReadonlySet<string>): void {
    for (const key of came) {
      const [table, id] = splitKey(key);
      if (!this.description.tables[table]?.held) continue;
      const holders = new Set([...this.indexThere.referrers(table, id)].flatMap((from) => this.holding(from, key)));
      const [only] = holders;
      if (only && holders.size === 1) {
        only.along.push({ table, entryId: id });
        this.adds.set(key, this.added(table, id, only));
      } else
        this.adds.set(
          key,
          this.added(table, id, this.make("new", table, id, "", { quiet: holders.size ? "asked" : null })),
        );
    }
  }

  /** What stays only because something else holds it by then must not lose its last holder before. */
  private keepHeld(): void {
    for (const [table, of] of Object.entries(this.description.tables)) {
      if (!of.held) continue;
      for (const id of Object.keys((this.compared.here as unknown as Tables)[table] ?? {})) {
        if (!entryOf(this.compared.there, table, id)) continue;
        const [before, after] = [this.indexHere.referrers(table, id), this.indexThere.referrers(table, id)];
        if ([...before].some((from) => after.has(from))) continue;
        const [holder] = [...after].flatMap((from) => this.holding(from, keyOf(table, id)));
        const letting = [...before].flatMap((from) => [
          ...(this.removes.get(from) ?? []),
          ...(this.edits.get(from) ?? []).filter(({ kind }) => kind === "changed"),
        ]);
        for (const change of letting) if (holder && holder !== change) change.needs.add(holder.id);
      }
    }
  }

  /** The changes that make one entry refer to another. */
  private holding(from: string, target: string): readonly Mutable[] {
    const [table, id] = splitKey(from);
    const changed = (this.edits.get(from) ?? []).filter(({ fields }) =>
      fields.some((field) => this.refersBy(table, id, field, target)),
    );
    return [this.adds.get(from), ...changed].filter((one) => one !== undefined);
  }

  private refersBy(table: string, id: string, field: string, target: string): boolean {
    const [of, entry] = [this.description.tables[table], entryOf(this.compared.there, table, id)];
    return Boolean(
      of &&
        entry &&
        referencesOf(of, entry).some(
          (reference) =>
            reference.field === field &&
            targetsOf(reference, entry).some((to) => keyOf(reference.reference.to, to) === target),
        ),
    );
  }

  private takeChanged(table: string, of: TableDescription): void {
    const [here, there] = [this.compared.here, this.compared.there].map(
      (doc) => ((doc as unknown as Tables)[table] ?? {}) as Readonly<Record<string, Loose>>,
    ) as [Readonly<Record<string, Loose>>, Readonly<Record<string, Loose>>];
    const places = of.order ? this.placesOf(of, here, there) : null;
    for (const id of Object.keys(here)) {
      const [was, is] = [here[id], there[id]];
      if (!was || !is || was === is) continue;
      if (was.kind !== is.kind) this.replaced(table, id, [was, is]);
      else this.fieldsDiffering(table, of, { was, is, quietPlace: places?.quiet.has(id) ?? false });
    }
    for (const group of places?.together ?? []) this.mergePlaces(table, group);
  }

  /** Another kind of thing under the same id: the one goes and the other comes. */
  private replaced(table: string, id: string, [was, is]: readonly [Loose, Loose]): void {
    const change = this.make("changed", table, id, "kind", {
      fields: ["kind"],
      side: this.sideOf(entryOf(this.compared.base, table, id), was, is),
      patches: [
        { op: "remove", path: [table, id] },
        { op: "add", path: [table, id], value: is },
      ],
    });
    this.edit(change);
  }

  private edit(change: Mutable): void {
    const key = keyOf(change.table, change.entryId);
    this.edits.set(key, [...(this.edits.get(key) ?? []), change]);
  }

  private fieldsDiffering(
    table: string,
    of: TableDescription,
    { was, is, quietPlace }: { readonly was: Loose; readonly is: Loose; readonly quietPlace: boolean },
  ): void {
    const id = String(is.id);
    const base = entryOf(this.compared.base, table, id);
    const within = of.order?.within;
    const byReference = new Set(referencesOf(of, is).map(({ field }) => field));
    const parts = new Map<string, { kind: ChangeKind; side: Side; fields: string[] }>();
    const isPlace = (field: string): boolean => field === "order" || field === within;
    const placeOf = (entry: Loose | undefined) => [entry?.order, within && entry?.[within]];
    const placeSide = this.sideOf(placeOf(base), placeOf(was), placeOf(is));
    const differs = (field: string): boolean =>
      !same(was[field], is[field]) && !this.compared.leaving?.includes(`${table}.${field}`);
    for (const field of fieldNames(of, is).filter(differs)) {
      const side = isPlace(field) ? placeSide : this.sideOf(base?.[field], was[field], is[field]);
      const said = side === "theirs" ? "said" : `said-${side}`;
      const part = isPlace(field) ? "place" : byReference.has(field) ? field : said;
      const there = parts.get(part);
      if (there) there.fields.push(field);
      else parts.set(part, { kind: isPlace(field) ? "moved" : "changed", side, fields: [field] });
    }
    for (const [part, { kind, side, fields }] of parts)
      this.edit(
        this.make(kind, table, id, part, {
          fields,
          side,
          quiet: part === "place" && quietPlace && fields.length === 1 ? "all" : null,
          patches: fields.map((field) => ({ op: "replace", path: [table, id, field], value: is[field] })),
        }),
      );
  }

  /**
   * Whose place has another key and not another place; and where such stand beside some that moved, all of them
   * together, since the keys of the one mean nothing among those of the other.
   */
  private placesOf(
    of: TableDescription,
    here: Readonly<Record<string, Loose>>,
    there: Readonly<Record<string, Loose>>,
  ): { readonly quiet: ReadonlySet<string>; readonly together: readonly (readonly string[])[] } {
    const parentOf = (entry: Loose): string => String(of.order?.within ? entry[of.order.within] : "");
    const homes = new Map<string, string[]>();
    for (const entry of Object.values(there)) {
      const id = String(entry.id);
      const was = here[id];
      if (!was || typeof entry.order !== "string" || was.kind !== entry.kind || parentOf(was) !== parentOf(entry))
        continue;
      const home = homes.get(parentOf(entry));
      if (home) home.push(id);
      else homes.set(parentOf(entry), [id]);
    }
    const quiet = new Set<string>();
    const together: (readonly string[])[] = [];
    const sorted = (ids: readonly string[], from: Readonly<Record<string, Loose>>) =>
      [...ids].sort((a, b) => {
        const [x, y] = [`${from[a]?.order} ${a}`, `${from[b]?.order} ${b}`];
        return x < y ? -1 : x > y ? 1 : 0;
      });
    for (const ids of homes.values()) {
      const moved = movedIn(sorted(ids, here), sorted(ids, there), (id) => here[id]?.order === there[id]?.order);
      const anew = ids.filter((id) => !moved.has(id) && here[id]?.order !== there[id]?.order);
      if (!anew.length) continue;
      if (moved.size) together.push(ids.filter((id) => here[id]?.order !== there[id]?.order));
      for (const id of anew) quiet.add(id);
    }
    return { quiet, together };
  }

  private mergePlaces(table: string, ids: readonly string[]): void {
    const found = ids.flatMap((id) => this.changes.get(`${table}/${id}#place`) ?? []);
    const first = found.find(({ quiet }) => quiet === null);
    if (!first) return;
    for (const other of found) {
      if (other === first) continue;
      first.patches.push(...other.patches);
      if (other.quiet === null) first.along.push({ table, entryId: other.entryId });
      if (other.side !== first.side) (first as { side: Side }).side = "both";
      this.changes.delete(other.id);
    }
  }

  private findNeeds(): void {
    for (const change of this.changes.values()) {
      for (const { op, path, value } of change.patches) {
        const [table = "", id = "", field] = path;
        const of = this.description.tables[table];
        if (!of) continue;
        if (op === "remove") this.needsOfGone(change, table, id);
        else
          this.needsOfTargets(change, of, {
            table,
            id,
            field,
            entry: field === undefined ? (value as Loose) : undefined,
          });
      }
    }
  }

  /** What it refers to and is not here yet must come; what is here and takes its only place must go or change. */
  private needsOfTargets(
    change: Mutable,
    of: TableDescription,
    {
      table,
      id,
      field,
      entry,
    }: {
      readonly table: string;
      readonly id: string;
      readonly field: string | undefined;
      readonly entry: Loose | undefined;
    },
  ): void {
    const is = entry ?? entryOf(this.compared.there, table, id);
    if (!is) return;
    for (const reference of referencesOf(of, is)) {
      if (field !== undefined && reference.field !== field) continue;
      for (const target of targetsOf(reference, is)) {
        const adder = this.adds.get(keyOf(reference.reference.to, target));
        if (adder && adder !== change) change.needs.add(adder.id);
      }
    }
    this.needsOfUnique(change, of, { table, is });
  }

  private readonly taken = new Map<TableDescription, ReadonlyMap<string, string>>();

  private needsOfUnique(
    change: Mutable,
    of: TableDescription,
    { table, is }: { readonly table: string; readonly is: Loose },
  ): void {
    for (const [at, { key }] of (of.unique ?? []).entries()) {
      const keyFor = (entry: Loose) => (key as (entry: Loose) => string | null)(entry);
      const wanted = keyFor(is);
      if (wanted === null) continue;
      const there = this.takenIn(of, table)?.get(`${at} ${wanted}`);
      if (there === undefined || there === String(is.id)) continue;
      const key2 = keyOf(table, there);
      for (const other of [...(this.removes.get(key2) ?? []), ...(this.edits.get(key2) ?? [])])
        if (other !== change) change.needs.add(other.id);
    }
  }

  private takenIn(of: TableDescription, table: string): ReadonlyMap<string, string> {
    const known = this.taken.get(of);
    if (known) return known;
    const made = new Map<string, string>();
    for (const entry of Object.values((this.compared.here as unknown as Tables)[table] ?? {}))
      for (const [at, { key }] of (of.unique ?? []).entries()) {
        const its = (key as (entry: Loose) => string | null)(entry);
        if (its !== null) made.set(`${at} ${its}`, String(entry.id));
      }
    this.taken.set(of, made);
    return made;
  }

  /** What stays and refers to it by one value must refer to something else by then. */
  private needsOfGone(change: Mutable, table: string, id: string): void {
    const target = keyOf(table, id);
    for (const from of this.indexHere.referrers(table, id)) {
      const [fromTable, fromId] = splitKey(from);
      const [of, entry] = [this.description.tables[fromTable], entryOf(this.compared.here, fromTable, fromId)];
      if (!of || !entry) continue;
      const fields = referencesOf(of, entry)
        .filter(
          (reference) =>
            !Array.isArray(entry[reference.field]) &&
            targetsOf(reference, entry).some((to) => keyOf(reference.reference.to, to) === target),
        )
        .map(({ field }) => field);
      for (const other of this.edits.get(from) ?? [])
        if (other !== change && other.fields.some((field) => fields.includes(field))) change.needs.add(other.id);
    }
  }
}

/** What belongs to a session alone, and is no difference between it and its template. */
export const OF_SESSION: readonly string[] = [
  "name",
  "note",
  "session",
  "lines.gainSetDb",
  "passes.ran",
  "passes.running",
];

/**
 * How two documents of one description differ, as changes that lead from what is here to what is there, each with what
 * it needs: all of them done give the other to the last byte of its hash, but for its id and what is left out. Entries
 * are the same by their ids. Linear in both documents, but for the places within one parent: n·log n.
 * @example changesBetween(TEMPLATE, { here, there }).filter(({ quiet }) => !quiet) // what a person is shown
 */
export const changesBetween = (description: DocumentDescription, compared: Compared): readonly Change[] =>
  new Comparison(description, compared).all();
