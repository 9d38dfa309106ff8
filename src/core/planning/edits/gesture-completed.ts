import type { Command, Patch } from "../../commands/command";
import { fieldsOf, type TableDescription } from "../../model/describe/table";

type Loose = Readonly<Record<string, unknown>>;
type Tables = Readonly<Record<string, TableDescription>>;

/** An entry as an older Wandel wrote it, with what it did not know as that begins. */
export const completed = (tables: Tables, table: string, entry: Loose): Loose => {
  const of = tables[table];
  if (!of) return entry;
  const missing = Object.entries(fieldsOf(of, entry)).flatMap(([key, { initial }]) =>
    key in entry || initial === undefined ? [] : [[key, initial] as const],
  );
  return missing.length ? { ...entry, ...Object.fromEntries(missing) } : entry;
};

const isEntry = (value: unknown): value is Loose => typeof value === "object" && value !== null;

const ofPatch = (tables: Tables, patch: Patch): Patch => {
  const [table = "", , field] = patch.path.map(String);
  return field === undefined && patch.op === "add" && isEntry(patch.value)
    ? { ...patch, value: completed(tables, table, patch.value) }
    : patch;
};

/**
 * Gestures from version 2 on, as a browser kept them: edits mean the same, but entries that are brought as a whole (by
 * an undo, or by the parts of a rig) lack what later versions added.
 */
export const gestureCompleted = (tables: Tables, commands: readonly object[]): readonly Command[] =>
  (commands as readonly Command[]).map((command): Command => {
    if (command.kind === "restore")
      return { ...command, patches: command.patches.map((patch) => ofPatch(tables, patch)) };
    if (command.kind === "add")
      return {
        ...command,
        entries: command.entries.map((entry) => completed(tables, command.table, entry as unknown as Loose) as never),
      };
    return command;
  });
