import type { Command, Refusal } from "../../commands/command";
import type { Colour } from "../../model/colours";
import type { BandId, ChainProcessorId, ChannelId, ControlId, CueId, FolderId, GangId, LineId, PassId, PortId, RigId, SendId, SideChainId } from "../../model/ids";
import type { SessionKind } from "../../model/session-kinds";
import type { Acceptance } from "../../model/tables/accepted";
import type { Band } from "../../model/tables/bands";
import type { NewProcessor } from "../../model/tables/chain-processors";
import type { Bus, Click, Instrument, Output, Reference, Sharing, Sum, Talkback, Track, TrackInput } from "../../model/tables/channels";
import type { Control } from "../../model/tables/controls";
import type { CueLevel } from "../../model/tables/cue-levels";
import type { Cue, NewCue } from "../../model/tables/cues";
import type { Folder } from "../../model/tables/folders";
import type { Gang } from "../../model/tables/gangs";
import type { Line } from "../../model/tables/lines";
import type { NewPass, Pass } from "../../model/tables/passes";
import type { ProcessorBase } from "../../model/tables/processor-settings";
import type { Send } from "../../model/tables/sends";
import type { SideChain } from "../../model/tables/side-chains";
import type { Buffers, Disk, Format, Levels, Mix, Template } from "../../model/template";
import type { CueCell } from "../../queries/cues";
import type { Decibels } from "../../units/decibels";

/** A track to be laid, with the lines it brings; `folderId` where it is not the folder that the whole edit names. */
export type NewTrack = Pick<Track, "id" | "name" | "note" | "colour" | "icon" | "input" | "sharing"> &
  Partial<Omit<Track, "kind" | "order" | "folderId">> & { readonly folderId?: FolderId | null };
export type NewFolder = Pick<Folder, "id" | "name" | "colour">;
/** A bus or a return to be made, with what it begins with where nothing is said. */
export type NewSum = Pick<Sum, "kind" | "id" | "name"> & Partial<Omit<Sum, "kind">>;
/** Anything but a track that is made in the signal flow. */
export type NewMade =
  | (Pick<Click, "kind" | "id" | "name"> & Partial<Click>)
  | (Pick<Talkback, "kind" | "id" | "name"> & Partial<Talkback>)
  | NewSum
  | (Pick<Instrument, "kind" | "id" | "name"> & Partial<Instrument>)
  | (Pick<Reference, "kind" | "id" | "name"> & Partial<Reference>);
export type NewBand = Omit<Band, "order">;
/** What any kind of processor can be set to. */
type ProcessorChange = Partial<Omit<ProcessorBase, "kind">> & { readonly splitId?: ChainProcessorId | null };
export type NewSend = Pick<Send, "id" | "fromId" | "toId"> & Partial<Send>;

export interface LinePort {
  readonly lineId: LineId;
  readonly portId: PortId | null;
  readonly requestedInput: string | null;
}

/** Any field of a line but where it is plugged in. */
export type LineChange = Partial<Omit<Line, "id" | "portId" | "requestedInput">>;
/** Any field of a track but what it takes and where it stands. */
export type TrackChange = Partial<Pick<Track, "name" | "colour" | "icon" | "note" | "output" | "faderDb">>;

/** Any field of a channel that tracks, buses, returns and the main bus have in common, and what only some of them have. */
export type ChannelChange = Partial<Pick<Bus, "name" | "note" | "colour" | "layout" | "output" | "trimDb" | "polarityTurned" | "faderDb" | "pan" | "muted" | "parked">> &
  Partial<Pick<Track, "recordPoint" | "monitor" | "liveApart" | "liveDb">> &
  Partial<Pick<Click, "tempoBpm" | "sourceDb">> &
  Partial<Pick<Talkback, "portId">> &
  Partial<Pick<Bus, "fold">> &
  Partial<Pick<Instrument, "midiPortId" | "midiChannel" | "outputs">> &
  Partial<Pick<Reference, "file">>;

