import { freshSince, type IntoCues, intoCue, intoCuesAs, type Leaves } from "../levels/passing";
import { type Passing, sided, thenPass } from "../levels/strands";
import type { ChannelId, CueId, LineId, PortId } from "../model/ids";
import { perDocument, perTwo, stepping } from "../model/per-document";
import { linesOfTrack } from "../model/read-template";
import type { Rig } from "../model/rig";
import { differingKeys, sameList } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { armedOf, carriedBy, cuesOf, ownTracksOf } from "../queries/cues";
import { type Graph, graphOf, outOf } from "../routing/graph";
import { type Order, orderOf } from "../routing/order";
import { directWay } from "./hardware";
import {
  asOne,
  fewer,
  MOST_WAYS,
  onward,
  type Passed,
  pathOf,
  type Step,
  type Steps,
  stepsFrom,
  stepsOfAll,
  type Way,
  type Ways,
  waysFrom,
} from "./ways";

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
  /**
   * How loud it is besides what comes in, in dB: chains at the gain they have without acting, faders, sends and the
   * level in the cue. Never −∞, or it would be no way.
   */
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

/**
 * Threads times ways that are gone through for all; where there would be more, fewer ways of each are told apart, but
 * never less than the earliest, the latest and the loudest.
 */
const MOST_STEPS = 4_000_000;
const FEWEST_WAYS = 4;

/** The ways that go on from a channel which performers' tracks lead to, and which channels they pass. */
interface Followed {
  readonly most: number;
  readonly by: ReadonlySet<ChannelId>;
  /** In an order of their own, whichever way the sound comes to them. */
  readonly to: readonly (readonly [ChannelId, Ways])[];
}

/** The ways of one performer's track into a cue, and all that they hang on. */
export interface WaysOfTrack {
  readonly cueId: CueId;
  readonly trackId: ChannelId;
  readonly lineId: LineId | null;
  readonly ways: readonly OwnWay[];
  readonly cut: boolean;
  readonly by: readonly unknown[];
  readonly cue: Cue;
  readonly track: Track;
  readonly passed: Passed | undefined;
  readonly steps: readonly Step[];
}

interface OwnKept {
  /** Stands for all that comes into all cues. */
  readonly into: IntoCues;
  readonly format: Template["format"];
  readonly lines: Template["lines"];
  readonly steps: Steps;
  readonly of: readonly OwnTrack[];
  readonly onwards: Onwards;
  readonly tracks: readonly WaysOfTrack[];
}

const follow = (
  from: ChannelId,
  { most, ids, steps }: { readonly most: number; readonly ids: readonly ChannelId[]; readonly steps: Steps },
): Followed => {
  const found = waysFrom(from, { ids, steps: (id) => stepsFrom(steps, id), most });
  const to = [...found].sort(([a], [b]) => (a < b ? -1 : 1));
  return { most, by: new Set(found.keys()), to };
};

interface OwnTrack {
  readonly cue: Cue;
  readonly track: Track;
}

const ownTracksNow = perTwo((channels: Template["channels"], lines: Template["lines"]) =>
  perTwo((cues: Template["cues"], armed: ReadonlySet<ChannelId>): readonly OwnTrack[] =>
    cuesOf({ cues }).flatMap((cue) =>
      ownTracksOf({ channels, lines }, cue).flatMap((id) => {
        const track = channels[id];
        return track?.kind === "track" && !track.parked && armed.has(id) ? [{ cue, track }] : [];
      }),
    ),
  ),
);

/** Every performer's own track that is armed, by the cues they hear. */
const ownTracks = (doc: Template): readonly OwnTrack[] => ownTracksNow(doc.channels, doc.lines)(doc.cues, armedOf(doc));

/**
 * Where the ways of sounds through the computer go on, from each channel that a performer's track leads to; reckoned
 * once for all that lead there.
 */
interface Onwards {
  readonly of: ReadonlyMap<ChannelId, Followed>;
  /** Those from which they go on otherwise than before. */
  readonly otherwise: ReadonlySet<ChannelId>;
}

interface Entries {
  readonly ids: ReadonlySet<ChannelId>;
  /** So many ways to one place are told apart. */
  readonly most: number;
}

