import { type Decibels, dB } from "../units/decibels";
import { formatRate, SAMPLE_RATES_HZ, type SampleRateHz } from "../units/hertz";
import {
  choice,
  choiceFrom,
  closed,
  type EntryOf,
  type Fields,
  flag,
  group,
  idElsewhere,
  name,
  numberFrom,
  numberOrNull,
  type ToldAround,
  text,
  YES_NO,
} from "./describe/fields";
import { emptyTables } from "./describe/table";
import type {
  BandId,
  ChainProcessorId,
  ChannelId,
  ControlId,
  CueId,
  CueLevelId,
  FolderId,
  GangId,
  LineId,
  PassId,
  PortId,
  RigId,
  SendId,
  SideChainId,
  TemplateId,
} from "./ids";
import { noLoop } from "./no-loop";
import { list, named, orNull } from "./schema-parts";
import {
  BIT_DEPTHS,
  type BitDepth,
  FILE_TYPES,
  type FileType,
  MAIN_LAYOUTS,
  PAN_LAWS_DB,
  type PanLawDb,
  SESSION_KIND_NAMES,
  SESSION_KINDS,
  type SessionKind,
} from "./session-kinds";
import type { Table } from "./table";
import { ACCEPTED, type Acceptance } from "./tables/accepted";
import { BANDS, type Band } from "./tables/bands";
import { CHAIN_PROCESSORS, type Processor } from "./tables/chain-processors";
import { MAIN_ID } from "./tables/channel-fields";
import { CHANNELS, type Channel, newChannel } from "./tables/channels";
import { CONTROLS, type Control } from "./tables/controls";
import { CUE_LEVELS, type CueLevel } from "./tables/cue-levels";
import { CUES, type Cue } from "./tables/cues";
import { FOLDERS, type Folder } from "./tables/folders";
import { GANGS, type Gang } from "./tables/gangs";
import { LINES, type Line } from "./tables/lines";
import { PASSES, type Pass } from "./tables/passes";
import { SENDS, type Send, TAPS, type Tap } from "./tables/sends";
import { SIDE_CHAINS, type SideChain } from "./tables/side-chains";

export const TEMPLATE_SCHEMA = 9;

const FORMAT = {
  sampleRateHz: choice<SampleRateHz>(SAMPLE_RATES_HZ, {
    word: "the rate",
    says: (_who: string, rate: SampleRateHz) => `Set the rate to ${formatRate(rate)}`,
  }),
  bitDepth: choice<BitDepth>(BIT_DEPTHS, {
    word: "the depth",
    says: (_who: string, depth: BitDepth) => `Set the depth to ${depth} bit`,
  }),
  mainLayout: choice<(typeof MAIN_LAYOUTS)[number]>(MAIN_LAYOUTS, { word: "the main layout" }),
  meetsPicture: flag(YES_NO, { word: "picture" }),
  /** What takes are written as: how long one may be follows from it. */
  fileType: choiceFrom<FileType>(FILE_TYPES, { word: "the file type of takes" }),
};

/** How the template is mixed where a channel or send says nothing else. */
const MIX = {
  /** How loud each side is in the centre. */
  panLawDb: choice<PanLawDb>(PAN_LAWS_DB, { word: "the pan law" }),
  /** Whether a mute silences sends before the fader as well. */
  mutesBefore: flag(YES_NO, { word: "what a mute reaches" }),
  /** Where new sends leave. */
  sendTap: choice<Tap>(TAPS, { word: "where new sends leave" }),
};

/** Samples that are worked on in one turn. */
export const BUFFER_SAMPLES = { min: 1, max: 65_536, whole: true } as const;

