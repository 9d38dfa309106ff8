import { type Draft, produce } from "immer";
import { type Fault, isReserved } from "../model/schema-parts";
import { counted } from "../units/counted";
import { firstOf, type HandlerTable, type Refusal, type RestoreCommand, refuse } from "./engine";

/** Edits of a document that is made of tables of parts: a rig, the studio. What a part may be is in the schema of its table. */
export type PartsCommand<T extends string> =
  | { readonly kind: "document.rename"; readonly name: string }
  | { readonly kind: "settings.set"; readonly set: Readonly<Record<string, unknown>> }
  | { readonly kind: "parts.add"; readonly parts: { readonly [K in T]?: readonly Part[] } }
  | { readonly kind: "parts.set"; readonly table: T; readonly ids: readonly string[]; readonly set: Readonly<Record<string, unknown>> }
  | { readonly kind: "parts.remove"; readonly table: T; readonly ids: readonly string[] }
  | RestoreCommand;

export interface Part {
  readonly id: string;
}

type Tables = Record<string, Record<string, Part>>;

/** What is told of a kind of document made of parts. */
export interface PartsRules<D, T extends string> {
  readonly what: string;
  readonly tables: readonly T[];
  /** Singular of what a table holds: "device", "port". */
  readonly words: Readonly<Record<T, string>>;
  /** What a field is called in the name of an edit; its own name when it is not here. */
  readonly fields: Readonly<Record<string, string>>;
  readonly settings: readonly string[];
  readonly faults: (doc: D) => readonly Fault[];
  readonly broken: (doc: D) => readonly string[];
  /** Drops what refers to parts that are gone. */
  readonly repair: (draft: Draft<D>) => void;
  /** What a part is called; null when it has no name of its own. */
  readonly nameOf: (doc: D, table: T, part: Part) => string | null;
}

/** The document with only the named parts, so that a small edit of a large rig does not cost a look at the whole of it. */
const only = <D extends object, T extends string>(doc: D, tables: readonly T[], touched: Readonly<Partial<Record<T, readonly string[]>>>): D => ({
  ...doc,
  ...Object.fromEntries(tables.map((table) => [table, Object.fromEntries((touched[table] ?? []).map((id) => [id, (doc as unknown as Tables)[table]?.[id]]))])),
});

