import type { ChainProcessorId, ChannelId } from "../model/ids";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { processorsOf } from "../queries/chains";
import { targetMsOf } from "../queries/performing";
import { samplesToMs } from "../units/milliseconds";
import { arrivalsOf } from "./arrivals";
import { bufferedSamples, directWay, type Hardware, hardwareOf, roundTripSamples, type Working } from "./hardware";
import { type OwnWay, ownWaysOf } from "./own-ways";
import { chainSamples, type DelayContext, isWorking, processorDelay } from "./processor-delay";

/** One stretch of a way, in the order in which the sound passes it. */
export interface PathPart {
  readonly kind: "converter" | "mixer" | "buffer" | "chain";
  readonly ms: number;
  /** Of a chain: whose. */
  readonly channelId?: ChannelId;
}

/** On time up to the target, near up to a quarter above, late beyond; wet ways may be later; untold where nobody knows what is played. */
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

export const timelinessOf = (ms: number, { targetMs, wet }: { readonly targetMs: number | null; readonly wet: boolean }): Timeliness => {
  if (wet) return "wet";
  if (targetMs === null) return "untold";
  // What is shown in tenths is judged a little more finely than it is shown.
  return ms <= targetMs + 1e-9 ? "on-time" : ms <= NEAR * targetMs + 1e-9 ? "near" : "late";
};

export const workingOf = ({ format, buffers }: Pick<Template, "format" | "buffers">): Working => ({ rateHz: format.sampleRateHz, bufferSamples: buffers.recordingSamples });

/** What of the processors on a way makes it late: those at work with a delay. */
export const lateOn = (
  doc: Pick<Template, "processors" | "buffers">,
  { channelIds, direct }: Pick<OwnWay, "channelIds" | "direct">,
  context: DelayContext,
): readonly Processor[] =>
  direct ? [] : channelIds.flatMap((id) => processorsOf(doc, id).filter((processor) => isWorking(doc, processor) && processorDelay(processor, context) > 0));

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

/** What a way takes at a rate and buffer: its parts, and what its chains add in samples. */
export const timedWay = (
  doc: Template,
  rig: Rig,
  { way, working }: { readonly way: OwnWay; readonly working: Working },
): Pick<OwnPath, "parts" | "ms" | "chainSamples" | "processorIds"> => {
  const context = { rateHz: working.rateHz, insertSamples: roundTripSamples(hardwareOf(rig, {}, working)) };
  const chains = way.direct
    ? []
    : way.channelIds.map((channelId) => ({
        channelId,
        samples: chainSamples(
          processorsOf(doc, channelId).filter((processor) => isWorking(doc, processor)),
          context,
        ),
      }));
  const samples = chains.reduce((sum, chain) => sum + chain.samples, 0);
  const stretches = chains
    .filter((chain) => chain.samples > 0)
    .map(({ channelId, samples: each }): PathPart => ({ kind: "chain", ms: samplesToMs(each, working.rateHz), channelId }));
  const parts = way.direct ? directParts(rig, way, working) : computerParts(hardwareOf(rig, { in: way.portId, out: way.outId }, working), stretches);
  return { parts, ms: parts.reduce((sum, { ms }) => sum + ms, 0), chainSamples: samples, processorIds: lateOn(doc, way, context).map(({ id }) => id) };
};

/** How many samples of chain a way may have and still be on time; negative where the hardware alone is too late. Null for what has no target. */
export const allowedSamples = (rig: Rig, { way, targetMs, working }: { readonly way: OwnWay; readonly targetMs: number | null; readonly working: Working }): number | null => {
  if (targetMs === null) return null;
  const at = hardwareOf(rig, { in: way.portId, out: way.outId }, working);
  return Math.floor(((targetMs - at.adcMs - at.dacMs) * at.rateHz) / 1000 - bufferedSamples(at) + 1e-6);
};

export interface Hearing {
  readonly paths: readonly OwnPath[];
  /** Of how many tracks in cues more ways were there than were followed. */
  readonly cut: number;
}

/**
 * What each performer hears of themself and how late: every way of their own sound into the cues they hear, with its parts, its delay against their target, and
 * the processors that make it late. A way that somebody hears themself on is not held back by compensation; how far that puts it before the rest is told.
 * @example a voice through the computer at 48 kHz, N 64, with 48 samples of chain: 5.4667 ms with the converters of the worked template
 */
export const hearingOf = (doc: Template, rig: Rig, studio: Studio): Hearing => {
  const working = workingOf(doc);
  const { ways, cut } = ownWaysOf(doc, rig);
  const arrivals = arrivalsOf(doc, rig);
  const paths = ways.map((way): OwnPath => {
    const timed = timedWay(doc, rig, { way, working });
    const targetMs = targetMsOf(doc, studio, doc.channels[way.trackId] as Track);
    const last = way.channelIds.at(-1) as ChannelId;
    const meets = (arrivals.at.get(last) ?? 0) + (arrivals.chain.get(last) ?? 0);
    const aheadSamples = way.direct ? 0 : Math.max(0, meets - timed.chainSamples);
    return { ...way, ...timed, targetMs, state: timelinessOf(timed.ms, { targetMs, wet: way.wet }), aheadSamples };
  });
  return { paths, cut };
};

export interface HeardTwice {
  readonly first: OwnPath;
  readonly second: OwnPath;
  readonly lagMs: number;
  /** Whether one of the two is turned over. */
  readonly opposite: boolean;
}

/** Closer together than this in ms they are one. */
const AS_ONE_MS = 0.02;
/** So much quieter than the other, and a copy is not noticed. */
const UNHEARD_DB = 30;

/** Who hears themself twice: in one cue, the same line dry by two ways at different times, neither 30 dB below the other. The earliest with the loudest later one. */
export const heardTwice = ({ paths }: Pick<Hearing, "paths">): readonly HeardTwice[] => {
  const groups = new Map<string, OwnPath[]>();
  for (const path of paths) if (!path.wet && path.lineId) putInto(groups, `${path.cueId} ${path.lineId}`, path);
  return [...groups.values()].flatMap((group): readonly HeardTwice[] => {
    const [first, ...later] = [...group].sort((a, b) => a.ms - b.ms || (a.id < b.id ? -1 : 1));
    const [second] = later
      .filter(({ ms, levelDb }) => first && ms - first.ms > AS_ONE_MS && Math.abs(levelDb - first.levelDb) < UNHEARD_DB)
      .sort((a, b) => b.levelDb - a.levelDb || a.ms - b.ms);
    return first && second ? [{ first, second, lagMs: second.ms - first.ms, opposite: first.turned !== second.turned }] : [];
  });
};
