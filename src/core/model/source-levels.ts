import { FAMILY_LEVELS, type Family, plain } from "./families";
import { perText } from "./per-document";

/** How loud a kind of source is, where its microphone stands, how its peaks stand, and how near one can come to it. */
export interface SourceLevels {
  /** dB SPL a metre away, of all of it together. */
  readonly loudnessDb: number;
  readonly distanceM: number;
  readonly crestDb: number;
  /** As near as the source is large, in metres: nearer it gets no louder. */
  readonly nearestM: number;
}

/** How large what a family plays is, in metres. */
const NEAREST_M: { readonly [F in Family]: number } = {
  percussion: 0.05,
  "low-strings": 0.15,
  "plucked-strings": 0.1,
  "bowed-strings": 0.1,
  keys: 0.3,
  brass: 0.1,
  woodwind: 0.05,
  voices: 0.02,
  speech: 0.02,
  rooms: 1,
  references: 0,
};

interface Kind extends SourceLevels {
  /** Whole words of a name, one of which gives it away; all of `with` as well where there are any. */
  readonly words: readonly string[];
  readonly with?: readonly string[];
}

/**
 * Kinds of sources that are far from what their family is: an amplifier is loud close by, a choir is meant as a whole
 * three metres away, a pair stands above the drums, a microphone lies inside the bass drum. The first that fits counts.
 * Usual figures of the trade, to begin with.
 */
const KINDS: readonly Kind[] = [
  {
    words: ["amp", "amplifier", "cabinet", "cab", "verstarker", "ampli", "amplified"],
    loudnessDb: 92,
    distanceM: 0.1,
    crestDb: 12,
    nearestM: 0.1,
  },
  {
    words: ["inside", "in"],
    with: ["kick", "bass drum", "bd", "bassdrum"],
    loudnessDb: 100,
    distanceM: 0.08,
    crestDb: 18,
    nearestM: 0.05,
  },
  {
    words: ["kick", "bass drum", "bassdrum", "grosse caisse", "grosse trommel"],
    loudnessDb: 100,
    distanceM: 0.2,
    crestDb: 18,
    nearestM: 0.05,
  },
  { words: ["overhead", "overheads", "oh", "above"], loudnessDb: 98, distanceM: 1.2, crestDb: 18, nearestM: 0.3 },
  { words: ["choir", "chorus", "chor", "choeur", "coro"], loudnessDb: 99.5, distanceM: 3, crestDb: 14, nearestM: 1 },
  { words: ["piano", "grand", "klavier", "flugel"], loudnessDb: 84, distanceM: 0.6, crestDb: 16, nearestM: 0.5 },
];

const isWord = (text: string, word: string): boolean => text.includes(` ${word} `);

/**
 * The kind of source that a name tells, where it is far from its family; null else. One numbered singer of a choir
 * ("Choir 3") is a singer.
 */
export const kindLevels = perText((name: string): SourceLevels | null => {
  const text = ` ${plain(name)} `;
  const found = KINDS.find(
    ({ words, with: also }) =>
      words.some((word) => isWord(text, word)) && (!also || also.some((word) => isWord(text, word))),
  );
  if (!found || (found.loudnessDb === 99.5 && /\d/.test(text))) return null;
  const { loudnessDb, distanceM, crestDb, nearestM } = found;
  return { loudnessDb, distanceM, crestDb, nearestM };
});

/** What is taken where no name tells anything. */
export const UNKNOWN_LEVELS: SourceLevels = { loudnessDb: 85, distanceM: 0.5, crestDb: 14, nearestM: 0.05 };

type Set = Pick<SourceLevels, "loudnessDb" | "distanceM" | "crestDb">;

/**
 * A family as the studio has it; a kind within it as it is, louder or quieter by what the studio set its family apart
 * from the usual.
 */
export const familyLevels = (
  family: Family | null,
  { names, styles }: { readonly names: readonly string[]; readonly styles: Readonly<Partial<Record<Family, Set>>> },
): SourceLevels => {
  const kind = names.map(kindLevels).find((one) => one !== null) ?? null;
  if (!family) return kind ?? UNKNOWN_LEVELS;
  const own = styles[family] ?? FAMILY_LEVELS[family];
  if (kind) return { ...kind, loudnessDb: kind.loudnessDb + own.loudnessDb - FAMILY_LEVELS[family].loudnessDb };
  return { loudnessDb: own.loudnessDb, distanceM: own.distanceM, crestDb: own.crestDb, nearestM: NEAREST_M[family] };
};
