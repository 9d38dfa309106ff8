import type { Fields } from "../model/describe/fields";
import { fieldsOf, type TableDescription } from "../model/describe/table";
import { perDocument } from "../model/per-document";
import { sameList, stepwise } from "../model/table";
import { TEMPLATE, type Template } from "../model/template";

type Loose = Readonly<Record<string, unknown>>;
type Table = Readonly<Record<string, Loose>>;

const said = (value: unknown): string =>
  typeof value === "string"
    ? value
    : typeof value === "object" && value !== null && "name" in value
      ? String(value.name)
      : "";

const searchedIn = (fields: Fields): readonly string[] =>
  Object.entries(fields).flatMap(([key, field]) => (field.searched ? [key] : []));

const saidIn = (searched: readonly string[], entry: Loose): readonly string[] =>
  searched.map((key) => said(entry[key])).filter(Boolean);

/**
 * What the entries of a table say. Entries and tables are never changed, only replaced: what was read of one stays
 * true, and an edit has only what it touched read again.
 */
const saidBy = (table: TableDescription): ((entries: Table) => readonly string[]) => {
  const searched = new Map<unknown, readonly string[]>();
  const fieldsSearched = (entry: Loose): readonly string[] => {
    const known = searched.get(entry.kind);
    if (known) return known;
    const found = entry.kind === "main" ? [] : searchedIn(fieldsOf(table, entry));
    searched.set(entry.kind, found);
    return found;
  };
  const ofEntry = perDocument((entry: Loose) => saidIn(fieldsSearched(entry), entry));
  return stepwise<Loose, readonly string[]>(
    (entries) => [...new Set(Object.values(entries).flatMap(ofEntry))],
    (last, changes) => (changes.every(([was, is]) => sameList(ofEntry(was), ofEntry(is))) ? last : null),
  );
};

const HEADER = searchedIn(TEMPLATE.header);
const TABLES = Object.entries(TEMPLATE.tables).map(([name, table]) => [name, saidBy(table)] as const);

const NOTHING: Table = {};
let last: {
  readonly said: readonly (readonly string[])[];
  readonly own: readonly string[];
  readonly text: string;
} | null = null;

/**
 * What a template is found by: every field of it and of its entries that is described as searched, in lower case. The
 * last one is at hand: few edits change what anything is called.
 */
export const searchText = (doc: Template): string => {
  const loose = doc as unknown as Loose;
  const own = [...saidIn(HEADER, loose), ...doc.tags, doc.session.place, ...doc.session.people];
  const tables = TABLES.map(([name, saidOf]) => saidOf((loose[name] ?? NOTHING) as Table));
  if (last && sameList(last.said, tables) && sameList(last.own, own)) return last.text;
  const text = [...new Set([...own, ...tables.flat()])].join("\n").toLowerCase();
  last = { said: tables, own, text };
  return text;
};
