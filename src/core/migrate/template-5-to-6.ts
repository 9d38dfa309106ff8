import { type Loose, mapTable } from "./loose";

const PASSING = { gangId: null, pastEndDb: 0, controlIds: [] };

/**
 * Version 5 had no processors, side-chains, gangs and control faders: nothing is processed, turned over or held, and
 * what is recorded is what comes in.
 */
export const fiveToSix = (doc: Loose): Loose => ({
  ...doc,
  schema: 6,
  channels: mapTable(doc.channels, (channel) => ({
    ...channel,
    polarityTurned: false,
    ...(channel.kind === "main" ? {} : PASSING),
    ...(channel.kind === "track" ? { recordPoint: "before" } : {}),
    ...(channel.kind === "bus" || channel.kind === "return" ? { fold: "sum" } : {}),
  })),
  mix: { panLawDb: -3, mutesBefore: false, sendTap: "after" },
  processors: {},
  bands: {},
  sideChains: {},
  gangs: {},
  controls: {},
});
