import { type Loose, mapTable } from "./loose";

const MIXED = { trimDb: 0, faderDb: 0, polarityTurned: false };
const HELD_BY_NOTHING = { gangId: null, pastEndDb: 0, controlIds: [] };
const PASSING = { pan: 0, muted: false, parked: false, recordPoint: "before" };

const channel = (entry: Loose): Loose => ({
  ...entry,
  ...MIXED,
  ...(entry.kind === "main" ? {} : HELD_BY_NOTHING),
  ...(entry.kind === "track" ? PASSING : {}),
});

/**
 * Version 4 knew tracks and one main bus only: every fader stands at 0 dB, folders sum nothing, nothing is sent, panned,
 * muted, processed, turned over or held, and what is recorded is what comes in. No release wrote version 5.
 */
export const fourToSix = (doc: Loose): Loose => ({
  ...doc,
  schema: 6,
  channels: mapTable(doc.channels, channel),
  folders: mapTable(doc.folders, (folder) => ({ ...folder, busId: null })),
  mix: { panLawDb: -3, mutesBefore: false, sendTap: "after" },
  sends: {},
  processors: {},
  bands: {},
  sideChains: {},
  gangs: {},
  controls: {},
});
