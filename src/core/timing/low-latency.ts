import type { ChainProcessorId } from "../model/ids";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { targetMsOf } from "../queries/performing";
import type { SampleRateHz } from "../units/hertz";
import { type Burden, fewestOff } from "./fewest-off";
import { buffersOffered, ratesOffered } from "./hardware";
import { lateOn, type Timer, timelinessOf, timerOf, workingOf } from "./hearing";
import { type Costs, costsOf, loadAt, smallestHolding } from "./load";
import { type OwnWay, ownWaysOf } from "./own-ways";
import { processorDelay } from "./processor-delay";

export interface LowLatency {
  /** The fewest processors that must be off while recording. */
  readonly off: readonly ChainProcessorId[];
  readonly meets: boolean;
  readonly proven: boolean;
  /** How many dry ways are late or near as it is. */
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

const burdenOf = (doc: Template, timer: Timer, { way, targetMs }: Dry): Burden | null => {
  const allowed = way.direct ? null : timer.allowed(way, targetMs);
  if (allowed === null) return null;
  const by = new Map(lateOn(doc, way, timer.context).map((processor) => [processor.id as string, processorDelay(processor, timer.context)]));
  return { over: timer.chainSamples(way) - allowed, by };
};

const largest = (offered: readonly number[], holds: (bufferSamples: number) => boolean): number | null => [...offered].reverse().find(holds) ?? null;

/** Whether a way is on time at a buffer, as it is or with all that is late on it switched off. */
const onTimeAt = (timer: Timer, { way, targetMs }: Dry, bare: boolean): boolean => {
  if (targetMs === null) return true;
  return timer.ms(way) - (bare ? (1000 * timer.chainSamples(way)) / timer.working.rateHz : 0) <= targetMs + 1e-9;
};

/**
 * What must be off while recording so that everybody's dry ways meet their targets: the fewest processors, one that several share counted once; and which buffers
 * would do as it is or with all of them off. With none that would do, by how much the latest stays behind.
 */
export const lowLatency = (doc: Template, rig: Rig, studio: Studio): LowLatency => {
  const working = workingOf(doc);
  const dry = dryWays(doc, rig, studio);
  const here = timerOf(doc, rig, working);
  const burdens = dry.flatMap((one) => burdenOf(doc, here, one) ?? []);
  const { off, meets, proven } = fewestOff(burdens);
  const offered = buffersOffered(rig);
  const at = (bufferSamples: number, bare: boolean) => {
    const timer = timerOf(doc, rig, { ...working, bufferSamples });
    return dry.every((one) => onTimeAt(timer, one, bare));
  };
  const missing = burdens.map(({ over, by }) => over - [...by.values()].reduce((sum, samples) => sum + samples, 0));
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

/** What a rate and buffer come to. */
export interface RateBuffer {
  readonly rateHz: SampleRateHz;
  readonly bufferSamples: number;
  /** The latest dry way, in ms; 0 where nobody hears themself. */
  readonly latestMs: number;
  readonly late: number;
  readonly near: number;
  readonly load: number;
  /** Whether the load stays under the ceiling. */
  readonly holds: boolean;
}

/** Every rate that the rig works at by every buffer that it offers: the latest dry way, how many are late, and whether the computer holds it. */
export const rateBufferTable = (doc: Template, rig: Rig, studio: Studio): readonly RateBuffer[] => {
  const dry = dryWays(doc, rig, studio);
  const costs = costsOf(doc, { recording: true });
  return ratesOffered(rig).flatMap((rateHz) =>
    buffersOffered(rig).map((bufferSamples) => {
      const timer = timerOf(doc, rig, { rateHz, bufferSamples });
      const timed = dry.map(({ way, targetMs }) => {
        const ms = timer.ms(way);
        return { ms, state: timelinessOf(ms, { targetMs, wet: false }) };
      });
      const load = loadAt(costs, bufferSamples, rateHz);
      return {
        rateHz,
        bufferSamples,
        latestMs: Math.max(0, ...timed.map(({ ms }) => ms)),
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
  /** The smallest that holds while recording; null where none does. */
  readonly recording: number | null;
  /** The largest offered, for mixing. */
  readonly mixing: number | null;
}

/** Which buffer to record and to mix with: the smallest offered whose load stays under the ceiling, and the largest; with the costs that it rests on. */
export const bufferAdvice = (doc: Template, rig: Rig): BufferAdvice => {
  const costs = costsOf(doc, { recording: true });
  const offered = buffersOffered(rig);
  const rateHz = doc.format.sampleRateHz;
  return {
    costs,
    loads: offered.map((bufferSamples) => ({ bufferSamples, load: loadAt(costs, bufferSamples, rateHz) })),
    recording: smallestHolding(costs, offered, { rateHz, ceiling: doc.buffers.ceilingPercent / 100 }),
    mixing: offered.at(-1) ?? null,
  };
};
