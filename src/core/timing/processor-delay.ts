import type { Processor } from "../model/tables/chain-processors";
import type { Template } from "../model/template";
import { stepsOf } from "../queries/chains";
import type { SampleRateHz } from "../units/hertz";

/** What the delay of a processor depends on besides itself. */
export interface DelayContext {
  readonly rateHz: SampleRateHz;
  /** Samples that a hardware insert costs: one whole round trip. */
  readonly insertSamples: number;
}

/** Whether a processor works while a take runs: not bypassed, meant to be on then, and effects are not switched off as a whole. */
export const isWorking = ({ buffers }: Pick<Template, "buffers">, { bypassed, use }: Processor): boolean => !bypassed && use === "always" && !buffers.allOff;

/** How late a processor is at a rate, in samples: its own figure for single, double and quadruple rates, and for a hardware insert a whole round trip besides. */
export const processorDelay = ({ kind, delaySamples, delayDoubleSamples, delayQuadrupleSamples }: Processor, { rateHz, insertSamples }: DelayContext): number => {
  const own = rateHz <= 48000 ? delaySamples : rateHz <= 96000 ? (delayDoubleSamples ?? delaySamples) : (delayQuadrupleSamples ?? delayDoubleSamples ?? delaySamples);
  return own + (kind === "insert" ? insertSamples : 0);
};

/** How many samples a chain makes late: those of all its processors; of a split the longer branch. */
export const chainSamples = (processors: readonly Processor[], context: DelayContext): number => {
  const branch = (of: readonly Processor[]): number => of.reduce((sum, processor) => sum + processorDelay(processor, context), 0);
  return stepsOf(processors).reduce((sum, { processor, first, second }) => sum + processorDelay(processor, context) + Math.max(branch(first), branch(second)), 0);
};
