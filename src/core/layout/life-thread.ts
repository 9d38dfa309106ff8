/** What is drawn of the life of a template: versions as knots on one thread, what branched off, and sessions below. */
interface LifeDrawn {
  readonly head: number;
  readonly savedAt: string;
  readonly beganAt: string;
  readonly versions: readonly { readonly revision: number; readonly name: string; readonly savedAt: string }[];
  readonly sessions: readonly {
    readonly id: string;
    readonly name: string;
    readonly date: string;
    readonly state: string;
    readonly from: { readonly id: string; readonly revision: number } | null;
  }[];
  readonly descendants: readonly { readonly id: string; readonly name: string; readonly revision: number }[];
}

export interface Knot {
  readonly kind: "began" | "version" | "now";
  readonly revision: number;
  readonly name: string;
  readonly at: string;
  readonly x: number;
}

export interface Hanging {
  readonly id: string;
  readonly name: string;
  readonly date: string;
  readonly planned: boolean;
  readonly fromX: number;
  readonly x: number;
}

export interface Branch {
  readonly id: string;
  readonly name: string;
  readonly fromX: number;
  readonly x: number;
  /** Its row above the thread, counted from it. */
  readonly row: number;
}

export interface LifeThread {
  readonly width: number;
  /** Where the thread lies, and the rows above and below it. */
  readonly y: number;
  readonly height: number;
  readonly knots: readonly Knot[];
  readonly sessions: readonly Hanging[];
  readonly branches: readonly Branch[];
  /** Sessions that are not drawn, as too many hang on one knot. */
  readonly more: number;
}

const MARGIN = 48;
/** Room for a date below, and for a name above. */
const STEP = 49;
const LEAST = 110;
/** So many sessions hang on a knot, the newest; the others are in the list below. */
const MOST_HANGING = 8;
const BRANCH_ROW = 40;
const BELOW = 84;
const ABOVE = 64;
/** What the lowest branch lies above the names. */
const BRANCH_RISE = 34;

/**
 * Lays the life of a template out, in pixels: knots from left to right in the order of their revisions, each with room
 * for the sessions that hang on it; spread to the width that is there where that is more. A session of a revision
 * without a name hangs on the knot before it. Linear, but for the sorting.
 * @example lifeThread(life, 800).knots.map(({ name }) => name) // ["First", "Spring", "now"]
 */
export const lifeThread = (life: LifeDrawn, room: number): LifeThread => {
  const versions = [...life.versions].sort((a, b) => a.revision - b.revision);
  const first = versions[0];
  const began: readonly Omit<Knot, "x">[] =
    first && first.revision === 1 ? [] : [{ kind: "began", revision: 1, name: "began", at: life.beganAt }];
  const points: readonly Omit<Knot, "x">[] = [
    ...began,
    ...versions.map(({ revision, name, savedAt }) => ({ kind: "version" as const, revision, name, at: savedAt })),
    // Where nothing came after the last version, now is that.
    ...(versions.at(-1)?.revision === life.head && versions.length
      ? []
      : [{ kind: "now" as const, revision: life.head, name: "now", at: life.savedAt }]),
  ];
  const knotOf = (revision: number): number =>
    Math.max(
      0,
      points.findLastIndex((point) => point.revision <= revision && point.kind !== "now"),
    );
  const hanging = points.map((): LifeDrawn["sessions"][number][] => []);
  for (const session of [...life.sessions].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0)))
    hanging[knotOf(session.from?.revision ?? 1)]?.push(session);
  const shown = hanging.map((those) => those.slice(-MOST_HANGING));
  const gaps = points.map((_point, at) => Math.max(LEAST, STEP * ((shown[at]?.length ?? 0) + 1)));
  // The last knot has nothing behind it but what hangs on it.
  const last = points.length - 1;
  const own =
    gaps.slice(0, last).reduce((sum, gap) => sum + gap, 0) +
    ((shown[last]?.length ?? 0) ? (gaps[last] ?? 0) - STEP : 0);
  const scale = own > 0 ? Math.max(1, (room - 2 * MARGIN) / own) : 1;
  let x = MARGIN;
  const knots = points.map((point, at): Knot => {
    const here = { ...point, x };
    x += (gaps[at] ?? 0) * scale;
    return here;
  });
  const sessions = knots.flatMap((knot, at) => {
    const those = shown[at] ?? [];
    const step = those.length ? ((gaps[at] ?? LEAST) * scale) / (those.length + 1) : 0;
    return those.map(
      ({ id, name, date, state }, index): Hanging => ({
        id,
        name,
        date,
        planned: state !== "done",
        fromX: knot.x,
        x: Math.round(knot.x + Math.min(step, STEP * 1.4) * (index + 1)),
      }),
    );
  });
  const branches = life.descendants.map(({ id, name, revision }, row): Branch => {
    const at = knotOf(revision);
    const from = knots[at];
    return {
      id,
      name,
      fromX: from?.x ?? MARGIN,
      x: (from?.x ?? MARGIN) + Math.min((gaps[at] ?? LEAST) * scale, 205),
      row,
    };
  });
  const y = ABOVE + (branches.length ? BRANCH_RISE + BRANCH_ROW * (branches.length - 1) : 0);
  const right = Math.max(
    ...knots.map((knot) => knot.x),
    ...sessions.map((one) => one.x),
    ...branches.map((one) => one.x + 130),
  );
  return {
    width: Math.max(room, Math.ceil(right + MARGIN)),
    y,
    height: y + (sessions.length ? BELOW : 24),
    knots,
    sessions,
    branches,
    more: hanging.reduce((sum, those) => sum + Math.max(0, those.length - MOST_HANGING), 0),
  };
};
