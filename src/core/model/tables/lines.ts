import { counted } from "../../units/counted";
import { type Decibels, formatDb } from "../../units/decibels";
import {
  closed,
  decibelsOrNull,
  type EntryOf,
  elsewhereOrNull,
  flag,
  numberOrNull,
  type ToldAround,
  text,
  textOrNull,
  YES_NO,
} from "../describe/fields";
import { described, newEntry, type Surroundings } from "../describe/table";
import type { LineId, PortId } from "../ids";
import { MOST } from "../limits";
import { lineName, takersIn } from "../line-name";
import { CREST_DB, DISTANCE_M, LOUDNESS_DB } from "../loudness";
import { MICROPHONE_CHOICE, MICROPHONE_SAMPLES, type MicrophoneChoice } from "../microphone-choice";

/** What a planned gain may be, in dB: wider than any preamp, so that only slips are refused. */
export const GAIN_DB = { min: -60, max: 120 } as const;

const sourceOf = (line: Line): string => line.source || line.id;

const MICROPHONE_PARTS = {
  word: "the microphone",
  says: (who: string, microphone: MicrophoneChoice | null) =>
    microphone ? `${microphone.name} for ${who}` : `Take the microphone off ${who}`,
  column: {
    id: "microphone",
    heading: "Microphone or box",
    seat: 60,
    width: 144,
    inspected: 20,
    fills: ["copied", "counted", "emptied"],
  },
  list: {
    meaning: "microphone",
    heading: "Microphone",
    says: "Microphone or box",
    words:
      "microphone, mic, mike, mics, mic di, mic or di, microphone or box, microphone di, mikrofon, mikro, mikrofon di, micro, micros, micro di, di",
    always: 40,
  },
  sheet: "column",
  searched: true,
  inCause: 4,
} as const;

const GAIN_PARTS = {
  word: "the gain",
  says: (who: string, gain: Decibels | null) =>
    gain === null ? `Take the gain off ${who}` : `Set the gain of ${who} to ${formatDb(gain)}`,
  column: {
    id: "gain",
    heading: "Gain dB",
    seat: 110,
    width: 62,
    inspected: 50,
    label: "Gain in dB",
    empty: "not planned",
    hidden: true,
    fills: ["copied", "counted", "emptied"],
  },
  list: {
    meaning: "gain",
    heading: "Gain dB",
    says: "Gain in dB",
    words: "gain, gain db, gain in db, preamp gain, mic gain, verstarkung, vorverstarkung, gain preampli",
  },
  sheet: "settings",
  inCause: 7,
} as const;

const GAIN_SET_PARTS = {
  word: "the gain as set",
  says: (who: string, gain: Decibels | null) =>
    gain === null ? `Take the gain as set off ${who}` : `The gain of ${who} was set to ${formatDb(gain)}`,
  column: {
    id: "gainSet",
    heading: "Set dB",
    seat: 112,
    width: 62,
    inspected: 52,
    label: "Gain as set, in dB",
    empty: "not set",
    hidden: true,
    fills: ["copied", "counted", "emptied"],
  },
  list: {
    meaning: "gainSet",
    heading: "Gain set dB",
    says: "Gain as set, in dB",
    words: "gain set db, gain set, gain as set, set gain",
  },
  sheet: "settings",
  calledOnSheet: "set to",
} as const;

