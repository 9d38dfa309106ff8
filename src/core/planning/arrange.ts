import type { Command } from "../commands/command";
import type { ChannelId } from "../model/ids";
import { trackOf, tracksOf } from "../model/read-template";
import type { Template, Track } from "../model/template";

/** The track before or after one in its folder; null at the end. */
const neighbourIn = (doc: Template, track: Track, step: 1 | -1): Track | null => {
  const siblings = tracksOf(doc).filter((candidate) => candidate.folderId === track.folderId);
  return siblings[siblings.indexOf(track) + step] ?? null;
};

/** The stereo track that would be made of what is selected: two tracks, left before right, or one and the next below it. Null when neither. */
export const pairCommand = (doc: Template, selected: readonly ChannelId[]): Command | null => {
  const [first, second, third] = selected.flatMap((id) => trackOf(doc, id) ?? []);
  const right = second ?? (first && neighbourIn(doc, first, 1));
  return first && right && !third ? { kind: "tracks.pair", leftTrackId: first.id, rightTrackId: right.id } : null;
};

/** Moves tracks of one folder one place up or down, together. Null at the end, or when they lie in several folders. */
export const stepCommand = (doc: Template, selected: readonly ChannelId[], step: 1 | -1): Command | null => {
  const ordered = tracksOf(doc).filter((track) => selected.includes(track.id));
  const [first, last] = [ordered[0], ordered.at(-1)];
  if (!first || !last || ordered.some((track) => track.folderId !== first.folderId)) return null;
  const beyond = neighbourIn(doc, step === -1 ? first : last, step);
  if (!beyond) return null;
  const before = step === -1 ? beyond.id : (neighbourIn(doc, beyond, 1)?.id ?? null);
  return { kind: "tracks.move", trackIds: ordered.map((track) => track.id), folderId: first.folderId, before };
};
