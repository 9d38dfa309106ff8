import type { Around, DocumentDescription } from "../model/describe/table";
import { isKeptFor } from "../model/per-document";
import type { Patch } from "./command";
import { hasIndex, type Index, keepIndex, type Loose, type Tables, takeIndex, touchesIndex } from "./references";

/** Whether two values of a document say the same. */
export const same = (a: unknown, b: unknown): boolean =>
  a === b ||
  (typeof a === "object" &&
    typeof b === "object" &&
    a !== null &&
    b !== null &&
    JSON.stringify(a) === JSON.stringify(b));

/** An entry without −0, which is 0 once it has been to the service and back. */
const withPlainZeros = (entry: Loose): Loose =>
  Object.values(entry).some((value) => Object.is(value, -0))
    ? Object.fromEntries(Object.entries(entry).map(([field, value]) => [field, value === 0 ? 0 : value]))
    : entry;

/** What a gesture touched of one entry or of the document itself. */
interface Change {
  readonly before: unknown;
  readonly after: unknown;
  readonly path: readonly string[];
}

const replaced = ({ before, after, path }: Change): readonly [Patch, Patch] => [
  { op: "replace", path, value: after },
  { op: "replace", path, value: before },
];

/**
 * A document in the middle of a gesture: tables are copied when they are first changed, entries are replaced and never
 * changed, so that whatever was read from it stays what it was. It knows what was touched, and at the end says so as
 * patches there and back, however many steps led there.
 */
export class Work<D extends { readonly id: string }> {
  private root: Record<string, unknown>;
  private readonly own = new Set<string>();
  private readonly headerTouched = new Set<string>();
  private index: Index | null = null;
  readonly touched = new Map<string, Set<string>>();
  /** What entries no longer refer to, as `table/id`. */
  readonly released = new Set<string>();

  constructor(
    readonly description: DocumentDescription,
    readonly before: D,
  ) {
    this.root = { ...before };
  }

  /**
   * The document as it is now; what is read from it and kept for it stays true, since every step has one of its own.
   */
  snapshot(): D {
    this.root = { ...this.root };
    return this.root as unknown as D;
  }

  table(name: string): Readonly<Record<string, Loose>> {
    return this.root[name] as Readonly<Record<string, Loose>>;
  }

  entry(table: string, id: string): Loose | undefined {
    const of = this.root[table] as Readonly<Record<string, Loose>> | undefined;
    return of && Object.hasOwn(of, id) ? of[id] : undefined;
  }

  had(table: string, id: string): Loose | undefined {
    const of = (this.before as unknown as Tables)[table];
    return of && Object.hasOwn(of, id) ? of[id] : undefined;
  }

  readonly around: Around = {
    entry: (table, id) => this.entry(table, id),
  };

  get references(): Index {
    // Nothing so far touches it, or it would have been taken: that of the document is that of what there is by now.
    this.index ??= takeIndex(this.description, this.before);
    return this.index;
  }

  readonly orderOf =
    (table: string) =>
    (id: string): string =>
      String(this.entry(table, id)?.order ?? "");

  put(table: string, id: string, given: Loose | undefined): void {
    const was = this.entry(table, id);
    if (was === given) return;
    const entry = given && withPlainZeros(given);
    const of = this.description.tables[table];
    const touches = of !== undefined && touchesIndex(of, was, entry);
    const index = touches ? this.references : this.index;
    // A table of our own that something was made of in the meantime, and is kept for, stays as it was read.
    if (!this.own.has(table) || isKeptFor(this.table(table))) {
      this.root[table] = { ...this.table(table) };
      this.own.add(table);
    }
    const entries = this.root[table] as Record<string, Loose>;
    if (entry) entries[id] = entry;
    else delete entries[id];
    const touched = this.touched.get(table);
    if (touched) touched.add(id);
    else this.touched.set(table, new Set([id]));
    if (touches)
      for (const target of index?.move(table, was, entry, this.orderOf(table)) ?? []) this.released.add(target);
  }

  /** An entry with some of its fields changed; where they say the same as before nothing is touched. */
  change(table: string, entry: Loose, fields: Loose): void {
    const changed = Object.entries(fields).some(([field, value]) => !same(entry[field], value));
    if (changed) this.put(table, String(entry.id), { ...entry, ...fields });
  }

  setHeader(field: string, value: unknown): void {
    if (same(this.root[field], value)) return;
    this.root[field] = value;
    this.headerTouched.add(field);
  }

  header(field: string): unknown {
    return this.root[field];
  }

  get touchedHeader(): readonly string[] {
    return [...this.headerTouched];
  }

  /** What came of it: the very same document when nothing did. The index goes on with the newer document. */
  finish(): { readonly doc: D; readonly patches: readonly Patch[]; readonly inverse: readonly Patch[] } {
    const pairs = [
      ...this.headerPatches(),
      ...[...this.touched].flatMap(([table, ids]) => [...ids].flatMap((id) => this.entryPatches(table, id))),
    ];
    const doc = pairs.length ? (this.root as unknown as D) : this.before;
    if (this.index) keepIndex(doc, this.index);
    else if (doc !== this.before && hasIndex(this.before)) keepIndex(doc, takeIndex(this.description, this.before));
    return { doc, patches: pairs.map(([there]) => there), inverse: pairs.map(([, back]) => back) };
  }

  private headerPatches(): readonly (readonly [Patch, Patch])[] {
    return this.touchedHeader.flatMap((field) =>
      this.fieldPatches({ before: (this.before as unknown as Loose)[field], after: this.root[field], path: [field] }),
    );
  }

  private fieldPatches(change: Change): readonly (readonly [Patch, Patch])[] {
    const { before, after, path } = change;
    if (same(before, after)) return [];
    const [only, more] = path;
    const group = more === undefined && only !== undefined ? this.description.header[only]?.fields : undefined;
    if (!group) return [replaced(change)];
    return Object.keys(group).flatMap((part) =>
      this.fieldPatches({ before: (before as Loose)[part], after: (after as Loose)[part], path: [...path, part] }),
    );
  }

  private entryPatches(table: string, id: string): readonly (readonly [Patch, Patch])[] {
    const [before, after, path] = [this.had(table, id), this.entry(table, id), [table, id]];
    if (before === after) return [];
    if (!before)
      return [
        [
          { op: "add", path, value: after },
          { op: "remove", path },
        ],
      ];
    if (!after)
      return [
        [
          { op: "remove", path },
          { op: "add", path, value: before },
        ],
      ];
    return Object.keys(after).flatMap((field) =>
      same(before[field], after[field])
        ? []
        : [replaced({ before: before[field], after: after[field], path: [...path, field] })],
    );
  }
}
