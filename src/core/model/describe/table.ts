import { byKind, idOf, object, table as tableSchema } from "../schema-parts";
import { type Field, type Fields, schemasOf } from "./fields";

type Loose = Readonly<Record<string, unknown>>;

/** How a rule looks around in the document that an entry is in. */
export interface Around {
  readonly entry: (table: string, id: string) => Loose | undefined;
}

/** What must hold of an entry; answers what does not, in words, or null. */
export type Rule = (entry: never, around: Around) => string | null;

/**
 * Where an id comes from: it is made and belongs to nothing else; it says what it means, so that adding it again
 * replaces; or the table has always the same.
 */
export type Ids = "made" | "meant" | "fixed";

/** An entry in the names of edits, and what is around it. */
export interface Surroundings extends Around {
  readonly table: (name: string) => Readonly<Record<string, Loose>>;
}

/**
 * What edits of a table are called, where "Add …", "Set … of …", "Move …" and "Remove …" with the name of the entry or
 * their number won't do.
 */
export interface Calls {
  /** The entries in words: "Fiddle", "4 tracks". */
  readonly who?: (entries: never, around: Surroundings) => string;
  readonly added?: (entries: never, around: Surroundings) => string;
  readonly moved?: (
    entries: never,
    to: { readonly who: string; readonly parent: string | null },
    around: Surroundings,
  ) => string;
  readonly removed?: (entries: never, who: string, around: Surroundings) => string;
}

export interface TableDescription {
  /** Singular and plural, as sentences have them. */
  readonly one: string;
  readonly many: string;
  /** The most entries. */
  readonly most: number;
  readonly ids: Ids;
  /** JSON Schema of an id. */
  readonly id: Loose;
  /** Fields that every entry has, and those of each kind where there are kinds. */
  readonly fields: Fields;
  readonly kinds?: Readonly<Record<string, Fields>>;
  /** Entries stand in an order: all of them, or those within one parent. The keys sort as plain text. */
  readonly order?: { readonly within: string | null; readonly kinds?: readonly string[] };
  /** The id is that of an entry of another table as well, which takes this one along when it goes. */
  readonly alongside?: string;
  /** Lies in entries of its own table by this field, so deep and in no circle. */
  readonly nested?: { readonly by: string; readonly depth: number };
  /**
   * An entry that nothing refers to any more goes, and none can be added that nothing refers to. Says what is wrong
   * with one.
   */
  readonly held?: (entry: never) => string;
  /** Whether there is exactly one entry of this kind and which. */
  readonly single?: { readonly kind: string; readonly id: string; readonly says: string };
  /** No two entries have the same of these; null where an entry has none. Says what is doubled. */
  readonly unique?: readonly {
    readonly key: (entry: never) => string | null;
    readonly says: (entry: never, around: Around) => string;
  }[];
  readonly rules?: readonly Rule[];
  /** What an entry is called in a sentence; null when it has no name of its own. */
  readonly called: (entry: never, around: Around) => string | null;
  readonly calls?: Calls;
}

export const described = <
  const D extends Omit<TableDescription, "id" | "ids"> & Partial<Pick<TableDescription, "id" | "ids">>,
>(
  description: D,
): D & Pick<TableDescription, "id" | "ids"> => ({ id: idOf(64), ids: "made", ...description });

/** A document in which a gesture touched some entries, as rules that reach over tables look at it. */
export interface TouchedDocument extends Around {
  readonly touched: ReadonlyMap<string, ReadonlySet<string>>;
  /** What an entry was before; undefined where it was not there. */
  readonly had: (table: string, id: string) => Loose | undefined;
  /** What refers to an entry, as `table/id`. */
  readonly referrers: (table: string, id: string) => ReadonlySet<string>;
}

/**
 * What must hold between entries of several tables; answers what a gesture broke of it, in words, or null. Linear in
 * what can be reached from the touched.
 */
export type DocumentRule = (doc: TouchedDocument) => string | null;

export interface DocumentDescription {
  /** "template": as sentences name it. */
  readonly what: string;
  readonly schema: number;
  readonly header: Fields;
  readonly tables: Readonly<Record<string, TableDescription>>;
  readonly rules?: readonly DocumentRule[];
  /** No two entries of any two tables have one id. */
  readonly oneIdSpace?: true;
}

/**
 * A key of an order: digits, capitals and small letters, compared as text. Longer ones are dealt out anew before they
 * come to this.
 */
export const ORDER_KEY = { type: "string", pattern: "^[A-Za-z][0-9A-Za-z]{1,199}$" };

export const isOrdered = ({ order }: TableDescription, kind: unknown): boolean =>
  order !== undefined && (!order.kinds || order.kinds.includes(String(kind)));

const merged = new WeakMap<Fields, WeakMap<Fields, Fields>>();

