import type { ChainProcessorId, ChannelId, CueId, LineId, PortId } from "../model/ids";
import { perDocument, perTwo, stepping } from "../model/per-document";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { putInto, sameList } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { targetMsOf } from "../queries/performing";
import { samplesToMs } from "../units/milliseconds";
import { arrivalsOf, channelSamples } from "./arrivals";
import { bufferedSamples, directWay, type Hardware, hardwareOf, roundTripMs, type Working } from "./hardware";
import { notchDepthDb } from "./heard-twice";
import { type Ears, type OwnWay, type WaysOfTrack, waysByTrack } from "./own-ways";
import { type DelayContext, insertsOn, processorDelay } from "./processor-delay";

/** One stretch of a way, in the order in which the sound passes it. */
export interface PathPart {
  readonly kind: "converter" | "mixer" | "buffer" | "chain";
  readonly ms: number;
  /** Of a chain: whose. */
  readonly channelId?: ChannelId;
}

/**
 * On time up to the target, near up to a quarter above, late beyond; wet ways may be later; untold where nobody knows
 * what is played.
 */
export type Timeliness = "on-time" | "near" | "late" | "wet" | "untold";

export interface OwnPath extends OwnWay {
  readonly parts: readonly PathPart[];
  readonly ms: number;
  /** What its chains add, in samples, and the processors that do. */
  readonly chainSamples: number;
  readonly processorIds: readonly ChainProcessorId[];
  readonly targetMs: number | null;
  readonly state: Timeliness;
  /** How many samples it comes before what it would meet, as it is not held back: it is heard by who makes it. */
  readonly aheadSamples: number;
}

/** Above the target by this, and it is late. */
export const NEAR = 1.25;

export const timelinessOf = (
  ms: number,
  { targetMs, wet }: { readonly targetMs: number | null; readonly wet: boolean },
): Timeliness => {
  if (wet) return "wet";
  if (targetMs === null) return "untold";
  // What is shown in tenths is judged a little more finely than it is shown.
  return ms <= targetMs + 1e-9 ? "on-time" : ms <= NEAR * targetMs + 1e-9 ? "near" : "late";
};

export const workingOf = ({ format, buffers }: Pick<Template, "format" | "buffers">): Working => ({
  rateHz: format.sampleRateHz,
  bufferSamples: buffers.recordingSamples,
});

/** What of the processors on a way makes it late: those at work with a delay. */
export const lateOn = (
  doc: Pick<Template, "processors" | "buffers">,
  { channelIds, direct }: Pick<OwnWay, "channelIds" | "direct">,
  context: DelayContext,
): readonly Processor[] =>
  direct
    ? []
    : channelIds.flatMap((id) =>
        processorsOf(doc, id).filter(
          (processor) => isWorking(doc, processor) && processorDelay(processor, context) > 0,
        ),
      );

const directParts = (rig: Rig, { portId, outId }: OwnWay, { rateHz }: Working): readonly PathPart[] => {
  const way = directWay(rig, portId, outId, rateHz);
  return way
    ? [
        { kind: "converter", ms: way.adcMs },
        { kind: "mixer", ms: way.mixerMs },
        { kind: "converter", ms: way.dacMs },
      ]
    : [];
};

const computerParts = (at: Hardware, chains: readonly PathPart[]): readonly PathPart[] => {
  const half = (buffers: number, margin: number): number => samplesToMs(buffers * at.bufferSamples + margin, at.rateHz);
  const measured = samplesToMs(at.correctionSamples, at.rateHz);
  return [
    { kind: "converter", ms: at.adcMs },
    { kind: "buffer", ms: half(at.buffersIn, at.marginInSamples) },
    ...chains,
    { kind: "buffer", ms: half(at.buffersOut, at.marginOutSamples) + measured },
    { kind: "converter", ms: at.dacMs },
  ];
};

/** What ways take at a rate and buffer; what several of them pass is looked up once. */
export interface Timer {
  readonly working: Working;
  readonly context: DelayContext;
  /** Samples that the chains on a way add. */
  chainSamples(way: OwnWay): number;
  /** Milliseconds from the socket to the ears. */
  ms(way: OwnWay): number;
  parts(way: OwnWay): readonly PathPart[];
  /**
   * How many samples of chain a way may have and still be on time; negative where the hardware alone is too late. Null
   * for what has no target.
   */
  allowed(way: OwnWay, targetMs: number | null): number | null;
}

const sum = (numbers: readonly number[]): number => numbers.reduce((total, one) => total + one, 0);

/** Keeps what a function says of a key. */
const keeping = <T>(compute: (key: string) => T): ((key: string) => T) => {
  const kept = new Map<string, T>();
  return (key) => {
    const known = kept.get(key);
    if (known !== undefined) return known;
    const fresh = compute(key);
    kept.set(key, fresh);
    return fresh;
  };
};

