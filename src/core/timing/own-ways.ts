import type { ChannelId, CueId, LineId, PortId } from "../model/ids";
import { isParked, linesOfTrack } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel, Track } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { processorsOf } from "../queries/chains";
import { controlledBy } from "../queries/controls";
import { armedOf, carriedBy, cuesOf, ownTracksOf } from "../queries/cues";
import { type Graph, graphOf, outOf, sendOf, type Thread } from "../routing/graph";
import { directWay } from "./hardware";
import { isWorking } from "./processor-delay";

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
  /** How loud it is besides what comes in, in dB: faders, sends and the level in the cue. Never −∞, or it would be no way. */
  readonly levelDb: number;
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

/** Where the fader of a channel stands while recording, control faders added; null for silence, and where it is muted. */
export const liveFaderDb = (doc: Pick<Template, "controls">, channel: Channel): number | null => {
  const controlled = controlledBy(doc, channel);
  const own = channel.kind === "track" && channel.liveApart ? channel.liveDb : channel.faderDb;
  if (own === null || controlled.db === null || controlled.muted || (channel.kind !== "main" && channel.muted)) return null;
  return own + controlled.db;
};

const isSilenced = (doc: Pick<Template, "mix" | "controls">, channel: Channel): boolean =>
  doc.mix.mutesBefore && ((channel.kind !== "main" && channel.muted) || controlledBy(doc, channel).muted);

/** What leaves a channel along a thread, in dB besides what comes into its chain; null for nothing. What is monitored direct is silent after its fader. */
const leavesDb = (doc: Template, channel: Channel, { graph, thread }: { readonly graph: Graph; readonly thread: Thread }): number | null => {
  const past = channel.kind === "track" && channel.monitor === "direct" ? null : liveFaderDb(doc, channel);
  const send = sendOf(graph, thread);
  if (!send) return past;
  if (!send.on || send.levelDb === null) return null;
  if (send.tap === "after") return past === null ? null : past + send.levelDb;
  return isSilenced(doc, channel) ? null : send.levelDb;
};

/** How loud what a cue carries of a channel is there besides what leaves its chain; null for silence. */
const inCueDb = (doc: Template, channel: Channel, { levelDb, tap, on }: CueLevel): number | null => {
  if (!on || levelDb === null) return null;
  if (tap === "before") return isSilenced(doc, channel) ? null : levelDb;
  const fader = liveFaderDb(doc, channel);
  return fader === null ? null : levelDb + fader;
};

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
  readonly db: number;
  readonly turned: boolean;
  readonly wet: boolean;
}

type Carried = ReadonlyMap<ChannelId, CueLevel>;

interface Follow {
  readonly doc: Template;
  readonly graph: Graph;
  readonly armed: ReadonlySet<ChannelId>;
}

/** Where a sound goes on from a channel: each thread that lets it through, with what becomes of it. */
const onwards = ({ doc, graph, armed }: Follow, at: Walk, channel: Channel): readonly Walk[] =>
  outOf(graph, at.id).flatMap((thread): readonly Walk[] => {
    const next = doc.channels[thread.to];
    if (!next || isParked(next) || at.way.includes(thread.to)) return [];
    const recorded = thread.kind === "input";
    if (recorded && !(next.kind === "track" && next.monitor === "computer" && armed.has(next.id))) return [];
    const leaves = recorded ? 0 : leavesDb(doc, channel, { graph, thread });
    if (leaves === null) return [];
    return [{ id: thread.to, way: [...at.way, thread.to], db: at.db + leaves + next.trimDb, turned: at.turned !== turns(doc, next), wet: at.wet || isWet(doc, next) }];
  });

/** Every way of a track through the computer, itself first, to whatever its sound comes to. Depth first, bounded. */
const walksFrom = (doc: Template, track: Track): { readonly walks: readonly Walk[]; readonly cut: boolean } => {
  const follow: Follow = { doc, graph: graphOf(doc), armed: armedOf(doc) };
  const walks: Walk[] = [];
  const open: Walk[] = [{ id: track.id, way: [track.id], db: track.trimDb, turned: turns(doc, track), wet: false }];
  for (let at = open.pop(); at; at = open.pop()) {
    if (walks.length >= MOST_STEPS) return { walks, cut: true };
    const channel = doc.channels[at.id];
    if (!channel) continue;
    walks.push(at);
    const next = onwards(follow, at, channel);
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

/** Those of a track's ways that come to something a cue carries, with how loud they are there. */
const heardWays = (doc: Template, track: Track, carried: Carried) => {
  const { walks, cut } = walksOf(doc, track);
  const found = walks.flatMap((at) => {
    const [level, channel] = [carried.get(at.id), doc.channels[at.id]];
    // What is monitored direct reaches the cue by itself, not by the computer.
    const heard = level && channel && !isParked(channel) && !(at.id === track.id && track.monitor === "direct") ? inCueDb(doc, channel, level) : null;
    return heard === null ? [] : [{ ...at, levelDb: at.db + heard }];
  });
  return { walks: found.slice(0, MOST_WAYS), cut: cut || found.length > MOST_WAYS };
};

const waysOfTrack = (doc: Template, rig: Rig, { cue, track, carried }: { readonly cue: Cue; readonly track: Track; readonly carried: Carried }) => {
  const lines = linesOfTrack(doc, track).filter(({ player }) => cue.people.includes(player));
  const [line] = lines;
  const [outId = null] = cue.portIds;
  const common = { cueId: cue.id, trackId: track.id, lineId: line?.id ?? null, person: line?.player ?? "", portId: line?.portId ?? null, outId };
  const own = carried.get(track.id);
  const heardDirect = track.monitor === "direct" || (cue.mixedIn === "interface" && track.monitor !== "off");
  const direct: OwnWay[] =
    own?.on && own.levelDb !== null && heardDirect && directWay(rig, common.portId, outId, doc.format.sampleRateHz)
      ? [{ ...common, id: `${cue.id} ${track.id} direct`, direct: true, wet: false, channelIds: [track.id], levelDb: own.levelDb, turned: false }]
      : [];
  if (track.monitor === "off") return { ways: direct, cut: false };
  const { walks, cut } = heardWays(doc, track, carried);
  const roomy = isWet(doc, track);
  const computer = walks.map(
    ({ way, wet, turned, levelDb }): OwnWay => ({ ...common, id: `${cue.id} ${way.join(" ")}`, direct: false, wet: wet || roomy, channelIds: way, levelDb, turned }),
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
