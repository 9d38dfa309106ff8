import { type Family, plain } from "./families";
import { CHOIR_PARTS, FAMILY_WORDS, UNSURE_WORDS } from "./family-words";
import { perText } from "./per-document";

/** What stands around a source, where its name leaves its family open. */
export interface FamilyAround {
  /** Names of the sources beside it, its own among them or not. */
  readonly names?: readonly string[];
  readonly folder?: string;
  /** What its microphone or box is called. */
  readonly microphone?: string;
  /** Names that the studio has put into a family, without accents and in lower case. */
  readonly words?: ReadonlyMap<string, Family>;
}

/** Words from so many letters on also begin or end one. */
const BEGINS_FROM = 5;
const MOST_TOKENS = 3;
/** Short words that end German compounds as well. */
const ENDS_TOO = new Set(["bass", "horn", "chor"]);
/** Who is heard in a voice's microphone is a singer, whatever they play besides. */
const SUNG = new Set(
  "vox voc vocs vocal vocals voice bv bvs bvox bgv bgvs lv gesang voix chant voz voces voce voci stimme singer".split(
    " ",
  ),
);

const WORDS: ReadonlyMap<string, Family> = new Map(
  (Object.keys(FAMILY_WORDS) as Family[]).flatMap((family) =>
    FAMILY_WORDS[family].split(", ").map((word) => [plain(word), family] as const),
  ),
);

/** "egtr1" is "egtr" and "1"; what is a word as it stands ("t1") stays one. */
const tokensOf = (name: string): readonly string[] =>
  plain(name)
    .split(" ")
    .flatMap((token) => (WORDS.has(token) ? [token] : (token.match(/\p{L}+|\d+/gu) ?? [])));

const singular = (token: string): string => (token.length > 2 && token.endsWith("s") ? token.slice(0, -1) : token);

const byPart = (token: string): Family | null => {
  for (let length = token.length; length >= BEGINS_FROM; length--) {
    const family = WORDS.get(token.slice(0, length));
    if (family) return family;
  }
  for (let at = 1; at <= token.length - 4; at++) {
    const end = token.slice(at);
    const family = end.length >= BEGINS_FROM || ENDS_TOO.has(end) ? WORDS.get(end) : undefined;
    if (family) return family;
  }
  return ENDS_TOO.has(token.slice(-4)) && token.length > 6 ? "low-strings" : null;
};

interface Told {
  readonly family: Family;
  readonly at: number;
}

/** The words of a name that tell a family, from its beginning to its end; of several from one place the longest. */
const toldBy = (tokens: readonly string[]): readonly Told[] => {
  const told: Told[] = [];
  for (let at = 0; at < tokens.length; ) {
    let took = 0;
    for (let length = Math.min(MOST_TOKENS, tokens.length - at); length > 0 && !took; length--) {
      const phrase = tokens.slice(at, at + length).join(" ");
      const family = WORDS.get(phrase) ?? WORDS.get(singular(phrase));
      if (!family || (length === 1 && UNSURE_WORDS[phrase])) continue;
      told.push({ family, at });
      took = length;
    }
    if (!took) {
      const token = tokens[at] ?? "";
      const family = UNSURE_WORDS[token] ? null : byPart(token);
      if (family) told.push({ family, at });
    }
    at += took || 1;
  }
  return told;
};

/**
 * The family that a name by itself makes sure: a voice where it is sung into, else what its last word tells, since that
 * is what the others describe ("drum room"); null where no word tells.
 */
const sureFamily = perText((name: string): Family | null => {
  const tokens = tokensOf(name);
  const told = toldBy(tokens);
  const last = told.at(-1)?.family ?? null;
  if (last === "speech" || !told.length) return last;
  return tokens.some((token) => SUNG.has(token)) ? "voices" : last;
});

/** Whether the sources are those of a choir: two of its parts at least. Kept for as long as the list of names lives. */
const choirs = new WeakMap<readonly string[], boolean>();
const isChoir = (names: readonly string[]): boolean => {
  const known = choirs.get(names);
  if (known !== undefined) return known;
  const parts = new Set<string>();
  for (const name of names)
    if (sureFamily(name) === null || sureFamily(name) === "voices")
      for (const token of tokensOf(name)) if (CHOIR_PARTS.has(token)) parts.add(token.slice(0, 3));
  const found = parts.size >= 2;
  choirs.set(names, found);
  return found;
};

const IS_BOX = /\b(di|line|amp)\b/;

const unsureFamily = (name: string, around: FamilyAround): Family | null => {
  const word = tokensOf(name).findLast((token) => UNSURE_WORDS[token]);
  const means = word ? UNSURE_WORDS[word] : undefined;
  if (!means) return null;
  if (around.microphone && IS_BOX.test(plain(around.microphone))) return means.band === "voices" ? null : means.band;
  const folder = around.folder ? sureFamily(around.folder) : null;
  if (folder && (folder === means.band || folder === means.singers)) return folder;
  if (around.names) return isChoir(around.names) ? means.singers : means.band;
  return word?.startsWith("bass") || word?.startsWith("baj") ? means.band : means.singers;
};

/**
 * The family a source most likely belongs to: by what the studio was told of it, by the words of its name, and where a
 * word has two meanings by what stands around it: its microphone, its folder, the parts beside it. Null when nothing
 * tells: unknown is better than wrong. Linear in the length of the name.
 * @example guessFamily("Double bass DI") // "low-strings"
 * @example guessFamily("Bass", { names: ["Alto", "Tenor", "Bass"] }) // "voices"
 */
export const guessFamily = (name: string, around: FamilyAround = {}): Family | null =>
  around.words?.get(plain(name)) ??
  around.words?.get(plain(name).replace(/ ?\d{1,3}$/, "")) ??
  sureFamily(name) ??
  unsureFamily(name, around) ??
  (around.folder ? sureFamily(around.folder) : null);
