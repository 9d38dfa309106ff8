import { type Command, HEADER, type Refusal, refuse } from "../../commands/command";
import { namesIn } from "../../commands/naming";
import { refusalsOf } from "../../commands/verbs";
import type { Field, Fields } from "../../model/describe/fields";
import {
  allFieldsOf,
  begun,
  type DocumentDescription,
  fieldsOf,
  type TableDescription,
} from "../../model/describe/table";
import { type PlannerOf, toAll } from "./planner";
import { firstOf } from "./refusals";

type Loose = Readonly<Record<string, unknown>>;
type Named = { readonly id: string };

/** What a table holds. */
type Entry<Tables, T extends keyof Tables> = Tables[T] extends Readonly<Record<string, infer E>> ? E : never;
type IdOf<E> = E extends { readonly id: infer Id } ? Id : string;

/** An entry that is to be added: what is not said of it begins as its description says. */
export type NewEntry<E> = E extends Named ? Pick<E, "id"> & Partial<Omit<E, "id" | "order">> : never;

type KeyOf<E> = E extends unknown ? keyof E : never;
type ValueOf<E, K> = E extends unknown ? (K extends keyof E ? E[K] : never) : never;

/** Fields that are set: any that a kind of entry has, but not what it is. */
export type Change<E> = { readonly [K in Exclude<KeyOf<E>, "id" | "order">]?: ValueOf<E, K> };

type Settings<Header> = {
  readonly [K in keyof Header]?: Header[K] extends string | number | boolean | null ? Header[K] : Partial<Header[K]>;
};

/** A place to come to: before an entry, or at the end; of another parent where the table has them. */
interface Place {
  readonly parent?: string | null;
  readonly before: string | null;
}

interface OfTable<T, E> {
  readonly table: T;
  readonly ids: readonly IdOf<E>[];
}

/**
 * Plain edits of any document: of what it says itself, and of the entries of its tables. What is more than that has a
 * kind of its own.
 */
export type EntryEdit<Header, Tables> =
  | { readonly kind: "document.rename"; readonly name: string }
  | { readonly kind: "settings.set"; readonly set: Settings<Header> }
  | {
      readonly kind: "entries.add";
      readonly entries: { readonly [T in keyof Tables]?: readonly NewEntry<Entry<Tables, T>>[] };
      /** Where those of the first table come. */
      readonly before?: string | null;
    }
  | {
      readonly [T in keyof Tables]:
        | (OfTable<T, Entry<Tables, T>> & {
            readonly kind: "entries.set";
            readonly set: Change<Entry<Tables, T>> /** Without those that are held together with them. */;
            readonly alone?: true;
          })
        | (OfTable<T, Entry<Tables, T>> & Place & { readonly kind: "entries.move" })
        | (OfTable<T, Entry<Tables, T>> & { readonly kind: "entries.remove" });
    }[keyof Tables];

export interface SetEntries {
  readonly ids: readonly string[];
  readonly set: Loose;
  readonly alone?: true | undefined;
}

export interface MoveEntries extends Place {
  readonly ids: readonly string[];
}

/**
 * What people expect of plain edits of a table beyond what they say: why not, and what goes with it. Each answers with
 * all the commands, the plain one among them.
 */
export interface Habits<D> {
  readonly add?: (doc: D, entries: readonly Loose[]) => Refusal | null;
  readonly set?: (doc: D, edit: SetEntries) => readonly Command[] | Refusal;
  readonly move?: (doc: D, edit: MoveEntries) => readonly Command[] | Refusal;
  readonly remove?: (doc: D, ids: readonly string[]) => readonly Command[] | Refusal;
}

type LooseEdit =
  | {
      readonly kind: "entries.add";
      readonly entries: Readonly<Record<string, readonly (Loose & Named)[]>>;
      readonly before?: string | null;
    }
  | ({ readonly kind: "entries.set"; readonly table: string } & SetEntries)
  | ({ readonly kind: "entries.move"; readonly table: string } & MoveEntries)
  | { readonly kind: "entries.remove"; readonly table: string; readonly ids: readonly string[] };

/** Whether a text must say something. */
const mustSay = ({ needed, schema }: Field): boolean =>
  needed !== undefined || Number((schema as { readonly minLength?: number }).minLength ?? 0) > 0;

