import type { Patch } from "../../commands/command";
import type { ChannelId, ControlId, CueId, FolderId, GangId, LineId, PassId, PortId, RigId } from "../../model/ids";
import type { Band } from "../../model/tables/bands";
import type { Output, Sharing, TrackInput } from "../../model/tables/channel-fields";
import type { Channel, Click, Instrument, Reference, Sum, Talkback, Track } from "../../model/tables/channels";
import type { Control } from "../../model/tables/controls";
import type { CueLevel } from "../../model/tables/cue-levels";
import type { Folder } from "../../model/tables/folders";
import type { Gang } from "../../model/tables/gangs";
import type { Line } from "../../model/tables/lines";
import type { Send } from "../../model/tables/sends";
import type { SideChain } from "../../model/tables/side-chains";
import type { Template, TemplateTables } from "../../model/template";
import type { CueCell } from "../../queries/cues";
import type { Decibels } from "../../units/decibels";
import type { Change, EntryEdit } from "./entry-edits";
import type { PlannerOf } from "./planner";

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
export type NewSend = Pick<Send, "id" | "fromId" | "toId"> & Partial<Send>;

export interface LinePort {
  readonly lineId: LineId;
  readonly portId: PortId | null;
  readonly requestedInput: string | null;
}

export type LineChange = Change<Line>;
export type ChannelChange = Change<Channel>;

type Tables = { readonly [T in keyof TemplateTables]: TemplateTables[T] };
/** What a template says of itself, but for its name and its rig, which have edits of their own. */
type Settings = Pick<Template, "kind" | "note" | "format" | "mix" | "buffers" | "levels" | "disk" | "tags" | "session">;

/** What a person does to a template, by name. It is planned to commands from the document as it is. */
export type Edit =
  | EntryEdit<Settings, Tables>
  | {
      readonly kind: "template.fit";
      readonly rigId: RigId;
      readonly rigName: string;
      readonly inputs: readonly LinePort[];
      readonly mainOutputs: readonly PortId[];
      readonly cueOutputs?: readonly { readonly cueId: CueId; readonly portIds: readonly PortId[] }[];
    }
  | {
      readonly kind: "tracks.add";
      readonly tracks: readonly NewTrack[];
      readonly lines: readonly Line[];
      readonly folderId: FolderId | null;
      readonly before: ChannelId | null;
    }
  | { readonly kind: "tracks.pair"; readonly leftTrackId: ChannelId; readonly rightTrackId: ChannelId }
  | { readonly kind: "tracks.split"; readonly trackId: ChannelId; readonly newTrackId: ChannelId }
  | {
      readonly kind: "tracks.take";
      readonly trackId: ChannelId;
      readonly input: TrackInput;
      readonly lines: readonly Line[];
    }
  | { readonly kind: "lines.shift"; readonly lineIds: readonly LineId[]; readonly gainDb: Decibels }
  | { readonly kind: "lines.patch"; readonly inputs: readonly LinePort[] }
  | {
      readonly kind: "lines.join";
      readonly keepId: LineId;
      readonly dropId: LineId;
      readonly sharing: Exclude<Sharing, null>;
    }
  | { readonly kind: "folders.remove"; readonly folderId: FolderId }
  /** Takes a family away with what only it used. */
  | { readonly kind: "folders.drop"; readonly folderId: FolderId }
  /** Makes the bus of folders and routes what lies in them; each comes with the id of its bus. */
  | {
      readonly kind: "folders.sum";
      readonly sums: readonly { readonly folderId: FolderId; readonly busId: ChannelId }[];
    }
  /** Takes the bus of a folder away; what lies in it goes there. */
  | { readonly kind: "folders.unsum"; readonly folderId: FolderId; readonly output: Output }
  | { readonly kind: "channels.add"; readonly channels: readonly NewMade[]; readonly feedIds: readonly ChannelId[] }
  | {
      readonly kind: "channels.shift";
      readonly channelIds: readonly ChannelId[];
      readonly byDb: Decibels;
      readonly alone?: true;
    }
  /** Carries differences of another document over: the name says what, the patches lead there. */
  | { readonly kind: "changes.carry"; readonly name: string; readonly patches: readonly Patch[] }
  | { readonly kind: "sends.add"; readonly sends: readonly NewSend[] }
  | { readonly kind: "sideChains.add"; readonly sideChains: readonly SideChain[] }
  | { readonly kind: "gangs.add"; readonly gang: Gang; readonly channelIds: readonly ChannelId[] }
  /** Into a gang, or out of the one it is in. */
  | { readonly kind: "gangs.join"; readonly channelIds: readonly ChannelId[]; readonly gangId: GangId | null }
  | {
      readonly kind: "controls.add";
      readonly control: Pick<Control, "id" | "name"> & Partial<Control>;
      readonly channelIds: readonly ChannelId[];
    }
  | {
      readonly kind: "controls.ride";
      readonly channelIds: readonly ChannelId[];
      readonly controlId: ControlId;
      readonly on: boolean;
    }
  /** Sets how channels are heard in cues; where one is not yet, it is from now on, under the id that comes with it. */
  | {
      readonly kind: "cueLevels.put";
      readonly levels: readonly (Pick<CueLevel, "id" | "cueId" | "sourceId"> & Partial<CueLevel>)[];
    }
  | { readonly kind: "cueLevels.shift"; readonly cells: readonly CueCell[]; readonly byDb: Decibels }
  | { readonly kind: "cueLevels.remove"; readonly cells: readonly CueCell[] }
  | { readonly kind: "passes.run"; readonly passId: PassId | null };

export type EditKind = Edit["kind"];
export type EditOf<K extends EditKind> = Extract<Edit, { kind: K }>;

export type Planners<Prefix extends string> = {
  readonly [K in Extract<EditKind, `${Prefix}.${string}`>]: PlannerOf<Template, EditOf<K>>;
};
