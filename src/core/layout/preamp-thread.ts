import type { GainPlan } from "../levels/gain-plan";

/** A preamp's range and where it comes to stand, as shares of the widest range there is: 0 at the left, 1 at the right. */
export interface PreampThread {
  readonly from: number;
  readonly to: number;
  readonly knot: number | null;
}

/** From the least to the most gain of all preamps, in dB; null where none has a gain control. */
export const gainScale = (
  plans: Iterable<Pick<GainPlan, "range">>,
): { readonly min: number; readonly max: number } | null => {
  let [min, max] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { range } of plans) {
    if (!range) continue;
    min = Math.min(min, range.min);
    max = Math.max(max, range.max);
  }
  return max > min ? { min, max } : null;
};

/**
 * The thread of one preamp on such a scale: even in dB. The knot stands at the gain that is planned, else at the one
 * wanted, and never beyond the ends of its own range. Null without a gain control.
 */
export const preampThread = (
  { range, gainDb }: Pick<GainPlan, "range" | "gainDb">,
  scale: { readonly min: number; readonly max: number } | null,
): PreampThread | null => {
  if (!range || !scale) return null;
  const share = (db: number): number => (db - scale.min) / (scale.max - scale.min);
  return {
    from: share(range.min),
    to: share(range.max),
    knot: gainDb === null ? null : share(Math.min(range.max, Math.max(range.min, gainDb))),
  };
};
