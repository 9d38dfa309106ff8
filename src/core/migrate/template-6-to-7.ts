import { type Loose, mapTable } from "./loose";
import { withCosts } from "./processor-costs";

/**
 * Version 6 had no cues and passes, and knew nothing of buffers, of how loud a source is and of the disk: what comes in
 * is heard through the computer.
 */
export const sixToSeven = (doc: Loose): Loose => ({
  ...doc,
  schema: 7,
  lines: mapTable(doc.lines, (line) => ({ ...line, loudnessDb: null, distanceM: null, crestDb: null })),
  channels: mapTable(doc.channels, (channel) =>
    channel.kind === "track" ? { ...channel, monitor: "computer", liveApart: false, liveDb: 0 } : channel,
  ),
  processors: withCosts(doc.processors),
  buffers: { recordingSamples: 64, mixingSamples: 1024, allOff: false, ceilingPercent: 70, callbackUs: 250 },
  levels: { targetDb: -18, peakDb: -6 },
  disk: { freeGb: null, hours: 1, takes: 3 },
  cues: {},
  cueLevels: {},
  passes: {},
});
