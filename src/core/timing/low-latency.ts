import type { ChainProcessorId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Processor } from "../model/tables/chain-processors";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { processorsOf, stepsOf } from "../queries/chains";
import { targetMsOf } from "../queries/performing";
import type { SampleRateHz } from "../units/hertz";
import { type Burden, type FewestOff, fewestOff } from "./fewest-off";
import { buffersOffered, hardwareOf, ratesOffered, roundTripMs } from "./hardware";
import { type Timer, timelinessOf, timerOf, workingOf } from "./hearing";
import { type Costs, costsOf, loadAt } from "./load";
import { type OwnWay, ownWaysOf } from "./own-ways";
import { type DelayContext, processorDelay } from "./processor-delay";

export interface LowLatency {
  /** The fewest processors that must be off while recording. */
  readonly off: readonly ChainProcessorId[];
  readonly meets: boolean;
  readonly proven: boolean;
  /** How many dry paths are late or near as it is. */
  readonly late: number;
  /** The largest buffer offered with which all are on time with nothing more switched off; null where none is. */
  readonly bufferAsItIs: number | null;
  /** The same with everything off on the ways of those who are late. */
  readonly bufferAllOff: number | null;
  /** By how many ms the latest stays behind its target, however much is switched off. 0 where nobody does. */
  readonly missingMs: number;
}

interface Dry {
  readonly way: OwnWay;
  readonly targetMs: number | null;
}

const dryWays = (doc: Template, rig: Rig, studio: Studio): readonly Dry[] =>
  ownWaysOf(doc, rig)
    .ways.filter(({ wet }) => !wet)
    .map((way) => ({ way, targetMs: targetMsOf(doc, studio, doc.channels[way.trackId] as Track) }));

/**
 * What a way passes that makes it late: all in the row, and of each split the branch that is the longer one with so
 * much switched off.
 */
const longestRoute = (
  doc: Template,
  { channelIds }: OwnWay,
  context: DelayContext,
  off: ReadonlySet<string>,
): ReadonlyMap<string, number> => {
  const samples = (of: readonly Processor[]): number =>
    of.reduce((sum, processor) => sum + (off.has(processor.id) ? 0 : processorDelay(processor, context)), 0);
  const passed = channelIds.flatMap((id) =>
    stepsOf(processorsOf(doc, id).filter((processor) => isWorking(doc, processor))).flatMap(
      ({ processor, first, second }) => [processor, ...(samples(second) > samples(first) ? second : first)],
    ),
  );
  return new Map(
    passed
      .map((processor): [string, number] => [processor.id, processorDelay(processor, context)])
      .filter(([, delay]) => delay > 0),
  );
};

const total = (by: ReadonlyMap<string, number>, off: ReadonlySet<string> = new Set()): number =>
  [...by].reduce((sum, [id, samples]) => sum + (off.has(id) ? 0 : samples), 0);

/**
 * The fewest off so that all ways are on time by every branch of their splits. A way stands for one route, the longest;
 * where another is too long once those are off, it joins the burdens and they are solved again, until none does. What
 * is the least for some of the routes and does for all of them is the least for all.
 */
const offFor = (
  doc: Template,
  timer: Timer,
  dry: readonly Dry[],
): FewestOff & { readonly burdens: readonly Burden[] } => {
  const bounded = dry.flatMap(({ way, targetMs }) => {
    const allowed = way.direct ? null : timer.allowed(way, targetMs);
    return allowed === null ? [] : [{ way, allowed }];
  });
  const known = new Map<string, Burden>();
  for (let answer: FewestOff = { off: [], meets: true, proven: true }; ; ) {
    const off = new Set(answer.off);
    const before = known.size;
    for (const { way, allowed } of bounded) {
      const by = longestRoute(doc, way, timer.context, off);
      if (total(by, off) > allowed) known.set([allowed, ...by.keys()].join(" "), { over: total(by) - allowed, by });
    }
    const burdens = [...known.values()];
    if (known.size === before) return { ...answer, burdens };
    answer = fewestOff(burdens);
  }
};

const largest = (offered: readonly number[], holds: (bufferSamples: number) => boolean): number | null =>
  [...offered].reverse().find(holds) ?? null;

/** Whether a way is on time at a buffer, as it is or with all that is late on it switched off. */
const onTimeAt = (timer: Timer, { way, targetMs }: Dry, bare: boolean): boolean => {
  if (targetMs === null) return true;
  return timer.ms(way) - (bare ? (1000 * timer.chainSamples(way)) / timer.working.rateHz : 0) <= targetMs + 1e-9;
};

/**
 * What must be off while recording so that everybody's dry paths meet their targets: the fewest processors, one that
 * several share counted once; and which buffers would do as it is or with all of them off. With none that would do, by
 * how much the latest stays behind.
 */
export const lowLatency = (doc: Template, rig: Rig, studio: Studio): LowLatency => helping(rig, studio)(doc);

