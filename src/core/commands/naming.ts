import type { Field, Fields } from "../model/describe/fields";
import {
  allFieldsOf,
  type DocumentDescription,
  fieldsOf,
  type Surroundings,
  type TableDescription,
} from "../model/describe/table";
import { counted } from "../units/counted";
import { type Command, HEADER } from "./command";
import { calledOf } from "./tidy";
import { Work } from "./work";

type Loose = Readonly<Record<string, unknown>>;
type AnyWork = Work<{ readonly id: string }>;

/** "the gain", "phantom and the pad": fields as a sentence names them. */
export const fieldWords = (
  fields: Readonly<Record<string, { readonly word: string }>>,
  keys: readonly string[],
): string => [...new Set(keys.map((key) => fields[key]?.word ?? key))].join(" and ");

const around = (work: AnyWork): Surroundings => ({
  entry: work.around.entry,
  table: (name) => work.table(name) ?? {},
});

/** Entries in words: by name where there is one, else by number. */
const whoAre = (of: TableDescription, entries: readonly Loose[], work: AnyWork): string => {
  const who = of.calls?.who as ((entries: readonly Loose[], around: Surroundings) => string) | undefined;
  const [only] = entries;
  if (who && only) return who(entries, around(work));
  return only && entries.length === 1 ? calledOf(of, only, work) : counted(entries.length, of.one, of.many);
};

const those = (work: AnyWork, table: string, ids: readonly string[]): readonly Loose[] =>
  ids.map((id) => work.entry(table, id)).filter((entry) => entry !== undefined);

const renamed = (who: string, name: string): string =>
  name.trim() ? `Rename ${who} to ${name.trim()}` : `Take the name off ${who}`;

const said = (
  { says }: Field,
  who: string,
  { value, work }: { readonly value: unknown; readonly work: AnyWork },
): string | null => (says ? says(who, value as never, around(work)) : null);

/** What setting fields is called: by the first of them that has words of its own. */
const setWords = (
  fields: Fields,
  set: Loose,
  { who, work }: { readonly who: string; readonly work: AnyWork },
): string | null => {
  for (const [key, field] of Object.entries(fields)) {
    if (!Object.hasOwn(set, key) || set[key] === undefined) continue;
    const words =
      said(field, who, { value: set[key], work }) ??
      (key === "name" && typeof set[key] === "string" ? renamed(who, set[key]) : null);
    if (words !== null) return words;
  }
  return null;
};

/** What edits of entries are called, by the description of their table. */
export const namesIn = (description: DocumentDescription, doc: { readonly id: string }) => {
  const work = new Work(description, doc);
  const of = (table: string): TableDescription | undefined =>
    Object.hasOwn(description.tables, table) ? description.tables[table] : undefined;
  const who = (table: string, ids: readonly string[]): string => {
    const described = of(table);
    if (!described) return "something";
    const entries = those(work, table, ids);
    return entries.length
      ? whoAre(described, entries, work)
      : ids.length === 1
        ? `a ${described.one}`
        : counted(ids.length, described.one, described.many);
  };
  return {
    who,
    added: (table: string, entries: readonly Loose[]): string => {
      const described = of(table);
      if (!described) return "Add something";
      const added = described.calls?.added as ((entries: readonly Loose[], around: Surroundings) => string) | undefined;
      return added ? added(entries, around(work)) : `Add ${whoAre({ ...described, calls: {} }, entries, work)}`;
    },
    set: (table: string, ids: readonly string[], set: Loose): string => {
      const described = of(table);
      const [first] = those(work, table, ids);
      const fields = described ? (first ? fieldsOf(described, first) : described.fields) : {};
      const whom = who(table, ids);
      return setWords(fields, set, { who: whom, work }) ?? `Set ${fieldWords(fields, Object.keys(set))} of ${whom}`;
    },
    /** The same for entries that are set each to something of its own: which fields, and not to what. */
    setApart: (table: string, values: Readonly<Record<string, Loose>>): string => {
      const described = of(table);
      const fields = described ? allFieldsOf(described) : {};
      return `Set ${fieldWords(fields, [...new Set(Object.values(values).flatMap((set) => Object.keys(set)))])} of ${who(table, Object.keys(values))}`;
    },
    moved: (table: string, ids: readonly string[], parent: string | null): string => {
      const moved = of(table)?.calls?.moved as
        | ((entries: readonly Loose[], to: object, around: Surroundings) => string)
        | undefined;
      const entries = those(work, table, ids);
      return moved && entries.length
        ? moved(entries, { who: who(table, ids), parent }, around(work))
        : `Move ${who(table, ids)}`;
    },
    removed: (table: string, ids: readonly string[]): string => {
      const removed = of(table)?.calls?.removed as
        | ((entries: readonly Loose[], who: string, around: Surroundings) => string)
        | undefined;
      const entries = those(work, table, ids);
      return removed && entries.length ? removed(entries, who(table, ids), around(work)) : `Remove ${who(table, ids)}`;
    },
    /** Fields of the document itself, those of groups among them. */
    header: (set: Loose): string => {
      for (const [key, value] of Object.entries(set)) {
        const field = description.header[key];
        if (!field || value === undefined) continue;
        const inner =
          field.fields && typeof value === "object" && value !== null
            ? { fields: field.fields, set: value as Loose }
            : null;
        const words = inner ? setWords(inner.fields, inner.set, { who: "", work }) : said(field, "", { value, work });
        if (words !== null) return words;
        if (inner) return `Set ${fieldWords(inner.fields, Object.keys(inner.set))}`;
      }
      return `Set ${fieldWords(description.header, Object.keys(set))}`;
    },
  };
};

/** Whether entries are set each to something of its own. */
const setApart = (values: Readonly<Record<string, Loose>>): boolean =>
  new Set(Object.values(values).map((fields) => JSON.stringify(fields))).size > 1;

/**
 * What a person would call a command by itself. Edits that people make have names of their own; this is for those that
 * came without.
 */
export const calledBy =
  (description: DocumentDescription) =>
  (doc: { readonly id: string }, command: Command): string => {
    const names = namesIn(description, doc);
    switch (command.kind) {
      case "restore":
        return command.carries ? command.undoes : `Undo: ${command.undoes}`;
      case "add":
        return names.added(command.table, command.entries as unknown as readonly Loose[]);
      case "set":
        if (command.table === HEADER)
          return `${names.header(Object.values(command.values)[0] ?? {})} of the ${description.what}`;
        return setApart(command.values)
          ? names.setApart(command.table, command.values)
          : names.set(command.table, Object.keys(command.values), Object.values(command.values)[0] ?? {});
      case "move":
        return names.moved(command.table, command.ids, command.parent ?? null);
      case "remove":
        return names.removed(command.table, command.ids);
      default:
        return command satisfies never;
    }
  };
