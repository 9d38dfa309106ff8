import { counted } from "../../units/counted";
import { type Decibels, dB, formatLevel } from "../../units/decibels";
import { COLOUR_NAMES, COLOUR_OR_NULL, type Colour } from "../colours";
import { dyed } from "../describe/calls";
import {
  choice,
  choiceFrom,
  closed,
  elsewhereOrNull,
  flag,
  level,
  type NamedAround,
  numberFrom,
  numberOrNull,
  referenceOrNull,
  references,
  type ToldAround,
  text,
} from "../describe/fields";
import { ICONS, type Icon } from "../families";
import type { ChannelId, ControlId, FolderId, GangId, LineId, PortId } from "../ids";
import { byKind, id } from "../schema-parts";

export type TrackInput =
  | { readonly kind: "none" }
  | { readonly kind: "line"; readonly lineId: LineId }
  | { readonly kind: "pair"; readonly leftId: LineId; readonly rightId: LineId }
  /** What a bus sums is recorded on one track. */
  | { readonly kind: "bus"; readonly busId: ChannelId }
  /** One of the outputs of an instrument, counted from 1. */
  | { readonly kind: "instrument"; readonly instrumentId: ChannelId; readonly output: number };

export type Output =
  | { readonly kind: "channel"; readonly channelId: ChannelId }
  | { readonly kind: "hardware"; readonly portIds: readonly PortId[] }
  | { readonly kind: "nowhere" };

/** How tracks that take the same line do so: recorded together, or one after the other. Null while nobody has said. */
export type Sharing = "at-once" | "by-turns" | null;

/** How loud a channel is let out, and how much it is turned up or down on its way in: in dB. */
export const FADER_DB = { min: -120, max: 12, initial: 0 } as const;
export const TRIM_DB = { min: -36, max: 36, initial: 0 } as const;
/** How loud a click or talkback comes, in dBFS RMS. */
export const SOURCE_DB = { min: -80, max: 0 } as const;
/** From left through the centre to right, in percent. */
export const PAN = { min: -100, max: 100, initial: 0 } as const;

/** What a channel can be routed to: everything that sums. */
export const SUMS = ["bus", "return", "main"] as const;

export const LAYOUTS = ["stereo", "mono", "5.1"] as const;
/** How what is stereo comes into something mono: both sides added up, or one of them. */
export const FOLDS = ["sum", "left", "right"] as const;
export type Fold = (typeof FOLDS)[number];
export type Layout = (typeof LAYOUTS)[number];

export const MAIN_ID = "main" as ChannelId;

/** The lines a track takes, left before right. */
export const inputLineIds = (input: TrackInput): readonly LineId[] => {
  switch (input.kind) {
    case "none":
    case "bus":
    case "instrument":
      return [];
    case "line":
      return [input.lineId];
    case "pair":
      return [input.leftId, input.rightId];
    default:
      return input satisfies never;
  }
};

/** What a track takes once some of its lines are gone: a pair becomes the side that is left. */
const withoutLines = (input: TrackInput, gone: ReadonlySet<string>): TrackInput => {
  if (input.kind === "bus" || input.kind === "instrument") return input;
  const [left] = inputLineIds(input).filter((lineId) => !gone.has(lineId));
  return left ? { kind: "line", lineId: left } : { kind: "none" };
};

const nameIn = (around: NamedAround, table: string, id: string): string =>
  String(around.entry(table, id)?.name ?? "") || "what is not there";

/** "a line", "Percussion", "Organ 2": lines are told by their ports, in their own fields. */
const inputInWords = (input: TrackInput, around: ToldAround): string => {
  if (input.kind === "none") return "none";
  if (input.kind === "bus") return nameIn(around, "channels", input.busId);
  if (input.kind === "instrument") return `${nameIn(around, "channels", input.instrumentId)} ${input.output}`;
  const ports = inputLineIds(input).map((id) => around.entry("lines", id)?.portId as string | null | undefined);
  return ports.map((port) => (port ? around.port(port) : "a line without an input")).join(" + ");
};

