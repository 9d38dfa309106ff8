import type { PortId } from "../model/ids";
import type { Rig } from "../model/rig";
import type { Processor } from "../model/tables/chain-processors";
import { stepsOf } from "../queries/chains";
import type { SampleRateHz } from "../units/hertz";
import { hardwareOf, roundTripSamples, type Working } from "./hardware";

/** What the delay of a processor depends on besides itself. */
export interface DelayContext {
  readonly rateHz: SampleRateHz;
  /** Samples that a hardware insert costs: one whole round trip, by the converters of its own ports. */
  readonly insertSamples: (sendPortId: string | null, returnPortId: string | null) => number;
}

/**
 * What a hardware insert costs at a rate and buffer on a rig: out by the converter of its output, back by that of its
 * input, buffers and margins between them.
 */
export const insertsOn = (rig: Rig, working: Working): DelayContext["insertSamples"] => {
  const kept = new Map<string, number>();
  return (out, back) => {
    const key = `${out}|${back}`;
    const known =
      kept.get(key) ??
      roundTripSamples(hardwareOf(rig, { in: back as PortId | null, out: out as PortId | null }, working));
    kept.set(key, known);
    return known;
  };
};

/** Of one with several ports the latest way counts: what comes by the others waits for it. */
const insertDelay = (
  { sendPortIds, returnPortIds }: Extract<Processor, { readonly kind: "insert" }>,
  { insertSamples }: DelayContext,
): number => {
  const ways = Math.max(1, sendPortIds.length, returnPortIds.length);
  return Math.max(
    ...Array.from({ length: ways }, (_, at) =>
      insertSamples(sendPortIds[at] ?? sendPortIds[0] ?? null, returnPortIds[at] ?? returnPortIds[0] ?? null),
    ),
  );
};

/** How far a limiter or gate hears ahead, in samples, rounded: so long it holds back what passes. */
const lookaheadSamples = (processor: Processor, rateHz: number): number =>
  processor.kind === "limiter" || processor.kind === "gate" ? Math.round((processor.lookaheadMs * rateHz) / 1000) : 0;

/**
 * How late a processor is at a rate, in samples: its own figure for single, double and quadruple rates, which holds its
 * look-ahead; where that is less, or nobody typed one, the look-ahead. A hardware insert costs a whole round trip
 * besides.
 */
export const processorDelay = (processor: Processor, context: DelayContext): number => {
  const { delaySamples, delayDoubleSamples, delayQuadrupleSamples } = processor;
  const { rateHz } = context;
  const typed =
    rateHz <= 48000
      ? delaySamples
      : rateHz <= 96000
        ? (delayDoubleSamples ?? delaySamples)
        : (delayQuadrupleSamples ?? delayDoubleSamples ?? delaySamples);
  return (
    Math.max(typed, lookaheadSamples(processor, rateHz)) +
    (processor.kind === "insert" ? insertDelay(processor, context) : 0)
  );
};

/** How many samples a chain makes late: those of all its processors; of a split the longer branch. */
export const chainSamples = (processors: readonly Processor[], context: DelayContext): number => {
  const branch = (of: readonly Processor[]): number =>
    of.reduce((sum, processor) => sum + processorDelay(processor, context), 0);
  return stepsOf(processors).reduce(
    (sum, { processor, first, second }) =>
      sum + processorDelay(processor, context) + Math.max(branch(first), branch(second)),
    0,
  );
};