/**
 * Reckons ways of a template at a rate and buffer: converters by the sockets, buffers and margins by the interface,
 * chains by what is on while recording.
 */
export const timerOf = (doc: Pick<Template, "processors" | "buffers">, rig: Rig, working: Working): Timer => {
  const context = { rateHz: working.rateHz, insertSamples: insertsOn(rig, working) };
  const chain = keeping((id) => channelSamples(doc, id as ChannelId, context));
  const ends = keeping((key) => {
    const [input = "", output = ""] = key.split("|");
    return hardwareOf(rig, { in: (input || null) as PortId | null, out: (output || null) as PortId | null }, working);
  });
  const hardware = ({ portId, outId }: OwnWay): Hardware => ends(`${portId ?? ""}|${outId ?? ""}`);
  const chainOf = (way: OwnWay): number => (way.direct ? 0 : sum(way.channelIds.map(chain)));
  const parts = (way: OwnWay): readonly PathPart[] => {
    if (way.direct) return directParts(rig, way, working);
    const stretches = way.channelIds.flatMap((channelId): readonly PathPart[] => {
      const samples = chain(channelId);
      return samples ? [{ kind: "chain", ms: samplesToMs(samples, working.rateHz), channelId }] : [];
    });
    return computerParts(hardware(way), stretches);
  };
  return {
    working,
    context,
    chainSamples: chainOf,
    ms: (way) => (way.direct ? sum(parts(way).map(({ ms }) => ms)) : roundTripMs(hardware(way), chainOf(way))),
    parts,
    allowed: (way, targetMs) => {
      if (targetMs === null) return null;
      const at = hardware(way);
      return Math.floor(((targetMs - at.adcMs - at.dacMs) * at.rateHz) / 1000 - bufferedSamples(at) + 1e-6);
    },
  };
};

/** What is heard of one track in one cue. */
export interface HeardTrack {
  readonly cueId: CueId;
  readonly lineId: LineId | null;
  readonly paths: readonly OwnPath[];
}

export interface Hearing {
  readonly paths: readonly OwnPath[];
  /** The same by cue and track. */
  readonly tracks: readonly HeardTrack[];
  /** Of how many tracks in cues more ways were there than were followed. */
  readonly cut: number;
}

/** What is heard of one track in one cue, and what that was reckoned from. */
interface KeptPaths extends HeardTrack {
  readonly of: WaysOfTrack;
  readonly targetMs: number | null;
  readonly ahead: readonly number[];
}

interface KeptHearing extends Hearing {
  readonly around: readonly unknown[];
  readonly of: readonly WaysOfTrack[];
  readonly tracks: readonly KeptPaths[];
}

const pathOf = (
  doc: Template,
  way: OwnWay,
  {
    timer,
    targetMs,
    aheadSamples,
  }: { readonly timer: Timer; readonly targetMs: number | null; readonly aheadSamples: number },
): OwnPath => {
  const parts = timer.parts(way);
  const ms = sum(parts.map((part) => part.ms));
  const samples = timer.chainSamples(way);
  return {
    ...way,
    parts,
    ms,
    chainSamples: samples,
    processorIds: samples ? lateOn(doc, way, timer.context).map(({ id }) => id) : [],
    targetMs,
    state: timelinessOf(ms, { targetMs, wet: way.wet }),
    aheadSamples,
  };
};

const hearingIn = (
  doc: Template,
  { rig, studio, before }: { readonly rig: Rig; readonly studio: Studio; readonly before: KeptHearing | null },
): KeptHearing => {
  const arrivals = arrivalsOf(doc, rig);
  const all = waysByTrack(doc, rig);
  const around = [doc.format, doc.buffers, arrivals];
  const timed = before !== null && before.around[0] === doc.format && before.around[1] === doc.buffers;
  const same = timed && before.around[2] === arrivals;
  if (same && before.of === all) return before;
  const timer = timerOf(doc, rig, workingOf(doc));
  const target = keeping((trackId) => ({ ms: targetMsOf(doc, studio, doc.channels[trackId as ChannelId] as Track) }));
  const aheadOf = (way: OwnWay): number => {
    const last = way.channelIds.at(-1) as ChannelId;
    return way.direct
      ? 0
      : Math.max(0, (arrivals.at.get(last) ?? 0) + (arrivals.chain.get(last) ?? 0) - timer.chainSamples(way));
  };
  const stayed =
    before !== null &&
    before.of.length === all.length &&
    all.every(({ cueId, trackId }, at) => before.of[at]?.cueId === cueId && before.of[at].trackId === trackId);
  const known = stayed ? null : new Map(before?.tracks.map((one) => [`${one.of.cueId} ${one.of.trackId}`, one]));
  const tracks = all.map((of, at): KeptPaths => {
    const { cueId, trackId, lineId, ways } = of;
    const was = known ? known.get(`${cueId} ${trackId}`) : before?.tracks[at];
    if (same && was?.of === of) return was;
    const targetMs = target(trackId).ms;
    const ahead = ways.map(aheadOf);
    if (timed && was?.of.ways === ways && was.targetMs === targetMs && sameList(ahead, was.ahead))
      return { ...was, of };
    const paths = ways.map((way, n) => pathOf(doc, way, { timer, targetMs, aheadSamples: ahead[n] as number }));
    return { of, cueId, lineId, targetMs, ahead, paths };
  });
  return {
    around,
    of: all,
    tracks,
    paths: tracks.flatMap(({ paths }) => paths),
    cut: tracks.filter(({ of }) => of.cut).length,
  };
};