/** The fields of an entry: those of all and those of its kind; put together once for each kind. */
export const fieldsOf = ({ fields, kinds }: TableDescription, entry: Loose): Fields => {
  const own = kinds?.[String(entry.kind)];
  if (!own) return fields;
  // Two tables may share the fields of their kinds.
  const ofTable = merged.get(fields) ?? new WeakMap<Fields, Fields>();
  merged.set(fields, ofTable);
  const known = ofTable.get(own);
  if (known) return known;
  const together = { ...fields, ...own };
  ofTable.set(own, together);
  return together;
};

const everyField = new WeakMap<object, Fields>();

/** The fields that entries of any kind have; put together once for a table. */
export const allFieldsOf = (table: Pick<TableDescription, "fields" | "kinds">): Fields => {
  if (!table.kinds) return table.fields;
  const known = everyField.get(table);
  if (known) return known;
  const all = { ...table.fields, ...Object.assign({}, ...Object.values(table.kinds)) } as Fields;
  everyField.set(table, all);
  return all;
};

const entrySchemaOf = (table: TableDescription, { withOrder }: { readonly withOrder: boolean }): Loose => {
  const properties = (kind: string | null, own: Fields) => ({
    id: table.id,
    ...schemasOf(table.fields),
    ...schemasOf(own),
    ...(withOrder && isOrdered(table, kind) ? { order: ORDER_KEY } : {}),
  });
  return table.kinds
    ? byKind(Object.fromEntries(Object.entries(table.kinds).map(([kind, own]) => [kind, properties(kind, own)])))
    : object(properties(null, {}));
};

/** JSON Schema of an entry of a table, and of one that is to be added, whose place comes with the command. */
export const entrySchema = (table: TableDescription): Loose => entrySchemaOf(table, { withOrder: true });
export const newEntrySchema = (table: TableDescription): Loose => entrySchemaOf(table, { withOrder: false });

const settable = (fields: Fields): Loose =>
  Object.fromEntries(
    Object.entries(fields).map(([key, field]) => [key, field.fields ? partial(field.fields) : field.schema]),
  );
const partial = (fields: Fields): Loose => ({
  type: "object",
  properties: settable(fields),
  additionalProperties: false,
  minProperties: 1,
});

/**
 * JSON Schema of what may be set of an entry: any of its fields, not its id, kind, parent by which it is ordered, and
 * place.
 */
export const changeSchema = (table: TableDescription): Loose => {
  return partial(Object.fromEntries(Object.entries(allFieldsOf(table)).filter(([key]) => key !== table.order?.within)));
};
/** JSON Schema of what may be set of a document itself. */
export const headerChangeSchema = ({ header }: DocumentDescription): Loose => partial(header);

/** JSON Schema (draft 2020-12) of a whole document. */
export const documentSchema = (description: DocumentDescription): Loose => ({
  $schema: "https://json-schema.org/draft/2020-12/schema",
  $id: `urn:wandel:${description.what}:${description.schema}`,
  title: `Wandel ${description.what}`,
  ...object({
    schema: { const: description.schema },
    id: idOf(64),
    ...schemasOf(description.header),
    ...Object.fromEntries(
      Object.entries(description.tables).map(([name, table]) => [name, tableSchema(entrySchema(table), table.most)]),
    ),
  }),
});

interface Beginning {
  /** What each field begins with, in the order of the description; undefined of those that must be given. */
  readonly values: Loose;
  readonly needed: readonly string[];
}

const beginnings = new WeakMap<Fields, Beginning>();

const beginningOf = (fields: Fields): Beginning => {
  const known = beginnings.get(fields);
  if (known) return known;
  const values = Object.fromEntries(
    Object.entries(fields).map(([key, { initial }]: [string, Field]) => [key, initial]),
  );
  const made = { values, needed: Object.keys(values).filter((key) => values[key] === undefined) };
  beginnings.set(fields, made);
  return made;
};

const missing = (key: string): never => {
  throw new Error(`expected a value for ${key}, got none`);
};

/**
 * An entry of which nothing is known but what is given: all other fields have the value they begin with, in the order
 * of the description. Throws for a field that has none.
 */
export const newEntry = (table: Pick<TableDescription, "fields">, { id, ...given }: Loose): Loose => {
  const { values, needed } = beginningOf(table.fields);
  const entry: Record<string, unknown> = { id, ...values };
  for (const key in given)
    if (Object.hasOwn(values, key)) entry[key] = given[key] === undefined ? missing(key) : given[key];
  for (const key of needed) if (entry[key] === undefined) missing(key);
  return entry;
};

/**
 * The same by the kind of what is given, and without a word where something is missing: whoever takes it in says so.
 */
export const begun = (table: TableDescription, given: Loose): Loose => {
  const { values } = beginningOf(fieldsOf(table, given));
  const entry: Record<string, unknown> = { id: given.id, ...(table.kinds ? { kind: given.kind } : {}) };
  for (const [key, value] of Object.entries({ ...values, ...given })) if (value !== undefined) entry[key] = value;
  return entry;
};

/** The tables of a document with nothing in them. */
export const emptyTables = ({ tables }: DocumentDescription): Loose =>
  Object.fromEntries(Object.keys(tables).map((table) => [table, {}]));
