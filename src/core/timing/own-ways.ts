import { intoCue } from "../levels/passing";
import { type Passing, sided, thenPass } from "../levels/strands";
import type { ChannelId, CueId, LineId, PortId } from "../model/ids";
import { linesOfTrack } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Channel, Track } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { armedOf, carriedBy, cuesOf, ownTracksOf } from "../queries/cues";
import { graphOf } from "../routing/graph";
import { orderOf } from "../routing/order";
import { contextOf } from "./arrivals";
import { directWay } from "./hardware";
import { asOne, type Follow, fewer, isWet, MOST_WAYS, onward, passedBy, pathOf, stepsFrom, type Way, waysFrom } from "./ways";

/** One way of somebody's own sound into a cue that they hear. */
export interface OwnWay {
  /** The same for as long as the way is the same. */
  readonly id: string;
  readonly cueId: CueId;
  readonly trackId: ChannelId;
  readonly lineId: LineId | null;
  /** Who plays it. */
  readonly person: string;
  readonly portId: PortId | null;
  readonly outId: PortId | null;
  /** Past the computer through the interface's mixer, or through it. */
  readonly direct: boolean;
  /** Through a return or a reverb: what comes so may be late. */
  readonly wet: boolean;
  /** The channels that it passes, from the track to what the cue carries. */
  readonly channelIds: readonly ChannelId[];
  /** How loud it is besides what comes in, in dB: chains at the gain they have without acting, faders, sends and the level in the cue. Never −∞, or it would be no way. */
  readonly levelDb: number;
  /** The same at each ear, with pans, balances and folds in it, as amplitudes: 0 where nothing comes. */
  readonly ears: Ears;
  readonly turned: boolean;
}

export interface OwnWays {
  readonly ways: readonly OwnWay[];
  /** Of how many cues and tracks more ways were there than were followed. */
  readonly cut: number;
}

/** A side each. */
export interface Ears {
  readonly left: number;
  readonly right: number;
}

type Carried = ReadonlyMap<ChannelId, CueLevel>;

/** Threads times ways that are gone through for all; where there would be more, fewer ways of each are told apart, but never less than the earliest, the latest and the loudest. */
const MOST_STEPS = 4_000_000;
const FEWEST_WAYS = 4;

/** The ways of sounds through the computer: from each channel that a performer's track leads to, reckoned once for all that lead there. */
const keeping = <T>(compute: (id: ChannelId) => T): ((id: ChannelId) => T) => {
  const kept = new Map<ChannelId, T>();
  return (id) => {
    const known = kept.get(id) ?? compute(id);
    kept.set(id, known);
    return known;
  };
};

const followed = (doc: Template, rig: Rig) => {
  const graph = graphOf(doc);
  const follow: Follow = { doc, graph, context: contextOf(doc, rig) };
  const { ids } = orderOf(graph);
  const steps = keeping((id: ChannelId) => stepsFrom(follow, id));
  const entries = new Set(cuesOf(doc).flatMap((cue) => ownTracksOf(doc, cue).flatMap((id) => steps(id).map(({ to }) => to))));
  const most = Math.max(FEWEST_WAYS, Math.min(MOST_WAYS, Math.floor(MOST_STEPS / Math.max(1, entries.size * graph.threads.length))));
  return {
    steps,
    passed: keeping((id: ChannelId) => passedBy(doc, doc.channels[id] as Channel, follow.context)),
    from: keeping((id: ChannelId) => waysFrom(id, { ids, steps, most })),
  };
};

/** What the ways of sound hang on; levels in cues do not, so those are typed without any way being looked for again. */
const WAYS_HANG_ON = ["channels", "sends", "processors", "sideChains", "controls", "mix", "passes", "buffers", "format", "lines", "cues"] as const;

let last: { readonly of: Template; readonly rig: Rig; readonly ways: ReturnType<typeof followed> } | null = null;

const followedIn = (doc: Template, rig: Rig): ReturnType<typeof followed> => {
  const before = last;
  if (!before || before.rig !== rig || WAYS_HANG_ON.some((table) => before.of[table] !== doc[table])) last = { of: doc, rig, ways: followed(doc, rig) };
  return (last as NonNullable<typeof last>).ways;
};

/** A way of a track to something that a cue carries, into the cue: its first step, and how it goes on from there. */
interface Led extends Way {
  readonly first: Way | null;
}

interface Heard extends Led {
  readonly path: readonly ChannelId[];
  readonly steps: readonly number[];
}

const joined = (first: Way, way: Way): Led => ({
  ...way,
  first,
  passing: thenPass(first.passing, way.passing),
  gain: first.gain * way.gain,
  samples: first.samples + way.samples,
  turned: first.turned !== way.turned,
  wet: first.wet || way.wet,
});

const withPath = (way: Led): Heard => {
  const [begins, goesOn] = [way.first ? pathOf(way.first) : { ids: [], steps: [] }, pathOf(way)];
  const from = way.first ? 1 : 0;
  return { ...way, path: [...begins.ids, ...goesOn.ids.slice(from)], steps: [...begins.steps, ...goesOn.steps.slice(from)] };
};

