import type { Fields } from "../model/describe/fields";
import { fieldsOf, type TableDescription } from "../model/describe/table";
import { perDocument } from "../model/per-document";
import { TEMPLATE, type Template } from "../model/template";

type Loose = Readonly<Record<string, unknown>>;
type Table = Readonly<Record<string, Loose>>;

const said = (value: unknown): string => (typeof value === "string" ? value : typeof value === "object" && value !== null && "name" in value ? String(value.name) : "");

const searchedIn = (fields: Fields): readonly string[] => Object.entries(fields).flatMap(([key, field]) => (field.searched ? [key] : []));

const saidIn = (searched: readonly string[], entry: Loose): readonly string[] => searched.map((key) => said(entry[key])).filter(Boolean);

/** What the entries of a table say. Entries and tables are never changed, only replaced: what was read of one stays true, and an edit has only what it touched read again. */
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
  return perDocument((entries: Table) => [...new Set(Object.values(entries).flatMap(ofEntry))]);
};

const HEADER = searchedIn(TEMPLATE.header);
const TABLES = Object.entries(TEMPLATE.tables).map(([name, table]) => [name, saidBy(table)] as const);

/** What a template is found by: every field of it and of its entries that is described as searched, in lower case. */
export const searchText = (doc: Template): string => {
  const loose = doc as unknown as Loose;
  const tables = TABLES.flatMap(([name, saidOf]) => saidOf((loose[name] ?? {}) as Table));
  return [...new Set([...saidIn(HEADER, loose), ...tables])].join("\n").toLowerCase();
};