/** What a person does to a template, by name. It is planned to commands from the document as it is. */
export type Edit =
  | { readonly kind: "template.rename"; readonly name: string }
  | {
      readonly kind: "template.set";
      readonly sessionKind?: SessionKind;
      readonly note?: string;
      readonly format?: Partial<Format>;
      readonly mix?: Partial<Mix>;
      readonly buffers?: Partial<Buffers>;
      readonly levels?: Partial<Levels>;
      readonly disk?: Partial<Disk>;
    }
  | {
      readonly kind: "template.fit";
      readonly rigId: RigId;
      readonly rigName: string;
      readonly inputs: readonly LinePort[];
      readonly mainOutputs: readonly PortId[];
      readonly cueOutputs?: readonly { readonly cueId: CueId; readonly portIds: readonly PortId[] }[];
    }
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
  /** Takes a family away with what only it used. */
  | { readonly kind: "folders.drop"; readonly folderId: FolderId }
  /** Makes the bus of folders and routes what lies in them; each comes with the id of its bus. */
  | { readonly kind: "folders.sum"; readonly sums: readonly { readonly folderId: FolderId; readonly busId: ChannelId }[] }
  /** Takes the bus of a folder away; what lies in it goes there. */
  | { readonly kind: "folders.unsum"; readonly folderId: FolderId; readonly output: Output }
  | { readonly kind: "channels.add"; readonly channels: readonly NewMade[]; readonly feedIds: readonly ChannelId[] }
  /** `alone`: without those that their gangs hold together with them. */
  | { readonly kind: "channels.set"; readonly channelIds: readonly ChannelId[]; readonly set: ChannelChange; readonly alone?: true }
  | { readonly kind: "channels.shift"; readonly channelIds: readonly ChannelId[]; readonly byDb: Decibels; readonly alone?: true }
  | { readonly kind: "channels.remove"; readonly channelIds: readonly ChannelId[] }
  | { readonly kind: "sends.add"; readonly sends: readonly NewSend[] }
  | { readonly kind: "sends.set"; readonly sendIds: readonly SendId[]; readonly set: Partial<Pick<Send, "levelDb" | "tap" | "pan" | "on">> }
  | { readonly kind: "sends.move"; readonly sendIds: readonly SendId[]; readonly fromId: ChannelId }
  | { readonly kind: "sends.remove"; readonly sendIds: readonly SendId[] }
  | { readonly kind: "processors.add"; readonly processors: readonly NewProcessor[]; readonly bands: readonly NewBand[]; readonly before: ChainProcessorId | null }
  | { readonly kind: "processors.set"; readonly processorIds: readonly ChainProcessorId[]; readonly set: Readonly<Record<string, unknown>> & ProcessorChange }
  | { readonly kind: "processors.move"; readonly processorIds: readonly ChainProcessorId[]; readonly channelId: ChannelId; readonly before: ChainProcessorId | null }
  | { readonly kind: "processors.remove"; readonly processorIds: readonly ChainProcessorId[] }
  | { readonly kind: "bands.add"; readonly bands: readonly NewBand[] }
  | { readonly kind: "bands.set"; readonly bandIds: readonly BandId[]; readonly set: Partial<Omit<Band, "id" | "order" | "processorId">> }
  | { readonly kind: "bands.remove"; readonly bandIds: readonly BandId[] }
  | { readonly kind: "sideChains.add"; readonly sideChains: readonly SideChain[] }
  | { readonly kind: "sideChains.set"; readonly sideChainIds: readonly SideChainId[]; readonly set: Partial<Pick<SideChain, "lowHz" | "highHz">> }
  | { readonly kind: "sideChains.remove"; readonly sideChainIds: readonly SideChainId[] }
  | { readonly kind: "gangs.add"; readonly gang: Gang; readonly channelIds: readonly ChannelId[] }
  | { readonly kind: "gangs.set"; readonly gangId: GangId; readonly set: Partial<Omit<Gang, "id">> }
  /** Into a gang, or out of the one it is in. */
  | { readonly kind: "gangs.join"; readonly channelIds: readonly ChannelId[]; readonly gangId: GangId | null }
  | { readonly kind: "controls.add"; readonly control: Pick<Control, "id" | "name"> & Partial<Control>; readonly channelIds: readonly ChannelId[] }
  | { readonly kind: "controls.set"; readonly controlIds: readonly ControlId[]; readonly set: Partial<Omit<Control, "id">> }
  | { readonly kind: "controls.ride"; readonly channelIds: readonly ChannelId[]; readonly controlId: ControlId; readonly on: boolean }
  | { readonly kind: "controls.remove"; readonly controlIds: readonly ControlId[] }
  | { readonly kind: "cues.add"; readonly cues: readonly (Pick<Cue, "id" | "name"> & Partial<NewCue>)[]; readonly levels: readonly CueLevel[]; readonly before: CueId | null }
  | { readonly kind: "cues.set"; readonly cueIds: readonly CueId[]; readonly set: Partial<Omit<NewCue, "id">> }
  | { readonly kind: "cues.move"; readonly cueIds: readonly CueId[]; readonly before: CueId | null }
  | { readonly kind: "cues.remove"; readonly cueIds: readonly CueId[] }
  /** Sets how channels are heard in cues; where one is not yet, it is from now on, under the id that comes with it. */
  | { readonly kind: "cueLevels.put"; readonly levels: readonly (Pick<CueLevel, "id" | "cueId" | "sourceId"> & Partial<CueLevel>)[] }
  | { readonly kind: "cueLevels.shift"; readonly cells: readonly CueCell[]; readonly byDb: Decibels }
  | { readonly kind: "cueLevels.remove"; readonly cells: readonly CueCell[] }
  | { readonly kind: "passes.add"; readonly passes: readonly (Pick<Pass, "id" | "name"> & Partial<NewPass>)[]; readonly before: PassId | null }
  | { readonly kind: "passes.set"; readonly passIds: readonly PassId[]; readonly set: Partial<Omit<NewPass, "id" | "running">> }
  | { readonly kind: "passes.move"; readonly passIds: readonly PassId[]; readonly before: PassId | null }
  | { readonly kind: "passes.remove"; readonly passIds: readonly PassId[] }
  | { readonly kind: "passes.run"; readonly passId: PassId | null }
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
