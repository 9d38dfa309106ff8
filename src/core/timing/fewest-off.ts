/** A path that must become shorter. */
export interface Burden {
  /** By how much, in samples: it may be more than all its processors take. */
  readonly over: number;
  /** What can be switched off on it, and how many samples each would take away. */
  readonly by: ReadonlyMap<string, number>;
}

export interface FewestOff {
  readonly off: readonly string[];
  /** Whether every path meets its target then. */
  readonly meets: boolean;
  /** Whether no smaller set does: false only where the search was given up, at so many steps. */
  readonly proven: boolean;
}

const MOST_STEPS = 400_000;

/**
 * Of a path with these still on, the fewest that it takes by itself: the longest first. Infinity where all of them are
 * not enough.
 */
const atLeast = (need: number, left: readonly number[]): number => {
  let [still, count] = [need, 0];
  for (const samples of left) {
    if (still <= 0) break;
    still -= samples;
    count++;
  }
  return still <= 0 ? count : Number.POSITIVE_INFINITY;
};

interface Search {
  readonly burdens: readonly Burden[];
  readonly order: readonly string[];
  steps: number;
}

const boundOf = (
  burdens: readonly Burden[],
  off: ReadonlySet<string>,
  kept: ReadonlySet<string>,
): { readonly least: number; readonly worst: Burden | null } => {
  let [least, worst]: [number, Burden | null] = [0, null];
  for (const burden of burdens) {
    let need = burden.over;
    const left: number[] = [];
    for (const [id, samples] of burden.by)
      if (off.has(id)) need -= samples;
      else if (!kept.has(id)) left.push(samples);
    if (need <= 0) continue;
    const count = atLeast(
      need,
      left.sort((a, b) => b - a),
    );
    if (count > least) [least, worst] = [count, burden];
  }
  return { least, worst };
};

/**
 * Whether so many more are enough; deepening until they are finds the fewest. Each step decides about one processor of
 * the path that needs most.
 */
const within = (
  search: Search,
  more: number,
  chosen: { readonly off: Set<string>; readonly kept: Set<string> },
): boolean => {
  if (++search.steps > MOST_STEPS) return false;
  const { off, kept } = chosen;
  const { least, worst } = boundOf(search.burdens, off, kept);
  if (!worst) return true;
  if (least > more) return false;
  const next = [...worst.by.keys()]
    .filter((id) => !off.has(id) && !kept.has(id))
    .sort((a, b) => search.order.indexOf(a) - search.order.indexOf(b));
  const tried: string[] = [];
  for (const id of next) {
    off.add(id);
    if (within(search, more - 1, chosen)) return true;
    off.delete(id);
    // Whatever comes with it was tried: from here on it stays on.
    kept.add(id);
    tried.push(id);
  }
  for (const id of tried) kept.delete(id);
  return false;
};

/** Burdens that share something that can be switched off, together: the others are solved apart. */
const parted = (burdens: readonly Burden[]): readonly (readonly Burden[])[] => {
  const groups: { readonly ids: Set<string>; readonly burdens: Burden[] }[] = [];
  for (const burden of burdens) {
    const touching = groups.filter(({ ids }) => [...burden.by.keys()].some((id) => ids.has(id)));
    const joined = {
      ids: new Set([...burden.by.keys(), ...touching.flatMap(({ ids }) => [...ids])]),
      burdens: [...touching.flatMap((group) => group.burdens), burden],
    };
    for (const group of touching) groups.splice(groups.indexOf(group), 1);
    groups.push(joined);
  }
  return groups.map((group) => group.burdens);
};

const solved = (burdens: readonly Burden[]): FewestOff => {
  const all = new Map<string, number>();
  for (const { by } of burdens) for (const [id, samples] of by) all.set(id, (all.get(id) ?? 0) + samples);
  // Where the fewest are not one set only, what is longest on most paths goes first, then by id: the same answer each
  // time.
  const order = [...all].sort(([a, x], [b, y]) => y - x || (a < b ? -1 : 1)).map(([id]) => id);
  const { least } = boundOf(burdens, new Set(), new Set());
  if (!Number.isFinite(least)) return { off: order, meets: false, proven: true };
  const search: Search = { burdens, order, steps: 0 };
  for (let most = least; most <= order.length; most++) {
    const off = new Set<string>();
    if (within(search, most, { off, kept: new Set() }))
      return { off: order.filter((id) => off.has(id)), meets: true, proven: true };
    if (search.steps > MOST_STEPS) break;
  }
  return { off: order, meets: true, proven: false };
};

/**
 * The smallest set of processors to switch off so that every path becomes shorter by what it must; one that is shared
 * by several paths counts once. A covering problem, solved exactly by iterative deepening: for each path the fewest it
 * takes by itself bounds from below, and one processor of the path that needs most is decided at each step. Dropping
 * the longest first would not be minimal. Where not even all are enough, all that could be off are named and `meets` is
 * false. Exponential in the worst case, so given up after 400,000 steps with `proven` false; what is heard by real
 * performers takes a few hundred.
 * @example paths A = {x 60, s 50} and B = {y 60, s 50}, 50 over each: only s
 */
export const fewestOff = (burdens: readonly Burden[]): FewestOff => {
  const needy = burdens.filter(({ over }) => over > 0);
  const parts = parted(needy).map(solved);
  return {
    off: parts.flatMap(({ off }) => off),
    meets: parts.every(({ meets }) => meets),
    proven: parts.every(({ proven }) => proven),
  };
};
