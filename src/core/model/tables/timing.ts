import { SAMPLE_RATES_HZ, type SampleRateHz } from "../../units/hertz";
import { closed, type EntryOf, number } from "../describe/fields";
import { described } from "../describe/table";
import type { DeviceId } from "../ids";
import { MOST } from "../limits";
import { type ByRate, byRate } from "../rig-values";
import { number as between, list, object, orNull, whole } from "../schema-parts";

/** A converter's delay in milliseconds or in samples, as its maker states it, by rate. */
export interface ConverterDelay extends ByRate {
  readonly unit: "ms" | "samples";
}

const delay = orNull(
  object({
    unit: { enum: ["ms", "samples"] },
    single: between(0, 100_000),
    double: between(0, 100_000),
    quadruple: between(0, 100_000),
  }),
);
const margin = { schema: byRate(whole(0, 100_000)), samples: [{ single: 0, double: 0, quadruple: 0 }] };
const BUFFERS = { min: 0, max: 8, whole: true } as const;

/** What a cable from an output to an input said: the whole way round at a rate and a buffer. */
export interface Measured {
  readonly rateHz: number;
  readonly bufferSamples: number;
  readonly ms: number;
}

const MEASURED = orNull(
  object({ rateHz: { enum: SAMPLE_RATES_HZ }, bufferSamples: whole(1, 65_536), ms: between(0, 10_000) }),
);

const COUNTED = "how many buffers there are in that direction, from 0 to 8";

const FIELDS = {
  /** Null where there is no converter in that direction. */
  adc: closed<ConverterDelay | null>(
    { schema: delay, initial: null, samples: [null] },
    { word: "the input delay", cell: { heading: "Input converter", width: 104, empty: "none" } },
  ),
  dac: closed<ConverterDelay | null>(
    { schema: delay, initial: null, samples: [null] },
    { word: "the output delay", cell: { heading: "Output converter", width: 104, empty: "none" } },
  ),
  marginInSamples: closed<ByRate>(margin, { word: "the margin in", cell: { heading: "Margin in", width: 80 } }),
  marginOutSamples: closed<ByRate>(margin, { word: "the margin out", cell: { heading: "Margin out", width: 80 } }),
  buffersIn: number(BUFFERS, { word: "the buffers in", cell: { heading: "Buffers in", width: 74, ask: COUNTED } }),
  buffersOut: number(BUFFERS, { word: "the buffers out", cell: { heading: "Buffers out", width: 74, ask: COUNTED } }),
  bufferSizesSamples: closed<readonly number[]>(
    { schema: list(whole(1, 65_536), 32), initial: [], samples: [[], [64, 128]] },
    { word: "the buffer sizes", cell: { heading: "Buffer sizes offered", empty: "none" } },
  ),
  /** The rates that it works at. */
  ratesHz: closed<readonly SampleRateHz[]>(
    {
      schema: { ...list({ enum: SAMPLE_RATES_HZ }, 6), minItems: 1 },
      initial: SAMPLE_RATES_HZ,
      samples: [SAMPLE_RATES_HZ, [44100, 48000]],
    },
    { word: "the rates", cell: { heading: "Rates, kHz", width: 132 } },
  ),
  /** The model is corrected by it; null while nobody has measured. */
  measured: closed<Measured | null>(
    { schema: MEASURED, initial: null, samples: [null, { rateHz: 48000, bufferSamples: 64, ms: 5.2 }] },
    { word: "the measured delay", cell: { heading: "Loop-back measured", width: 146, empty: "not measured" } },
  ),
};

/** Converter delays, driver margins and buffers of devices as the computer sees them. The id is that of the device. */
export const TIMING = described({
  one: "delay",
  many: "delays",
  most: MOST.parts,
  alongside: "devices",
  fields: FIELDS,
  called: (timing: DeviceTiming, around) =>
    (around.entry("devices", timing.id) as { readonly name?: string } | undefined)?.name ?? null,
});

export interface DeviceTiming extends EntryOf<typeof FIELDS> {
  readonly id: DeviceId;
}
