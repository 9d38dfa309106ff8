import { SAMPLE_RATES_HZ, type SampleRateHz } from "../units/hertz";
import { choice, type EntryOf, flag, group, idElsewhere, name, text, YES_NO } from "./describe/fields";
import { emptyTables } from "./describe/table";
import type { BandId, ChainProcessorId, ChannelId, ControlId, FolderId, GangId, LineId, PortId, RigId, SendId, SideChainId, TemplateId } from "./ids";
import { noLoop } from "./no-loop";
import { BIT_DEPTHS, type BitDepth, MAIN_LAYOUTS, PAN_LAWS_DB, type PanLawDb, SESSION_KINDS, type SessionKind } from "./session-kinds";
import type { Table } from "./table";
import { ACCEPTED, type Acceptance } from "./tables/accepted";
import { BANDS, type Band } from "./tables/bands";
import { CHAIN_PROCESSORS, type Processor } from "./tables/chain-processors";
import { CHANNELS, type Channel, MAIN_ID, newChannel } from "./tables/channels";
import { CONTROLS, type Control } from "./tables/controls";
import { FOLDERS, type Folder } from "./tables/folders";
import { GANGS, type Gang } from "./tables/gangs";
import { LINES, type Line } from "./tables/lines";
import { SENDS, type Send, TAPS, type Tap } from "./tables/sends";
import { SIDE_CHAINS, type SideChain } from "./tables/side-chains";

export const TEMPLATE_SCHEMA = 6;

const FORMAT = {
  sampleRateHz: choice<SampleRateHz>(SAMPLE_RATES_HZ, { word: "the rate" }),
  bitDepth: choice<BitDepth>(BIT_DEPTHS, { word: "the depth" }),
  mainLayout: choice<(typeof MAIN_LAYOUTS)[number]>(MAIN_LAYOUTS, { word: "the main layout" }),
  meetsPicture: flag(YES_NO, { word: "picture" }),
};

/** How the template is mixed where a channel or send says nothing else. */
const MIX = {
  /** How loud each side is in the middle. */
  panLawDb: choice<PanLawDb>(PAN_LAWS_DB, { word: "the pan law" }),
  /** Whether a mute silences sends before the fader as well. */
  mutesBefore: flag(YES_NO, { word: "what a mute reaches" }),
  /** Where new sends leave. */
  sendTap: choice<Tap>(TAPS, { word: "where new sends leave" }),
};

export interface Mix extends EntryOf<typeof MIX> {}

export interface Format extends EntryOf<typeof FORMAT> {}

/** A template: the plan of a recording, described once. */
export const TEMPLATE = {
  what: "template",
  schema: TEMPLATE_SCHEMA,
  header: {
    name: name(200, { word: "the name", searched: true }),
    kind: choice<SessionKind>(SESSION_KINDS, { word: "the kind of session" }),
    /** Whether the rig is there is a check's to tell, and the database's. */
    rigId: idElsewhere<RigId>({ word: "the rig" }),
    format: group(FORMAT, { word: "the format" }),
    mix: group(MIX, { word: "how it is mixed" }),
    note: text(4000, { word: "the note", searched: true }),
  },
  tables: {
    lines: LINES,
    channels: CHANNELS,
    folders: FOLDERS,
    sends: SENDS,
    processors: CHAIN_PROCESSORS,
    bands: BANDS,
    sideChains: SIDE_CHAINS,
    gangs: GANGS,
    controls: CONTROLS,
    accepted: ACCEPTED,
  },
  rules: [noLoop],
  oneIdSpace: true,
} as const;

interface TemplateTables {
  readonly lines: Table<LineId, Line>;
  readonly channels: Table<ChannelId, Channel>;
  readonly folders: Table<FolderId, Folder>;
  readonly sends: Table<SendId, Send>;
  readonly processors: Table<ChainProcessorId, Processor>;
  readonly bands: Table<BandId, Band>;
  readonly sideChains: Table<SideChainId, SideChain>;
  readonly gangs: Table<GangId, Gang>;
  readonly controls: Table<ControlId, Control>;
  readonly accepted: Table<string, Acceptance>;
}

export interface Template extends EntryOf<typeof TEMPLATE.header>, TemplateTables {
  readonly schema: typeof TEMPLATE_SCHEMA;
  readonly id: TemplateId;
}

export const DEFAULT_MIX: Mix = { panLawDb: -3, mutesBefore: false, sendTap: "after" };

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
  mix: DEFAULT_MIX,
  note: "",
  ...(emptyTables(TEMPLATE) as unknown as TemplateTables),
  channels: { [MAIN_ID]: newChannel("main", { id: MAIN_ID, name: "Main", output: mainOutputs.length ? { kind: "hardware", portIds: mainOutputs } : { kind: "nowhere" } }) },
});
