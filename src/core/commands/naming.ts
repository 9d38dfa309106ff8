import type { DocumentDescription, TableDescription } from "../model/describe/table";
import { type Command, HEADER } from "./command";
import { calledOf } from "./settle";
import { Work } from "./work";

type Loose = Readonly<Record<string, unknown>>;

/** "the gain", "phantom and the pad": fields as a sentence names them. */
export const fieldWords = (fields: Readonly<Record<string, { readonly word: string }>>, keys: readonly string[]): string =>
  keys.map((key) => fields[key]?.word ?? key).join(" and ");

/** What a person would call a command by itself. Edits that people make have names of their own; this is for those that came without. */
export const calledBy =
  (description: DocumentDescription) =>
  (doc: { readonly id: string }, command: Command): string => {
    if (command.kind === "restore") return `Undo: ${command.undoes}`;
    if (command.kind === "set" && command.table === HEADER)
      return `Set ${fieldWords(description.header, Object.keys(Object.values(command.values)[0] ?? {}))} of the ${description.what}`;
    const of = description.tables[command.table];
    return of ? inTable(new Work(description, doc), of, command) : "An edit";
  };

const inTable = (work: Work<{ readonly id: string }>, of: TableDescription, command: Exclude<Command, { readonly kind: "restore" }>): string => {
  const name = (entry: Loose | undefined): string => (entry ? calledOf(of, entry, work) : `a ${of.one}`);
  const who = (ids: readonly string[]): string => (ids.length === 1 ? name(work.entry(command.table, ids[0] ?? "")) : `${ids.length} ${of.many}`);
  switch (command.kind) {
    case "add":
      return `Add ${command.entries.length === 1 ? name(command.entries[0] as unknown as Loose) : `${command.entries.length} ${of.many}`}`;
    case "set": {
      const fields = { ...of.fields, ...Object.assign({}, ...Object.values(of.kinds ?? {})) };
      return `Set ${fieldWords(fields, [...new Set(Object.values(command.values).flatMap((values) => Object.keys(values)))])} of ${who(Object.keys(command.values))}`;
    }
    case "move":
      return `Move ${who(command.ids)}`;
    case "remove":
      return `Remove ${who(command.ids)}`;
    default:
      return command satisfies never;
  }
};
