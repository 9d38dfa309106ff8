import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { alongThread, intoCue } from "../levels/passing";
import { chainGain } from "../levels/static-gain";
import type { ChannelId, CueId, SendId } from "../model/ids";
import type { Channel } from "../model/tables/channels";
import { newSend } from "../model/tables/sends";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { armedOf, carriedBy, cuesOf, ownTracksOf } from "../queries/cues";
import { graphOf, outOf } from "../routing/graph";
import { runs } from "../testing/how-many";
import { chanceRuns } from "../testing/random-edits";
import { randomMix } from "../testing/random-mix";
import { busesInARow } from "../testing/shapes";
import { dB } from "../units/decibels";
import { hearingOf } from "./hearing";
import { ownWaysOf } from "./own-ways";
import { fewer, MOST_WAYS } from "./ways";

type Sides = readonly [ll: number, lr: number, rl: number, rr: number];
const after = ([a, b, c, d]: Sides, [e, f, g, h]: Sides): Sides => [
  e * a + f * c,
  e * b + f * d,
  g * a + h * c,
  g * b + h * d,
];
interface Walked {
  readonly path: readonly string[];
  readonly gain: number;
  readonly sides: Sides;
}

const letsIn = (doc: Template, by: string, to: Channel): boolean =>
  (to.kind === "main" || !to.parked) &&
  (by !== "input" || (to.kind === "track" && to.monitor === "computer" && armedOf(doc).has(to.id)));

/** Every way, walked one by one and never merged: what the sets along the order of the sound must come to. */
const walked = (doc: Template, cueId: CueId, trackId: ChannelId): readonly Walked[] => {
  const graph = graphOf(doc);
  const cue = cuesOf(doc).find(({ id }) => id === cueId);
  const found: Walked[] = [];
  const chain = (id: ChannelId): number =>
    10 ** ((doc.channels[id]?.trimDb ?? 0) / 20) *
    Math.abs(chainGain(processorsOf(doc, id), (processor) => isWorking(doc, processor)));
  const go = (id: ChannelId, path: readonly string[], gain: number, sides: Sides): void => {
    const level = carriedBy(doc, cueId).get(id);
    const leaves = level && cue ? intoCue(doc, wholeMill, level).find(({ of }) => of === "before") : undefined;
    const { ll, lr, rl, rr } = leaves?.passing ?? { ll: 0, lr: 0, rl: 0, rr: 0 };
    if (leaves) found.push({ path, gain: gain * leaves.gain, sides: after(sides, [ll, lr, rl, rr]) });
    for (const thread of outOf(graph, id)) {
      const next = doc.channels[thread.to];
      if (!next || !letsIn(doc, thread.kind, next)) continue;
      const passes = alongThread(doc, { thread, asked: "recording" });
      if (!passes) continue;
      const here = chain(next.id);
      const p = passes.passing;
      go(
        next.id,
        [...path, next.id],
        gain * passes.gain * here,
        after(sides, [p.ll * here, p.lr * here, p.rl * here, p.rr * here]),
      );
    }
  };
  const own = chain(trackId);
  go(trackId, [trackId], own, [own, 0, 0, own]);
  return found;
};

/** A random mix in which everybody hears and plays something, with more sends that multiply its ways. */
const played = (chance: () => number): Template => {
  const mix = randomMix(chance);
  const sums = Object.keys(mix.channels).filter((id) => id.startsWith("sum-"));
  const lines = Object.fromEntries(
    Object.entries(mix.lines).map(([id, line], at) => [id, { ...line, player: `Player ${at % 2}` }]),
  ) as Template["lines"];
  const cues = Object.fromEntries(
    Object.entries(mix.cues).map(([id, cue], at) => [id, { ...cue, people: [`Player ${at % 2}`] }]),
  ) as Template["cues"];
  const sends = sums.flatMap((from, at) =>
    sums.slice(at + 1).flatMap((to, n) =>
      chance() < 0.6
        ? [
            newSend({
              id: `more-${from}-${to}-${n}` as SendId,
              fromId: from as ChannelId,
              toId: to as ChannelId,
              levelDb: dB(-Math.round(chance() * 12)),
              pan: Math.round(chance() * 100),
            }),
          ]
        : [],
    ),
  );
  return { ...mix, lines, cues, sends: { ...mix.sends, ...Object.fromEntries(sends.map((send) => [send.id, send])) } };
};