/** How many threads lie behind so many channels or more. */
const threadsBehind = (graph: Graph, rank: Order["rank"]): ((from: number) => number) => {
  const behind: number[] = [];
  for (const [id, threads] of graph.out) {
    const at = rank.get(id) ?? 0;
    while (behind.length <= at) behind.push(0);
    behind[at] = (behind[at] as number) + threads.length;
  }
  for (let at = behind.length - 2; at >= 0; at--) behind[at] = (behind[at] as number) + (behind[at + 1] as number);
  return (from) => behind[from] ?? 0;
};

const entriesIn = (graph: Graph, tracks: readonly OwnTrack[]): Entries => {
  const { rank } = orderOf(graph);
  const behind = threadsBehind(graph, rank);
  const ids = new Set<ChannelId>();
  for (const { track } of tracks) for (const { to } of outOf(graph, track.id)) ids.add(to);
  const steps = [...ids].reduce((sum, id) => sum + behind(rank.get(id) ?? 0), 0);
  return { ids, most: Math.max(FEWEST_WAYS, Math.min(MOST_WAYS, Math.floor(MOST_STEPS / Math.max(1, steps)))) };
};

let lastEntries: {
  readonly out: Graph["out"];
  readonly tracks: readonly OwnTrack[];
  readonly entries: Entries;
} | null = null;

const sameTracks = (a: readonly OwnTrack[], b: readonly OwnTrack[]): boolean =>
  a === b || (a.length === b.length && a.every(({ track }, at) => track.id === b[at]?.track.id));

/** Channels that performers' tracks lead to, for as long as nothing leads elsewhere. */
const entriesOfAll = (graph: Graph, tracks: readonly OwnTrack[]): Entries => {
  if (lastEntries?.out !== graph.out || !sameTracks(lastEntries.tracks, tracks))
    lastEntries = { out: graph.out, tracks, entries: entriesIn(graph, tracks) };
  return lastEntries.entries;
};

const followedIn = (
  doc: Template,
  {
    steps,
    tracks,
    before,
  }: { readonly steps: Steps; readonly tracks: readonly OwnTrack[]; readonly before: OwnKept | null },
): Onwards => {
  const graph = graphOf(doc);
  const changed = before ? differingKeys(before.steps.kept, steps.kept) : null;
  const { ids: entries, most } = entriesOfAll(graph, tracks);
  const otherwise = new Set<ChannelId>();
  const holds = (was: Followed | undefined): was is Followed => {
    if (!was || !changed || was.most !== most) return false;
    for (const id of changed) if (was.by.has(id)) return false;
    return true;
  };
  const of = new Map<ChannelId, Followed>();
  for (const id of entries) {
    const was = before?.onwards.of.get(id);
    if (holds(was)) of.set(id, was);
    else {
      of.set(id, follow(id, { most, ids: orderOf(graph).ids, steps }));
      otherwise.add(id);
    }
  }
  return { of, otherwise };
};

/** A way of a track to something that a cue carries, into the cue: its first step, and how it goes on from there. */
interface Begun extends Way {
  readonly first: Way | null;
}

interface Heard extends Begun {
  readonly path: readonly ChannelId[];
  readonly steps: readonly number[];
}

const joined = (first: Way, way: Way): Begun => ({
  ...way,
  first,
  passing: thenPass(first.passing, way.passing),
  gain: first.gain * way.gain,
  samples: first.samples + way.samples,
  turned: first.turned !== way.turned,
  wet: first.wet || way.wet,
});

const withPath = (way: Begun): Heard => {
  const [begins, goesOn] = [way.first ? pathOf(way.first) : { ids: [], steps: [] }, pathOf(way)];
  const from = way.first ? 1 : 0;
  return {
    ...way,
    path: [...begins.ids, ...goesOn.ids.slice(from)],
    steps: [...begins.steps, ...goesOn.steps.slice(from)],
  };
};

/** As the ways part: what was woven first goes first, and a way before those that go on from it. */
const asTheyPart = ({ steps: a }: Heard, { steps: b }: Heard): number => {
  for (let at = 0; at < a.length && at < b.length; at++)
    if (a[at] !== b[at]) return (a[at] as number) - (b[at] as number);
  return a.length - b.length;
};

/** What leads a track into a cue: by which level there, and by which ways. */
interface Led {
  readonly step: Step | null;
  readonly leaves: Leaves;
  readonly ways: Ways;
}

