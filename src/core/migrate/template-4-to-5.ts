import { type Loose, mapTable } from "./loose";

const MIXED = { trimDb: 0, faderDb: 0 };
const PASSING = { pan: 0, muted: false, parked: false };

/**
 * Fields of entries that version 4 did not have, with what held until then: every fader at 0 dB, nothing panned, muted
 * or parked, and folders that sum nothing.
 */
export const completed = (table: string, entry: Loose): Loose => {
  if (table === "folders") return { ...entry, busId: null };
  if (table === "channels") return { ...entry, ...MIXED, ...(entry.kind === "track" ? PASSING : {}) };
  return entry;
};

/** Version 4 knew tracks and one main bus only. */
export const fourToFive = (doc: Loose): Loose => ({
  ...doc,
  schema: 5,
  channels: mapTable(doc.channels, (channel) => completed("channels", channel)),
  folders: mapTable(doc.folders, (folder) => completed("folders", folder)),
  sends: {},
});
