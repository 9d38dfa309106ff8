import { generateKeyBetween, generateNKeysBetween } from "fractional-indexing";

/** Keys longer than this are dealt out anew to all that stand in one order: half of what a document takes. */
export const LONGEST_KEY = 100;

/** So many keys between two, in their order; null stands for the beginning or the end. Short where there is room. */
export const keysBetween = (after: string | null, before: string | null, count: number): readonly string[] =>
  generateNKeysBetween(after, before, count);

/** Keys for so many that stand in one order. @example orderKeys(3) // ["a0", "a1", "a2"] */
export const orderKeys = (count: number): readonly string[] => keysBetween(null, null, count);

/** Whether others can be put beside a key: not every text is one. */
export const isOrderKey = (key: string): boolean => {
  try {
    generateKeyBetween(key, null);
    generateKeyBetween(null, key);
    return true;
  } catch {
    return false;
  }
};