const BY_ITSELF: Ways = { ways: [], more: false };

/** Everything that brings a track into a cue through the computer. */
const leadsInto = (doc: Template, rig: Rig, { track, carried, steps, followed }: Of): readonly Led[] => {
  const led: Led[] = [];
  const into = (id: ChannelId, step: Step | null, ways: Ways): void => {
    const level = carried.get(id);
    // What comes past the computer is a way of its own.
    const leaves = level ? intoCue(doc, rig, level).find(({ of }) => of === "before") : undefined;
    if (leaves) led.push({ step, leaves, ways });
  };
  into(track.id, null, BY_ITSELF);
  for (const step of stepsFrom(steps, track.id))
    for (const [id, ways] of followed.get(step.to)?.to ?? []) into(id, step, ways);
  return led;
};

/**
 * Those of a track's ways that come to something a cue carries through the computer, with what becomes of its sides
 * there.
 */
const heardWays = (track: Track, { chain, ...own }: Passed, leads: readonly Led[]) => {
  const itself: Begun = {
    ...own,
    id: track.id,
    before: null,
    first: null,
    at: 0,
    passing: sided(chain, chain),
    gain: chain,
    wet: false,
  };
  const all: Begun[] = [];
  let cut = false;
  for (const { step, leaves, ways } of leads) {
    const begun = step && onward(itself, step);
    cut ||= ways.more;
    for (const way of begun ? ways.ways.map((one) => joined(begun, one)) : [itself])
      all.push({ ...way, passing: thenPass(way.passing, leaves.passing), gain: way.gain * leaves.gain });
  }
  const { groups, more } = fewer(all, MOST_WAYS);
  const found = groups.map((group) => withPath(asOne(group)));
  return { walks: found.sort(asTheyPart), cut: cut || more };
};

interface Of extends OwnTrack {
  readonly carried: Carried;
  readonly steps: Steps;
  readonly followed: ReadonlyMap<ChannelId, Followed>;
  /** Of whoever plays it, not only of who hears the cue. */
  readonly anyone?: boolean;
}

/** What comes to each ear of one line: a line of a pair is on its own side only. */
const atEars = ({
  track,
  lineId,
  passing: { ll, lr, rl, rr },
}: {
  readonly track: Track;
  readonly lineId: LineId | null;
  readonly passing: Passing;
}): Ears => {
  if (track.input.kind === "pair")
    return track.input.leftId === lineId ? { left: ll, right: rl } : { left: lr, right: rr };
  return { left: ll + lr, right: rl + rr };
};

const inDb = (amplitude: number): number => 20 * Math.log10(Math.max(amplitude, 1e-9));

const waysOfTrack = (doc: Template, rig: Rig, of: Of, was: WaysOfTrack | undefined): WaysOfTrack => {
  const { cue, track, carried, steps, anyone = false } = of;
  const lines = linesOfTrack(doc, track).filter(({ player }) => anyone || cue.people.includes(player));
  const [line] = lines;
  const [outId = null] = cue.portIds;
  const common = {
    cueId: cue.id,
    trackId: track.id,
    lineId: line?.id ?? null,
    person: line?.player ?? "",
    portId: line?.portId ?? null,
    outId,
  };
  const level = carried.get(track.id);
  const past =
    level && directWay(rig, common.portId, outId, doc.format.sampleRateHz)
      ? intoCue(doc, rig, level).find(({ of: what }) => what === "into")
      : undefined;
  const passed = steps.passed.get(track.id)?.passed;
  const leads = track.monitor === "off" || !passed ? [] : leadsInto(doc, rig, of);
  const by = [
    cue,
    track,
    ...linesOfTrack(doc, track),
    doc.format,
    past,
    passed,
    ...leads.flatMap(({ step, leaves, ways }) => [step, leaves, ways]),
  ];
  const now = { cue, track, passed, steps: stepsFrom(steps, track.id) };
  if (was && sameList(was.by, by)) return { ...was, ...now };
  const ears = (passing: Passing): Ears => atEars({ track, lineId: common.lineId, passing });
  const direct: OwnWay[] =
    past && level?.levelDb != null
      ? [
          {
            ...common,
            id: `${cue.id} ${track.id} direct`,
            direct: true,
            wet: false,
            channelIds: [track.id],
            levelDb: level.levelDb,
            ears: ears(past.passing),
            turned: false,
          },
        ]
      : [];
  const { walks, cut } = passed ? heardWays(track, passed, leads) : { walks: [], cut: false };
  const roomy = passed?.wet ?? false;
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
  return { cueId: cue.id, trackId: track.id, lineId: common.lineId, ways: [...direct, ...computer], cut, by, ...now };
};

