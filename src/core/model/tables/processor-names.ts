import type { ProcessorKind } from "./processor-settings";

/** What a kind of processor is called. */
export const KIND_WORDS: { readonly [K in ProcessorKind]: string } = {
  gain: "Gain",
  filter: "Filter",
  equaliser: "Equaliser",
  gate: "Gate",
  compressor: "Compressor",
  "de-esser": "De-esser",
  limiter: "Limiter",
  saturation: "Saturation",
  amplifier: "Amplifier",
  tuner: "Tuner",
  delay: "Delay",
  reverb: "Reverb",
  insert: "Hardware insert",
  split: "Split",
  notes: "Notes",
  other: "Other",
};

interface Named {
  readonly name: string;
  readonly kind: ProcessorKind;
  readonly pass?: string;
}

/** Its own name, else its kind; a filter by what passes. */
export const processorName = ({ name, kind, pass }: Named): string =>
  name || (kind === "filter" ? (pass === "low-pass" ? "Low-pass" : "High-pass") : KIND_WORDS[kind]);
