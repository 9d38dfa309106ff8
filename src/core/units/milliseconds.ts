import type { SampleRateHz } from "./hertz";

/** So many samples as a time: 1000·samples / rate, in ms. @example samplesToMs(112, 48000) // 2.333… */
export const samplesToMs = (samples: number, rateHz: SampleRateHz): number => (1000 * samples) / rateHz;

/** A time as it is shown: one decimal. @example formatMs(2.333) // "2.3 ms" */
export const formatMs = (ms: number): string => `${Math.round(ms * 10) / 10} ms`;
