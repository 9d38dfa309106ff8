import type { Command, Refusal } from "../../commands/command";
import type { Colour } from "../../model/colours";
import type { ChannelId, FolderId, LineId, PortId, RigId } from "../../model/ids";
import type { SessionKind } from "../../model/session-kinds";
import type { Acceptance } from "../../model/tables/accepted";
import type { Output, Sharing, Track, TrackInput } from "../../model/tables/channels";
import type { Folder } from "../../model/tables/folders";
import type { Line } from "../../model/tables/lines";
import type { Format, Template } from "../../model/template";
import type { Decibels } from "../../units/decibels";

/** A track to be laid, with the lines it brings; `folderId` where it is not the folder that the whole edit names. */
export type NewTrack = Omit<Track, "kind" | "order" | "folderId" | "output"> & { readonly output?: Output; readonly folderId?: FolderId | null };
export type NewFolder = Omit<Folder, "order" | "parentId" | "open">;

export interface LinePort {
  readonly lineId: LineId;
  readonly portId: PortId | null;
  readonly requestedInput: string | null;
}

/** Any field of a line but where it is plugged in. */
export type LineChange = Partial<Omit<Line, "id" | "portId" | "requestedInput">>;
/** Any field of a track but what it takes and where it stands. */
export type TrackChange = Partial<Pick<Track, "name" | "colour" | "icon" | "note" | "output">>;

/** What a person does to a template, by name. It is planned to commands from the document as it is. */
export type Edit =
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
  | { readonly kind: "findings.reopen"; readonly findingIds: readonly string[] };

export type EditKind = Edit["kind"];
export type EditOf<K extends EditKind> = Extract<Edit, { kind: K }>;

/** How one kind of edit is done: the commands it comes to or why it can't be, and what a person would call it. */
export interface PlannerOf<D, E> {
  plan(doc: D, edit: E): readonly Command[] | Refusal;
  name(doc: D, edit: E): string;
}

export type Planners<Prefix extends string> = { readonly [K in Extract<EditKind, `${Prefix}.${string}`>]: PlannerOf<Template, EditOf<K>> };

/** The same fields for several entries. */
export const toAll = (ids: readonly string[], fields: object): Readonly<Record<string, Readonly<Record<string, unknown>>>> =>
  Object.fromEntries(ids.map((id) => [id, fields as Readonly<Record<string, unknown>>]));
