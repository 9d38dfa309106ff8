import { describe, expect, it } from "vitest";
import { lifeThread } from "./life-thread";

const version = (revision: number, name: string) => ({ revision, name, savedAt: "2026-05-12T10:00:00.000Z" });
const session = (id: string, date: string, revision: number, state = "done") => ({
  id,
  name: id,
  date,
  state,
  from: { id: "t", revision },
});
const life = (more: object) => ({
  head: 5,
  savedAt: "2026-11-20T10:00:00.000Z",
  beganAt: "2026-05-12T10:00:00.000Z",
  versions: [],
  sessions: [],
  descendants: [],
  ...more,
});

describe("the thread of a life", () => {
  it("goes from the first revision to now, or from the first version where that is it", () => {
    expect(lifeThread(life({}), 800).knots.map(({ name }) => name)).toEqual(["began", "now"]);
    const kept = life({ versions: [version(4, "Blend"), version(1, "First")] });
    expect(lifeThread(kept, 800).knots.map(({ name }) => name)).toEqual(["First", "Blend", "now"]);
    expect(lifeThread(life({ head: 1, versions: [version(1, "First")] }), 800).knots).toHaveLength(1);
  });

  it("has room for all that hangs on it: no two dates and no two knots over one another", () => {
    const those = Array.from({ length: 8 }, (_, at) => session(`s${at}`, `2026-06-${10 + at}`, 1));
    const drawn = lifeThread(life({ versions: [version(1, "First"), version(3, "Third")], sessions: those }), 800);
    const xs = drawn.sessions.map(({ x }) => x);
    expect(xs.every((x, at) => at === 0 || x - (xs[at - 1] ?? 0) >= 44)).toBe(true);
    const knots = drawn.knots.map(({ x }) => x);
    expect(knots.every((x, at) => at === 0 || x - (knots[at - 1] ?? 0) >= 100)).toBe(true);
    expect(Math.max(...xs)).toBeLessThan(knots[1] ?? 0);
    expect(drawn.width).toBeGreaterThanOrEqual(Math.max(...knots));
  });

  it("hangs a session of a revision without a name on the knot before it, and tells how many it leaves out", () => {
    const drawn = lifeThread(
      life({ versions: [version(1, "First"), version(3, "Third")], sessions: [session("a", "2026-06-01", 2)] }),
      800,
    );
    expect(drawn.sessions[0]?.fromX).toBe(drawn.knots[0]?.x);
    const many = Array.from({ length: 12 }, (_, at) => session(`s${at}`, `2026-06-${10 + at}`, 1));
    const full = lifeThread(life({ versions: [version(1, "First")], sessions: many }), 800);
    expect([full.sessions.length, full.more, full.sessions.at(-1)?.date]).toEqual([8, 4, "2026-06-21"]);
  });
});