/** Whether a track leads into what it did, for all that is looked at without going through its ways. */
const leadsAsBefore = (
  { trackId, steps }: WaysOfTrack,
  { onwards, fresh }: { readonly onwards: Onwards; readonly fresh: ReadonlySet<ChannelId> },
): boolean => {
  if (fresh.has(trackId)) return false;
  if (onwards.otherwise.size && steps.some(({ to }) => onwards.otherwise.has(to))) return false;
  for (const id of fresh) if (steps.some(({ to }) => onwards.of.get(to)?.by.has(id))) return false;
  return true;
};

const ownIn = (doc: Template, rig: Rig, before: OwnKept | null): OwnKept => {
  const of = ownTracks(doc);
  const into = intoCuesAs(doc);
  const steps = stepsOfAll(doc, rig);
  const onwards = followedIn(doc, { steps, tracks: of, before });
  const fresh = before && freshSince(before.into, into);
  const around = before?.format === doc.format && before.lines === doc.lines;
  const known =
    before && before.of !== of ? new Map(before.tracks.map((one) => [`${one.cueId} ${one.trackId}`, one])) : null;
  const tracks = of.map(({ cue, track }, at): WaysOfTrack => {
    const was = known ? known.get(`${cue.id} ${track.id}`) : before?.tracks[at];
    const own = stepsFrom(steps, track.id);
    if (
      fresh &&
      around &&
      was &&
      was.cue === cue &&
      was.track === track &&
      was.passed === steps.passed.get(track.id)?.passed &&
      was.steps === own &&
      leadsAsBefore(was, { onwards, fresh })
    )
      return was;
    return waysOfTrack(doc, rig, { cue, track, carried: carriedBy(doc, cue.id), steps, followed: onwards.of }, was);
  });
  const same = before !== null && sameList(tracks, before.tracks);
  return { into, format: doc.format, lines: doc.lines, steps, of, onwards, tracks: same ? before.tracks : tracks };
};

const kept = perDocument((rig: Rig) => stepping((doc: Template, before: OwnKept | null) => ownIn(doc, rig, before)));

/**
 * Every way of each performer's own sound to their ears: for each cue, for each armed track that takes what one of its
 * people plays, directly through the interface's mixer where it is monitored so or the cue is mixed there, and through
 * the computer along every thread that lets sound through to something that the cue carries. What is switched off, at
 * −∞, muted or parked leads nowhere. At most 32 ways of a track into a cue are told apart: where there are more, those
 * that come at the same time are one, and of what is still too much the earliest and latest dry ones, the latest, and
 * the loudest are told; `cut` counts where that was so. By track; what hangs on nothing that changed is the very same
 * as before.
 */
export const waysByTrack = (doc: Template, rig: Rig): readonly WaysOfTrack[] => kept(rig)(doc).tracks;

/** The same one after the other, and of how many tracks in cues there are more. */
export const ownWaysOf = (doc: Template, rig: Rig): OwnWays => {
  const tracks = waysByTrack(doc, rig);
  return { ways: tracks.flatMap(({ ways }) => ways), cut: tracks.filter(({ cut }) => cut).length };
};

/**
 * The ways of one track into every cue, whoever plays it: as those of performers' own, for a picture of who hears it.
 * Linear in the threads behind the track times 32, and in the cues.
 */
export const waysIntoCues = (doc: Template, rig: Rig, track: Track): readonly WaysOfTrack[] => {
  const steps = stepsOfAll(doc, rig);
  const { ids } = orderOf(graphOf(doc));
  const followed = new Map(
    stepsFrom(steps, track.id).map(({ to }) => [to, follow(to, { most: MOST_WAYS, ids, steps })] as const),
  );
  return cuesOf(doc).map((cue) =>
    waysOfTrack(doc, rig, { cue, track, carried: carriedBy(doc, cue.id), steps, followed, anyone: true }, undefined),
  );
};