/** What the computer works with while recording and while mixing. */
export const BUFFERS = {
  recordingSamples: numberFrom<number>(
    { ...BUFFER_SAMPLES, initial: 64 },
    {
      word: "the buffer while recording",
      says: (_who: string, samples: number) => `Record with a buffer of ${samples} samples`,
    },
  ),
  mixingSamples: numberFrom<number>({ ...BUFFER_SAMPLES, initial: 1024 }, { word: "the buffer while mixing" }),
  /** Every effect off while recording, whatever is said of each. */
  allOff: flag({ on: "off while recording", off: "as each says" }, { word: "all effects" }),
  /** How much of its time the computer may use. */
  ceilingPercent: numberFrom<number>({ min: 10, max: 100, initial: 70 }, { word: "the ceiling of the load" }),
  /** What each turn costs whatever is in it, in microseconds. */
  callbackUs: numberFrom<number>({ min: 0, max: 10_000, initial: 250 }, { word: "the fixed load of a buffer" }),
};

/** What levels are planned for. */
export const LEVELS = {
  /** Where a source should stand, dBFS RMS, and what its peaks must stay under. */
  targetDb: numberFrom<Decibels>({ min: -60, max: 0, initial: dB(-18) }, { word: "the target" }),
  peakDb: numberFrom<Decibels>({ min: -60, max: 0, initial: dB(-6) }, { word: "the highest peak" }),
};

/** The disk that is recorded to. */
export const DISK = {
  /** Free space in GB (10⁹ bytes); null while nobody has said. */
  freeGb: numberOrNull<number>({ min: 0, max: 1_000_000 }, { word: "the free space" }),
  /** How long one run through is, and how many there are. */
  hours: numberFrom<number>({ min: 0.1, max: 100, initial: 1 }, { word: "the length of a run" }),
  takes: numberFrom<number>({ min: 1, max: 999, whole: true, initial: 3 }, { word: "the takes" }),
};

/** How far a session is. */
export const SESSION_STATES = ["planned", "patched", "running", "done"] as const;
export type SessionState = (typeof SESSION_STATES)[number];

const DATE = { type: "string", pattern: "^[0-9]{4}-[0-9]{2}-[0-9]{2}$", maxLength: 10 };

/** What makes a session of a template: its date, and what is known of the day. */
export const SESSION = {
  /** As ISO 8601 has it; null in a template. */
  date: closed<string | null>(
    { schema: orNull(DATE), initial: null, samples: [null, "2026-11-29"] },
    { word: "the date", tells: (date: string | null) => date ?? "none" },
  ),
  place: text(200, { word: "the place", searched: true }),
  state: choiceFrom<SessionState>(SESSION_STATES, {
    word: "how far it is",
    says: (_who: string, state: SessionState) => `Mark the session as ${state}`,
  }),
  /** Names of those who come. */
  people: closed<readonly string[]>(
    { schema: list(named(200), 64), initial: [], samples: [[], ["Ilse Varga"], ["Ilse Varga", "Pell Marrow"]] },
    { word: "who comes", tells: (people: readonly string[]) => people.join(", ") || "nobody" },
  ),
};

export interface Session extends EntryOf<typeof SESSION> {}

export interface Buffers extends EntryOf<typeof BUFFERS> {}

export interface Levels extends EntryOf<typeof LEVELS> {}

export interface Disk extends EntryOf<typeof DISK> {}

export interface Mix extends EntryOf<typeof MIX> {}

export interface Format extends EntryOf<typeof FORMAT> {}

/** A template: the plan of a recording, described once. */
export const TEMPLATE = {
  what: "template",
  schema: TEMPLATE_SCHEMA,
  header: {
    name: name(200, { word: "the name", searched: true }),
    kind: choice<SessionKind>(SESSION_KINDS, {
      word: "the kind of session",
      says: (_who: string, kind: SessionKind) => `Make it a template for ${SESSION_KIND_NAMES[kind].toLowerCase()}`,
    }),
    /** Whether the rig is there is a check's to tell, and the database's. */
    rigId: idElsewhere<RigId>({ word: "the rig", tells: (rig: RigId, around: ToldAround) => around.rig(rig) }),
    format: group(FORMAT, { word: "the format" }),
    mix: group(MIX, { word: "how it is mixed" }),
    buffers: group(BUFFERS, { word: "the buffers" }),
    levels: group(LEVELS, { word: "the levels" }),
    disk: group(DISK, { word: "the disk" }),
    note: text(4000, { word: "the note", searched: true, says: () => "Note on the template" }),
    tags: closed<readonly string[]>(
      { schema: list(named(60), 32), initial: [], samples: [[], ["live room"], ["live room", "small"]] },
      { word: "the tags", tells: (tags: readonly string[]) => tags.join(", ") || "none" },
    ),
    session: group(SESSION, { word: "the session" }),
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
    cues: CUES,
    cueLevels: CUE_LEVELS,
    passes: PASSES,
    accepted: ACCEPTED,
  },
  rules: [noLoop],
  oneIdSpace: true,
} as const;

