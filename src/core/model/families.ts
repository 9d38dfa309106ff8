import type { Colour } from "./colours";

/** Icons that a track can carry: each stands for a kind of source. */
export const ICONS = [
  "drum",
  "shaker",
  "bass",
  "plucked",
  "bowed",
  "keys",
  "brass",
  "woodwind",
  "voice",
  "speech",
  "room",
  "line",
] as const;
export type Icon = (typeof ICONS)[number];
export const isIcon = (value: unknown): value is Icon => ICONS.some((icon) => icon === value);

export const FAMILIES = [
  "percussion",
  "low-strings",
  "plucked-strings",
  "bowed-strings",
  "keys",
  "brass",
  "woodwind",
  "voices",
  "speech",
  "rooms",
  "references",
] as const;
export type Family = (typeof FAMILIES)[number];

interface FamilyDefaults {
  readonly name: string;
  readonly colour: Colour;
  readonly icon: Icon;
}

/** What a family is called, and its dye and icon. The words by which a source is known stand in `family-words.ts`. */
export const FAMILY_DEFAULTS: Readonly<Record<Family, FamilyDefaults>> = {
  percussion: { name: "Percussion", colour: "madder", icon: "drum" },
  "low-strings": { name: "Low strings", colour: "walnut", icon: "bass" },
  "plucked-strings": { name: "Plucked strings", colour: "weld", icon: "plucked" },
  "bowed-strings": { name: "Bowed strings", colour: "lichen", icon: "bowed" },
  keys: { name: "Keys", colour: "verdigris", icon: "keys" },
  brass: { name: "Brass", colour: "ochre", icon: "brass" },
  woodwind: { name: "Woodwind", colour: "woad", icon: "woodwind" },
  voices: { name: "Voices", colour: "cochineal", icon: "voice" },
  speech: { name: "Speech", colour: "saffron", icon: "speech" },
  rooms: { name: "Rooms", colour: "slate", icon: "room" },
  references: { name: "References", colour: "slate", icon: "line" },
};

const MOST_COMPARED = 400;

/** Lower case, without accents, letters and digits only, single spaces: how words are compared throughout. */
export const plain = (text: string): string =>
  text
    .normalize("NFKD")
    // One letter can stand for eighteen (Unicode 15, U+FDFA): words are compared by their beginning, whatever they grow
    // to.
    .slice(0, MOST_COMPARED)
    .replace(/\p{M}/gu, "")
    .replace(/ß/g, "ss")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}+#]+/gu, " ")
    .trim();

interface FamilyLevels {
  readonly loudnessDb: number;
  readonly distanceM: number;
  readonly crestDb: number;
}

/**
 * How loud each family plays out a metre away (dB SPL), how far its microphone usually stands (m) and how far its peaks
 * stand above its RMS level (dB): usual figures to begin with, which the engineer sets for the studio or for a line.
 */
export const FAMILY_LEVELS: { readonly [F in Family]: FamilyLevels } = {
  percussion: { loudnessDb: 100, distanceM: 0.3, crestDb: 20 },
  "low-strings": { loudnessDb: 82, distanceM: 0.4, crestDb: 14 },
  "plucked-strings": { loudnessDb: 78, distanceM: 0.4, crestDb: 18 },
  "bowed-strings": { loudnessDb: 82, distanceM: 0.6, crestDb: 12 },
  keys: { loudnessDb: 84, distanceM: 0.6, crestDb: 14 },
  brass: { loudnessDb: 96, distanceM: 0.6, crestDb: 12 },
  woodwind: { loudnessDb: 86, distanceM: 0.5, crestDb: 12 },
  voices: { loudnessDb: 80, distanceM: 0.2, crestDb: 14 },
  speech: { loudnessDb: 66, distanceM: 0.2, crestDb: 15 },
  rooms: { loudnessDb: 90, distanceM: 4, crestDb: 14 },
  references: { loudnessDb: 85, distanceM: 1, crestDb: 14 },
};
