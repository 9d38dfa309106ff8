import { mapTable } from "./loose";

/** Processors of before were as late at every rate, and their cost was not known. */
export const withCosts = (processors: unknown) =>
  mapTable(processors, (processor) => ({
    ...processor,
    delayDoubleSamples: null,
    delayQuadrupleSamples: null,
    costNs: null,
  }));
