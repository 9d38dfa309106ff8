import type { Processor } from "../model/tables/chain-processors";
import { type ChainStep, stepsOf } from "../queries/chains";

const amplitude = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));

type Works = (processor: Processor) => boolean;

/**
 * What a processor does to the amplitude of what goes through it when it does not act: gains and make-up; inverted
 * is below 0.
 */
const ownGain = (processor: Processor): number => {
  if (processor.kind === "gain") return (processor.turned ? -1 : 1) * amplitude(processor.gainDb);
  return processor.kind === "compressor" ? amplitude(processor.makeUpDb) : 1;
};

/** So much of what comes out went through it, the rest did not. */
const shared = ({ wetPercent }: Processor, gain: number): number => 1 - wetPercent / 100 + (wetPercent / 100) * gain;

const stepGain = ({ processor, first, second }: ChainStep<Processor>, works: Works): number => {
  if (!works(processor)) return 1;
  if (processor.kind !== "split") return shared(processor, ownGain(processor));
  const branch = (of: readonly Processor[], db: number | null): number =>
    of.reduce((gain, one) => (works(one) ? gain * shared(one, ownGain(one)) : gain), amplitude(db));
  return shared(processor, branch(first, processor.firstDb) + branch(second, processor.secondDb));
};

/**
 * What a chain does to the amplitude of what passes it, at the gain it has without acting: the product of gains and
 * make-ups, each with its wet share w counted as `1 − w + w·g`; a split is the sum of its branches in amplitude. Which
 * processors count is asked; of what changes level by itself the gain without acting is taken. Below 0 where it comes
 * out inverted. Linear in the processors.
 * @example two empty branches at 0 dB: 2 (+6.02 dB); −6 dB and −∞: 0.501 (−6 dB)
 */
export const chainGain = (processors: readonly Processor[], works: Works): number =>
  stepsOf(processors).reduce((gain, step) => gain * stepGain(step, works), 1);
