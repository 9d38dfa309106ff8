import { type Loose, mapTable } from "./loose";

/** In version 4 nobody could say how loud a microphone may be sung at, nor how strong a level a preamp takes. */
export const rigFourToFive = (doc: Loose): Loose => ({
  ...doc,
  schema: 5,
  microphones: mapTable(doc.microphones, (microphone) => ({ ...microphone, maxSplDb: null })),
  ports: mapTable(doc.ports, (port) => ({ ...port, maxInputDbu: null })),
});
