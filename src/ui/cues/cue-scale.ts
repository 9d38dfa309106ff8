import { type Decibels, dB } from "@/core/units/decibels";

/** What a bar shows: from here it is longer than nothing, and there it is full. Quieter things are a sliver. */
const [LOWEST, HIGHEST] = [-42, 6];

/** How long the bar of a level is, of its whole width. */
export const barOf = (levelDb: number | null): number =>
  levelDb === null ? 0 : Math.min(1, Math.max(0.02, (levelDb - LOWEST) / (HIGHEST - LOWEST)));

/** The level that a place in a bar stands for, in half decibels; null at its very beginning, which is silence. */
export const levelAt = (share: number): Decibels | null =>
  share <= 0.005 ? null : dB(Math.round(2 * (LOWEST + Math.min(1, share) * (HIGHEST - LOWEST))) / 2);
