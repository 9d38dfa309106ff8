import type { ProcessorOf } from "../model/tables/chain-processors";
import { processorName } from "../model/tables/processor-names";
import { thresholdForReduction } from "../processors/dynamics";
import { readDecibels } from "../reading/read-cells";
import { dB, formatDb } from "../units/decibels";
import { type Planned, planned, unplanned } from "./gesture";

/**
 * The threshold that follows from how much a compressor should take off at a level; its range is widened where it would
 * hold it back.
 */
export const wantReduction = (
  processor: ProcessorOf<"compressor">,
  { text, levelDb }: { readonly text: string; readonly levelDb: number },
): Planned => {
  const read = readDecibels(text.trim().replace(/^[-−]/, ""), { min: 0, max: 40 });
  if (!read || read.db === null) return unplanned(`“${text.trim()}” is no reduction from 0 to 40 dB.`);
  const threshold = thresholdForReduction({
    reductionDb: read.db,
    ratio: processor.ratio,
    kneeDb: processor.kneeDb,
    levelDb,
  });
  if (threshold === null)
    return unplanned(
      `At a ratio of 1 the ${processorName(processor).toLowerCase()} takes nothing off: set the ratio first.`,
    );
  const thresholdDb = dB(Math.round(threshold * 100) / 100);
  if (thresholdDb < -80 || thresholdDb > 0)
    return unplanned(
      `That would need a threshold of ${formatDb(thresholdDb)}, and it goes from −80 to 0 dB. Take another ratio.`,
    );
  const rangeDb = read.db > processor.rangeDb ? { rangeDb: read.db } : {};
  return planned(
    [{ kind: "entries.set", table: "processors", ids: [processor.id], set: { thresholdDb, ...rangeDb } }],
    `Let the ${processorName(processor).toLowerCase()} take ${formatDb(read.db)} off`,
  );
};