const helpsNow = (doc: Template, rig: Rig, studio: Studio): LowLatency => {
  const working = workingOf(doc);
  const dry = dryWays(doc, rig, studio);
  const here = timerOf(doc, rig, working);
  const { off, meets, proven, burdens } = offFor(doc, here, dry);
  const offered = buffersOffered(rig);
  const at = (bufferSamples: number, bare: boolean) => {
    const timer = timerOf(doc, rig, { ...working, bufferSamples });
    return dry.every((one) => onTimeAt(timer, one, bare));
  };
  const missing = burdens.map(({ over, by }) => over - total(by));
  return {
    off: off as readonly ChainProcessorId[],
    meets,
    proven,
    late: dry.filter((one) => !onTimeAt(here, one, false)).length,
    bufferAsItIs: largest(offered, (samples) => at(samples, false)),
    bufferAllOff: largest(offered, (samples) => at(samples, true)),
    missingMs: Math.max(0, ...missing) * (1000 / working.rateHz),
  };
};

const helping = perTwo((rig: Rig, studio: Studio) => perDocument((doc: Template) => helpsNow(doc, rig, studio)));

/** What a rate and buffer come to. */
export interface RateBuffer {
  readonly rateHz: SampleRateHz;
  readonly bufferSamples: number;
  /** Through the computer from an input to an output, without any chain, in ms. */
  readonly roundTripMs: number;
  /** The latest dry path, in ms; null where nobody hears themself: then nothing is on time either. */
  readonly latestMs: number | null;
  readonly late: number;
  readonly near: number;
  readonly load: number;
  /** Whether the load stays under the ceiling. */
  readonly holds: boolean;
}

/**
 * Every rate that the rig works at by every buffer that it offers: the latest dry path, how many are late, and whether
 * the computer holds it.
 */
export const rateBufferTable = (doc: Template, rig: Rig, studio: Studio): readonly RateBuffer[] => {
  const dry = dryWays(doc, rig, studio);
  const costs = costsOf(doc, { recording: true });
  return ratesOffered(rig).flatMap((rateHz) =>
    buffersOffered(rig).map((bufferSamples): RateBuffer => {
      const timer = timerOf(doc, rig, { rateHz, bufferSamples });
      const timed = dry.map(({ way, targetMs }) => {
        const ms = timer.ms(way);
        return { ms, state: timelinessOf(ms, { targetMs, wet: false }) };
      });
      const load = loadAt(costs, bufferSamples, rateHz);
      return {
        rateHz,
        bufferSamples,
        roundTripMs: roundTripMs(hardwareOf(rig, {}, { rateHz, bufferSamples })),
        latestMs: timed.length ? Math.max(...timed.map(({ ms }) => ms)) : null,
        late: timed.filter(({ state }) => state === "late").length,
        near: timed.filter(({ state }) => state === "near").length,
        load,
        holds: load < doc.buffers.ceilingPercent / 100,
      };
    }),
  );
};

export interface BufferAdvice {
  readonly costs: Costs;
  readonly loads: readonly { readonly bufferSamples: number; readonly load: number }[];
  /**
   * The largest with which everybody is on time, and that holds while recording; where none is, the smallest that
   * holds; null where none holds.
   */
  readonly recording: number | null;
  /** The latest dry path at that buffer, in ms; null where nobody hears themself. */
  readonly latestMs: number | null;
  /** What the worst is still too late there, in ms; 0 where everybody is on time. */
  readonly missingMs: number;
  /** The largest offered, for mixing. */
  readonly mixing: number | null;
}

/**
 * Which buffer to record and to mix with. For recording the largest offered at which everybody's dry path meets its
 * target, with a load under the ceiling; where none does, the smallest under the ceiling, with what is still missing.
 * For mixing the largest. With the costs that it rests on.
 */
export const bufferAdvice = (doc: Template, rig: Rig, studio: Studio): BufferAdvice => {
  const costs = costsOf(doc, { recording: true });
  const offered = buffersOffered(rig);
  const { rateHz } = workingOf(doc);
  const dry = dryWays(doc, rig, studio);
  const loads = offered.map((bufferSamples) => ({ bufferSamples, load: loadAt(costs, bufferSamples, rateHz) }));
  const holding = loads
    .filter(({ load }) => load < doc.buffers.ceilingPercent / 100)
    .map(({ bufferSamples }) => bufferSamples);
  const timerAt = (bufferSamples: number): Timer => timerOf(doc, rig, { rateHz, bufferSamples });
  const recording =
    largest(holding, (samples) => dry.every((one) => onTimeAt(timerAt(samples), one, false))) ?? holding[0] ?? null;
  const timer = recording === null ? null : timerAt(recording);
  return {
    costs,
    loads,
    recording,
    latestMs: timer && dry.length ? Math.max(...dry.map(({ way }) => timer.ms(way))) : null,
    missingMs: timer
      ? Math.max(0, ...dry.map(({ way, targetMs }) => (targetMs === null ? 0 : timer.ms(way) - targetMs)))
      : 0,
    mixing: offered.at(-1) ?? null,
  };
};
