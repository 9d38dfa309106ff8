import type { Colour } from "../model/colours";
import type { Icon } from "../model/families";
import type { ChannelId, FolderId, LineId, PortId, RigId } from "../model/ids";
import type { Acceptance, Folder, Format, Line, MicrophoneChoice, Output, SessionKind, Sharing, Track, TrackInput } from "../model/template";
import type { Decibels } from "../units/decibels";
import type { RestoreCommand } from "./engine";

/** A track to be laid, with the lines it brings. Order and place come with the command. */
/** `folderId` where it is not the folder that the whole act names. */
export type NewTrack = Omit<Track, "kind" | "order" | "folderId" | "output"> & { readonly output?: Output; readonly folderId?: FolderId | null };
export type NewFolder = Omit<Folder, "order" | "parentId" | "open">;

export interface LinePort {
  readonly lineId: LineId;
  readonly portId: PortId | null;
  readonly requestedInput: string | null;
}

export interface LineChange {
  readonly source?: string;
  readonly microphone?: MicrophoneChoice | null;
  readonly phantom?: boolean;
  readonly pad?: boolean;
  readonly polarityInverted?: boolean;
  readonly gainDb?: Decibels | null;
  readonly player?: string;
  readonly room?: string;
  readonly position?: string;
}

export interface TrackChange {
  readonly name?: string;
  readonly colour?: Colour | null;
  readonly icon?: Icon | null;
  readonly note?: string;
  readonly output?: Output;
}

/** Every edit of a template. Plain JSON; ids come with the command, so that a replay is exact. */
export type Command =
  | { readonly kind: "template.rename"; readonly name: string }
  | { readonly kind: "template.set"; readonly sessionKind?: SessionKind; readonly note?: string; readonly format?: Partial<Format> }
  | { readonly kind: "template.fit"; readonly rigId: RigId; readonly rigName: string; readonly inputs: readonly LinePort[]; readonly mainOutputs: readonly PortId[] }
  | { readonly kind: "tracks.add"; readonly tracks: readonly NewTrack[]; readonly lines: readonly Line[]; readonly folderId: FolderId | null; readonly before: ChannelId | null }
  | { readonly kind: "tracks.set"; readonly trackIds: readonly ChannelId[]; readonly set: TrackChange }
  | { readonly kind: "tracks.move"; readonly trackIds: readonly ChannelId[]; readonly folderId: FolderId | null; readonly before: ChannelId | null }
  | { readonly kind: "tracks.remove"; readonly trackIds: readonly ChannelId[] }
  | { readonly kind: "tracks.pair"; readonly leftTrackId: ChannelId; readonly rightTrackId: ChannelId }
  | { readonly kind: "tracks.split"; readonly trackId: ChannelId; readonly newTrackId: ChannelId }
  | { readonly kind: "tracks.take"; readonly trackId: ChannelId; readonly input: TrackInput; readonly lines: readonly Line[] }
  | { readonly kind: "tracks.share"; readonly trackIds: readonly ChannelId[]; readonly sharing: Exclude<Sharing, null> }
  | { readonly kind: "lines.set"; readonly lineIds: readonly LineId[]; readonly set: LineChange }
  | { readonly kind: "lines.shift"; readonly lineIds: readonly LineId[]; readonly gainDb: Decibels }
  | { readonly kind: "lines.patch"; readonly inputs: readonly LinePort[] }
  | { readonly kind: "lines.join"; readonly keepId: LineId; readonly dropId: LineId; readonly sharing: Exclude<Sharing, null> }
  | { readonly kind: "folders.add"; readonly folders: readonly NewFolder[]; readonly parentId: FolderId | null }
  | { readonly kind: "folders.set"; readonly folderIds: readonly FolderId[]; readonly set: { readonly name?: string; readonly colour?: Colour | null; readonly open?: boolean } }
  | { readonly kind: "folders.move"; readonly folderId: FolderId; readonly parentId: FolderId | null; readonly before: FolderId | null }
  | { readonly kind: "folders.remove"; readonly folderId: FolderId }
  | { readonly kind: "findings.accept"; readonly findings: readonly Acceptance[] }
  | { readonly kind: "findings.reopen"; readonly findingIds: readonly string[] }
  | RestoreCommand;

export type CommandKind = Command["kind"];
export type CommandOf<K extends CommandKind> = Extract<Command, { kind: K }>;
