/** The fewest that must be moved: all but a longest run that keeps its order (C. Schensted 1961). n·log n. */
const lessMoved = (before: readonly string[], after: readonly string[]): ReadonlySet<string> => {
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

/**
 * Which of some ids, in their order before and after, stand elsewhere now: those that passed one whose place is the very
 * same (`isFixed`), and of those between two such the fewest that must be moved. n·log n.
 * @example movedIn(["a", "b", "c"], ["c", "a", "b"], () => false) // Set { "c" }
 */
export const movedIn = (
  before: readonly string[],
  after: readonly string[],
  isFixed: (id: string) => boolean,
): ReadonlySet<string> => {
  const gapsOf = (ids: readonly string[]): ReadonlyMap<string, number> => {
    let gap = 0;
    const gaps = new Map<string, number>();
    for (const id of ids) {
      if (isFixed(id)) gap += 1;
      else gaps.set(id, gap);
    }
    return gaps;
  };
  const [was, is] = [gapsOf(before), gapsOf(after)];
  const moved = new Set([...was.keys()].filter((id) => is.has(id) && was.get(id) !== is.get(id)));
  const still = (ids: readonly string[]) => {
    const gaps = new Map<number, string[]>();
    for (const id of ids) {
      const gap = was.get(id);
      if (gap === undefined || moved.has(id) || !is.has(id)) continue;
      const there = gaps.get(gap);
      if (there) there.push(id);
      else gaps.set(gap, [id]);
    }
    return gaps;
  };
  const [inBefore, inAfter] = [still(before), still(after)];
  for (const [gap, ids] of inBefore) for (const id of lessMoved(ids, inAfter.get(gap) ?? [])) moved.add(id);
  return moved;
};
