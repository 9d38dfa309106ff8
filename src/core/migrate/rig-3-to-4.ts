import { type Loose, mapTable } from "./loose";

/** In version 3 nobody could say what a loop-back had measured. */
export const rigThreeToFour = (doc: Loose): Loose => ({ ...doc, schema: 4, timing: mapTable(doc.timing, (timing) => ({ ...timing, measured: null })) });