const INPUT_PARTS = {
  word: "the input",
  tells: inputInWords,
  apart: true,
  column: { id: "input", heading: "Input", seat: 70, width: 58, inspected: 30, fills: ["emptied"] },
  list: {
    meaning: "input",
    heading: "Input",
    words:
      "input, inputs, in, ch, chan, channel, no, nr, number, #, input no, input number, channel number, kanal, eingang, kanalnummer, entree, canal, voie, n",
    always: 10,
  },
} as const;

/** Whether a track takes one line or two: not a field of its own, but how many lines its input has. */
export const LAYOUT_COLUMN = {
  column: { id: "layout", heading: "Mono or stereo", seat: 40, width: 32, quiet: true, fills: ["copied"] },
  list: {
    meaning: "format",
    heading: "Format",
    says: "Mono or stereo",
    words: "format, mono stereo, layout, width, stereo",
    always: 60,
  },
} as const;

/** What a channel is sent to and what it passes: not fields of its own, but entries that refer to it. */
export const WOVEN_COLUMNS = [
  {
    column: {
      id: "sends",
      heading: "Sends",
      seat: 125,
      width: 130,
      inspected: 113,
      empty: "none",
      hidden: true,
      fills: ["copied", "emptied"],
    },
  },
  {
    column: {
      id: "chain",
      heading: "Chain",
      seat: 127,
      width: 150,
      inspected: 115,
      empty: "none",
      hidden: true,
      fills: ["copied", "emptied"],
    },
  },
] as const;

const COLOUR_PARTS = {
  word: "the colour",
  says: dyed,
  column: {
    id: "colour",
    heading: "Colour",
    seat: 20,
    width: 28,
    inspected: 90,
    quiet: true,
    fills: ["copied", "emptied"],
  },
  list: { meaning: "colour", heading: "Colour", words: "colour, color, dye, farbe, couleur", always: 90 },
} as const;

const ICON_PARTS = {
  word: "the icon",
  says: (who: string, icon: Icon | null) => (icon ? `Icon ${icon} for ${who}` : `Take the icon off ${who}`),
  column: {
    id: "icon",
    heading: "Icon",
    seat: 10,
    width: 32,
    inspected: 100,
    quiet: true,
    fills: ["copied", "emptied"],
  },
  list: { meaning: "icon", heading: "Icon", words: "icon, symbol, icone" },
} as const;

const FOLDER_PARTS = {
  word: "the folder",
  column: { id: "folder", heading: "Folder", seat: 120, width: 92, inspected: 110, fills: ["copied", "emptied"] },
  list: {
    meaning: "folder",
    heading: "Folder",
    words: "folder, group, family, section, ordner, gruppe, familie, dossier, groupe, famille",
    always: 80,
  },
} as const;

/** "Drums", "nowhere", "an output". */
const outputInWords = (output: Output, around: NamedAround): string => {
  if (output.kind === "channel") return String(around.entry("channels", output.channelId)?.name ?? "a bus");
  return output.kind === "nowhere" ? "nowhere" : "an output";
};

const OUTPUT_PARTS = {
  word: "the output",
  tells: (output: Output, around: ToldAround) =>
    output.kind === "hardware" ? output.portIds.map(around.port).join("–") : outputInWords(output, around),
  says: (who: string, output: Output, around: NamedAround) => `Route ${who} to ${outputInWords(output, around)}`,
  column: {
    id: "output",
    heading: "Output",
    seat: 124,
    width: 92,
    inspected: 112,
    hidden: true,
    fills: ["copied", "emptied"],
  },
} as const;

const FADER_PARTS = {
  word: "the fader",
  says: (who: string, level: Decibels | null) => `Set the fader of ${who} to ${formatLevel(level)}`,
  column: {
    id: "fader",
    heading: "Fader dB",
    seat: 126,
    width: 62,
    inspected: 114,
    label: "Fader in dB",
    hidden: true,
    fills: ["copied", "emptied"],
  },
} as const;

