import type { ChannelId, CueLevelId, FolderId, IdSource } from "../model/ids";
import { tracksOf } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { cuesOf, levelIn } from "../queries/cues";
import { counted } from "../units/counted";
import type { Edit } from "./edits/edit";
import { type Planned, planned } from "./gesture";

/** What is new: what it is, where it lies, and what feeds it. */
interface Fresh {
  readonly kind: "track" | "return";
  readonly folderId?: FolderId | null;
  readonly feedIds?: readonly ChannelId[];
}

/** A channel that is heard in cues already, as a pattern for one that is new. */
export interface CueNeighbour {
  readonly id: ChannelId;
  /** "as Kick is, in 3 cues". */
  readonly says: string;
}

const cuesWith = (doc: Template, sourceId: ChannelId) =>
  cuesOf(doc).filter(({ id: cueId }) => levelIn(doc, { cueId, sourceId }));

/**
 * Whose levels something new would take in the cues: the last of its folder, else the last of its kind, else what feeds
 * it. Null where there are no cues, or nobody hears any of them.
 */
export const cueNeighbour = (doc: Template, { kind, folderId = null, feedIds = [] }: Fresh): CueNeighbour | null => {
  if (!cuesOf(doc).length) return null;
  const alike: readonly Channel[] =
    kind === "track" ? tracksOf(doc) : entriesOf<Channel>(doc.channels).filter((channel) => channel.kind === kind);
  const beside = folderId ? alike.filter((channel) => channel.kind === "track" && channel.folderId === folderId) : [];
  const fed = feedIds.flatMap((id) => doc.channels[id] ?? []);
  const found = [...fed.toReversed(), ...alike, ...beside].findLast(({ id }) => cuesWith(doc, id).length > 0);
  return found
    ? {
        id: found.id,
        says: `as ${found.name || "its neighbour"} is, in ${counted(cuesWith(doc, found.id).length, "cue")}`,
      }
    : null;
};

/**
 * Edits that let channels be heard in every cue that hears another, as loud, on the same side, before or after the
 * fader as it is.
 */
export const heardLike = (
  doc: Template,
  {
    sourceIds,
    likeId,
    ids,
  }: { readonly sourceIds: readonly ChannelId[]; readonly likeId: ChannelId; readonly ids: IdSource },
): readonly Edit[] => {
  const levels = cuesWith(doc, likeId).flatMap(({ id: cueId }) => {
    const like = levelIn(doc, { cueId, sourceId: likeId });
    return like ? sourceIds.map((sourceId) => ({ ...like, id: ids<CueLevelId>("level"), sourceId })) : [];
  });
  return levels.length ? [{ kind: "cueLevels.put", levels }] : [];
};

/**
 * A gesture that makes tracks and returns, which are heard in the cues as another channel is; as it was where none is
 * named.
 */
export const alsoHeard = (
  doc: Template,
  made: Planned,
  { likeId, ids }: { readonly likeId: ChannelId | null; readonly ids: IdSource },
): Planned => {
  if (!made.ok || !likeId) return made;
  const sourceIds = made.gesture.edits.flatMap((edit): readonly ChannelId[] => {
    if (edit.kind === "tracks.add") return edit.tracks.map(({ id }) => id);
    return edit.kind === "channels.add" ? edit.channels.flatMap(({ kind, id }) => (kind === "return" ? [id] : [])) : [];
  });
  return planned([...made.gesture.edits, ...heardLike(doc, { sourceIds, likeId, ids })], made.gesture.name);
};
