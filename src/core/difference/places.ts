/**
 * Which of some ids stand in another order than before: the fewest that must be moved, all but a longest run that keeps
 * its order (patience sorting, C. Schensted 1961). n·log n.
 * @example movedIn(["a", "b", "c"], ["c", "a", "b"]) // Set { "c" }
 */
export const movedIn = (before: readonly string[], after: readonly string[]): ReadonlySet<string> => {
  const seat = new Map(after.map((id, at) => [id, at]));
  const common = before.filter((id) => seat.has(id));
  // The last of the best run of each length, and what stands before each in its run.
  const lasts: number[] = [];
  const previous = new Map<number, number>();
  const seats = common.map((id) => seat.get(id) ?? 0);
  for (const [at, place] of seats.entries()) {
    let [low, high] = [0, lasts.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((seats[lasts[middle] ?? 0] ?? 0) < place) low = middle + 1;
      else high = middle;
    }
    const last = lasts[low - 1];
    if (last !== undefined) previous.set(at, last);
    lasts[low] = at;
  }
  const still = new Set<string>();
  for (let at = lasts.at(-1); at !== undefined; at = previous.get(at)) still.add(common[at] ?? "");
  return new Set(common.filter((id) => !still.has(id)));
};
