declare const decibels: unique symbol;

/** A ratio or level in decibels, finite. Silence (−∞ dB) is `null`, never a large negative number. */
export type Decibels = number & { readonly [decibels]: true };

/** Brands a finite number as decibels. Throws on NaN and infinity: those are bugs, not levels. */
export const dB = (value: number): Decibels => {
  if (!Number.isFinite(value)) throw new Error(`expected a finite level in dB, got ${value}`);
  return value as Decibels;
};