const OUTPUT = byKind({
  channel: { channelId: id },
  hardware: { portIds: { type: "array", items: id, minItems: 1, maxItems: 16 } },
  nowhere: {},
});
const INPUT = byKind({
  none: {},
  line: { lineId: id },
  pair: { leftId: id, rightId: id },
  bus: { busId: id },
  instrument: { instrumentId: id, output: { type: "integer", minimum: 1, maximum: 64 } },
});

const MONITOR_SAYS: { readonly [M in Monitor]: (who: string) => string } = {
  direct: (who) => `Monitor ${who} direct`,
  computer: (who) => `Monitor ${who} through the computer`,
  off: (who) => `Monitor ${who} not at all`,
};

/** Where a track records: what comes in, or what its processors made of it. */
export const RECORD_POINTS = ["before", "after"] as const;
export type RecordPoint = (typeof RECORD_POINTS)[number];

/** How a track is heard while it records: through the computer, direct through the interface, or not at all. */
export const MONITORS = ["computer", "direct", "off"] as const;
export type Monitor = (typeof MONITORS)[number];

export const FIELDS = {
  name: text(200, {
    word: "the name",
    column: { id: "name", heading: "Track", seat: 30, width: 140, own: true, fills: ["copied", "counted"] },
    list: {
      meaning: "track",
      heading: "Track",
      says: "Track name",
      words: "track, track name, spur, spurname, piste, nom de piste",
      always: 20,
    },
    searched: true,
  }),
  note: text(4000, {
    word: "the note",
    says: (who: string) => `Note on ${who}`,
    column: {
      id: "note",
      heading: "Note",
      seat: 160,
      width: 100,
      inspected: 140,
      fills: ["copied", "counted", "emptied"],
    },
    list: {
      meaning: "note",
      heading: "Note",
      words:
        "note, notes, remark, remarks, comment, comments, bemerkung, bemerkungen, anmerkung, notiz, kommentar, remarque, remarques, commentaire",
      always: 100,
    },
    searched: true,
  }),
  output: closed<Output, typeof OUTPUT_PARTS>(
    {
      schema: OUTPUT,
      samples: [{ kind: "nowhere" }, { kind: "channel", channelId: MAIN_ID }],
      references: [
        {
          to: "channels",
          kinds: SUMS,
          dangling: "is routed to something that can take no sound",
          ids: (output: Output) => (output.kind === "channel" ? [output.channelId] : []),
          without: () => ({ value: { kind: "channel", channelId: MAIN_ID } }),
        },
      ],
    },
    OUTPUT_PARTS,
  ),
  /** Turned up or down before anything else happens to it. */
  trimDb: numberFrom<Decibels>(
    { ...TRIM_DB, initial: dB(TRIM_DB.initial) },
    { word: "the trim", says: (who: string, trim: Decibels) => `Trim ${who} by ${formatLevel(trim)}` },
  ),
  faderDb: level(FADER_DB, FADER_PARTS),
  /** Turned over on its way in. */
  polarityTurned: flag(
    { on: "inverted", off: "normal" },
    {
      word: "the polarity",
      says: (who: string, turned: boolean) => `${turned ? "Turn over" : "Turn back"} the polarity of ${who}`,
    },
  ),
};