/** Texts that must say something without blanks at their ends; why one says nothing. */
const trimmed = (of: TableDescription, fields: Fields, values: Loose): { readonly values: Loose } | Refusal => {
  let out = values;
  for (const [key, value] of Object.entries(values)) {
    const field = Object.hasOwn(fields, key) ? fields[key] : undefined;
    if (!field || typeof value !== "string" || field.kind !== "text" || !mustSay(field)) continue;
    const text = value.trim();
    if (!text)
      return refuse(
        "empty",
        String(values.id ?? ""),
        field.needed ??
          `A ${of.one} needs ${field.word.replace(/^the /, "a ")}. Type one, or press Esc to keep the old one.`,
      );
    if (text !== value) out = { ...out, [key]: text };
  }
  return { values: out };
};

const isRefusal = (answer: object): answer is Refusal => "message" in answer;

type Tables = Readonly<Record<string, Readonly<Record<string, Loose>>>>;

/** What is asked of a document before an edit of its entries is planned, by its description. */
const looksIn = <D extends Named>(description: DocumentDescription) => {
  const of = (table: string): TableDescription | undefined =>
    Object.hasOwn(description.tables, table) ? description.tables[table] : undefined;
  const entries = (doc: D, table: string): Readonly<Record<string, Loose>> => (doc as unknown as Tables)[table] ?? {};
  const { gone, nothing, noTable } = refusalsOf(description);

  const there = (doc: D, table: string, ids: readonly string[]): Refusal | null => {
    const described = of(table);
    if (!described) return noTable(doc.id, table);
    if (!ids.length) return nothing(described);
    const missing = ids.find((id) => !Object.hasOwn(entries(doc, table), id));
    return missing === undefined ? null : gone(described, missing);
  };

  const overfull = (doc: D, table: string, more: number): Refusal | null => {
    const described = of(table);
    if (!described || Object.keys(entries(doc, table)).length + more <= described.most) return null;
    const { many, most } = described;
    const elsewhere = description.what === "template" ? " Make a second template for the rest." : "";
    return refuse(
      "unfit",
      doc.id,
      `A ${description.what} holds up to ${most} ${many}; with these it would have more.${elsewhere}`,
    );
  };

  const parentThere = (doc: D, table: string, parent: string | null | undefined): Refusal | null => {
    const within = of(table)?.order?.within;
    const to = within
      ? fieldsOf(of(table) as TableDescription, { kind: of(table)?.order?.kinds?.[0] })[within]?.references?.[0]?.to
      : undefined;
    return parent && to ? there(doc, to, [parent]) : null;
  };

  /** Entries as they are added, each with what it begins with. */
  const made = (table: string, given: readonly Loose[]): { readonly entries: readonly (Loose & Named)[] } | Refusal => {
    const described = of(table);
    if (!described) return noTable("", table);
    const all: (Loose & Named)[] = [];
    for (const one of given) {
      const entry = begun(described, one);
      const answer = trimmed(described, fieldsOf(described, entry), entry);
      if (isRefusal(answer)) return answer;
      all.push(answer.values as Loose & Named);
    }
    return { entries: all };
  };

  return { of, noTable, there, overfull, parentThere, made };
};

type AddEdit = Extract<LooseEdit, { kind: "entries.add" }>;
type SetEdit = Extract<LooseEdit, { kind: "entries.set" }>;
type MoveEdit = Extract<LooseEdit, { kind: "entries.move" }>;
type RemoveEdit = Extract<LooseEdit, { kind: "entries.remove" }>;

/** What of an edit brings anything, by table. */
const broughtBy = ({ entries }: AddEdit) => Object.entries(entries).filter(([, given]) => given.length > 0);

