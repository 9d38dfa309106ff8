import { type Family, plain } from "../model/families";

/** Words of a name that decide the microphone, the first that fits; else the family does. */
const BY_WORDS: readonly (readonly [RegExp, string])[] = [
  [/\b(?:talkback|tb)\b/, "moving coil"],
  [/\bdi\b/, "DI box active"],
  [
    /\b(?:click|playback|track|tracks|laptop|jingle|synth|keys|keyboard|stage piano|e piano|sampler|drum machine|pad)\b/,
    "line",
  ],
  [/\b(?:amp|cab|cabinet|combo|verstarker|ampli)\b/, "moving coil"],
  [/\b(?:kick|bass drum|bd|grosse caisse|bombo|cassa)\b.*\b(?:in|inside|innen)\b|\bkick in\b/, "low moving-coil"],
  [/\b(?:kick|bass drum|bd|kik)\b/, "low moving-coil"],
  [
    /\b(?:oh|ohs|overhead|overheads|above|cymbals|hat|hh|hihat|hi hat|ride|crash|becken|shaker|triangle|glockenspiel|bells|marimba|vibes)\b/,
    "small condenser",
  ],
  [/\b(?:double bass|upright|kontrabass|contrebasse)\b/, "large condenser"],
  [/\b(?:acoustic|ac|western|nylon|harp|mandolin|banjo|lute|cimbalom|ukulele)\b/, "small condenser"],
  [/\b(?:piano|grand|flugel|klavier)\b/, "large condenser"],
  [/\b(?:backing|bv|bvs|bgv|choir vox)\b/, "moving coil"],
  [/\b(?:choir|chor|choeur|coro|sopran|soprano|alt|alto|tenor|bass voices)\b/, "small condenser"],
  [/\b(?:guest|host|phone)\b/, "moving coil"],
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
  return BY_WORDS.find(([pattern]) => pattern.test(words))?.[1] ?? (family ? BY_FAMILY[family] : null);
};
