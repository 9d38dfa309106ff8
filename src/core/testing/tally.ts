/**
 * Counts what of all that was drawn could be done: a property says nothing while all of it is refused. The share is
 * held to a least one where the property ends.
 */
export const tally = () => {
  let [done, refused] = [0, 0];
  return {
    /** Takes note, and answers the same. */
    took: (ok: boolean): boolean => {
      if (ok) done += 1;
      else refused += 1;
      return ok;
    },
    /** From 0 to 1; 0 when nothing was drawn. */
    share: (): number => done / Math.max(1, done + refused),
  };
};
