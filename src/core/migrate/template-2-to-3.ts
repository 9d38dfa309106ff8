import { type Loose, mapTable } from "./loose";

/** Version 2 knew no pad, polarity, planned gain and room of a line, and no findings that were accepted. */
export const twoToThree = (doc: Loose): Loose => ({
  ...doc,
  schema: 3,
  lines: mapTable(doc.lines, (line) => ({ ...line, pad: false, polarityInverted: false, gainDb: null, room: "" })),
  accepted: {},
});
