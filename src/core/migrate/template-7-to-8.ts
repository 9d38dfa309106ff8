import { type Loose, mapTable, tableOf } from "./loose";

/**
 * Version 7 did not say what takes are written as, nor how far a gate hears ahead, and forgot where a gang stood that
 * went to −∞.
 */
export const sevenToEight = (doc: Loose): Loose => ({
  ...doc,
  schema: 8,
  format: { ...tableOf(doc.format), fileType: "wav" },
  channels: mapTable(doc.channels, (channel) =>
    channel.kind === "main" ? channel : { ...channel, beforeSilenceDb: null },
  ),
  processors: mapTable(doc.processors, withLookahead),
});

/** Gates of before heard nothing ahead. */
export const withLookahead = (processor: Loose): Loose =>
  processor.kind === "gate" ? { ...processor, lookaheadMs: 0 } : processor;
