import { plain } from "../model/families";

/** Words of the trade that mean the same, or so nearly that whoever types one may look for another. */
const ALIKE: readonly (readonly string[])[] = [
  ["high pass", "low cut", "hpf", "hp filter", "rumble filter", "filter"],
  ["low pass", "high cut", "lpf", "lp filter", "filter"],
  ["equaliser", "equalizer", "eq", "tone"],
  ["compressor", "comp", "dynamics"],
  ["gate", "noise gate", "expander", "dynamics"],
  ["limiter", "lim", "peak stop", "dynamics"],
  ["de esser", "deesser", "desser", "ess", "sibilance"],
  ["saturation", "drive", "distortion", "overdrive", "warmth"],
  ["amplifier", "amp sim", "cabinet", "cab"],
  ["reverb", "verb", "reverberation", "room", "plate", "hall", "ambience"],
  ["delay", "echo", "slapback", "dly"],
  ["gain", "trim", "volume", "polarity", "phase"],
  ["hardware insert", "outboard", "insert"],
  ["split", "parallel", "branch"],
  ["bus", "group", "subgroup", "stem", "submix"],
  ["return", "fx", "effect", "aux"],
  ["cue", "headphones", "headphone mix", "cans", "foldback", "monitor mix"],
  ["main", "mix bus", "stereo bus", "master"],
  ["voice", "voices", "vocal", "vocals", "vox", "vx", "singer"],
  ["speech", "narrator", "spoken word", "announcer"],
  ["percussion", "drums", "drum kit", "kit", "perc"],
  ["bass drum", "kick", "bd", "kik"],
  ["snare", "sn", "sd"],
  ["hat", "hi hat", "hh"],
  ["overhead", "oh", "above"],
  ["low strings", "bass", "double bass", "upright", "contrabass"],
  ["plucked strings", "guitar", "gtr", "guit", "strings"],
  ["bowed strings", "violin", "fiddle", "viola", "cello", "strings"],
  ["keys", "keyboard", "piano", "pno", "organ"],
  ["brass", "horns", "trumpet", "tpt", "trombone"],
  ["woodwind", "winds", "reeds", "sax", "clarinet", "flute"],
  ["room", "rooms", "ambient", "amb"],
  ["microphone", "mic", "mike"],
  ["interface", "sound card", "converter box"],
  ["preamp", "pre", "preamplifier", "mic pre"],
  ["instrument", "synth", "sampler", "virtual instrument"],
  ["reference", "ref", "guide", "playback"],
  ["inverted", "polarity", "phase"],
  ["mute", "silence"],
  ["remove", "delete", "erase"],
  ["rename", "name", "call"],
  ["record", "arm", "take"],
  ["route", "output", "patch", "assign"],
  ["colour", "color", "dye"],
  ["side chain", "sidechain", "duck", "ducking", "key input"],
  ["gang", "link", "hold together", "group"],
];

/** How many characters of what was typed are looked at. */
const MOST_SOUGHT = 200;

/** Whether a text has a word, or words side by side, in it: in whole words. */
const has = (text: string, word: string): boolean => ` ${text} `.includes(` ${word} `);

/**
 * Other words under which what is called so is looked for: of each group of which it has a member in whole words, all
 * the others.
 */
export const alsoCalled = (label: string): readonly string[] => {
  const text = plain(label);
  return [...new Set(ALIKE.filter((group) => group.some((word) => has(text, word))).flat())].filter(
    (word) => !has(text, word),
  );
};

const BEST = 0;
const BY_OTHER_WORDS = 4;
const NONE = 9;

/** How well a label answers what is sought: 0 as it is written, up to 5; NONE not at all. */
const rank = (sought: string, label: string, words: readonly string[]): number => {
  const text = plain(label);
  const together = (one: string) => one.replaceAll(" ", "");
  if (text === sought) return BEST;
  if (text.startsWith(sought)) return 1;
  if (` ${text}`.includes(` ${sought}`)) return 2;
  if (text.includes(sought) || together(text).includes(together(sought))) return 3;
  if (sought.length > 1 && words.some((word) => word.startsWith(sought) || together(word) === together(sought)))
    return BY_OTHER_WORDS;
  const parts = sought.split(" ");
  const told = (part: string): boolean =>
    ` ${text}`.includes(` ${part}`) || (part.length > 1 && words.some((word) => has(word, part)));
  return parts.length > 1 && parts.every(told) ? 5 : NONE;
};

export interface Sought {
  readonly label: string;
  /** What else it is looked for by. */
  readonly words?: readonly string[];
}

/**
 * Those that answer what is typed, best first: as written, by their beginning, by the beginning of a word, by what is
 * in them; and apart from them those that are only called so by another word of the trade, or by all the words in any
 * order. Within each as they came. Accents, case and hyphens make no difference. All where nothing is typed.
 */
export const seekApart = <T extends Sought>(
  typed: string,
  all: readonly T[],
): { readonly named: readonly T[]; readonly also: readonly T[] } => {
  const sought = plain(typed.slice(0, MOST_SOUGHT));
  if (!typed.trim()) return { named: all, also: [] };
  if (!sought) return { named: [], also: [] };
  const found = all
    .map((one) => ({ one, at: rank(sought, one.label, [...alsoCalled(one.label), ...(one.words ?? []).map(plain)]) }))
    .filter(({ at }) => at < NONE)
    .sort((a, b) => a.at - b.at);
  return {
    named: found.flatMap(({ one, at }) => (at < BY_OTHER_WORDS ? [one] : [])),
    also: found.flatMap(({ one, at }) => (at < BY_OTHER_WORDS ? [] : [one])),
  };
};

/**
 * The same as one list.
 * @example seek("low cut", [{ label: "High-pass" }, { label: "Gate" }]) // [{ label: "High-pass" }]
 */
export const seek = <T extends Sought>(typed: string, all: readonly T[]): readonly T[] => {
  const { named, also } = seekApart(typed, all);
  return [...named, ...also];
};