const heard = perTwo((rig: Rig, studio: Studio) =>
  stepping((doc: Template, before: KeptHearing | null) => hearingIn(doc, { rig, studio, before })),
);

/**
 * What each performer hears of themself and how late: every way of their own sound into the cues they hear, with its
 * parts, its delay against their target, and the processors that make it late. A way that somebody hears themself on is
 * not held back by compensation; how far that puts it before the rest is told.
 * @example a voice through the computer at 48 kHz, N 64, with 48 samples of chain: 5.4667 ms with the converters of the worked template
 */
export const hearingOf = (doc: Template, rig: Rig, studio: Studio): Hearing => heard(rig, studio)(doc);

export interface HeardTwice {
  readonly first: OwnPath;
  readonly second: OwnPath;
  readonly lagMs: number;
  /** Whether one of the two is inverted. */
  readonly opposite: boolean;
  /** The ear at which its notches are deepest, and how loud both are there. */
  readonly ear: keyof Ears;
  readonly firstDb: number;
  readonly secondDb: number;
  /** How far its notches lie below the louder of the two, in dB: 0 or below. */
  readonly depthDb: number;
}

/** Closer together than this in ms they are one. */
const AS_ONE_MS = 0.02;
/** Notches less deep than this are not noticed. */
const UNNOTICED_DB = -0.5;

const earDb = (amplitude: number): number => 20 * Math.log10(amplitude);

const combAt = (first: OwnPath, second: OwnPath, ear: keyof Ears): HeardTwice | null => {
  const [a, b] = [first.ears[ear], second.ears[ear]];
  if (a < 1e-9 || b < 1e-9) return null;
  const [firstDb, secondDb] = [earDb(a), earDb(b)];
  const lagMs = second.ms - first.ms;
  return {
    first,
    second,
    lagMs,
    opposite: first.turned !== second.turned,
    ear,
    firstDb,
    secondDb,
    depthDb: notchDepthDb({ firstDb, secondDb }),
  };
};

const deeper = (worst: HeardTwice | null, one: HeardTwice | null): HeardTwice | null =>
  one && (!worst || one.depthDb < worst.depthDb - 1e-9) ? one : worst;

/** Of all copies of one line in one cue the two that comb deepest at one ear. */
const deepest = (group: readonly OwnPath[]): HeardTwice | null => {
  let worst: HeardTwice | null = null;
  for (const [at, first] of group.entries())
    for (const second of group.slice(at + 1)) {
      if (second.ms - first.ms <= AS_ONE_MS) continue;
      for (const ear of ["left", "right"] as const) worst = deeper(worst, combAt(first, second, ear));
    }
  return worst;
};

const twiceIn = (group: readonly OwnPath[]): HeardTwice | null => {
  const dry = group.filter(({ wet }) => !wet);
  const worst = dry.length > 1 ? deepest([...dry].sort((a, b) => a.ms - b.ms || (a.id < b.id ? -1 : 1))) : null;
  return worst && worst.depthDb < UNNOTICED_DB ? worst : null;
};

/** What is heard of one track in a cue is looked at once, for as long as it stays the same. */
const twiceOfTrack = perDocument((paths: readonly OwnPath[]) => twiceIn(paths));

const twiceOfAll = perDocument((tracks: readonly HeardTrack[]): readonly HeardTwice[] => {
  const groups = new Map<string, HeardTrack[]>();
  for (const track of tracks) if (track.lineId) putInto(groups, `${track.cueId} ${track.lineId}`, track);
  return [...groups.values()].flatMap((group): readonly HeardTwice[] => {
    const [only] = group;
    const worst = group.length === 1 && only ? twiceOfTrack(only.paths) : twiceIn(group.flatMap(({ paths }) => paths));
    return worst ? [worst] : [];
  });
});

/**
 * Who hears themself twice: in one cue, the same line dry by two ways at different times at one ear, each as loud there
 * as its chains, faders, levels and pans make it. Of several copies the two with the deepest notches; copies on
 * different ears make none.
 */
export const heardTwice = ({ tracks }: Pick<Hearing, "tracks">): readonly HeardTwice[] => twiceOfAll(tracks);
