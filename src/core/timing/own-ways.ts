import { alongThread, intoCue } from "../levels/passing";
import { chainGain } from "../levels/static-gain";
import { louderBy, type Passing, sided, thenPass } from "../levels/strands";
import type { ChannelId, CueId, LineId, PortId } from "../model/ids";
import { isParked, linesOfTrack } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel, Track } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { armedOf, carriedBy, cuesOf, ownTracksOf } from "../queries/cues";
import { type Graph, graphOf, outOf } from "../routing/graph";
import { directWay } from "./hardware";

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

/** More ways of one track into one cue than this are not followed. */
export const MOST_WAYS = 32;
const MOST_STEPS = 4000;

/** A side each. */
export interface Ears {
  readonly left: number;
  readonly right: number;
}

const isRoomy = ({ kind }: Processor): boolean => kind === "reverb" || kind === "delay";

const isWet = (doc: Template, channel: Channel): boolean =>
  channel.kind === "return" || processorsOf(doc, channel.id).some((processor) => isRoomy(processor) && isWorking(doc, processor) && processor.wetPercent === 100);

const turns = (doc: Template, channel: Channel): boolean =>
  processorsOf(doc, channel.id).reduce(
    (turned, processor) => (processor.kind === "gain" && processor.turned && isWorking(doc, processor) ? !turned : turned),
    channel.polarityTurned,
  );

interface Walk {
  readonly id: ChannelId;
  readonly way: readonly ChannelId[];
  /** What has become of the sides of the track on the way here, chains in it. */
  readonly passing: Passing;
  /** The same without pans, balances and folds. */
  readonly gain: number;
  readonly turned: boolean;
  readonly wet: boolean;
}

type Carried = ReadonlyMap<ChannelId, CueLevel>;

interface Follow {
  readonly doc: Template;
  readonly graph: Graph;
  readonly armed: ReadonlySet<ChannelId>;
}

/** What the chain of a channel and its trim do to the amplitude while recording. */
const chainOf = (doc: Template, channel: Channel): number =>
  10 ** (channel.trimDb / 20) * Math.abs(chainGain(processorsOf(doc, channel.id), (processor) => isWorking(doc, processor)));

/** Where a sound goes on from a channel: each thread that lets it through, with what becomes of it. */
const onwards = ({ doc, graph, armed }: Follow, at: Walk): readonly Walk[] =>
  outOf(graph, at.id).flatMap((thread): readonly Walk[] => {
    const next = doc.channels[thread.to];
    if (!next || isParked(next) || at.way.includes(thread.to)) return [];
    const recorded = thread.kind === "input";
    if (recorded && !(next.kind === "track" && next.monitor === "computer" && armed.has(next.id))) return [];
    const leaves = alongThread(doc, graph, { thread, asked: "recording" });
    if (!leaves) return [];
    const chain = chainOf(doc, next);
    const passing = louderBy(thenPass(at.passing, leaves.passing), chain);
    return [{ id: thread.to, way: [...at.way, thread.to], passing, gain: at.gain * leaves.gain * chain, turned: at.turned !== turns(doc, next), wet: at.wet || isWet(doc, next) }];
  });

/** Every way of a track through the computer, itself first, to whatever its sound comes to. Depth first, bounded. */
const walksFrom = (doc: Template, track: Track): { readonly walks: readonly Walk[]; readonly cut: boolean } => {
  const follow: Follow = { doc, graph: graphOf(doc), armed: armedOf(doc) };
  const walks: Walk[] = [];
  const chain = chainOf(doc, track);
  const open: Walk[] = [{ id: track.id, way: [track.id], passing: sided(chain, chain), gain: chain, turned: turns(doc, track), wet: false }];
  for (let at = open.pop(); at; at = open.pop()) {
    if (walks.length >= MOST_STEPS) return { walks, cut: true };
    walks.push(at);
    const next = onwards(follow, at);
    for (let n = next.length - 1; n >= 0; n--) open.push(next[n] as Walk);
  }
  return { walks, cut: false };
};

type Walks = ReturnType<typeof walksFrom>;

/** What the ways of sound hang on; levels in cues do not, so those are typed without any way being looked for again. */
const WAYS_HANG_ON = ["channels", "sends", "processors", "sideChains", "controls", "mix", "passes", "buffers"] as const;

let last: { readonly of: Template; readonly walks: Map<ChannelId, Walks> } | null = null;

const walksOf = (doc: Template, track: Track): Walks => {
  const before = last;
  if (!before || WAYS_HANG_ON.some((table) => before.of[table] !== doc[table])) last = { of: doc, walks: new Map() };
  const { walks } = last as NonNullable<typeof last>;
  const known = walks.get(track.id) ?? walksFrom(doc, track);
  walks.set(track.id, known);
  return known;
};

/** Those of a track's ways that come to something a cue carries through the computer, with what becomes of its sides there. */
const heardWays = (doc: Template, rig: Rig, { cue, track, carried }: Of) => {
  const { walks, cut } = walksOf(doc, track);
  const found = walks.flatMap((at) => {
    const level = carried.get(at.id);
    // What comes past the computer is a way of its own.
    const leaves = level ? intoCue(doc, rig, { cue, level }).find(({ of }) => of === "before") : undefined;
    return leaves ? [{ ...at, passing: thenPass(at.passing, leaves.passing), gain: at.gain * leaves.gain }] : [];
  });
  return { walks: found.slice(0, MOST_WAYS), cut: cut || found.length > MOST_WAYS };
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
    ({ way, wet, turned, passing, gain }): OwnWay => ({
      ...common,
      id: `${cue.id} ${way.join(" ")}`,
      direct: false,
      wet: wet || roomy,
      channelIds: way,
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
 * cue carries. What is switched off, at −∞, muted or parked leads nowhere. At most 32 ways of a track into a cue are followed; `cut` counts where there were more.
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