/** As the ways part: what was woven first goes first, and a way before those that go on from it. */
const asTheyPart = ({ steps: a }: Heard, { steps: b }: Heard): number => {
  for (let at = 0; at < a.length && at < b.length; at++) if (a[at] !== b[at]) return (a[at] as number) - (b[at] as number);
  return a.length - b.length;
};

/** Those of a track's ways that come to something a cue carries through the computer, with what becomes of its sides there. */
const heardWays = (doc: Template, rig: Rig, { cue, track, carried }: Of) => {
  const { steps, from, passed } = followedIn(doc, rig);
  const { chain, ...own } = passed(track.id);
  const all: Led[] = [];
  let cut = false;
  const into = (at: ChannelId, ways: () => readonly Led[]): void => {
    const level = carried.get(at);
    // What comes past the computer is a way of its own.
    const leaves = level ? intoCue(doc, rig, { cue, level }).find(({ of }) => of === "before") : undefined;
    if (leaves) for (const way of ways()) all.push({ ...way, passing: thenPass(way.passing, leaves.passing), gain: way.gain * leaves.gain });
  };
  const itself: Led = { ...own, id: track.id, before: null, first: null, at: 0, passing: sided(chain, chain), gain: chain, wet: false };
  into(track.id, () => [itself]);
  for (const step of steps(track.id)) {
    const begun = onward(itself, step);
    for (const [id, { ways, more }] of from(step.to)) {
      into(id, () => {
        cut ||= more;
        return ways.map((way) => joined(begun, way));
      });
    }
  }
  const { groups, more } = fewer(all, MOST_WAYS);
  const found = groups.map((group) => withPath(asOne(group)));
  return { walks: found.sort(asTheyPart), cut: cut || more };
};

interface Of {
  readonly cue: Cue;
  readonly track: Track;
  readonly carried: Carried;
}

/** What comes to each ear of one line: a line of a pair is on its own side only. */
const atEars = ({ track, lineId, passing: { ll, lr, rl, rr } }: { readonly track: Track; readonly lineId: LineId | null; readonly passing: Passing }): Ears => {
  if (track.input.kind === "pair") return track.input.leftId === lineId ? { left: ll, right: rl } : { left: lr, right: rr };
  return { left: ll + lr, right: rl + rr };
};

const inDb = (amplitude: number): number => 20 * Math.log10(Math.max(amplitude, 1e-9));

const waysOfTrack = (doc: Template, rig: Rig, of: Of) => {
  const { cue, track, carried } = of;
  const lines = linesOfTrack(doc, track).filter(({ player }) => cue.people.includes(player));
  const [line] = lines;
  const [outId = null] = cue.portIds;
  const common = { cueId: cue.id, trackId: track.id, lineId: line?.id ?? null, person: line?.player ?? "", portId: line?.portId ?? null, outId };
  const level = carried.get(track.id);
  const ears = (passing: Passing): Ears => atEars({ track, lineId: common.lineId, passing });
  const past = level && directWay(rig, common.portId, outId, doc.format.sampleRateHz) ? intoCue(doc, rig, { cue, level }).find(({ of: what }) => what === "into") : undefined;
  const direct: OwnWay[] =
    past && level?.levelDb != null
      ? [{ ...common, id: `${cue.id} ${track.id} direct`, direct: true, wet: false, channelIds: [track.id], levelDb: level.levelDb, ears: ears(past.passing), turned: false }]
      : [];
  if (track.monitor === "off") return { ways: direct, cut: false };
  const { walks, cut } = heardWays(doc, rig, of);
  const roomy = isWet(doc, track);
  const computer = walks.map(
    ({ path, wet, turned, passing, gain }): OwnWay => ({
      ...common,
      id: `${cue.id} ${path.join(" ")}`,
      direct: false,
      wet: wet || roomy,
      channelIds: path,
      levelDb: inDb(gain),
      ears: ears(passing),
      turned,
    }),
  );
  return { ways: [...direct, ...computer], cut };
};

/**
 * Every way of each performer's own sound to their ears: for each cue, for each armed track that takes what one of its people plays, directly through the
 * interface's mixer where it is monitored so or the cue is mixed there, and through the computer along every thread that lets sound through to something that the
 * cue carries. What is switched off, at −∞, muted or parked leads nowhere. At most 32 ways of a track into a cue are told apart: where there are more, those that come
 * at the same time are one, and of what is still too much the earliest and latest dry ones, the latest, and the loudest are told; `cut` counts where that was so.
 */
export const ownWaysOf = (doc: Template, rig: Rig): OwnWays => {
  const armed = armedOf(doc);
  const ways: OwnWay[] = [];
  let cut = 0;
  for (const cue of cuesOf(doc)) {
    const carried = carriedBy(doc, cue.id);
    for (const trackId of ownTracksOf(doc, cue)) {
      const track = doc.channels[trackId];
      if (track?.kind !== "track" || track.parked || !armed.has(trackId)) continue;
      const found = waysOfTrack(doc, rig, { cue, track, carried });
      ways.push(...found.ways);
      if (found.cut) cut++;
    }
  }
  return { ways, cut };
};
