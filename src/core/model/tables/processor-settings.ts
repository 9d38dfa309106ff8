import { type Decibels, dB } from "../../units/decibels";
import {
  choiceFrom,
  closed,
  type EntryOf,
  flag,
  level,
  numberFrom,
  numberOrNull,
  type ToldAround,
  text,
} from "../describe/fields";
import { id, list } from "../schema-parts";

/** When a processor is meant to be on. */
export const USES = ["always", "not-while-recording", "listening-copy"] as const;
export type Use = (typeof USES)[number];

/** Slopes of filters in dB an octave. */
export const SLOPES_DB = [12, 6, 18, 24] as const;
export type SlopeDb = (typeof SLOPES_DB)[number];

export type Listens = "itself" | "others";

/**
 * An all-pass turns only the phase, as a crossing at its frequency does: with it a band stays in step with others that
 * were parted there.
 */
export const PASSES = ["high-pass", "low-pass", "all-pass"] as const;
export type Pass = (typeof PASSES)[number];

const db = (initial: number, min: number, max: number, word: string) =>
  numberFrom<Decibels>({ min, max, initial: dB(initial) }, { word });
const ms = (initial: number, max: number, word: string) => numberFrom<number>({ min: 0, max, initial }, { word });
const hz = (initial: number) => numberFrom<number>({ min: 10, max: 40_000, initial }, { word: "the frequency" });

/**
 * Begins where a source at the usual level (−24 dBFS) is worked on as it mostly is: a gate stays open well below it, a
 * compressor takes 3 dB off.
 */
const THRESHOLD = (initial: number) => db(initial, -80, 0, "the threshold");
const RANGE = (initial: number) => db(initial, 0, 100, "the most reduction");
const RATIO = numberFrom<number>({ min: 1, max: 100, initial: 2.5 }, { word: "the ratio" });
const ATTACK = ms(10, 1000, "the attack");
const RELEASE = ms(120, 10_000, "the release");
/** How far a detector hears ahead: what passes waits for so long. */
const AHEAD = (initial: number) => ms(initial, 20, "the look-ahead");
/** What the detector listens to: what goes through, or what steers it. */
const LISTENS = choiceFrom<Listens>(["itself", "others"], { word: "what it listens to" });
const DRIVE = db(0, 0, 60, "the drive");
/** Ports of the rig; whether they are there is a check's to tell. */
const PORTS = (word: string) =>
  closed<readonly string[]>(
    { schema: list(id, 2), initial: [], samples: [[], ["elsewhere"]] },
    {
      word,
      tells: (ports: readonly string[], around: ToldAround) => ports.map(around.port).join("–") || "none",
    },
  );
const BALANCE = (word: string) => level({ min: -120, max: 12, initial: 0 }, { word });

/**
 * What each kind of processor can be set to, in real units. Fields of the same name have the same range in all of them.
 */
export const PROCESSOR_KINDS = {
  gain: {
    gainDb: db(0, -60, 60, "the gain"),
    turned: flag({ on: "inverted", off: "normal" }, { word: "the polarity" }),
  },
  filter: {
    pass: choiceFrom<Pass>(PASSES, { word: "what passes" }),
    frequencyHz: hz(80),
    slopeDb: choiceFrom<SlopeDb>(SLOPES_DB, { word: "the slope" }),
    /** As one half of a crossover: two Butterworth filters in a row, so that both halves add up to what came in. */
    crossover: flag({ on: "a crossover", off: "by itself" }, { word: "the crossover" }),
  },
  equaliser: {},
  gate: {
    listens: LISTENS,
    thresholdDb: THRESHOLD(-44),
    ratio: RATIO,
    rangeDb: RANGE(15),
    attackMs: ATTACK,
    holdMs: ms(40, 5000, "the hold"),
    releaseMs: RELEASE,
    lookaheadMs: AHEAD(0),
  },
  compressor: {
    listens: LISTENS,
    thresholdDb: THRESHOLD(-29),
    ratio: RATIO,
    kneeDb: db(6, 0, 36, "the knee"),
    rangeDb: RANGE(20),
    attackMs: ATTACK,
    releaseMs: RELEASE,
    makeUpDb: db(0, -24, 36, "the make-up gain"),
  },
  "de-esser": { listens: LISTENS, frequencyHz: hz(6500), thresholdDb: THRESHOLD(-28), rangeDb: RANGE(6) },
  limiter: { listens: LISTENS, ceilingDb: db(-1, -60, 0, "the ceiling"), lookaheadMs: AHEAD(1), releaseMs: RELEASE },
  saturation: { driveDb: DRIVE },
  amplifier: { driveDb: DRIVE, cabinet: text(120, { word: "the cabinet" }) },
  tuner: { referenceHz: numberFrom<number>({ min: 380, max: 480, initial: 440 }, { word: "the reference pitch" }) },
  delay: {
    timeMs: ms(120, 10_000, "the time"),
    feedbackPercent: numberFrom<number>({ min: 0, max: 100, initial: 0 }, { word: "the feedback" }),
  },
  reverb: {
    decayS: numberFrom<number>({ min: 0, max: 60, initial: 1.8 }, { word: "the decay" }),
    preDelayMs: ms(20, 1000, "the pre-delay"),
  },
  insert: { sendPortIds: PORTS("the send"), returnPortIds: PORTS("the return") },
  /** Parts into two branches that join again, each at a level of its own. */
  split: { firstDb: BALANCE("the first branch"), secondDb: BALANCE("the second branch") },
  /** Works on what is played, before an instrument makes sound of it. */
  notes: {
    transposeSemitones: numberFrom<number>(
      { min: -48, max: 48, whole: true, initial: 0 },
      { word: "the transposition" },
    ),
    lowestNote: numberFrom<number>({ min: 0, max: 127, whole: true, initial: 0 }, { word: "the lowest note" }),
    highestNote: numberFrom<number>({ min: 0, max: 127, whole: true, initial: 127 }, { word: "the highest note" }),
  },
  other: {},
} as const;

