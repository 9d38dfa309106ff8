import type { Command } from "../../commands/command";
import type { ChannelId, FolderId } from "../../model/ids";
import { tracksOf } from "../../model/read-template";
import { inOrder } from "../../model/table";
import { MAIN_ID, type Output } from "../../model/tables/channel-fields";
import type { Channel } from "../../model/tables/channels";
import type { Folder } from "../../model/tables/folders";
import type { Template } from "../../model/template";

export const toChannel = (channelId: ChannelId): Output => ({ kind: "channel", channelId });

/**
 * Where what lies in a folder goes when nothing else is said: into the bus of the nearest folder around it that sums,
 * else into the main bus. No more steps than folders lie deep.
 */
export const sumOf = ({ folders }: Pick<Template, "folders">, folderId: FolderId | null): ChannelId => {
  for (let at = folderId ? folders[folderId] : undefined; at; at = at.parentId ? folders[at.parentId] : undefined)
    if (at.busId) return at.busId;
  return MAIN_ID;
};

/** Whether a channel goes where it goes by itself: only such ones follow a folder. */
export const follows = (channel: Channel | undefined, sum: ChannelId): boolean =>
  channel?.output.kind === "channel" && channel.output.channelId === sum;

/** Folders in a folder, to any depth, but not those within one that sums; those that sum are among them. */
const innerFolders = (doc: Template, id: FolderId): readonly Folder[] => {
  const byParent = new Map<FolderId | null, Folder[]>();
  for (const folder of inOrder(doc.folders)) {
    const there = byParent.get(folder.parentId);
    if (there) there.push(folder);
    else byParent.set(folder.parentId, [folder]);
  }
  const found: Folder[] = [];
  const walk = (of: FolderId): void => {
    for (const folder of byParent.get(of) ?? []) {
      found.push(folder);
      if (!folder.busId) walk(folder.id);
    }
  };
  walk(id);
  return found;
};

/** What lies in a folder and would go into its bus: tracks, and the buses of folders in it that sum themselves. */
export const membersOf = (doc: Template, id: FolderId): readonly ChannelId[] => {
  const inner = innerFolders(doc, id);
  const plain = new Set<FolderId>([id, ...inner.flatMap((folder) => (folder.busId ? [] : [folder.id]))]);
  return [
    ...tracksOf(doc).flatMap((track) => (track.folderId && plain.has(track.folderId) ? [track.id] : [])),
    ...inner.flatMap((folder) => folder.busId ?? []),
  ];
};

/** Routes channels to a bus; nothing where there are none. */
export const route = (ids: readonly ChannelId[], output: Output): readonly Command[] =>
  ids.length ? [{ kind: "set", table: "channels", values: Object.fromEntries(ids.map((id) => [id, { output }])) }] : [];
