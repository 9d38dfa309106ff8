import type { Band } from "../model/tables/bands";
import type { Processor, ProcessorOf } from "../model/tables/chain-processors";
import type { Pass, SlopeDb } from "../model/tables/processor-settings";
import { absolute, allPass, type Complex, cascade, firstOrder, inDb, plus, type Section, sectionOf } from "./sections";

type Shaped = Pick<Band, "shape" | "frequencyHz" | "gainDb" | "q" | "bypassed">;

interface Filtered {
  readonly pass: Pass;
  readonly frequencyHz: number;
  readonly slopeDb: SlopeDb;
  readonly crossover: boolean;
}

/** Q of the second-order sections of a Butterworth filter by its order: 1/(2·cos θ) for each pair of poles. */
const BUTTERWORTH: Readonly<Record<SlopeDb, { readonly first: boolean; readonly qs: readonly number[] }>> = {
  6: { first: true, qs: [] },
  12: { first: false, qs: [Math.SQRT1_2] },
  18: { first: true, qs: [1] },
  24: { first: false, qs: [1 / (2 * Math.cos(Math.PI / 8)), 1 / (2 * Math.cos((3 * Math.PI) / 8))] },
};

/**
 * The sections of a high-pass or low-pass: Butterworth of 6 to 24 dB an octave, −3.01 dB at its frequency; as one half
 * of a crossover Linkwitz-Riley of the fourth order (S. Linkwitz, 1976), which is two Butterworth sections of the
 * second order in a row, −6.02 dB at its frequency.
 */
export const filterSections = (
  { pass, frequencyHz, slopeDb, crossover }: Filtered,
  rateHz: number,
): readonly Section[] => {
  if (pass === "all-pass") return [allPass(frequencyHz, rateHz)];
  const { first, qs } = crossover ? { first: false, qs: [Math.SQRT1_2, Math.SQRT1_2] } : BUTTERWORTH[slopeDb];
  return [
    ...(first ? [firstOrder(pass, frequencyHz, rateHz)] : []),
    ...qs.map((q) => sectionOf({ shape: pass, frequencyHz, gainDb: 0, q }, rateHz)),
  ];
};

/** The sections of an equaliser: one for each band that is in. */
export const bandSections = (bands: readonly Shaped[], rateHz: number): readonly Section[] =>
  bands.filter(({ bypassed }) => !bypassed).map((band) => sectionOf(band, rateHz));

interface Heard {
  /** How much of what comes out went through it; the rest came as it was and is added. */
  readonly wetPercent?: number;
}

/** How sections in a row answer at a frequency, in dB: `|1 − w + w·H|` with a wet share w. */
export const levelAt = (
  sections: readonly Section[],
  at: { readonly hz: number; readonly rateHz: number } & Heard,
): number => {
  const whole = cascade(sections, at.hz, at.rateHz);
  const wet = (at.wetPercent ?? 100) / 100;
  return inDb(absolute({ re: 1 - wet + wet * whole.re, im: wet * whole.im }));
};

/** The sections of a processor that filters; null for one that does not. */
export const sectionsOf = (
  processor: Processor,
  bands: readonly Shaped[],
  rateHz: number,
): readonly Section[] | null => {
  if (processor.kind === "filter") return filterSections(processor, rateHz);
  return processor.kind === "equaliser" ? bandSections(bands, rateHz) : null;
};

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** So many frequencies are computed from 20 Hz to 20 kHz: more than pixels of a drawing. */
const POINTS = 240;

/** Frequencies at equal distances by their logarithm, both ends among them. */
export const frequencies = (count = POINTS, fromHz = 20, toHz = 20_000): readonly number[] =>
  Array.from({ length: count }, (_, at) => fromHz * (toHz / fromHz) ** (at / (count - 1)));

/** A response over the audible range: x in Hz, y in dB. Linear in points and sections. */
export const responseCurve = (
  sections: readonly Section[],
  rateHz: number,
  { count = POINTS, wetPercent = 100 }: { readonly count?: number } & Heard = {},
): readonly Point[] => frequencies(count).map((x) => ({ x, y: levelAt(sections, { hz: x, rateHz, wetPercent }) }));

/** Where a curve is highest, and where lowest. */
export const extremes = (curve: readonly Point[]): { readonly highest: Point; readonly lowest: Point } => {
  const start = curve[0] ?? { x: 0, y: 0 };
  return curve.reduce(
    ({ highest, lowest }, point) => ({
      highest: point.y > highest.y ? point : highest,
      lowest: point.y < lowest.y ? point : lowest,
    }),
    {
      highest: start,
      lowest: start,
    },
  );
};

type Half = Pick<ProcessorOf<"filter">, "pass" | "frequencyHz" | "slopeDb" | "crossover">;

/**
 * One of several things that are added up: its filters in a row, and its gain as an amplitude, below 0 where it is
 * turned over.
 */
export interface Branch {
  readonly filters: readonly Half[];
  readonly gain: number;
}

/** What branches of one source add up to at a frequency, as a complex number each and together. */
const branchesAt = (
  branches: readonly Branch[],
  hz: number,
  rateHz: number,
): { readonly each: readonly Complex[]; readonly whole: Complex } => {
  const each = branches.map(({ filters, gain }) => {
    const { re, im } = cascade(
      filters.flatMap((filter) => filterSections(filter, rateHz)),
      hz,
      rateHz,
    );
    return { re: gain * re, im: gain * im };
  });
  return { each, whole: each.reduce(plus, { re: 0, im: 0 }) };
};

/**
 * The sum of branches over the audible range, in dB, and how much it lies below the loudest of them (0 or below): where
 * that is far, they cancel.
 */
export const branchesCurve = (
  branches: readonly Branch[],
  rateHz: number,
  count = POINTS,
): readonly (Point & { readonly belowDb: number })[] =>
  frequencies(count).map((x) => {
    const { each, whole } = branchesAt(branches, x, rateHz);
    const y = inDb(absolute(whole));
    return { x, y, belowDb: Math.min(0, y - Math.max(-200, ...each.map((one) => inDb(absolute(one))))) };
  });

/**
 * What the bands of a split add up to, in dB: the complex sum of their filters, x in Hz. Halves of one crossover at one
 * frequency sum to 0 dB; further apart they leave a hole, and over one another a bump. Three filters side by side do
 * not sum flat; as a tree with the upper crossing's all-pass in the low band they do.
 * @example low-pass 250 Hz and high-pass 350 Hz, both crossovers: −4.40 dB at 300 Hz
 */
export const summedAt = (bands: readonly (readonly Half[])[], frequencyHz: number, rateHz: number): number =>
  inDb(
    absolute(
      branchesAt(
        bands.map((filters) => ({ filters, gain: 1 })),
        frequencyHz,
        rateHz,
      ).whole,
    ),
  );

export const summedCurve = (bands: readonly (readonly Half[])[], rateHz: number, count = POINTS): readonly Point[] =>
  frequencies(count).map((x) => ({ x, y: summedAt(bands, x, rateHz) }));
