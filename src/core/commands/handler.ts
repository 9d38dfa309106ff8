import type { Draft } from "immer";
import type { ChannelId, FolderId, LineId } from "../model/ids";
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

/** "Fiddle" for one, "4 tracks" for several. */
export const countTracks = (doc: Template, ids: readonly ChannelId[]): string =>
  ids.length === 1 && ids[0] ? doc.channels[ids[0]]?.name || "a track without a name" : `${ids.length} tracks`;

/** Puts tracks into a folder before another track, or at its end, and numbers the folder anew from 0. Linear in tracks. */
export const place = (
  draft: TemplateDraft,
  { ids, folderId, before }: { readonly ids: readonly ChannelId[]; readonly folderId: FolderId | null; readonly before: ChannelId | null },
): void => {
  const moving = new Set(ids);
  const all = entriesOf(draft.channels).filter((channel): channel is Draft<Track> => channel.kind === "track");
  const staying = all.filter((track) => track.folderId === folderId && !moving.has(track.id)).sort((a, b) => a.order - b.order);
  const at = staying.findIndex((track) => track.id === before);
  const moved = ids.flatMap((id) => all.find((track) => track.id === id) ?? []);
  staying.splice(at < 0 ? staying.length : at, 0, ...moved);
  for (const [order, track] of staying.entries()) {
    track.folderId = folderId;
    if (track.order !== order) track.order = order;
  }
};
