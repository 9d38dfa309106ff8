import type { BandShape } from "../model/tables/processor-settings";

/** A second-order section: H(z) = (b0 + b1·z⁻¹ + b2·z⁻²) / (1 + a1·z⁻¹ + a2·z⁻²). */
export interface Section {
  readonly b0: number;
  readonly b1: number;
  readonly b2: number;
  readonly a1: number;
  readonly a2: number;
}

interface Design {
  readonly shape: BandShape;
  readonly frequencyHz: number;
  readonly gainDb: number;
  readonly q: number;
}

interface Raw {
  readonly b: readonly [number, number, number];
  readonly a: readonly [number, number, number];
}

interface Terms {
  /** cos ω. */
  readonly cos: number;
  /** sin ω / (2Q). */
  readonly alpha: number;
  /** 10^(dB/40). */
  readonly gain: number;
}

const shelf = ({ cos, alpha, gain }: Terms, sign: 1 | -1): Raw => {
  const slope = 2 * Math.sqrt(gain) * alpha;
  const [up, down] = [gain + 1, gain - 1];
  return {
    b: [
      gain * (up - sign * down * cos + slope),
      sign * 2 * gain * (down - sign * up * cos),
      gain * (up - sign * down * cos - slope),
    ],
    a: [up + sign * down * cos + slope, sign * -2 * (down + sign * up * cos), up + sign * down * cos - slope],
  };
};

const SHAPES: { readonly [S in BandShape]: (terms: Terms) => Raw } = {
  bell: ({ cos, alpha, gain }) => ({
    b: [1 + alpha * gain, -2 * cos, 1 - alpha * gain],
    a: [1 + alpha / gain, -2 * cos, 1 - alpha / gain],
  }),
  "low-shelf": (terms) => shelf(terms, 1),
  "high-shelf": (terms) => shelf(terms, -1),
  "high-pass": ({ cos, alpha }) => ({
    b: [(1 + cos) / 2, -(1 + cos), (1 + cos) / 2],
    a: [1 + alpha, -2 * cos, 1 - alpha],
  }),
  "low-pass": ({ cos, alpha }) => ({ b: [(1 - cos) / 2, 1 - cos, (1 - cos) / 2], a: [1 + alpha, -2 * cos, 1 - alpha] }),
  notch: ({ cos, alpha }) => ({ b: [1, -2 * cos, 1], a: [1 + alpha, -2 * cos, 1 - alpha] }),
};

/** Frequencies above this share of the rate are designed at it: nothing can be filtered beyond half the rate. */
const HIGHEST = 0.498;

/**
 * The second-order section of a shape at a sample rate, by the audio-EQ formulas of R. Bristow-Johnson (now a W3C
 * note): ω = 2π·f/fs, α = sin ω / (2Q), A = 10^(dB/40); shelves take Q. Frequencies in Hz, gain in dB, Q above 0. A
 * frequency beyond half the rate is taken just below it.
 * @example sectionOf({ shape: "high-pass", frequencyHz: 80, gainDb: 0, q: Math.SQRT1_2 }, 48000) // −3.010 dB at 80 Hz
 */
export const sectionOf = ({ shape, frequencyHz, gainDb, q }: Design, rateHz: number): Section => {
  const omega = 2 * Math.PI * Math.min(frequencyHz / rateHz, HIGHEST);
  const { b, a } = SHAPES[shape]({ cos: Math.cos(omega), alpha: Math.sin(omega) / (2 * q), gain: 10 ** (gainDb / 40) });
  return { b0: b[0] / a[0], b1: b[1] / a[0], b2: b[2] / a[0], a1: a[1] / a[0], a2: a[2] / a[0] };
};

/**
 * The all-pass that a crossing of the fourth order comes to (the sum of both its halves): of the second order with a Q
 * of 0.7071, by the same formulas. It lets every frequency through as loud as it came, and turns its phase as the
 * crossing does.
 */
export const allPass = (frequencyHz: number, rateHz: number): Section => {
  const omega = 2 * Math.PI * Math.min(frequencyHz / rateHz, HIGHEST);
  const alpha = Math.sin(omega) / (2 * Math.SQRT1_2);
  const [cos, a0] = [Math.cos(omega), 1 + alpha];
  return { b0: (1 - alpha) / a0, b1: (-2 * cos) / a0, b2: 1, a1: (-2 * cos) / a0, a2: (1 - alpha) / a0 };
};

/**
 * A first-order section by the bilinear transform with the frequency kept (k = tan(π·f/fs)): 6 dB an octave.
 */
export const firstOrder = (pass: "high-pass" | "low-pass", frequencyHz: number, rateHz: number): Section => {
  const k = Math.tan(Math.PI * Math.min(frequencyHz / rateHz, HIGHEST));
  const [b0, b1] = pass === "low-pass" ? [k / (1 + k), k / (1 + k)] : [1 / (1 + k), -1 / (1 + k)];
  return { b0, b1, b2: 0, a1: (k - 1) / (k + 1), a2: 0 };
};

/** A complex number. */
export interface Complex {
  readonly re: number;
  readonly im: number;
}

export const ONE: Complex = { re: 1, im: 0 };
export const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
export const plus = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im });
export const absolute = ({ re, im }: Complex): number => Math.hypot(re, im);

const over = (a: Complex, b: Complex): Complex => {
  const square = b.re * b.re + b.im * b.im;
  return { re: (a.re * b.re + a.im * b.im) / square, im: (a.im * b.re - a.re * b.im) / square };
};

/** How a section answers at a frequency: H(e^jω), amplitude and phase. */
export const responseOf = ({ b0, b1, b2, a1, a2 }: Section, frequencyHz: number, rateHz: number): Complex => {
  const omega = (2 * Math.PI * frequencyHz) / rateHz;
  const [one, two] = [
    { re: Math.cos(omega), im: -Math.sin(omega) },
    { re: Math.cos(2 * omega), im: -Math.sin(2 * omega) },
  ];
  return over(
    { re: b0 + b1 * one.re + b2 * two.re, im: b1 * one.im + b2 * two.im },
    { re: 1 + a1 * one.re + a2 * two.re, im: a1 * one.im + a2 * two.im },
  );
};

/** Several sections one after the other. */
export const cascade = (sections: readonly Section[], frequencyHz: number, rateHz: number): Complex =>
  sections.reduce((whole, section) => times(whole, responseOf(section, frequencyHz, rateHz)), ONE);

/** Amplitude in dB; a notch that lets nothing through stands at the floor of −200 dB, below which nothing is drawn. */
export const inDb = (amplitude: number): number => Math.max(-200, 20 * Math.log10(Math.max(amplitude, 1e-12)));
