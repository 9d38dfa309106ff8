import { listOf } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { ProcessorKind } from "../model/tables/processor-settings";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { runningPass } from "../queries/cues";

/**
 * What a kind of processor costs for each sample, in nanoseconds: estimates, used where nobody has typed a measured
 * figure.
 */
export const ESTIMATED_COST_NS: { readonly [K in ProcessorKind]: number } = {
  gain: 2,
  filter: 15,
  equaliser: 60,
  gate: 60,
  compressor: 90,
  "de-esser": 120,
  limiter: 160,
  saturation: 200,
  amplifier: 900,
  tuner: 150,
  delay: 40,
  reverb: 700,
  insert: 5,
  split: 4,
  notes: 1,
  other: 150,
};

/** What a channel costs for each sample besides its processors: mixing and metering, in nanoseconds. */
export const CHANNEL_COST_NS = 12;

export interface Costs {
  /** Each turn, whatever is in it, in microseconds. */
  readonly fixedUs: number;
  /** All that is on, for each sample, in nanoseconds. */
  readonly perSampleNs: number;
  /** How many processors are on, and of how many of them the cost was typed in. */
  readonly processors: number;
  readonly measured: number;
}

/**
 * What a template costs the computer: while recording without what is off then, while mixing with all that is not
 * bypassed. Parked channels cost nothing, nor while recording what the running pass parks.
 */
export const costsOf = (
  doc: Pick<Template, "channels" | "processors" | "buffers" | "passes">,
  { recording }: { readonly recording: boolean },
): Costs => {
  const waiting = new Set<string>(runningPass(doc)?.parkedIds ?? []);
  const channels = listOf<Channel>(doc.channels).filter(
    (channel) => channel.kind === "main" || (!channel.parked && !(recording && waiting.has(channel.id))),
  );
  const inUse = new Set<string>(channels.map(({ id }) => id));
  const on = listOf<Processor>(doc.processors).filter(
    (processor) =>
      inUse.has(processor.channelId) &&
      (recording ? isWorking(doc, processor) : !processor.bypassed && processor.use !== "listening-copy"),
  );
  return {
    fixedUs: doc.buffers.callbackUs,
    perSampleNs: on.reduce(
      (sum, { kind, costNs }) => sum + (costNs ?? ESTIMATED_COST_NS[kind]),
      channels.length * CHANNEL_COST_NS,
    ),
    processors: on.length,
    measured: on.filter(({ costNs }) => costNs !== null).length,
  };
};

/**
 * How much of its time the computer uses at a buffer of N samples, 1 being all of it: `(fixed + Σ cost per sample·N) /
 * (N/fs)`.
 */
export const loadAt = ({ fixedUs, perSampleNs }: Costs, bufferSamples: number, rateHz: number): number =>
  (fixedUs * 1e-6 + perSampleNs * 1e-9 * bufferSamples) / (bufferSamples / rateHz);

/** The smallest buffer offered with a load under the ceiling, for recording; null where none holds. */
export const smallestHolding = (
  costs: Costs,
  offered: readonly number[],
  at: { readonly rateHz: number; readonly ceiling: number },
): number | null => offered.find((samples) => loadAt(costs, samples, at.rateHz) < at.ceiling) ?? null;