/** Plans the four verbs on entries: what the edit says, and what the habits of the table take along. */
const plansIn = <D extends Named>(description: DocumentDescription, habits: Readonly<Record<string, Habits<D>>>) => {
  const { of, noTable, there, overfull, parentThere, made } = looksIn<D>(description);

  const add = (doc: D, edit: AddEdit): readonly Command[] | Refusal => {
    const groups = broughtBy(edit);
    if (!groups.length) return refuse("empty", "", "There is nothing to add.");
    const commands: Command[] = [];
    for (const [at, [table, given]] of groups.entries()) {
      const answer = made(table, given);
      if (isRefusal(answer)) return answer;
      const refusal = firstOf(
        () => overfull(doc, table, given.length),
        () => habits[table]?.add?.(doc, answer.entries) ?? null,
      );
      if (refusal) return refusal;
      commands.push({
        kind: "add",
        table,
        entries: answer.entries,
        ...(at === 0 && edit.before !== undefined ? { before: edit.before } : {}),
      });
    }
    return commands;
  };

  const set = (doc: D, { table, ids, set: wanted, alone }: SetEdit): readonly Command[] | Refusal => {
    const described = of(table);
    const missing = there(doc, table, ids);
    if (missing || !described) return missing ?? noTable(doc.id, table);
    const fields = allFieldsOf(described);
    const apart = Object.keys(wanted).find((key) => Object.hasOwn(fields, key) && fields[key]?.apart);
    if (apart !== undefined)
      return refuse("unfit", ids[0] ?? "", `That can't be set by itself: ${fields[apart]?.word}.`);
    const answer = trimmed(described, fields, wanted);
    if (isRefusal(answer)) return { ...answer, at: ids[0] ?? "" };
    return (
      habits[table]?.set?.(doc, { ids, set: answer.values, alone }) ?? [
        { kind: "set", table, values: toAll(ids, answer.values) },
      ]
    );
  };

  const move = (doc: D, { table, ids, parent, before }: MoveEdit): readonly Command[] | Refusal => {
    const refusal = firstOf(
      () => there(doc, table, ids),
      () => parentThere(doc, table, parent),
      () => (before === null ? null : there(doc, table, [before])),
    );
    if (refusal) return refusal;
    const place = { ids, before, ...(parent === undefined ? {} : { parent }) };
    return habits[table]?.move?.(doc, place) ?? [{ kind: "move", table, ...place }];
  };

  const remove = (doc: D, { table, ids }: RemoveEdit): readonly Command[] | Refusal =>
    there(doc, table, ids) ?? habits[table]?.remove?.(doc, ids) ?? [{ kind: "remove", table, ids }];

  return { add, set, move, remove };
};

/** Planners of the plain edits of a document, by its description. */
export const entryEdits = <D extends Named & { readonly name: string }>(
  description: DocumentDescription,
  habits: Readonly<Record<string, Habits<D>>> = {},
) => {
  const { add, set, move, remove } = plansIn(description, habits);
  const names = (doc: D) => namesIn(description, doc);
  const planners = {
    "document.rename": {
      plan: (doc: D, { name }: { readonly name: string }) =>
        name.trim()
          ? [{ kind: "set" as const, table: HEADER, values: { [doc.id]: { name: name.trim() } } }]
          : refuse("empty", doc.id, `A ${description.what} needs a name. Type one, or press Esc to keep the old one.`),
      name: (_doc: D, { name }: { readonly name: string }) => `Rename the ${description.what} to ${name.trim()}`,
    },
    "settings.set": {
      plan: (doc: D, { set: wanted }: { readonly set: Loose }) => [
        { kind: "set" as const, table: HEADER, values: { [doc.id]: wanted } },
      ],
      name: (doc: D, { set: wanted }: { readonly set: Loose }) => names(doc).header(wanted),
    },
    "entries.add": {
      plan: add,
      name: (doc: D, edit: AddEdit) => {
        const [first] = broughtBy(edit);
        if (!first) return "Add nothing";
        const [table, given] = first;
        const described = description.tables[table];
        // Named as it will be: what it belongs to may come with it.
        return described
          ? names(withBrought(doc, edit.entries)).added(
              table,
              given.map((entry) => begun(described, entry)),
            )
          : "Add something";
      },
    },
    "entries.set": {
      plan: set,
      name: (doc: D, edit: SetEdit) => names(doc).set(edit.table, edit.ids, edit.set),
    },
    "entries.move": {
      plan: move,
      name: (doc: D, edit: MoveEdit) => names(doc).moved(edit.table, edit.ids, edit.parent ?? null),
    },
    "entries.remove": {
      plan: remove,
      name: (doc: D, edit: RemoveEdit) => names(doc).removed(edit.table, edit.ids),
    },
  };
  return planners;
};

type EntryKind = "document.rename" | "settings.set" | "entries.add" | "entries.set" | "entries.move" | "entries.remove";

/** The planners of plain edits as those of the edits of one kind of document. */
export type EntryPlanners<D, E extends { readonly kind: string }> = {
  readonly [K in EntryKind]: PlannerOf<D, Extract<E, { readonly kind: K }>>;
};

/** The document with what an edit brings. */
const withBrought = <D extends Named>(doc: D, entries: Readonly<Record<string, readonly Named[]>>): D => {
  const tables = doc as unknown as Readonly<Record<string, object>>;
  return {
    ...doc,
    ...Object.fromEntries(
      Object.entries(entries).map(([table, given]) => [
        table,
        { ...tables[table], ...Object.fromEntries(given.map((entry) => [entry.id, entry])) },
      ]),
    ),
  };
};
