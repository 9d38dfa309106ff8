import type { Fields } from "../model/describe/fields";
import { fieldsOf, type TableDescription } from "../model/describe/table";
import { TEMPLATE, type Template } from "../model/template";

type Loose = Readonly<Record<string, unknown>>;

const said = (value: unknown): string => (typeof value === "string" ? value : typeof value === "object" && value !== null && "name" in value ? String(value.name) : "");

/** Entries are never changed, only replaced: what one says stays true for as long as it lives. */
const kept = new WeakMap<object, string>();

const _saidBy = (table: TableDescription, entry: Loose): string => {
  const known = kept.get(entry);
  if (known !== undefined) return known;
  const text = entry.kind === "main" ? "" : saidIn(fieldsOf(table, entry), entry).filter(Boolean).join("\n");
  kept.set(entry, text);
  return text;
};

const saidIn = (fields: Fields, entry: Loose): readonly string[] => Object.entries(fields).flatMap(([key, field]) => (field.searched ? [said(entry[key])] : []));

/** What a template is found by: every field of it and of its entries that is described as searched, in lower case. */
export const searchText = (doc: Template): string => {
  const tables = Object.entries(TEMPLATE.tables).flatMap(([name, table]) =>
    Object.values((doc as unknown as Readonly<Record<string, Readonly<Record<string, Loose>>>>)[name] ?? {}).flatMap((entry) =>
      entry.kind === "main" ? [] : saidIn(fieldsOf(table, entry), entry),
    ),
  );
  return [...new Set([...saidIn(TEMPLATE.header, doc as unknown as Loose), ...tables].filter(Boolean))].join("\n").toLowerCase();
};
