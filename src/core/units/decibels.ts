declare const decibels: unique symbol;

/** A ratio or level in decibels, finite. Silence (−∞ dB) is `null`, never a large negative number. */
export type Decibels = number & { readonly [decibels]: true };

/** Brands a finite number as decibels. Throws on NaN and infinity: those are bugs, not levels. */
export const dB = (value: number): Decibels => {
  if (!Number.isFinite(value)) throw new Error(`expected a finite level in dB, got ${value}`);
  return value as Decibels;
};

/** The number alone, as it stands in a column headed dB. */
export const formatGain = (value: Decibels): string => String(Math.round(value * 100) / 100).replace("-", "−");

/** A level as it is shown: a true minus sign, at most two decimals. @example formatDb(dB(-3.5)) // "−3.5 dB" */
export const formatDb = (value: Decibels): string => `${formatGain(value)} dB`;

/** A level that may be silence. @example formatLevel(null) // "−∞ dB" */
export const formatLevel = (level: Decibels | null): string => (level === null ? "−∞ dB" : formatDb(level));

/**
 * A share of a balance as a level: 20·log10 of it; silence for none. Undefined for what is no share from 0 to 100 %.
 * @example readShare("70 %") // −3.1
 */
export const readShare = (text: string): Decibels | null | undefined => {
  const share = Number(text.replace("%", "").replace(",", ".").trim());
  if (!text.replace("%", "").trim() || !Number.isFinite(share) || share < 0 || share > 100) return undefined;
  return share === 0 ? null : dB(Math.round(2000 * Math.log10(share / 100)) / 100);
};
