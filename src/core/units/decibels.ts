declare const decibels: unique symbol;

/** A ratio or level in decibels, finite. Silence (−∞ dB) is `null`, never a large negative number. */
export type Decibels = number & { readonly [decibels]: true };

/** Brands a finite number as decibels. Throws on NaN and infinity: those are bugs, not levels. */
export const dB = (value: number): Decibels => {
  if (!Number.isFinite(value)) throw new Error(`expected a finite level in dB, got ${value}`);
  return value as Decibels;
};

/** A number with the true minus sign. @example withMinus(-18) // "−18" */
export const withMinus = (value: number): string => String(value).replace("-", "−");

/** A gain range in words. @example formatGainRange({min: dB(0), max: dB(62)}) // "0 to 62 dB" */
export const formatGainRange = (range: { readonly min: Decibels; readonly max: Decibels }): string => `${withMinus(range.min)} to ${withMinus(range.max)} dB`;