/** What all but the last bus have, as something comes after them. */
const PASSING_FIELDS = {
  pan: numberFrom<number>(PAN, {
    word: "the pan",
    says: (who: string, pan: number) =>
      `Pan ${who} ${pan === 0 ? "to the centre" : `${Math.abs(pan)} % ${pan < 0 ? "left" : "right"}`}`,
  }),
  /** Silences the output and sends after the fader; what is recorded stays. */
  muted: flag(
    { on: "muted", off: "heard" },
    { word: "the mute", says: (who: string, muted: boolean) => `${muted ? "Mute" : "Unmute"} ${who}` },
  ),
  /** Keeps all it has, loads nothing, and is left out of pictures and sheets unless they are asked for it. */
  parked: flag(
    { on: "parked", off: "in use" },
    {
      word: "whether it is parked",
      says: (who: string, parked: boolean) => (parked ? `Park ${who}` : `Take ${who} into use again`),
    },
  ),
  /** The gang that holds it together with others. */
  gangId: referenceOrNull<GangId>(
    { to: "gangs", dangling: "is held by a gang that is not there" },
    { word: "the gang", apart: true },
  ),
  /** How far its gang took it past the end of its fader: it comes back to the same difference. */
  pastEndDb: numberFrom<Decibels>(
    { min: -132, max: 132, initial: dB(0) },
    { word: "what the gang remembers", apart: true },
  ),
  /**
   * Where it would stand had its gang not gone to −∞: it comes back there. Null where it did not go there with its
   * gang.
   */
  beforeSilenceDb: numberOrNull<Decibels>(
    { min: -252, max: 144 },
    { word: "where it stood before silence", apart: true },
  ),
  /** The control faders that it rides on. */
  controlIds: references<ControlId>(
    { to: "controls", dangling: "rides on a control fader that is not there", most: 8 },
    { word: "what it rides on", apart: true },
  ),
};

/** Null: the colour of the folder that a track lies in, or that a bus sums. */
const COLOUR = closed<Colour | null, typeof COLOUR_PARTS>(
  { schema: COLOUR_OR_NULL, initial: null, samples: [null, ...COLOUR_NAMES] },
  COLOUR_PARTS,
);

export const TRACK_FIELDS = {
  colour: COLOUR,
  ...PASSING_FIELDS,
  icon: choice<Icon | null, typeof ICON_PARTS>([...ICONS, null], ICON_PARTS),
  folderId: referenceOrNull<FolderId, typeof FOLDER_PARTS>(
    { to: "folders", dangling: "lies in a folder that is not there" },
    FOLDER_PARTS,
  ),
  input: closed<TrackInput, typeof INPUT_PARTS>(
    {
      schema: INPUT,
      samples: [{ kind: "none" }],
      references: [
        {
          to: "lines",
          dangling: "takes a line that is not there",
          ids: inputLineIds,
          without: (input: TrackInput, gone: ReadonlySet<string>) => ({ value: withoutLines(input, gone) }),
        },
        {
          to: "channels",
          kinds: ["bus", "return"],
          dangling: "records a bus that is not there",
          ids: (input: TrackInput) => (input.kind === "bus" ? [input.busId] : []),
          without: () => ({ value: { kind: "none" } }),
        },
        {
          to: "channels",
          kinds: ["instrument"],
          dangling: "records an instrument that is not there",
          ids: (input: TrackInput) => (input.kind === "instrument" ? [input.instrumentId] : []),
          without: () => ({ value: { kind: "none" } }),
        },
      ],
    },
    INPUT_PARTS,
  ),
  sharing: choice<Sharing>(["at-once", "by-turns", null], {
    word: "how the line is shared",
    says: (who: string, sharing: Sharing) => `Record ${who} ${sharing === "by-turns" ? "by turns" : "at once"}`,
  }),
  recordPoint: choiceFrom<RecordPoint>(RECORD_POINTS, {
    word: "where it records",
    says: (who: string, point: RecordPoint) => `Record ${who} ${point} its processing`,
  }),
  /** How what comes in is heard while it is recorded. */
  monitor: choiceFrom<Monitor>(MONITORS, {
    word: "how it is monitored",
    says: (who: string, monitor: Monitor) => MONITOR_SAYS[monitor](who),
  }),
  /** Whether its fader stands elsewhere while it records than when it plays back, and where. */
  liveApart: flag(
    { on: "a level of its own", off: "as played back" },
    {
      word: "the level while recording",
      says: (who: string, apart: boolean) =>
        `Give ${who} ${apart ? "a level of its own" : "the level of its fader"} while recording`,
    },
  ),
  liveDb: level(FADER_DB, {
    word: "the level while recording",
    says: (who: string, level: Decibels | null) => `Set ${who} to ${formatLevel(level)} while recording`,
  }),
};

