import { type Command, HEADER, refuse } from "../../commands/command";
import { fieldWords } from "../../commands/naming";
import { calledOf } from "../../commands/settle";
import { Work } from "../../commands/work";
import type { DocumentDescription } from "../../model/describe/table";
import { type PlannerOf, toAll } from "./edit";

export interface Part {
  readonly id: string;
}

/** Edits of a document that is made of tables of parts: a rig, the studio. */
export type PartsEdit<T extends string> =
  | { readonly kind: "document.rename"; readonly name: string }
  | { readonly kind: "settings.set"; readonly set: Readonly<Record<string, unknown>> }
  | { readonly kind: "parts.add"; readonly parts: { readonly [K in T]?: readonly Part[] }; readonly before?: string | null }
  | { readonly kind: "parts.set"; readonly table: T; readonly ids: readonly string[]; readonly set: Readonly<Record<string, unknown>> }
  | { readonly kind: "parts.move"; readonly table: T; readonly ids: readonly string[]; readonly before: string | null }
  | { readonly kind: "parts.remove"; readonly table: T; readonly ids: readonly string[] };

type Of<T extends string, K extends PartsEdit<T>["kind"]> = Extract<PartsEdit<T>, { readonly kind: K }>;
type PartsPlanners<D, T extends string> = { readonly [K in PartsEdit<T>["kind"]]: PlannerOf<D, Of<T, K>> };

/** Planners for a document made of parts, by its description. `removes` says what taking away a part of a table is called, where it is more than removing. */
export const partsEdits = <D extends { readonly id: string; readonly name: string }, T extends string>(
  description: DocumentDescription,
  removes: Partial<Readonly<Record<T, string>>> = {},
): PartsPlanners<D, T> => {
  const of = (table: T) => description.tables[table];
  const who = (doc: D, table: T, ids: readonly string[]): string => {
    const [work, table_, [only]] = [new Work(description, doc), of(table), ids];
    const entry = ids.length === 1 && only ? work.entry(table, only) : undefined;
    if (!table_) return "something";
    return entry ? calledOf(table_, entry, work) : ids.length === 1 ? `a ${table_.one}` : `${ids.length} ${table_.many}`;
  };
  const added = ({ parts }: Of<T, "parts.add">) => (Object.entries(parts) as unknown as readonly (readonly [T, readonly Part[]])[]).filter(([, entries]) => entries.length > 0);
  return {
    "document.rename": {
      plan: (doc, { name }) =>
        name.trim()
          ? [{ kind: "set", table: HEADER, values: { [doc.id]: { name: name.trim() } } }]
          : refuse("empty", doc.id, `A ${description.what} needs a name. Type one, or press Esc to keep the old one.`),
      name: (_doc, { name }) => `Rename the ${description.what} to ${name.trim()}`,
    },
    "settings.set": {
      plan: (doc, { set }) => [{ kind: "set", table: HEADER, values: { [doc.id]: set } }],
      name: (_doc, { set }) => `Set ${fieldWords(description.header, Object.keys(set))}`,
    },
    "parts.add": {
      plan: (_doc, edit) =>
        added(edit).length
          ? added(edit).map(([table, entries]): Command => ({ kind: "add", table, entries, ...(edit.before === undefined ? {} : { before: edit.before }) }))
          : refuse("empty", "", "There is nothing to add."),
      name: (doc, edit) => {
        const [first] = added(edit);
        if (!first) return "Add nothing";
        const [table, entries] = first;
        const described = of(table);
        const [only] = entries;
        // Named as it will be: what it belongs to may come with it.
        const named = described && only && entries.length === 1 ? calledOf(described, only as never, new Work(description, { ...doc, ...broughtBy(edit) })) : null;
        return `Add ${named ?? `${entries.length} ${described?.many ?? table}`}`;
      },
    },
    "parts.set": {
      plan: (_doc, { table, ids, set }) => [{ kind: "set", table, values: toAll(ids, set) }],
      name: (doc, { table, ids, set }) => {
        const people = who(doc, table, ids);
        if (typeof set.name === "string") return set.name ? `Rename ${people} to ${set.name}` : `Take the name off ${people}`;
        return `Set ${fieldWords(of(table)?.fields ?? {}, Object.keys(set))} of ${people}`;
      },
    },
    "parts.move": {
      plan: (_doc, { table, ids, before }) => [{ kind: "move", table, ids, before }],
      name: (doc, { table, ids }) => `Move ${who(doc, table, ids)}`,
    },
    "parts.remove": {
      plan: (_doc, { table, ids }) => [{ kind: "remove", table, ids }],
      name: (doc, { table, ids }) => `${removes[table] ?? "Remove"} ${who(doc, table, ids)}`,
    },
  };
};

const broughtBy = ({ parts }: { readonly parts: object }): object =>
  Object.fromEntries(
    Object.entries(parts as Readonly<Record<string, readonly Part[]>>).map(([table, entries]) => [table, Object.fromEntries(entries.map((entry) => [entry.id, entry]))]),
  );
