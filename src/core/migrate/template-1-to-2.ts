import { type Loose, mapTable } from "./loose";

const trackInput = (lineIds: unknown): Loose => {
  const [leftId, rightId] = Array.isArray(lineIds) ? lineIds : [];
  if (rightId) return { kind: "pair", leftId, rightId };
  return leftId ? { kind: "line", lineId: leftId } : { kind: "none" };
};

const channel = (entry: Loose): Loose => {
  if (entry.kind !== "track") return entry;
  const { lineIds, ...rest } = entry;
  return { ...rest, input: trackInput(lineIds), sharing: null };
};

/**
 * Version 1 kept the lines of a track as a list (`lineIds`), which did not say left or right, could not say how tracks
 * share a line, and knew no input that the rig lacks (`wanted`) and no position of the microphone.
 */
export const oneToTwo = (doc: Loose): Loose => ({
  ...doc,
  schema: 2,
  lines: mapTable(doc.lines, (line) => ({ ...line, wanted: null, position: "" })),
  channels: mapTable(doc.channels, channel),
});
