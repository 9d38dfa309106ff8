import { type Colour, UNCOLOURED } from "./colours";
import type { ChannelId, FolderId, LineId } from "./ids";
import type { MicrophoneChoice } from "./microphone-choice";
import { type MicrophoneKind, type PhantomAttitude, phantomAttitude } from "./microphone-kinds";
import { perDocument } from "./per-document";
import type { Rig } from "./rig";
import { byOrder, entriesOf, replacedIn, stepwise } from "./table";
import { inputLineIds } from "./tables/channel-fields";
import type { Channel, Sum, Track } from "./tables/channels";
import type { Folder } from "./tables/folders";
import type { Line } from "./tables/lines";
import type { Template } from "./template";

export const isTrack = (channel: Channel | undefined): channel is Track => channel?.kind === "track";

/** Buses and returns: what sums and goes on. */
export const isSum = (channel: Channel | undefined): channel is Sum =>
  channel?.kind === "bus" || channel?.kind === "return";

/** The last bus is never parked. */
export const isParked = (channel: Channel | undefined): boolean =>
  channel !== undefined && channel.kind !== "main" && channel.parked;

const inTheirOrder = stepwise<Channel, readonly Track[]>(
  (channels) => entriesOf(channels).filter(isTrack).sort(byOrder),
  (tracks, all) => {
    const changes = all.filter(([was, is]) => was.kind === "track" || is.kind === "track");
    const moved = changes.some(([was, is]) => was.kind !== "track" || is.kind !== "track" || was.order !== is.order);
    return moved ? null : replacedIn(tracks, changes as readonly (readonly [Track, Track])[]);
  },
);

const asList = perDocument((lines: Template["lines"]): readonly Line[] => entriesOf(lines));

/**
 * All lines. Kept for as long as none of them changes: going through a table of thousands costs more than what is
 * looked for in it.
 */
export const linesOf = (doc: Pick<Template, "lines">): readonly Line[] => asList(doc.lines);

/** The tracks, by order within their folder. Kept for as long as no channel changes. */
export const tracksOf = (doc: Pick<Template, "channels">): readonly Track[] => inTheirOrder(doc.channels);

export const trackOf = (doc: Template, id: ChannelId): Track | null => {
  const channel = doc.channels[id];
  return isTrack(channel) ? channel : null;
};

export const linesOfTrack = (doc: Template, track: Track): Line[] =>
  inputLineIds(track.input).flatMap((id) => doc.lines[id] ?? []);

const takersOf = (tracks: readonly Track[]): ReadonlyMap<LineId, readonly Track[]> => {
  const byLine = new Map<LineId, Track[]>();
  for (const track of tracks) {
    for (const lineId of inputLineIds(track.input)) {
      const there = byLine.get(lineId);
      if (there) there.push(track);
      else byLine.set(lineId, [track]);
    }
  }
  return byLine;
};

/**
 * Takers where some tracks are others now that stand where they stood and take what they took; null when that is not
 * so.
 */
const otherTakers = (
  takers: ReadonlyMap<LineId, readonly Track[]>,
  changes: readonly (readonly [Channel, Channel])[],
): ReadonlyMap<LineId, readonly Track[]> | null => {
  const next = new Map(takers);
  for (const [was, is] of changes) {
    if (was.kind !== "track" && is.kind !== "track") continue;
    if (
      was.kind !== "track" ||
      is.kind !== "track" ||
      was.order !== is.order ||
      JSON.stringify(was.input) !== JSON.stringify(is.input)
    )
      return null;
    for (const lineId of inputLineIds(is.input)) {
      const replaced = replacedIn(next.get(lineId) ?? [], [[was, is]]);
      if (!replaced) return null;
      next.set(lineId, replaced);
    }
  }
  return next;
};

const takers = stepwise<Channel, ReadonlyMap<LineId, readonly Track[]>>(
  (channels) => takersOf(inTheirOrder(channels)),
  otherTakers,
);

/** Which tracks take each line. Linear in tracks, and kept for as long as no channel changes. */
export const tracksByLine = (doc: Pick<Template, "channels">): ReadonlyMap<LineId, readonly Track[]> =>
  takers(doc.channels);

/** The dye a track shows: its own, else that of the nearest folder that has one, else undyed. */
export const colourOf = (
  doc: Template,
  holder: { readonly colour: Colour | null; readonly folderId: FolderId | null },
): Colour => {
  let colour = holder.colour;
  let folder = holder.folderId ? doc.folders[holder.folderId] : undefined;
  while (!colour && folder) {
    colour = folder.colour;
    folder = folder.parentId ? doc.folders[folder.parentId] : undefined;
  }
  return colour ?? UNCOLOURED;
};

/** The folders that something lies in, the outermost first. No more steps than folders lie deep. */
export const foldersAround = ({ folders }: Pick<Template, "folders">, folderId: FolderId | null): readonly Folder[] => {
  const around: Folder[] = [];
  for (let at = folderId ? folders[folderId] : undefined; at; at = at.parentId ? folders[at.parentId] : undefined)
    around.unshift(at);
  return around;
};

/** The outermost folder that a track lies in; null for one in none, and for what is no track. */
export const outermostFolder = (doc: Pick<Template, "channels" | "folders">, id: ChannelId): FolderId | null => {
  const channel = doc.channels[id];
  return channel?.kind === "track" ? (foldersAround(doc, channel.folderId)[0]?.id ?? null) : null;
};

export const folderColour = (doc: Template, folder: Folder): Colour =>
  colourOf(doc, { colour: folder.colour, folderId: folder.parentId });

/** What is known of a microphone or box: a shelf item of this rig, else what its name says; null when nothing is. */
export const microphoneFacts = (
  rig: Rig,
  choice: MicrophoneChoice | null,
): { readonly kind: MicrophoneKind; readonly phantom: PhantomAttitude } | null => {
  if (!choice) return null;
  if (choice.kind === "named") return choice.type && { kind: choice.type, phantom: phantomAttitude(choice.type) };
  const item = rig.microphones[choice.microphoneId];
  return item ? { kind: item.kind, phantom: item.phantom } : null;
};

export const microphoneName = (rig: Rig, choice: MicrophoneChoice | null): string => {
  if (!choice) return "";
  return (choice.kind === "shelf" ? rig.microphones[choice.microphoneId]?.name : undefined) ?? choice.name;
};

/** The dyes of the threads that lie in each folder itself. */
export const coloursByFolder = perDocument((doc: Template): ReadonlyMap<FolderId, ReadonlySet<Colour>> => {
  const found = new Map<FolderId, Set<Colour>>();
  for (const track of tracksOf(doc)) {
    if (!track.folderId) continue;
    const colours = found.get(track.folderId) ?? new Set();
    colours.add(colourOf(doc, track));
    found.set(track.folderId, colours);
  }
  return found;
});
