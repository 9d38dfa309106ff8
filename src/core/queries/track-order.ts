import type { FolderId } from "../model/ids";
import { perTwo } from "../model/per-document";
import { tracksOf } from "../model/read-template";
import { inOrder, putInto } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Folder } from "../model/tables/folders";
import type { Template } from "../model/template";

const listed = perTwo((channels: Template["channels"], folders: Template["folders"]): readonly Track[] => {
  const tracks = new Map<FolderId | null, Track[]>();
  for (const track of tracksOf({ channels })) putInto(tracks, track.folderId, track);
  const inside = new Map<FolderId | null, Folder[]>();
  for (const folder of inOrder<Folder>(folders)) putInto(inside, folder.parentId, folder);
  const found: Track[] = [];
  const walk = (parentId: FolderId | null): void => {
    found.push(...(tracks.get(parentId) ?? []));
    for (const { id } of inside.get(parentId) ?? []) walk(id);
  };
  walk(null);
  return found;
});

/** The tracks as the input list has them from top to bottom: those in no folder, then folder by folder. */
export const tracksAsListed = (doc: Pick<Template, "channels" | "folders">): readonly Track[] =>
  listed(doc.channels, doc.folders);

/** The tracks that can be recorded: those that take something and are in use, as listed. */
export const recordable = (doc: Pick<Template, "channels" | "folders">): readonly Track[] =>
  tracksAsListed(doc).filter(({ input, parked }) => input.kind !== "none" && !parked);
