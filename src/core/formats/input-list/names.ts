import { plain } from "../../model/families";
import { bothSides } from "../../reading/sides";

/** What the name of a row stands for: one source, a stereo one, or several lines that it counts or names. */
export interface NamedLines {
  readonly kind: "one" | "stereo" | "parts" | "numbers" | "count";
  /** The names of the lines; one for a stereo source. */
  readonly names: readonly string[];
}

/** The most lines that one name may count. */
export const MOST_COUNTED = 64;

const PARTS = new Set(
  (
    "t b top bottom bot btm in out inside outside up down upper lower over under di amp mic mike cab line front back near far close room oben unten ob un innen aussen haut bas " +
    "dessus dessous int ext interieur exterieur sopra sotto arriba abajo dentro fuera wet dry sub open neck bridge bell body mikro micro verstarker ampli box"
  ).split(" "),
);

const COUNT_BEHIND =
  /^(.{1,200}?)[\s(]{1,3}(?:[x×*] ?(\d{1,2})|(\d{1,2}) ?[x×]|(\d{1,2}) (?:mics?|mikros?|mikrofone?|micros?|microfoni|micr[oó]fonos|lines?|kan[aä]le|channels?|ch|inputs?))\)?$/i;
const COUNT_BEFORE = /^(\d{1,2}) ?[x×] ?(?=\p{L})(.{1,200})$/iu;
const NUMBERS =
  /^(.{0,200}?\p{L}[^\d]{0,3}?)(\d{1,2})((?: ?(?:-|–|to|bis|à|a|\/|\+|&|,|and|und|et|y|e|u\.) ?\d{1,2}){1,8})$/iu;
const STEREO_BEHIND = /[\s([]{1,2}(?:stereo|stéréo|estéreo|estereo|st\.?)[)\]]?$/i;

const counted = (stem: string, count: number): readonly string[] =>
  Array.from({ length: count }, (_, at) => `${stem} ${at + 1}`);

const numbersOf = (first: string, rest: string): readonly number[] | null => {
  const range = /^ ?(?:-|–|to|bis|à|a) ?(\d{1,2})$/i.exec(rest);
  const from = Number(first);
  if (range) {
    const to = Number(range[1]);
    return to > from && to - from < MOST_COUNTED ? Array.from({ length: to - from + 1 }, (_, at) => from + at) : null;
  }
  const all = [from, ...(rest.match(/\d{1,2}/g) ?? []).map(Number)];
  return all.every((number, at) => at === 0 || number > (all[at - 1] ?? 0)) ? all : null;
};

const partsOf = (name: string): readonly string[] | null => {
  const found = /^(.{1,120}?)[\s(]{1,2}([^\s/+&()]{1,12}) ?(?:\/|\+|&) ?([^\s/+&()]{1,12})\)?$/.exec(name);
  if (!found) return null;
  const [, stem = "", a = "", b = ""] = found;
  return PARTS.has(plain(a)) && PARTS.has(plain(b)) ? [`${stem.trim()} ${a}`, `${stem.trim()} ${b}`] : null;
};

/**
 * The lines that a name stands for: "OH L/R" a stereo source, "Sn T/B" and "Bass DI + amp" two, "Gtr 1-2" two, "Vox x3"
 * and "Choir (4 mics)" so many; else one, as it is written.
 */
export const namedLines = (written: string): NamedLines => {
  const name = written.replace(/\s+/g, " ").trim();
  const one: NamedLines = { kind: "one", names: [written] };
  const sides = bothSides(name);
  if (sides) return { kind: "stereo", names: [sides] };
  if (STEREO_BEHIND.test(name)) return { kind: "stereo", names: [name.replace(STEREO_BEHIND, "").trim()] };
  const before = COUNT_BEFORE.exec(name);
  const behind = before ? null : COUNT_BEHIND.exec(name);
  const count = Number(before?.[1] ?? behind?.[2] ?? behind?.[3] ?? behind?.[4] ?? 0);
  const stem = (before?.[2] ?? behind?.[1] ?? "").trim();
  if (stem && count > 1 && count <= MOST_COUNTED) return { kind: "count", names: counted(stem, count) };
  const numbers = NUMBERS.exec(name);
  const all = numbers ? numbersOf(numbers[2] ?? "", numbers[3] ?? "") : null;
  if (numbers && all && all.length > 1)
    return { kind: "numbers", names: all.map((number) => `${(numbers[1] ?? "").trim()} ${number}`) };
  const parts = partsOf(name);
  return parts ? { kind: "parts", names: parts } : one;
};

/** Names of several lines on inputs in a row that have one name between them. */
export const numbered = (name: string, count: number): readonly string[] => counted(name.trim(), count);

const NEVER_PLURAL =
  /\b(?:keys|drums|overheads|ohs|cymbals|timpani|strings|vibes|brass|winds|bass|percs|tracks|effects|congas|bongos|bells|ambiance|mains|pads|synths|beats|loops|playbacks?)$/i;

/** Whether a name means several players or instruments, each with a line of its own: "Toms", "Trombones", "BVs". */
export const isPlural = (name: string): boolean => {
  const bare = (name.split(/[(,;–—-]/)[0] ?? "").trim();
  return /[^s\d]s$/i.test(bare) && bare.length > 2 && !NEVER_PLURAL.test(bare);
};
