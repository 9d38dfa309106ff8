import type { PanLawDb } from "../model/session-kinds";
import { type Decibels, dB } from "../units/decibels";

export interface Sides {
  /** In dB; null is silence. */
  readonly left: Decibels | null;
  readonly right: Decibels | null;
}

type Amplitudes = readonly [left: number, right: number];

const power = (x: number): Amplitudes => [Math.cos((x * Math.PI) / 2), Math.sin((x * Math.PI) / 2)];
const linear = (x: number): Amplitudes => [1 - x, x];

/** By the law: amplitudes of the two sides, x from 0 at the left to 1 at the right. */
const LAWS: { readonly [L in `${PanLawDb}`]: (x: number) => Amplitudes } = {
  "-3": power,
  "-4.5": (x) => [Math.sqrt(power(x)[0] * linear(x)[0]), Math.sqrt(power(x)[1] * linear(x)[1])],
  "-6": linear,
  "0": (x) => [Math.min(1, 2 * (1 - x)), Math.min(1, 2 * x)],
};

/** Quieter than this is silence: what is left of rounding at the far side. */
const SILENT = 1e-9;

/**
 * Amplitudes of the two sides of something mono by a pan law: what `pannedSides` says in dB, unrounded. Pan from −100
 * to 100.
 */
export const panAmplitudes = (law: PanLawDb, pan: number): Amplitudes =>
  LAWS[`${law}`](Math.min(1, Math.max(0, (pan + 100) / 200)));

const inDb = (amplitude: number): Decibels | null =>
  amplitude < SILENT ? null : dB(Math.round(2000 * Math.log10(amplitude)) / 100);

/**
 * How loud each side of something mono is when it is panned, in dB. Pan p from −100 (left) to 100 (right), x = (p +
 * 100)/200; laws by what each side has in the centre: −3 dB cos and sin of xπ/2, −6 dB 1 − x and x, −4.5 dB the
 * geometric mean of the two, 0 dB min(1, 2(1 − x)) and min(1, 2x). Balance of what is stereo is something else.
 * @example pannedSides(-3, 25) // { left: −5.11, right: −1.60 }
 */
export const pannedSides = (law: PanLawDb, pan: number): Sides => {
  const [left, right] = panAmplitudes(law, pan);
  return { left: inDb(left), right: inDb(right) };
};
