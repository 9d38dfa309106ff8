import { plain } from "../model/families";

/** Short forms, and what they are written in full; words of several parts first. */
const FULL: ReadonlyMap<string, string> = new Map(
  (
    [
      ["bd", "bass drum"],
      ["bd in", "bass drum in"],
      ["sn", "snare"],
      ["snr", "snare"],
      ["sd", "snare"],
      ["sn t", "snare top"],
      ["sn b", "snare bottom"],
      ["snare t", "snare top"],
      ["snare b", "snare bottom"],
      ["btm", "bottom"],
      ["bot", "bottom"],
      ["hh", "hat"],
      ["hihat", "hat"],
      ["oh", "overheads"],
      ["ohs", "overheads"],
      ["ft", "floor tom"],
      ["rt", "rack tom"],
      ["perc", "percussion"],
      ["tamb", "tambourine"],
      ["gtr", "guitar"],
      ["gtrs", "guitars"],
      ["git", "guitar"],
      ["egtr", "electric guitar"],
      ["e gtr", "electric guitar"],
      ["agtr", "acoustic guitar"],
      ["a gtr", "acoustic guitar"],
      ["ac gtr", "acoustic guitar"],
      ["bs", "bass"],
      ["db", "double bass"],
      ["vln", "violin"],
      ["vla", "viola"],
      ["vc", "cello"],
      ["pno", "piano"],
      ["org", "organ"],
      ["acc", "accordion"],
      ["syn", "synth"],
      ["kbd", "keyboard"],
      ["tpt", "trumpet"],
      ["trp", "trumpet"],
      ["tbn", "trombone"],
      ["trb", "trombone"],
      ["hrn", "horn"],
      ["flh", "flugelhorn"],
      ["cl", "clarinet"],
      ["clar", "clarinet"],
      ["fl", "flute"],
      ["ob", "oboe"],
      ["bsn", "bassoon"],
      ["sax", "sax"],
      ["asax", "alto sax"],
      ["tsax", "tenor sax"],
      ["bsax", "baritone sax"],
      ["bari sax", "baritone sax"],
      ["vox", "voice"],
      ["voc", "voice"],
      ["vocs", "voices"],
      ["lv", "lead voice"],
      ["ld vox", "lead voice"],
      ["bv", "backing"],
      ["bvs", "backing"],
      ["bvox", "backing"],
      ["bgv", "backing"],
      ["amb", "ambience"],
      ["rm", "room"],
      ["tb", "talkback"],
      ["narr", "narrator"],
      ["pb", "playback"],
    ] as const
  ).map(([short, full]) => [short, full] as const),
);

const MOST_PARTS = 2;

const asWritten = (full: string, short: string, first: boolean): string =>
  first || /^\p{Lu}/u.test(short) ? (first ? full.charAt(0).toUpperCase() + full.slice(1) : full) : full;

/**
 * A name with its short forms written in full: "Sn T" is "Snare top", "Gtr 1" is "Guitar 1", "Lead vox" is "Lead voice".
 * What is no short form stays as it is written.
 */
export const fullName = (name: string): string => {
  const words = name.trim().split(/\s+/);
  const found: string[] = [];
  for (let at = 0; at < words.length; ) {
    let took = 0;
    for (let length = Math.min(MOST_PARTS, words.length - at); length > 0 && !took; length--) {
      const short = words.slice(at, at + length).join(" ");
      const full = FULL.get(plain(short));
      if (!full) continue;
      found.push(asWritten(full, short, at === 0));
      took = length;
    }
    if (!took) found.push(words[at] ?? "");
    at += took || 1;
  }
  return found.join(" ");
};

const FULL_MICROPHONES: ReadonlyMap<string, string> = new Map([
  ["dyn", "moving coil"],
  ["dynamic", "moving coil"],
  ["ldc", "large condenser"],
  ["sdc", "small condenser"],
  ["sdc pair", "small condenser pair"],
  ["ldc pair", "large condenser pair"],
  ["act di", "DI box active"],
  ["active di", "DI box active"],
  ["act ribbon", "active ribbon"],
  ["omni", "omni condenser"],
  ["lav", "lavalier"],
]);

/** A microphone with its short form written in full: "LDC" is "large condenser"; others stay as they are written. */
export const fullMicrophone = (text: string): string => FULL_MICROPHONES.get(plain(text)) ?? text;