export const partsHandlers = <D extends { readonly id: string; readonly name: string }, T extends string>(
  rules: PartsRules<D, T>,
): Omit<HandlerTable<D, PartsCommand<T>>, "document.restore"> => {
  type Of<K extends PartsCommand<T>["kind"]> = Extract<PartsCommand<T>, { readonly kind: K }>;
  const tableOf = (doc: object, table: string): Record<string, Part> => (doc as Tables)[table] ?? {};
  const who = (doc: D, table: T, ids: readonly string[]): string => {
    const part = ids.length === 1 && ids[0] ? tableOf(doc, table)[ids[0]] : undefined;
    return (part && rules.nameOf(doc, table, part)) || (ids.length === 1 ? `a ${rules.words[table]}` : counted(ids.length, rules.words[table]));
  };
  const missing = (doc: D, table: T, ids: readonly string[]): Refusal | null => {
    if (!rules.tables.includes(table)) return refuse("unfit", table, `A ${rules.what} has no ${table}.`);
    if (!ids.length) return refuse("empty", "", `No ${rules.words[table]} was named. Select one or more.`);
    const gone = ids.find((id) => !Object.hasOwn(tableOf(doc, table), id));
    return gone === undefined ? null : refuse("missing", gone, `The ${rules.words[table]} this was meant for is no longer there: it was removed in the meantime.`);
  };
  const unfit = (next: D, touched: Readonly<Partial<Record<T, readonly string[]>>>): Refusal | null => {
    const fault = rules.faults(only(next, rules.tables, touched))[0];
    if (fault) return refuse("unfit", fault.pointer, `That does not fit at ${fault.pointer.split("/").slice(-1)[0] || "its root"}: ${fault.message}`);
    const broken = rules.broken(next)[0];
    return broken ? refuse("unfit", next.id, `That can't be: ${broken}.`) : null;
  };
  const added = ({ parts }: Of<"parts.add">) => Object.entries(parts) as unknown as readonly (readonly [T, readonly Part[]])[];

  // What is asked for is judged as it stands: repairing it first would take a wrong reference for none.
  const putIn = (draft: Draft<D>, command: Of<"parts.add">): void => {
    for (const [table, parts] of added(command)) for (const part of parts) tableOf(draft as object, table)[part.id] = { ...part };
  };
  const changeIn = (draft: Draft<D>, { table, ids, set: change }: Of<"parts.set">): void => {
    for (const id of ids) Object.assign(tableOf(draft as object, table)[id] ?? {}, change);
  };

  const add = {
    edit: (draft: Draft<D>, command: Of<"parts.add">) => {
      putIn(draft, command);
      rules.repair(draft);
    },
    check: (doc: D, command: Of<"parts.add">): Refusal | null =>
      firstOf(
        () => {
          const unknown = added(command).find(([table]) => !rules.tables.includes(table));
          return unknown ? refuse("unfit", unknown[0], `A ${rules.what} has no ${unknown[0]}.`) : null;
        },
        () => (added(command).some(([, parts]) => parts.length) ? null : refuse("empty", "", "There is nothing to add.")),
        () => {
          const ids = added(command).map(([table, parts]) => ({ table, ids: parts.map((part) => part.id) }));
          const clash = ids.flatMap(({ table, ids: own }) => own.filter((id, at) => isReserved(id) || Object.hasOwn(tableOf(doc, table), id) || own.indexOf(id) < at))[0];
          return clash === undefined ? null : refuse("clash", clash, `Something with the id ${clash} is already in this ${rules.what}.`);
        },
        () =>
          unfit(
            produce(doc, (draft) => void putIn(draft, command)),
            Object.fromEntries(added(command).map(([table, parts]) => [table, parts.map((part) => part.id)])) as never,
          ),
      ),
    name: (doc: D, command: Of<"parts.add">) => {
      const [table, parts] = added(command).find(([, entries]) => entries.length) ?? [rules.tables[0] as T, []];
      const only = parts.length === 1 && parts[0] ? rules.nameOf(doc, table, parts[0]) : null;
      return `Add ${only || counted(parts.length, rules.words[table])}`;
    },
  };

  const set = {
    edit: (draft: Draft<D>, command: Of<"parts.set">) => {
      changeIn(draft, command);
      rules.repair(draft);
    },
    check: (doc: D, command: Of<"parts.set">): Refusal | null =>
      firstOf(
        () => missing(doc, command.table, command.ids),
        () => ("id" in command.set ? refuse("unfit", command.ids[0] ?? "", "The id of a part stays what it is.") : null),
        () =>
          unfit(
            produce(doc, (draft) => void changeIn(draft, command)),
            { [command.table]: command.ids } as never,
          ),
      ),
    name: (doc: D, { table, ids, set: change }: Of<"parts.set">) => {
      const people = who(doc, table, ids);
      if (typeof change.name === "string") return change.name ? `Rename ${people} to ${change.name}` : `Take the name off ${people}`;
      const words = Object.keys(change).map((field) => rules.fields[field] ?? field);
      return `Set ${words.join(" and ")} of ${people}`;
    },
  };

  return {
    "document.rename": {
      check: (doc, { name }: Of<"document.rename">) => (name.trim() ? null : refuse("empty", doc.id, `A ${rules.what} needs a name. Type one, or press Esc to keep the old one.`)),
      edit: (draft, { name }) => {
        (draft as { name: string }).name = name.trim();
      },
      name: (_doc, { name }) => `Rename the ${rules.what} to ${name.trim()}`,
    },
    "settings.set": {
      check: (doc, { set: change }: Of<"settings.set">) => {
        const foreign = Object.keys(change).find((field) => !rules.settings.includes(field));
        return foreign === undefined ? unfit({ ...doc, ...change }, {} as never) : refuse("unfit", foreign, `A ${rules.what} has no setting ${foreign}.`);
      },
      edit: (draft, { set: change }) => void Object.assign(draft, change),
      name: (_doc, { set: change }) =>
        `Set ${Object.keys(change)
          .map((field) => rules.fields[field] ?? field)
          .join(" and ")}`,
    },
    "parts.add": add,
    "parts.set": set,
    "parts.remove": {
      check: (doc, { table, ids }: Of<"parts.remove">) => missing(doc, table, ids),
      edit: (draft, { table, ids }) => {
        for (const id of ids) delete tableOf(draft as object, table)[id];
        rules.repair(draft);
      },
      name: (doc, { table, ids }) => `${table === "devices" ? "Retire" : "Remove"} ${who(doc, table, ids)}`,
    },
  } as Omit<HandlerTable<D, PartsCommand<T>>, "document.restore">;
};