export type ProcessorKind = keyof typeof PROCESSOR_KINDS;
export const PROCESSOR_KIND_NAMES = Object.keys(PROCESSOR_KINDS) as readonly ProcessorKind[];

/** Those that another channel can steer. */
export const DYNAMICS = ["gate", "compressor", "de-esser", "limiter"] as const;

/** A setting that is moved by something played: a field, and the MIDI port of the rig that it hangs on. */
export interface Steering {
  readonly field: string;
  readonly midiPortId: string;
}

const STEERING = {
  type: "object",
  properties: { field: { type: "string", minLength: 1, maxLength: 40 }, midiPortId: id },
  required: ["field", "midiPortId"],
  additionalProperties: false,
};

/** What processors have in common, in a channel's chain and in one that is kept. */
export const PROCESSOR_FIELDS = {
  /** Empty: it is called by its kind. */
  name: text(120, {
    word: "the name",
    says: (who: string, name: string) => (name ? `Call ${who} ${name}` : `Take the name off ${who}`),
  }),
  use: choiceFrom<Use>(USES, { word: "when it is on" }),
  bypassed: flag(
    { on: "bypassed", off: "in" },
    { word: "the bypass", says: (who: string, off: boolean) => `${off ? "Bypass" : "Take in"} ${who}` },
  ),
  /** How much of what comes out went through it. */
  wetPercent: numberFrom<number>({ min: 0, max: 100, initial: 100 }, { word: "the wet share" }),
  delaySamples: numberFrom<number>({ min: 0, max: 192_000, whole: true, initial: 0 }, { word: "the delay" }),
  /** The same at double and quadruple rates; null: as many samples there. */
  delayDoubleSamples: numberOrNull<number>(
    { min: 0, max: 192_000, whole: true },
    { word: "the delay at double rates" },
  ),
  delayQuadrupleSamples: numberOrNull<number>(
    { min: 0, max: 192_000, whole: true },
    { word: "the delay at quadruple rates" },
  ),
  /** Nanoseconds of work a sample, as it was measured; null: estimated by its kind. */
  costNs: numberOrNull<number>({ min: 0, max: 100_000 }, { word: "the load" }),
  /** One that is installed on the rig, by name; empty for any of its kind. */
  installed: text(200, { word: "what it needs" }),
  /** At least this. */
  version: text(40, { word: "the version" }),
  from: text(400, { word: "where to get it" }),
  steering: closed<Steering | null>(
    {
      schema: { anyOf: [STEERING, { type: "null" }] },
      initial: null,
      samples: [null, { field: "driveDb", midiPortId: "elsewhere" }],
    },
    {
      word: "what steers it",
      tells: (steering: Steering | null, around: ToldAround) =>
        steering ? around.port(steering.midiPortId) : "nothing",
    },
  ),
  note: text(400, { word: "the note" }),
  branch: choiceFrom<"first" | "second">(["first", "second"], { word: "the branch" }),
};

export type ProcessorBase = EntryOf<typeof PROCESSOR_FIELDS>;
type SettingsOf<K extends ProcessorKind> = EntryOf<(typeof PROCESSOR_KINDS)[K]>;

/** A processor of any kind with its settings, told apart by `kind`. */
export type OfKind<Base> = { [K in ProcessorKind]: Base & SettingsOf<K> & { readonly kind: K } }[ProcessorKind];

export const BAND_SHAPES = ["bell", "low-shelf", "high-shelf", "high-pass", "low-pass", "notch"] as const;
export type BandShape = (typeof BAND_SHAPES)[number];

/** What bands have in common, in a channel's equaliser and in one that is kept. */
export const BAND_FIELDS = {
  shape: choiceFrom<BandShape>(BAND_SHAPES, { word: "the shape" }),
  frequencyHz: hz(1000),
  gainDb: db(0, -24, 24, "the gain"),
  q: numberFrom<number>({ min: 0.1, max: 40, initial: Math.SQRT1_2 }, { word: "the Q" }),
  bypassed: flag({ on: "bypassed", off: "in" }, { word: "the bypass" }),
};
