import { type Loose, mapTable } from "./loose";

/** In version 3 nobody could say which rates a device works at, nor what a loop-back had measured. */
export const rigThreeToFour = (doc: Loose): Loose => ({
  ...doc,
  schema: 4,
  timing: mapTable(doc.timing, (timing) => ({
    ...timing,
    ratesHz: [44100, 48000, 88200, 96000, 176400, 192000],
    measured: null,
  })),
});
