import { blankOr, dropEnd } from "../units/ends";

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
const STEREO_SAID = /(?:stereo|ster|st|pair|paar|paire|coppia|par|l\s?[/+&]\s?r|lr)$/i;

/** A cell without the word that says that it is one stereo source; as it is where there is none. */
const withoutStereo = (cell: string): string => {
  const bare = dropEnd(cell, (character) => ".)]".includes(character));
  const found = STEREO_SAID.exec(bare);
  return found ? dropEnd(bare.slice(0, found.index), blankOr("([")) : cell;
};

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

/** The places that a text names one after another, each with whether it ends a range; null when it can't be read. */
const partsOf = (text: string): readonly (Part & { readonly ends: boolean })[] | null => {
  const parts: (Part & { readonly ends: boolean })[] = [];
  let rest = text;
  let ends = false;
  while (parts.length <= MOST_PLACES) {
    const bare = parts.length ? rest.replace(WORD_BEFORE, "") : rest;
    const found = PLACE.exec(bare);
    if (!found) return null;
    const letters = found[1] || parts.at(-1)?.letters || "";
    parts.push({ letters, number: found[2] ?? "", side: (found[3] ?? "").toUpperCase(), ends });
    rest = bare.slice(found[0].length);
    if (!rest) return parts;
    const range = RANGE.exec(rest);
    const between = range ?? AND.exec(rest);
    if (!between) return null;
    ends = range !== null;
    rest = rest.slice(between[0].length);
  }
  return null;
};

/** The labels of all places, ranges counted out; null when they are too many. */
const labelsOf = (parts: NonNullable<ReturnType<typeof partsOf>>): readonly string[] | null => {
  const labels: string[] = [];
  for (const [at, part] of parts.entries()) {
    const before = parts[at - 1];
    const run = part.ends && before ? counted(before, part) : [labelOf(part.letters, part.number) + part.side];
    if (!run) return null;
    labels.push(...(part.ends ? run.slice(1) : run));
  }
  return labels.length > MOST_PLACES ? null : labels;
};

const kindOf = (labels: readonly string[], sides: readonly string[]): Places["kind"] => {
  if (labels.length > 2) return "run";
  if (labels.length < 2) return "one";
  return sides.length === 2 && sides[0] !== sides[1] ? "sides" : "pair";
};

/**
 * The inputs a cell names: "7", "7-8", "7/8", "1 u. 2", "13 to 14", "5–8", "E5-6", "In 7", "15+16 (st)", "1L 1R". A
 * range of two is a pair, one of more so many lines. Null when it can't be read.
 */
export const readPlaces = (cell: string): Places | null => {
  const trimmed = cell.trim().replace(WORD_BEFORE, "");
  if (!trimmed || /^[-–—]+$/.test(trimmed)) return NONE;
  const without = withoutStereo(trimmed);
  const stereo = without !== trimmed && /\d/.test(without);
  const said = dropEnd(stereo ? without : trimmed, (character) => ")].:".includes(character));
  const parts = partsOf(said.replace(/^[([]/, ""));
  const labels = parts && labelsOf(parts);
  return parts && labels
    ? {
        labels,
        kind: kindOf(
          labels,
          parts.flatMap(({ side }) => side || []),
        ),
        stereo,
      }
    : null;
};
