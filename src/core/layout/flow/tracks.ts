import type { Colour } from "../../model/colours";
import type { FolderId } from "../../model/ids";
import { folderColour } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import type { Channel, Click, Instrument, Reference, Talkback, Track } from "../../model/tables/channels";
import type { Folder } from "../../model/tables/folders";
import type { Template } from "../../model/template";
import { recordedFrom } from "../../routing/graph";
import { counted } from "../../units/counted";
import { channelColour } from "../channel-colour";
import { layoutRows } from "../rows";
import { type Box, type FlowNode, type FlowView, FOLDED_FROM, FOOT, GAP, isHidden, TOP } from "./picture";

export interface Family {
  readonly folder: Folder | null;
  readonly colour: Colour | null;
  readonly tracks: readonly First[];
}

/** What the sound begins with: tracks, and what is played or read in. */
type Played = Instrument | Reference | Click | Talkback;
type First = Track | Played;

const isPlayed = (channel: Channel): channel is Played =>
  ["instrument", "reference", "click", "talkback"].includes(channel.kind);

/**
 * Tracks by the outermost folder they lie in, in the order of the input list; those that record a bus stand behind it.
 */
export const familiesOf = (doc: Template, view: FlowView): readonly Family[] => {
  const families: { folder: Folder | null; colour: Colour | null; tracks: First[] }[] = [];
  let open: readonly FolderId[] = [];
  for (const row of layoutRows(doc, { unfold: true })) {
    if (row.kind === "folder") {
      open = [...open.slice(0, row.depth), row.id];
      if (row.depth === 0) families.push({ folder: row.folder, colour: folderColour(doc, row.folder), tracks: [] });
      continue;
    }
    if (row.depth === 0) {
      open = [];
      if (families.at(-1)?.folder !== null) families.push({ folder: null, colour: null, tracks: [] });
    }
    if (
      recordedFrom(row.track) === null &&
      !isHidden(row.track, view) &&
      (view.within === null || open.includes(view.within))
    )
      families.at(-1)?.tracks.push(row.track);
  }
  const played = view.within === null ? entriesOf<Channel>(doc.channels).filter(isPlayed) : [];
  const shown = played
    .filter((channel) => !isHidden(channel, view))
    .sort((a, b) => (a.kind === b.kind ? a.name.localeCompare(b.name) : a.kind === "instrument" ? -1 : 1));
  return [...families, { folder: null, colour: null, tracks: shown }].filter((family) => family.tracks.length > 0);
};

/** As close as tracks can stand and be read. */
const CLOSEST = 17;

/** How high a folded family is drawn: higher with more in it, and lower where there is no room. */
export const familyHeight = (count: number, share: number): number => Math.max(28, Math.min(48, 24 + count) * share);

/** What stands in the first column, from top to bottom, and how high; the tracks as close as they must be. */
export const firstColumn = (doc: Template, view: FlowView, families: readonly Family[]): readonly Box[] => {
  const total = families.reduce((sum, { tracks }) => sum + tracks.length, 0);
  const heads = total > FOLDED_FROM || view.folded.size > 0;
  const isFolded = ({ folder }: Family) => folder !== null && view.folded.has(folder.id);
  const shown = families.reduce((sum, family) => sum + (isFolded(family) ? 0 : family.tracks.length), 0);
  const room =
    view.height -
    TOP -
    FOOT -
    families.reduce((sum, family) => sum + GAP + (heads && family.folder && !isFolded(family) ? 22 : 0), 0);
  const folded = (share: number) =>
    families.reduce((sum, family) => sum + (isFolded(family) ? familyHeight(family.tracks.length, share) : 0), 0);
  const share = Math.min(1, Math.max(0, room - shown * CLOSEST) / Math.max(1, folded(1)));
  const pitch = Math.min(25, Math.max(CLOSEST, (room - folded(share)) / Math.max(1, shown)));
  return families.flatMap((family, at): Box[] => {
    const { folder, tracks } = family;
    const gap = at === 0 ? 0 : GAP;
    const channelIds = tracks.map((track) => track.id);
    const of = {
      colour: family.colour,
      channelIds,
      folderId: folder?.id ?? null,
      parked: tracks.every((track) => track.parked),
      muted: tracks.every((track) => track.muted),
      output: null,
    };
    const aside = counted(tracks.length, "track");
    if (folder && isFolded(family))
      return [
        {
          ...of,
          kind: "family",
          id: folder.id,
          label: folder.name,
          aside,
          height: familyHeight(tracks.length, share),
          gap,
        },
      ];
    const head: Box[] =
      folder && heads ? [{ ...of, kind: "opened", id: folder.id, label: folder.name, aside, height: 20, gap }] : [];
    return [
      ...head,
      ...tracks.map(
        (track, index): Box => ({
          kind: track.kind,
          id: track.id,
          label: track.name || `A ${track.kind} without a name`,
          aside: track.parked ? "parked" : track.muted ? "muted" : "",
          colour: channelColour(doc, track),
          channelIds: [track.id],
          folderId: null,
          height: pitch - 4,
          gap: index === 0 ? (head.length ? 2 : gap) : 4,
          parked: track.parked,
          muted: track.muted,
          output: null,
        }),
      ),
    ];
  });
};

export const stacked = (boxes: readonly Box[], x: number, width: number): readonly FlowNode[] => {
  let y = TOP;
  return boxes.map(({ gap, ...box }) => {
    const node = { ...box, x, width, y: y + gap };
    y = node.y + box.height;
    return node;
  });
};