const FIELDS = {
  source: text(200, {
    word: "the source",
    column: {
      id: "source",
      heading: "Source",
      seat: 50,
      width: 120,
      inspected: 40,
      empty: "as the track",
      hidden: true,
      fills: ["copied", "counted", "emptied"],
    },
    list: {
      meaning: "source",
      heading: "Source",
      words: "source, instrument, name, what, sound source, quelle, bezeichnung, signal, stimme, nom, description",
      always: 30,
    },
    sheet: "column",
    searched: true,
  }),
  /** From the shelf of the rig or only named. */
  microphone: closed<MicrophoneChoice | null, typeof MICROPHONE_PARTS>(
    { schema: MICROPHONE_CHOICE, initial: null, samples: MICROPHONE_SAMPLES },
    MICROPHONE_PARTS,
  ),
  portId: elsewhereOrNull<PortId>({
    word: "the input",
    tells: (port: PortId | null, around: ToldAround) => (port ? around.port(port) : "none"),
    apart: true,
    sheet: "column",
    inCause: 1,
  }),
  /** The input that was asked for when this rig has none of that name ("17"); null once the line has a port. */
  requestedInput: textOrNull(40, { word: "the requested input", apart: true, sheet: "column", inCause: 2 }),
  phantom: flag(
    { ...YES_NO, mark: "48 V", said: { on: "48 V on", off: "off" } },
    {
      word: "phantom",
      says: (who: string, on: boolean) => `Phantom ${on ? "on" : "off"} for ${who}`,
      sheet: "column",
      column: { id: "phantom", heading: "Phantom", seat: 80, width: 60, inspected: 60, fills: ["copied"] },
      list: {
        meaning: "phantom",
        heading: "Phantom",
        words:
          "phantom, phantom power, 48v, 48 v, +48, +48v, +48 v, 48, p48, phantomspeisung, speisung, alimentation fantome, alim fantome, alimentation, fantome",
        always: 50,
      },
      inCause: 3,
    },
  ),
  pad: flag(
    { ...YES_NO, mark: "in", said: { on: "pad in", off: "pad out" }, noted: "pad" },
    {
      word: "the pad",
      says: (who: string, on: boolean) => `Pad ${on ? "in" : "out"} for ${who}`,
      sheet: "settings",
      column: { id: "pad", heading: "Pad", seat: 90, width: 44, inspected: 70, hidden: true, fills: ["copied"] },
      list: {
        meaning: "pad",
        heading: "Pad",
        words: "pad, pads, attenuator, attenuation, dampfung, vordampfung, attenuateur",
      },
      inCause: 8,
    },
  ),
  /** Turned over at the preamp, for a microphone that faces another. */
  polarityInverted: flag(
    {
      on: "inverted",
      off: "normal",
      words: "inverted, invert, reversed, ø, 180, invertiert, gedreht, inversee, inverse",
      mark: "Ø",
      said: { on: "polarity inverted", off: "polarity normal" },
    },
    {
      word: "the polarity",
      says: (who: string, inverted: boolean) => `${inverted ? "Turn over" : "Turn back"} the polarity of ${who}`,
      sheet: "settings",
      column: {
        id: "polarity",
        heading: "Polarity",
        seat: 100,
        width: 62,
        inspected: 80,
        label: "Polarity inverted",
        hidden: true,
        fills: ["copied"],
      },
      list: {
        meaning: "polarity",
        heading: "Polarity",
        words: "polarity, phase, polarity inverted, polaritat, polung, polarite",
      },
    },
  ),
  /** The gain planned at the preamp; null while nobody has said. */
  gainDb: decibelsOrNull<Decibels, typeof GAIN_PARTS>(GAIN_DB, GAIN_PARTS),
  /** The gain it ended at, of a session; null while nobody has said. */
  gainSetDb: decibelsOrNull<Decibels, typeof GAIN_SET_PARTS>(GAIN_DB, GAIN_SET_PARTS),
  /** How loud it is: in dB SPL a metre away, of what comes by cable in dBu. Null: as its family plays. */
  loudnessDb: numberOrNull<number>(LOUDNESS_DB, { word: "how loud it is", sheet: "nowhere" }),
  /** How far the microphone stands, in metres. Null: as its family is miked. */
  distanceM: numberOrNull<number>(DISTANCE_M, { word: "how far the microphone is", sheet: "nowhere" }),
  /** How far peaks stand above the RMS level. Null: as its family plays. */
  crestDb: numberOrNull<number>(CREST_DB, { word: "the crest", sheet: "nowhere" }),
  player: text(200, {
    word: "the player",
    sheet: "column",
    column: {
      id: "player",
      heading: "Player",
      seat: 130,
      width: 88,
      inspected: 10,
      fills: ["copied", "counted", "emptied"],
    },
    list: {
      meaning: "player",
      heading: "Player",
      words: "player, musician, performer, who, artist, musiker, musikerin, spieler, musicien, interprete",
      always: 70,
    },
    searched: true,
    inCause: 5,
  }),
  /** The room it is played in. */
  room: text(200, {
    word: "the room",
    says: (who: string, room: string) => (room ? `Put ${who} in the ${room}` : `Take ${who} out of its room`),
    sheet: "nowhere",
    column: {
      id: "room",
      heading: "Room",
      seat: 140,
      width: 88,
      inspected: 120,
      hidden: true,
      fills: ["copied", "counted", "emptied"],
    },
    list: { meaning: "room", heading: "Room", words: "room, raum, aufnahmeraum, salle, piece" },
    inCause: 6,
  }),
  /** Where the microphone stands. */
  position: text(400, {
    word: "the position",
    sheet: "note",
    column: {
      id: "position",
      heading: "Position",
      seat: 150,
      width: 110,
      inspected: 130,
      empty: "where it stands",
      hidden: true,
      fills: ["copied", "counted", "emptied"],
    },
    list: {
      meaning: "position",
      heading: "Position",
      says: "Stand or position",
      words: "position, stand, placement, stativ, aufstellung, pied",
    },
  }),
};

/** "Fiddle" for one, by its track where it says nothing itself; "4 lines" for several. */
const lineInWords = (lines: readonly Line[], around: Surroundings): string => {
  const [line] = lines;
  if (!line || lines.length > 1) return counted(lines.length, "line");
  const taker = takersIn(around.table("channels")).get(line.id);
  return lineName(line, taker ? [taker] : []);
};

/** One physical source on its way in. */
export const LINES = described({
  one: "line",
  many: "lines",
  most: MOST.lines,
  fields: FIELDS,
  held: (line: Line) => `line ${sourceOf(line)} has no track`,
  rules: [
    (line: Line) =>
      line.portId && line.requestedInput ? `line ${sourceOf(line)} has a port and asks for another` : null,
  ],
  called: (line: Line) => line.source || null,
  calls: { who: lineInWords },
});

export interface Line extends EntryOf<typeof FIELDS> {
  readonly id: LineId;
}

/** A line of which nothing is known but what is given. */
export const newLine = (line: Pick<Line, "id"> & Partial<Line>): Line => newEntry(LINES, line) as unknown as Line;