/** The ways of a track into a cue against those of the walk: how many were compared. */
const sameAsWalked = (doc: Template, cueId: CueId, trackId: ChannelId): number => {
  const track = doc.channels[trackId];
  if (track?.kind !== "track" || track.parked || !armedOf(doc).has(trackId) || track.monitor === "off") return 0;
  const { input } = track;
  const all = walked(doc, cueId, trackId);
  if (all.length > MOST_WAYS) return 0;
  const own = ownWaysOf(doc, wholeMill).ways.filter(
    (way) => !way.direct && way.cueId === cueId && way.trackId === trackId,
  );
  expect(own.map(({ channelIds }) => channelIds.join(" "))).toEqual(all.map(({ path }) => path.join(" ")));
  for (const [at, { levelDb, ears, lineId }] of own.entries()) {
    const {
      gain,
      sides: [ll, lr, rl, rr],
    } = all[at] as Walked;
    expect(levelDb).toBeCloseTo(20 * Math.log10(Math.max(1e-9, gain)), 9);
    const side =
      input.kind !== "pair"
        ? ([ll + lr, rl + rr] as const)
        : input.leftId === lineId
          ? ([ll, rl] as const)
          : ([lr, rr] as const);
    expect(ears.left).toBeCloseTo(side[0], 9);
    expect(ears.right).toBeCloseTo(side[1], 9);
  }
  return own.length;
};

describe("ways by sets along the order of the sound", () => {
  it("are those of a walk along every way, wherever there are no more than are told apart", () => {
    let compared = 0;
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = played(chance);
        for (const cue of cuesOf(doc))
          for (const trackId of ownTracksOf(doc, cue)) compared += sameAsWalked(doc, cue.id, trackId);
      }),
      { numRuns: runs(60, 1000), seed: 20261201 },
    );
    expect(compared).toBeGreaterThan(300);
  });

  it("of which there are too many are told by the earliest, the latest and the loudest, and as loud as all that come at once", () => {
    const way = (samples: number, gain: number, wet = false) => ({ samples, gain, wet, turned: false });
    const all = [
      way(10, 0.1),
      way(10, 0.2),
      way(0, 0.01),
      way(500, 0.02),
      way(900, 0.01, true),
      way(20, 0.9),
      way(30, 0.5),
      way(40, 0.05),
    ];
    const { groups, more } = fewer(all, 6);
    expect(more).toBe(true);
    expect(groups.map((group) => group.map(({ samples, gain }) => `${samples}:${gain}`).join("+"))).toEqual([
      "10:0.2+10:0.1",
      "0:0.01",
      "500:0.02",
      "900:0.01",
      "20:0.9",
      "30:0.5",
    ]);
    expect(fewer(all, 8)).toEqual({ groups: all.map((one) => [one]), more: false });
  });

  it("through more buses in a row than can be walked are told, and that there are more; levels stay figures", () => {
    const doc = busesInARow({ buses: 200, sends: 1200, cues: 2, each: 16 });
    const loud = {
      ...doc,
      sends: Object.fromEntries(
        Object.entries(doc.sends).map(([id, send]) => [id, { ...send, levelDb: dB(12) }]),
      ) as Template["sends"],
    };
    for (const of of [doc, loud]) {
      const { paths, cut } = hearingOf(of, wholeMill, demoStudio);
      expect(cut).toBeGreaterThan(0);
      expect(paths.length).toBeGreaterThan(0);
      expect(paths.every(({ levelDb, ears, ms }) => [levelDb, ears.left, ears.right, ms].every(Number.isFinite))).toBe(
        true,
      );
    }
  });
});
