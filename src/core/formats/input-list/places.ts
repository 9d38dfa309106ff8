/** The inputs that a cell of a list names. */
export interface Places {
  readonly labels: readonly string[];
  /**
   * `pair`: two that belong together; `run`: so many in a row, one for each microphone; `sides`: one number with a left
   * and a right of its own ("1L 1R").
   */
  readonly kind: "none" | "one" | "pair" | "run" | "sides";
  /** Whether the cell itself says that it is one stereo source: "15+16 (st)". */
  readonly stereo: boolean;
}

/** The most inputs one cell may name. */
export const MOST_PLACES = 64;

const WORD_BEFORE =
  /^(?:inputs?|ins?|ch|chan|channels?|mic|mike|kan|kanal|kanäle|eing|eingang|entr[ée]es?|entradas?|ingress[oi]|canal[ei]?|voies?|line|nr|no|n[°º]|#)\.?\s{0,3}(?=[a-z]{0,2}\d)/i;
const STEREO_SAID = /[\s([]*(?:stereo|ster|st|pair|paar|paire|coppia|par|l\s?[/+&]\s?r|lr)[.)\]]*$/i;
/** One place: a name of up to a few words, a number, a side. */
const PLACE = /^(?:(\p{L}[\p{L} .]{0,30}?)[ .:-]?)?0{0,9}(\d{1,4})(?: ?([LR])(?![\p{L}]))?(?:\.0)?/iu;
const RANGE = /^\s{0,3}(?:-|–|—|−|\.{2,3}|…|>|→|to|bis|thru|through|à|al?|hasta|fino a)\s{0,3}(?=\p{L}{0,3} ?\d)/iu;
const AND = /^\s{0,3}(?:\/|\+|&|,|;|u\.|und|and|et|y|e|&amp;|\\|\s)\s{0,3}(?=[\p{L} ]{0,20}\d)/iu;

/** A short name stands before the number as a label does, "E5"; a device's own name with a space, "Thistle 2". */
const labelOf = (letters: string, number: string): string =>
  letters.trim().length > 3 ? `${letters.trim()} ${number}` : `${letters.trim().toUpperCase()}${number}`;

const NONE: Places = { labels: [], kind: "none", stereo: false };

interface Part {
  readonly letters: string;
  readonly number: string;
  readonly side: string;
}

const counted = (from: Part, to: Part): readonly string[] | null => {
  const [first, last] = [Number(from.number), Number(to.number)];
  if (Math.abs(last - first) >= MOST_PLACES) return null;
  const step = last < first ? -1 : 1;
  return Array.from({ length: Math.abs(last - first) + 1 }, (_, at) =>
    labelOf(from.letters, String(first + at * step)),
  );
};

/**
 * The inputs a cell names: "7", "7-8", "7/8", "1 u. 2", "13 to 14", "5–8", "E5-6", "In 7", "15+16 (st)", "1L 1R". A
 * range of two is a pair, one of more so many lines. Null when it can't be read.
 */
export const readPlaces = (cell: string): Places | null => {
  const trimmed = cell.trim().replace(WORD_BEFORE, "");
  if (!trimmed || /^[-–—.]+$/.test(trimmed)) return trimmed === "" || /^[-–—]+$/.test(trimmed) ? NONE : null;
  const stereo = STEREO_SAID.test(trimmed) && /\d/.test(trimmed.replace(STEREO_SAID, ""));
  let rest = stereo ? trimmed.replace(STEREO_SAID, "").trim() : trimmed;
  rest = rest.replace(/^[([]|[)\].:]+$/g, "");
  const labels: string[] = [];
  let before: Part | null = null;
  let ranged = false;
  const sides: string[] = [];
  while (labels.length <= MOST_PLACES) {
    const found = PLACE.exec(rest.replace(before ? WORD_BEFORE : /^$/, ""));
    if (!found) return null;
    rest = rest.replace(before ? WORD_BEFORE : /^$/, "").slice(found[0].length);
    const part: Part = { letters: found[1] || before?.letters || "", number: found[2] ?? "", side: found[3] ?? "" };
    if (part.side) sides.push(part.side.toUpperCase());
    if (ranged && before) {
      const run = counted(before, part);
      if (!run) return null;
      labels.push(...run.slice(1));
    } else labels.push(labelOf(part.letters, part.number) + (part.side ? part.side.toUpperCase() : ""));
    if (!rest) break;
    const range = RANGE.exec(rest);
    const and = range ? null : AND.exec(rest);
    if (!range && !and) return null;
    ranged = range !== null;
    rest = rest.slice((range ?? and)?.[0].length ?? 0);
    before = part;
  }
  if (labels.length > MOST_PLACES) return null;
  const kind =
    sides.length === 2 && labels.length === 2 && sides[0] !== sides[1]
      ? "sides"
      : labels.length === 1
        ? "one"
        : labels.length === 2
          ? "pair"
          : "run";
  return { labels, kind, stereo };
};
