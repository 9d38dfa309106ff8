import type { ChannelId, FolderId, PortId } from "../model/ids";
import { lineName } from "../model/line-name";
import { pairOf, rigInputOf } from "../model/read-rig";
import { linesOfTrack, trackOf, tracksByLine, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { byOrder, entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { linesByPort } from "../queries/free-inputs";
import type { Edit } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

/** The track before or after one in its folder; null at the end. */
const neighbourIn = (doc: Template, track: Track, step: 1 | -1): Track | null => {
  const siblings = tracksOf(doc).filter((candidate) => candidate.folderId === track.folderId);
  return siblings[siblings.indexOf(track) + step] ?? null;
};

/**
 * The stereo track that would be made of what is selected: two tracks, left before right, or one and the next below it.
 * Null when neither.
 */
export const pairCommand = (doc: Template, selected: readonly ChannelId[]): Edit | null => {
  const [first, second, third] = selected.flatMap((id) => trackOf(doc, id) ?? []);
  const right = second ?? (first && neighbourIn(doc, first, 1));
  return first && right && !third ? { kind: "tracks.pair", leftTrackId: first.id, rightTrackId: right.id } : null;
};

/** Moves tracks of one folder one place up or down, together. Null at the end, or when they lie in several folders. */
export const stepCommand = (doc: Template, selected: readonly ChannelId[], step: 1 | -1): Edit | null => {
  const ordered = tracksOf(doc).filter((track) => selected.includes(track.id));
  const [first, last] = [ordered[0], ordered.at(-1)];
  if (!first || !last || ordered.some((track) => track.folderId !== first.folderId)) return null;
  const beyond = neighbourIn(doc, step === -1 ? first : last, step);
  if (!beyond) return null;
  const before = step === -1 ? beyond.id : (neighbourIn(doc, beyond, 1)?.id ?? null);
  return {
    kind: "entries.move",
    table: "channels",
    ids: ordered.map((track) => track.id),
    parent: first.folderId,
    before,
  };
};

/** Where something dragged was let go: above, below or in a row. */
export interface DropTarget {
  readonly rowId: ChannelId | FolderId;
  readonly edge: "above" | "below" | "in";
}

/**
 * Moves tracks to where they were dropped. On a folder they go in at its top when dropped below its heading, else at
 * its end.
 */
export const dropTracks = (doc: Template, trackIds: readonly ChannelId[], { rowId, edge }: DropTarget): Edit | null => {
  const moving = tracksOf(doc).filter((track) => trackIds.includes(track.id));
  const ids = moving.map((track) => track.id);
  const target = trackOf(doc, rowId as ChannelId);
  const folder = doc.folders[rowId as FolderId];
  if (!ids.length || ids.includes(rowId as ChannelId)) return null;
  if (target) {
    const siblings = tracksOf(doc).filter((track) => track.folderId === target.folderId && !ids.includes(track.id));
    const before = edge === "above" ? target.id : (siblings[siblings.indexOf(target) + 1]?.id ?? null);
    return { kind: "entries.move", table: "channels", ids, parent: target.folderId, before };
  }
  if (!folder) return null;
  if (edge === "above") return { kind: "entries.move", table: "channels", ids, parent: folder.parentId, before: null };
  const first =
    edge === "below"
      ? tracksOf(doc).find((track) => track.folderId === folder.id && !ids.includes(track.id))
      : undefined;
  return { kind: "entries.move", table: "channels", ids, parent: folder.id, before: first?.id ?? null };
};

/**
 * Moves a folder with all it holds to where it was dropped: above or below another, or into it. On a track it goes into
 * that track's folder.
 */
export const dropFolder = (doc: Template, folderId: FolderId, { rowId, edge }: DropTarget): Edit | null => {
  const target = doc.folders[rowId as FolderId];
  const track = trackOf(doc, rowId as ChannelId);
  if (rowId === folderId) return null;
  if (!target)
    return track
      ? {
          kind: "entries.move",
          table: "folders",
          ids: [folderId],
          parent: track.folderId === folderId ? null : track.folderId,
          before: null,
        }
      : null;
  if (edge === "in")
    return { kind: "entries.move", table: "folders", ids: [folderId], parent: target.id, before: null };
  const siblings = entriesOf(doc.folders)
    .filter((folder) => folder.parentId === target.parentId && folder.id !== folderId)
    .sort(byOrder);
  const before = edge === "above" ? target.id : (siblings[siblings.indexOf(target) + 1]?.id ?? null);
  return { kind: "entries.move", table: "folders", ids: [folderId], parent: target.parentId, before };
};

/** A folder one place up or down among its neighbours; null at the end. */
export const stepFolder = (doc: Template, folderId: FolderId, step: 1 | -1): Edit | null => {
  const folder = doc.folders[folderId];
  const siblings = entriesOf(doc.folders)
    .filter((other) => other.parentId === folder?.parentId)
    .sort(byOrder);
  const at = siblings.findIndex((other) => other.id === folderId);
  const beyond = siblings[at + step];
  if (!folder || !beyond) return null;
  return {
    kind: "entries.move",
    table: "folders",
    ids: [folderId],
    parent: folder.parentId,
    before: step === -1 ? beyond.id : (siblings[at + 2]?.id ?? null),
  };
};

/**
 * Plugs a track into an input by hand. A stereo one takes the two neighbours, left on the first of them, whichever was
 * pointed at. Whoever was there takes the input that this one leaves, so that nothing is doubled; when it leaves none,
 * they are taken off and told by the checks.
 */
export const plugInto = (
  doc: Template,
  rig: Rig,
  { trackId, portId }: { readonly trackId: ChannelId; readonly portId: PortId },
): Planned => {
  const track = trackOf(doc, trackId);
  const rigInput = rigInputOf(rig, portId);
  if (!track || !rigInput) return unplanned("That is no longer there.");
  if (rigInput.occupied)
    return unplanned(
      `Input ${rigInput.label} carries the ${rigInput.fedBy?.device.name}, so nothing else can be plugged in.`,
    );
  const lines = linesOfTrack(doc, track);
  const rigInputs = lines.length === 2 ? pairOf(rig, rigInput) : [rigInput];
  const carrying = rigInputs.find((taken) => taken?.occupied);
  if (carrying)
    return unplanned(
      `Input ${carrying.label} beside it carries the ${carrying.fedBy?.device.name}, so a stereo track has no room here.`,
    );
  const ports = rigInputs.map((taken) => taken?.port.id ?? null);
  if (!lines.length) return unplanned(`${track.name || "This track"} takes no line. Give it one first.`);
  const inputs = lines.map((line, at) => ({ lineId: line.id, portId: ports[at] ?? null, requestedInput: null }));
  const own = new Set(lines.map((line) => line.id));
  const pushed = ports.flatMap((port, at) =>
    (port ? (linesByPort(doc).get(port) ?? []) : [])
      .filter((line) => !own.has(line.id))
      .map((line) => ({ lineId: line.id, portId: lines[at]?.portId ?? null, requestedInput: null })),
  );
  const other = pushed[0] && doc.lines[pushed[0].lineId];
  const name = other
    ? `${track.name} and ${lineName(other, tracksByLine(doc).get(other.id) ?? [])} change inputs`
    : `Plug ${track.name} into input ${rigInput.label}`;
  return planned([{ kind: "lines.patch", inputs: [...inputs, ...pushed] }], name);
};

/** Takes a track off its inputs. */
export const unplug = (doc: Template, trackId: ChannelId): Planned => {
  const track = trackOf(doc, trackId);
  const lines = track ? linesOfTrack(doc, track) : [];
  return lines.length
    ? planned([
        { kind: "lines.patch", inputs: lines.map((line) => ({ lineId: line.id, portId: null, requestedInput: null })) },
      ])
    : unplanned("There is nothing to unplug.");
};
