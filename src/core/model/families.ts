import type { Colour } from "./colours";
import { perText } from "./per-document";

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
] as const;
export type Family = (typeof FAMILIES)[number];

interface FamilyDefaults {
  readonly name: string;
  readonly colour: Colour;
  readonly icon: Icon;
  /** Beginnings of words, without accents, that give the family away. */
  readonly words: readonly string[];
}

/** Dye and icon by family, and the words (English, German, French) by which a source is known to belong to one. */
export const FAMILY_DEFAULTS: Readonly<Record<Family, FamilyDefaults>> = {
  percussion: {
    name: "Percussion",
    colour: "madder",
    icon: "drum",
    words: [
      "drum",
      "snare",
      "tom",
      "toms",
      "kick",
      "cymbal",
      "hat",
      "hihat",
      "percussion",
      "shaker",
      "tambourine",
      "cajon",
      "timpani",
      "glockenspiel",
      "bell",
      "conga",
      "bongo",
      "above",
      "overhead",
      "trommel",
      "pauke",
      "becken",
      "schlagzeug",
      "schlagwerk",
      "batterie",
      "caisse",
      "cymbale",
      "timbale",
    ],
  },
  "low-strings": {
    name: "Low strings",
    colour: "walnut",
    icon: "bass",
    words: [
      "double bass",
      "bass guitar",
      "bass di",
      "bass amp",
      "bass mic",
      "low string",
      "kontrabass",
      "contrebasse",
      "basse",
    ],
  },
  "plucked-strings": {
    name: "Plucked strings",
    colour: "weld",
    icon: "plucked",
    words: [
      "guitar",
      "cimbalom",
      "harp",
      "lute",
      "mandolin",
      "banjo",
      "zither",
      "ukulele",
      "gitarre",
      "guitarra",
      "harfe",
      "laute",
      "guitare",
      "harpe",
      "plucked",
    ],
  },
  "bowed-strings": {
    name: "Bowed strings",
    colour: "lichen",
    icon: "bowed",
    words: [
      "fiddle",
      "violin",
      "viola",
      "cello",
      "strings",
      "geige",
      "bratsche",
      "streicher",
      "violon",
      "alto solo",
      "bowed",
    ],
  },
  keys: {
    name: "Keys",
    colour: "verdigris",
    icon: "keys",
    words: [
      "piano",
      "organ",
      "accordion",
      "harmonium",
      "keys",
      "keyboard",
      "celesta",
      "orgel",
      "klavier",
      "akkordeon",
      "flugel",
      "clavier",
      "orgue",
      "accordeon",
    ],
  },
  brass: {
    name: "Brass",
    colour: "ochre",
    icon: "brass",
    words: [
      "brass",
      "trumpet",
      "cornet",
      "flugelhorn",
      "horn",
      "trombone",
      "tuba",
      "sousaphone",
      "euphonium",
      "baritone",
      "repiano",
      "winds",
      "trompete",
      "posaune",
      "blaser",
      "cuivre",
      "trompette",
      "cor",
      "e flat bass",
      "b flat bass",
    ],
  },
  woodwind: {
    name: "Woodwind",
    colour: "woad",
    icon: "woodwind",
    words: [
      "clarinet",
      "flute",
      "oboe",
      "bassoon",
      "saxophone",
      "sax",
      "recorder",
      "woodwind",
      "klarinette",
      "flote",
      "fagott",
      "holzblaser",
      "clarinette",
      "hautbois",
      "basson",
      "bois",
    ],
  },
  voices: {
    name: "Voices",
    colour: "cochineal",
    icon: "voice",
    words: [
      "voice",
      "vocal",
      "vox",
      "singer",
      "choir",
      "soprano",
      "alto",
      "tenor",
      "mezzo",
      "backing vocal",
      "sopran",
      "alt",
      "bariton",
      "bass",
      "chor",
      "solist",
      "stimme",
      "gesang",
      "sanger",
      "voix",
      "choeur",
      "chant",
      "chanteur",
      "chanteuse",
    ],
  },
  speech: {
    name: "Speech",
    colour: "saffron",
    icon: "speech",
    words: [
      "narrator",
      "presenter",
      "conductor",
      "speaker",
      "speech",
      "actor",
      "announcer",
      "ansage",
      "sprecher",
      "erzahler",
      "moderation",
      "narrateur",
      "narratrice",
      "parole",
      "presentateur",
    ],
  },
  rooms: {
    name: "Rooms",
    colour: "slate",
    icon: "room",
    words: [
      "room",
      "hall",
      "main pair",
      "outrigger",
      "ambience",
      "audience",
      "raum",
      "saal",
      "publikum",
      "salle",
      "public",
      "atmosphere",
    ],
  },
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

/**
 * The family a source most likely belongs to, by the longest word of ours that begins a word of its name; null when
 * none does. Short words (up to four letters) must stand alone, or "Alt" would claim "Altered".
 * @example guessFamily("Double bass DI") // "low-strings"
 */
export const guessFamily = perText((name: string): Family | null => {
  const text = ` ${plain(name)} `;
  let best: { family: Family; length: number } | null = null;
  for (const family of FAMILIES) {
    for (const word of FAMILY_DEFAULTS[family].words) {
      const found = text.includes(word.length <= 4 ? ` ${word} ` : ` ${word}`);
      if (found && word.length > (best?.length ?? 0)) best = { family, length: word.length };
    }
  }
  return best?.family ?? null;
});

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
};
