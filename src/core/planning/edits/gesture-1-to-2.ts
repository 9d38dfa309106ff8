import type { Command, Patch } from "../../commands/command";
import { HEADER } from "../../commands/command";
import type { TableDescription } from "../../model/describe/table";
import { completed } from "./gesture-completed";
import type { Editing } from "./plan-edits";

type Loose = Readonly<Record<string, unknown>>;

/** Words of version 1 that documents have others for. */
const RENAMED: Readonly<Record<string, string>> = {
  dye: "colour",
  dyes: "colours",
  wanted: "requestedInput",
  hangs: "usage",
};

const renamed = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(renamed);
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [RENAMED[key] ?? key, renamed(inner)]));
};

interface Context {
  readonly doc: Loose & { readonly id: string };
  readonly tables: Readonly<Record<string, TableDescription>>;
}

/** What stood at a place that was a number, among those of a parent: whatever comes there now goes before it. */
const at = ({ doc, tables }: Context, table: string, parent: unknown, place: unknown): string | null => {
  const within = tables[table]?.order?.within;
  const standing = Object.values((doc[table] ?? {}) as Readonly<Record<string, Loose>>)
    .filter((entry) => typeof entry.order === "string" && (!within || entry[within] === parent))
    .sort((a, b) => (String(a.order) < String(b.order) ? -1 : 1));
  return (standing[Number(place)]?.id as string | undefined) ?? null;
};

/**
 * One patch of an undo of version 1 as a command; none where it only numbered places anew. Null when it reaches deeper
 * than a field.
 */
const ofPatch = (context: Context, { op, path, value }: Patch): readonly Command[] | null => {
  const { doc, tables } = context;
  const [first = "", id, field, more] = path.map((step) => RENAMED[String(step)] ?? String(step));
  const of = tables[first];
  if (!of) return field === undefined ? ofHeader(doc, [first, id], value) : null;
  if (id === undefined || more !== undefined) return null;
  if (field === undefined && op === "remove") return [{ kind: "remove", table: first, ids: [id] }];
  if (field === undefined) {
    const { order, ...entry } = renamed(value) as Loose & { readonly id: string };
    return [
      {
        kind: "add",
        table: first,
        entries: [completed(tables, first, entry) as Loose & { readonly id: string }],
        ...(of.order ? { before: at(context, first, entry[of.order.within ?? ""], order) } : {}),
      },
    ];
  }
  if (field === "order") return [];
  if (field === of.order?.within)
    return [{ kind: "move", table: first, ids: [id], parent: value as string | null, before: null }];
  return [{ kind: "set", table: first, values: { [id]: { [field]: renamed(value) } } }];
};

const ofHeader = (
  doc: Context["doc"],
  [field = "", part]: readonly (string | undefined)[],
  value: unknown,
): readonly Command[] => [
  {
    kind: "set",
    table: HEADER,
    values: { [doc.id]: { [field]: part === undefined ? renamed(value) : { [part]: value } } },
  },
];

/** Edits of one table that had kinds of their own: where what they spoke of is named today. */
const OF_TABLE: Readonly<Record<string, { readonly table: string; readonly ids: string }>> = {
  tracks: { table: "channels", ids: "trackIds" },
  lines: { table: "lines", ids: "lineIds" },
  folders: { table: "folders", ids: "folderIds" },
};

/** An edit that had a kind of its own in version 1, as the plain edit that does the same. */
const plainly = (edit: Loose): Loose => {
  const [about = "", verb] = String(edit.kind).split(".");
  const of = OF_TABLE[about];
  const { kind: _kind, sessionKind, ...rest } = edit;
  switch (edit.kind) {
    case "template.rename":
      return { kind: "document.rename", name: edit.name };
    case "template.set":
      return { kind: "settings.set", set: { ...rest, ...(sessionKind === undefined ? {} : { kind: sessionKind }) } };
    case "tracks.share":
      return { kind: "entries.set", table: "channels", ids: edit.trackIds, set: { sharing: edit.sharing } };
    case "tracks.set":
    case "lines.set":
    case "folders.set":
      return { kind: "entries.set", table: of?.table, ids: edit[of?.ids ?? ""], set: edit.set };
    case "tracks.move":
      return {
        kind: "entries.move",
        table: "channels",
        ids: edit.trackIds,
        parent: edit.folderId,
        before: edit.before,
      };
    case "folders.move":
      return {
        kind: "entries.move",
        table: "folders",
        ids: [edit.folderId],
        parent: edit.parentId,
        before: edit.before,
      };
    case "tracks.remove":
      return { kind: "entries.remove", table: "channels", ids: edit.trackIds };
    case "folders.add":
      return {
        kind: "entries.add",
        entries: {
          folders: (edit.folders as readonly Loose[]).map((folder) => ({ ...folder, parentId: edit.parentId })),
        },
      };
    case "findings.accept":
      return { kind: "entries.add", entries: { accepted: edit.findings } };
    case "findings.reopen":
      return { kind: "entries.remove", table: "accepted", ids: edit.findingIds };
    default:
      return about === "parts" ? { ...edit, kind: `entries.${verb}` } : edit;
  }
};

/** An edit of version 1 as this Wandel plans it: other words, and places that were numbers. */
const ofEdit = (context: Context, command: Loose): Loose => {
  const edit = plainly(renamed(command) as Loose);
  const table = RENAMED[String(edit.table)] ?? edit.table;
  if (edit.kind === "entries.set" && typeof (edit.set as Loose).order === "number") {
    return {
      kind: "entries.move",
      table,
      ids: edit.ids,
      before: at(context, String(table), undefined, (edit.set as Loose).order),
    };
  }
  if (edit.kind !== "entries.add" || !edit.parts) return "table" in edit ? { ...edit, table } : edit;
  const { parts, ...rest } = edit;
  const entries = Object.entries(parts as Readonly<Record<string, readonly Loose[]>>).map(([name, of]) => [
    name,
    of.map(({ order: _order, ...entry }) => entry),
  ]);
  return { ...rest, entries: Object.fromEntries(entries) };
};

/**
 * Gestures of version 1, as a browser kept them for a window that was closed before they were saved: edits by their old
 * names are planned anew, and an undo becomes commands that do the same. Answers why where that can't be.
 */
export const gestureOneToTwo = <D extends { readonly id: string }, E extends { readonly kind: string }>(
  editing: Editing<D, E>,
  doc: D,
  commands: readonly object[],
): readonly Command[] | string => {
  const context: Context = { doc: doc as unknown as Context["doc"], tables: editing.engine.description.tables };
  const found: Command[] = [];
  try {
    for (const command of commands as readonly Loose[]) {
      const done = editing.engine.applyAll(doc, found);
      const now = { ...context, doc: (done.ok ? done.doc : doc) as unknown as Context["doc"] };
      if (command.kind === "document.restore") {
        const parts = (command.patches as readonly Patch[]).map((patch) => ofPatch(now, patch));
        if (parts.some((part) => part === null))
          return "it was made with an older Wandel, and what it took back can't be told any more.";
        found.push(...parts.flatMap((part) => part ?? []));
        continue;
      }
      const planned = editing.plan(now.doc as unknown as D, [ofEdit(now, command) as unknown as E]);
      if (!planned.ok) return planned.refusal.message;
      found.push(...planned.commands);
    }
  } catch {
    return "it was made with an older Wandel, and can't be read any more.";
  }
  return found;
};
