import { type Loose, mapTable } from "./loose";
import { withLookahead } from "./template-7-to-8";

/** Version 4 did not say how large rooms are and how they ring, nor how far a gate hears ahead. */
export const fourthStudioToFifth = (doc: Loose): Loose => ({
  ...doc,
  schema: 5,
  rooms: mapTable(doc.rooms, (room) => ({ ...room, volumeM3: null, decayS: null })),
  processors: mapTable(doc.processors, withLookahead),
});
