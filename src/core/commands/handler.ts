import { current, type Draft } from "immer";
import type { ChannelId, FolderId, LineId } from "../model/ids";
import { MOST } from "../model/limits";
import { isTrack } from "../model/read-template";
import { entriesOf } from "../model/rig";
import { isReserved } from "../model/schema-parts";
import type { Template, Track } from "../model/template";
import type { CommandKind, CommandOf } from "./command";
import { type HandlerOf, type Refusal, refuse } from "./engine";

export type TemplateDraft = Draft<Template>;

type Handler<K extends CommandKind> = HandlerOf<Template, CommandOf<K>>;

export type Handlers<Prefix extends string> = { readonly [K in Extract<CommandKind, `${Prefix}.${string}`>]: Handler<K> };

/** Whether a new entry can't have this id: another has it, or every object has something of this name. */
export const isTaken = (table: Readonly<Record<string, unknown>>, id: string): boolean => Object.hasOwn(table, id) || isReserved(id);

export const goneFrom = (table: Readonly<Record<string, unknown>>, ids: readonly string[], what: string): Refusal | null => {
  const gone = ids.find((id) => !Object.hasOwn(table, id));
  return gone === undefined ? null : refuse("missing", gone, `The ${what} this was meant for is no longer there: it was removed in the meantime.`);
};

export const missingLines = (doc: Template, ids: readonly LineId[]) => goneFrom(doc.lines, ids, "line");
export const missingFolders = (doc: Template, ids: readonly (FolderId | null)[]) =>
  goneFrom(
    doc.folders,
    ids.filter((id) => id !== null),
    "folder",
  );

export const missingTracks = (doc: Template, ids: readonly ChannelId[]): Refusal | null => {
  if (ids.length === 0) return refuse("empty", "", "No track was named. Select one or more tracks.");
  return goneFrom(doc.channels, ids, "track") ?? (ids.every((id) => isTrack(doc.channels[id])) ? null : refuse("unfit", "main", "The main bus can't be edited as a track."));
};

/** Whether a template would hold more than it may. */
export const tooMany = (
  doc: Template,
  added: { readonly tracks?: readonly unknown[]; readonly lines?: readonly unknown[]; readonly folders?: readonly unknown[] },
): Refusal | null => {
  for (const [table, there] of [
    ["tracks", doc.channels],
    ["lines", doc.lines],
    ["folders", doc.folders],
  ] as const) {
    const more = added[table]?.length ?? 0;
    if (more && Object.keys(there).length + more > MOST[table] + (table === "tracks" ? 1 : 0))
      return refuse("unfit", doc.id, `A template holds up to ${MOST[table]} ${table}; with these it would have more. Make a second template for the rest.`);
  }
  return null;
};

/** "Fiddle" for one, "4 tracks" for several. */
export const countTracks = (doc: Template, ids: readonly ChannelId[]): string =>
  ids.length === 1 && ids[0] ? doc.channels[ids[0]]?.name || "a track without a name" : `${ids.length} tracks`;

/** Puts tracks into a folder before another track, or at its end, and numbers the folder anew from 0. Linear in tracks. */
export const place = (
  draft: TemplateDraft,
  { ids, folderId, before }: { readonly ids: readonly ChannelId[]; readonly folderId: FolderId | null; readonly before: ChannelId | null },
): void => {
  const moving = new Set(ids);
  // Read as plain values: a draft would wrap every track that is only looked at. Only what changes is reached through it.
  const all = entriesOf(current(draft.channels)).filter((channel): channel is Draft<Track> => channel.kind === "track");
  const byId = new Map(all.map((track) => [track.id, track]));
  const placed = all.filter((track) => track.folderId === folderId && !moving.has(track.id)).sort((a, b) => a.order - b.order);
  const at = placed.findIndex((track) => track.id === before);
  const moved = ids.flatMap((id) => byId.get(id) ?? []);
  for (const [order, { id, ...was }] of [...placed.slice(0, at < 0 ? placed.length : at), ...moved, ...(at < 0 ? [] : placed.slice(at))].entries())
    if (was.folderId !== folderId || was.order !== order) Object.assign(draft.channels[id] ?? {}, { folderId, order });
};
