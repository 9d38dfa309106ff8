import type { SampleRateHz } from "../units/hertz";
import { object } from "./schema-parts";

/** A figure for single (44.1/48 kHz), double and quadruple rates. */
export interface ByRate {
  readonly single: number;
  readonly double: number;
  readonly quadruple: number;
}

export const byRate = (figure: object) => object({ single: figure, double: figure, quadruple: figure });

/** The figure for a rate: single up to 48 kHz, double up to 96, quadruple above. */
export const atRate = (figures: ByRate, rateHz: SampleRateHz): number =>
  rateHz <= 48000 ? figures.single : rateHz <= 96000 ? figures.double : figures.quadruple;

/** Levels, pads and gains of hardware, in dB or dBu. */
export const HARDWARE_DB = { min: -120, max: 120 } as const;

export const DIRECTIONS = ["in", "out"] as const;
