import type { Decibels } from "../units/decibels";
import type { SampleRateHz } from "../units/hertz";
import type { Colour } from "./colours";
import type { Icon } from "./families";
import type { ChannelId, FolderId, LineId, MicrophoneId, PortId, RigId, TemplateId } from "./ids";
import type { MicrophoneKind, Table } from "./rig";

export const TEMPLATE_SCHEMA = 3;

export const SESSION_KINDS = ["band", "voice-over-backing", "spoken-word", "solo"] as const;
export type SessionKind = (typeof SESSION_KINDS)[number];
export const SESSION_KIND_NAMES: Readonly<Record<SessionKind, string>> = { band: "Band", "voice-over-backing": "Voice over backing", "spoken-word": "Spoken word", solo: "Solo" };

export const BIT_DEPTHS = [16, 24, 32] as const;
export type BitDepth = (typeof BIT_DEPTHS)[number];
export const MAIN_LAYOUTS = ["mono", "stereo", "5.1"] as const;

export interface Format {
  readonly sampleRateHz: SampleRateHz;
  readonly bitDepth: BitDepth;
  readonly mainLayout: (typeof MAIN_LAYOUTS)[number];
  readonly meetsPicture: boolean;
}

/** From the shelf of the rig, or only named: a list often says "condenser" and no more. */
export type MicrophoneChoice =
  | { readonly kind: "shelf"; readonly microphoneId: MicrophoneId; readonly name: string }
  | { readonly kind: "named"; readonly name: string; readonly type: MicrophoneKind | null };

/** One physical source on its way in. */
export interface Line {
  readonly id: LineId;
  readonly source: string;
  readonly microphone: MicrophoneChoice | null;
  readonly portId: PortId | null;
  /** The input that was asked for when this rig has none of that name ("17"); null once the line has a port. */
  readonly requestedInput: string | null;
  readonly phantom: boolean;
  readonly pad: boolean;
  /** Turned over at the preamp, for a microphone that faces another. */
  readonly polarityInverted: boolean;
  /** The gain planned at the preamp; null while nobody has said. */
  readonly gainDb: Decibels | null;
  readonly player: string;
  /** The room it is played in. */
  readonly room: string;
  /** Where the microphone stands. */
  readonly position: string;
}

/** A line of which nothing is known but what is given. */
export const newLine = (line: Pick<Line, "id"> & Partial<Line>): Line => ({
  source: "",
  microphone: null,
  portId: null,
  requestedInput: null,
  phantom: false,
  pad: false,
  polarityInverted: false,
  gainDb: null,
  player: "",
  room: "",
  position: "",
  ...line,
});

/** A finding that the engineer has looked at and lives with. It counts for as long as its cause stays what it was. */
export interface Acceptance {
  /** The id of the finding. */
  readonly id: string;
  readonly cause: string;
  readonly reason: string;
}

export type TrackInput =
  | { readonly kind: "none" }
  | { readonly kind: "line"; readonly lineId: LineId }
  | { readonly kind: "pair"; readonly leftId: LineId; readonly rightId: LineId };

export type Output =
  | { readonly kind: "channel"; readonly channelId: ChannelId }
  | { readonly kind: "hardware"; readonly portIds: readonly PortId[] }
  | { readonly kind: "nowhere" };

/** How tracks that take the same line do so: recorded together, or one after the other. Null while nobody has said. */
export type Sharing = "at-once" | "by-turns" | null;

interface ChannelBase {
  readonly id: ChannelId;
  readonly name: string;
  readonly note: string;
  readonly output: Output;
}

export interface Track extends ChannelBase {
  readonly kind: "track";
  /** Null: the dye of the folder. */
  readonly colour: Colour | null;
  readonly icon: Icon | null;
  readonly folderId: FolderId | null;
  readonly order: number;
  readonly input: TrackInput;
  readonly sharing: Sharing;
}

/** The last bus; nothing after it but outputs. */
export interface Main extends ChannelBase {
  readonly kind: "main";
}

export type Channel = Track | Main;

export interface Folder {
  readonly id: FolderId;
  readonly name: string;
  readonly parentId: FolderId | null;
  readonly order: number;
  readonly colour: Colour | null;
  readonly open: boolean;
}

export interface Template {
  readonly schema: typeof TEMPLATE_SCHEMA;
  readonly id: TemplateId;
  readonly name: string;
  readonly kind: SessionKind;
  readonly rigId: RigId;
  readonly format: Format;
  readonly note: string;
  readonly lines: Table<LineId, Line>;
  readonly channels: Table<ChannelId, Channel>;
  readonly folders: Table<FolderId, Folder>;
  readonly accepted: Table<string, Acceptance>;
}

export const MAIN_ID = "main" as ChannelId;

export const DEFAULT_FORMAT: Format = { sampleRateHz: 48000, bitDepth: 24, mainLayout: "stereo", meetsPicture: false };

export interface NewTemplate {
  readonly id: TemplateId;
  readonly name: string;
  readonly kind: SessionKind;
  readonly rigId: RigId;
  readonly format?: Format;
  readonly mainOutputs?: readonly PortId[];
}

/** An empty template: a main bus into the monitors and nothing else. */
export const emptyTemplate = ({ id, name, kind, rigId, format = DEFAULT_FORMAT, mainOutputs = [] }: NewTemplate): Template => ({
  schema: TEMPLATE_SCHEMA,
  id,
  name,
  kind,
  rigId,
  format,
  note: "",
  lines: {},
  channels: { [MAIN_ID]: { id: MAIN_ID, kind: "main", name: "Main", note: "", output: mainOutputs.length ? { kind: "hardware", portIds: mainOutputs } : { kind: "nowhere" } } },
  folders: {},
  accepted: {},
});