export interface TemplateTables {
  readonly lines: Table<LineId, Line>;
  readonly channels: Table<ChannelId, Channel>;
  readonly folders: Table<FolderId, Folder>;
  readonly sends: Table<SendId, Send>;
  readonly processors: Table<ChainProcessorId, Processor>;
  readonly bands: Table<BandId, Band>;
  readonly sideChains: Table<SideChainId, SideChain>;
  readonly gangs: Table<GangId, Gang>;
  readonly controls: Table<ControlId, Control>;
  readonly cues: Table<CueId, Cue>;
  readonly cueLevels: Table<CueLevelId, CueLevel>;
  readonly passes: Table<PassId, Pass>;
  readonly accepted: Table<string, Acceptance>;
}

export interface Template extends EntryOf<typeof TEMPLATE.header>, TemplateTables {
  readonly schema: typeof TEMPLATE_SCHEMA;
  readonly id: TemplateId;
}

export const DEFAULT_MIX: Mix = { panLawDb: -3, mutesBefore: false, sendTap: "after" };

/** Of header fields that are set one by one: what they begin with. */
const initialOf = (fields: Fields): object =>
  Object.fromEntries(Object.entries(fields).map(([key, { initial }]) => [key, initial]));

export const DEFAULT_BUFFERS = initialOf(BUFFERS) as Buffers;
export const DEFAULT_LEVELS = initialOf(LEVELS) as Levels;
export const DEFAULT_DISK = initialOf(DISK) as Disk;
/** Of a template: it is no session. */
export const NO_SESSION = initialOf(SESSION) as Session;

/** Whether a document is a session: it has a date. */
export const isSession = ({ session }: Pick<Template, "session">): boolean => session.date !== null;

export const DEFAULT_FORMAT: Format = {
  sampleRateHz: 48000,
  bitDepth: 24,
  mainLayout: "stereo",
  meetsPicture: false,
  fileType: "wav",
};

/** A session as a template: without its date, what was recorded, and the gains as they were set. */
export const withoutSession = (doc: Template): Template => ({
  ...doc,
  session: NO_SESSION,
  lines: Object.fromEntries(Object.entries(doc.lines).map(([id, line]) => [id, { ...line, gainSetDb: null }])),
  passes: Object.fromEntries(Object.entries(doc.passes).map(([id, pass]) => [id, { ...pass, ran: false }])),
});

export interface NewTemplate {
  readonly id: TemplateId;
  readonly name: string;
  readonly kind: SessionKind;
  readonly rigId: RigId;
  readonly format?: Format;
  readonly mainOutputs?: readonly PortId[];
}

/** An empty template: a main bus into the monitors and nothing else. */
export const emptyTemplate = ({
  id,
  name,
  kind,
  rigId,
  format = DEFAULT_FORMAT,
  mainOutputs = [],
}: NewTemplate): Template => ({
  schema: TEMPLATE_SCHEMA,
  id,
  name,
  kind,
  rigId,
  format,
  mix: DEFAULT_MIX,
  buffers: DEFAULT_BUFFERS,
  levels: DEFAULT_LEVELS,
  disk: DEFAULT_DISK,
  note: "",
  tags: [],
  session: NO_SESSION,
  ...(emptyTables(TEMPLATE) as unknown as TemplateTables),
  channels: {
    [MAIN_ID]: newChannel("main", {
      id: MAIN_ID,
      name: "Main",
      output: mainOutputs.length ? { kind: "hardware", portIds: mainOutputs } : { kind: "nowhere" },
    }),
  },
});
