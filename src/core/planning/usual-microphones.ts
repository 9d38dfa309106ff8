import { type Family, plain } from "../model/families";

interface ByWords {
  readonly words: RegExp;
  /** Only of a source of this family, where the words mean others as well. */
  readonly family?: Family;
  readonly usual: string;
}

/** Words of a name that decide the microphone, the first that fits; else the family does. */
const BY_WORDS: readonly ByWords[] = [
  { words: /\b(?:talkback|tb)\b/, usual: "moving coil" },
  { words: /\bdi\b/, usual: "DI box active" },
  { words: /\b(?:amp|cab|cabinet|combo|verstarker|ampli)\b/, usual: "moving coil" },
  { words: /\b(?:kick|bass drum|bd|kik|grosse caisse|bombo|cassa)\b(?!.{0,20}\bout)/, usual: "low moving-coil" },
  {
    words:
      /\b(?:oh|ohs|overheads?|above|cymbals?|hat|hh|hihat|hi hat|ride|crash|becken|shaker|triangle|glockenspiel|bells|marimba|vibes)\b/,
    usual: "small condenser",
  },
  { words: /\b(?:double bass|upright|kontrabass|contrebasse)\b/, usual: "large condenser" },
  {
    words: /\b(?:acoustic|ac|western|nylon|harp|mandolin|banjo|lute|cimbalom|ukulele|agtr)\b/,
    family: "plucked-strings",
    usual: "small condenser",
  },
  { words: /\b(?:piano|pno|grand|flugel|klavier)\b/, family: "keys", usual: "large condenser" },
  { words: /\b(?:organ|accordion|harmonium|akkordeon|orgel)\b/, family: "keys", usual: "small condenser" },
  { words: /\b(?:backing|bv|bvs|bgv|bvox)\b/, family: "voices", usual: "moving coil" },
  {
    words: /\b(?:choir|chor|choeur|coro|soprano?s?|alto?s?|tenors?|bass|basses|mezzo|tutti)\b/,
    family: "voices",
    usual: "small condenser",
  },
  { words: /\b(?:guests?|host|foley)\b/, usual: "moving coil" },
  { words: /\b(?:phone|telephone|telefon|caller)\b/, usual: "line" },
];

const BY_FAMILY: { readonly [F in Family]: string } = {
  percussion: "moving coil",
  "low-strings": "DI box active",
  "plucked-strings": "moving coil",
  "bowed-strings": "small condenser",
  keys: "line",
  brass: "moving coil",
  woodwind: "moving coil",
  voices: "large condenser",
  speech: "large condenser",
  rooms: "small condenser",
  references: "line",
};

/**
 * The microphone or box that is usual for a source, in the trade's words: a proposal where nobody has said, to be
 * changed. Null where neither name nor family tells.
 * @example usualMicrophone("Kick in", "percussion") // "low moving-coil"
 */
export const usualMicrophone = (name: string, family: Family | null): string | null => {
  const words = plain(name);
  const found = BY_WORDS.find((one) => (one.family ?? family) === family && one.words.test(words));
  return found?.usual ?? (family ? BY_FAMILY[family] : null);
};