/** A bus or a return: sums what is routed and sent to it. */
export const SUM_FIELDS = {
  colour: COLOUR,
  layout: choiceFrom<Layout>(LAYOUTS, {
    word: "mono or stereo",
    says: (who: string, layout: Layout) => `Make ${who} ${layout}`,
  }),
  fold: choiceFrom<Fold>(FOLDS, {
    word: "how stereo comes in",
    says: (who: string, fold: Fold) =>
      `Let stereo come into ${who} as ${fold === "sum" ? "the sum of both sides" : `its ${fold} side`}`,
  }),
  ...PASSING_FIELDS,
};

/** A virtual instrument: played, and heard by its outputs, each of which can feed a track. */
export const INSTRUMENT_FIELDS = {
  colour: COLOUR,
  ...PASSING_FIELDS,
  /** The MIDI port of the rig that plays it; null: its own notes only. */
  midiPortId: elsewhereOrNull<string>({
    word: "what plays it",
    tells: (port: string | null, around: ToldAround) => (port ? around.port(port) : "nothing"),
    says: (who: string, port: string | null) => `Play ${who} from ${port ? "another" : "no"} MIDI port`,
  }),
  /** 0: every channel. */
  midiChannel: numberFrom<number>(
    { min: 0, max: 16, whole: true, initial: 0 },
    {
      word: "the MIDI channel",
      says: (who: string, channel: number) =>
        `Play ${who} on ${channel ? `MIDI channel ${channel}` : "every MIDI channel"}`,
    },
  ),
  /** How many stereo outputs it has; the ones in use are those that a track records. */
  outputs: numberFrom<number>(
    { min: 1, max: 64, whole: true, initial: 1 },
    {
      word: "how many outputs it has",
      says: (who: string, outputs: number) => `Give ${who} ${counted(outputs, "output")}`,
    },
  ),
};

/** A file to listen to, beside what is made: it goes out without passing the main bus. */
export const REFERENCE_FIELDS = {
  colour: COLOUR,
  ...PASSING_FIELDS,
  file: text(400, { word: "the file", says: (who: string) => `Name the file of ${who}` }),
};

/** What keeps the beat for those who play: it sounds in cues, and goes nowhere else unless somebody routes it. */
export const CLICK_FIELDS = {
  colour: COLOUR,
  ...PASSING_FIELDS,
  tempoBpm: numberFrom<number>(
    { min: 20, max: 400, initial: 120 },
    { word: "the tempo", says: (who: string, tempo: number) => `Set ${who} to ${tempo} beats a minute` },
  ),
  sourceDb: numberFrom<Decibels>(
    { ...SOURCE_DB, initial: dB(-18) },
    { word: "how loud it comes", says: (who: string, level: Decibels) => `Let ${who} come at ${formatLevel(level)}` },
  ),
};

/** The microphone of the control room, in cues. */
export const TALKBACK_FIELDS = {
  colour: COLOUR,
  ...PASSING_FIELDS,
  /** The input that it comes in by; null: one that is built in. */
  portId: elsewhereOrNull<PortId>({
    word: "the input",
    tells: (port: PortId | null, around: ToldAround) => (port ? around.port(port) : "built in"),
    says: (who: string, port: PortId | null) => `Take ${who} from ${port ? "another input" : "what is built in"}`,
  }),
  sourceDb: numberFrom<Decibels>(
    { ...SOURCE_DB, initial: dB(-18) },
    { word: "how loud it comes", says: (who: string, level: Decibels) => `Let ${who} come at ${formatLevel(level)}` },
  ),
};
