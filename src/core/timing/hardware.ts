import type { PortId } from "../model/ids";
import { perDocument } from "../model/per-document";
import { devicesOf } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { atRate } from "../model/rig-values";
import type { InterfaceMixer } from "../model/tables/mixers";
import type { ConverterDelay, DeviceTiming } from "../model/tables/timing";
import { mixerFor } from "../queries/direct";
import { SAMPLE_RATES_HZ, type SampleRateHz } from "../units/hertz";
import { samplesToMs } from "../units/milliseconds";

/** Rate and buffer that the computer works at. */
export interface Working {
  readonly rateHz: SampleRateHz;
  /** Samples. */
  readonly bufferSamples: number;
}

/** What a sound passes between a socket and the computer's processing, on both sides. */
export interface Hardware extends Working {
  readonly adcMs: number;
  readonly dacMs: number;
  readonly buffersIn: number;
  readonly buffersOut: number;
  readonly marginInSamples: number;
  readonly marginOutSamples: number;
  /** What a measured loop-back said beyond the model; 0 where nobody has measured. */
  readonly correctionSamples: number;
}

/**
 * Samples between the converters, without any chain: buffers in and out, margins, and what was measured beyond them.
 */
export const bufferedSamples = (at: Hardware): number =>
  at.buffersIn * at.bufferSamples +
  at.buffersOut * at.bufferSamples +
  at.marginInSamples +
  at.marginOutSamples +
  at.correctionSamples;

/**
 * How late a sound comes out that went in through the computer, in ms: `samples = buffersIn·N + buffersOut·N + marginIn
 * + marginOut + chain`, `ms = 1000·samples/fs + adcMs + dacMs`.
 * @example 48 kHz, N 64, one buffer each way, margins 24/24, ADC 0.35, DAC 0.45 ms, no chain: 4.4667
 */
export const roundTripMs = (at: Hardware, chainSamples = 0): number =>
  samplesToMs(bufferedSamples(at) + chainSamples, at.rateHz) + at.adcMs + at.dacMs;

/** The same in samples, rounded up: what a hardware insert costs besides what hangs on it. */
export const roundTripSamples = (at: Hardware): number => Math.ceil((roundTripMs(at) * at.rateHz) / 1000 - 1e-9);

const converterMs = (delay: ConverterDelay | null | undefined, rateHz: SampleRateHz): number => {
  if (!delay) return 0;
  const figure = atRate(delay, rateHz);
  return delay.unit === "ms" ? figure : samplesToMs(figure, rateHz);
};

/**
 * The device by which the computer works: the first interface that says which buffers it offers, else the first with
 * any delay.
 */
const driving = perDocument((rig: Rig): DeviceTiming | null => {
  const timings = devicesOf(rig).flatMap(({ id }) => rig.timing[id] ?? []);
  return timings.find(({ bufferSizesSamples }) => bufferSizesSamples.length) ?? timings[0] ?? null;
});

/** The buffer sizes that a rig offers, from the smallest. */
export const buffersOffered = (rig: Rig): readonly number[] =>
  [...(driving(rig)?.bufferSizesSamples ?? [])].sort((a, b) => a - b);

/** The rates that a rig works at. */
export const ratesOffered = (rig: Rig): readonly SampleRateHz[] => driving(rig)?.ratesHz ?? SAMPLE_RATES_HZ;

const deviceTiming = (rig: Rig, portId: PortId | null | undefined): DeviceTiming | null => {
  const port = portId ? rig.ports[portId] : undefined;
  return port ? (rig.timing[port.deviceId] ?? null) : null;
};

/** What the model says without a correction. */
const modelled = (
  rig: Rig,
  ends: { readonly in?: PortId | null; readonly out?: PortId | null },
  { rateHz, bufferSamples }: Working,
): Hardware => {
  const driver = driving(rig);
  const [input, output] = [deviceTiming(rig, ends.in) ?? driver, deviceTiming(rig, ends.out) ?? driver];
  return {
    rateHz,
    bufferSamples,
    adcMs: converterMs(input?.adc, rateHz),
    dacMs: converterMs(output?.dac, rateHz),
    buffersIn: driver?.buffersIn ?? 0,
    buffersOut: driver?.buffersOut ?? 0,
    marginInSamples: driver ? atRate(driver.marginInSamples, rateHz) : 0,
    marginOutSamples: driver ? atRate(driver.marginOutSamples, rateHz) : 0,
    correctionSamples: 0,
  };
};

/**
 * By how many samples a measured loop-back differs from the model at the rate and buffer at which it was measured:
 * `(measured − modelled)·fs/1000`, rounded. Taken for what the driver does not tell, which is a number of samples, and
 * so added at every rate and buffer. Negative where the model said too much.
 */
export const correctionOf = (rig: Rig): number => {
  const measured = driving(rig)?.measured;
  if (!measured) return 0;
  const at = modelled(rig, {}, { rateHz: measured.rateHz as SampleRateHz, bufferSamples: measured.bufferSamples });
  return Math.round(((measured.ms - roundTripMs(at)) * measured.rateHz) / 1000);
};

const correction = perDocument(correctionOf);

/**
 * What a sound passes from an input of the rig to an output of it, the converters of each by its device, buffers and
 * margins by the interface.
 */
export const hardwareOf = (
  rig: Rig,
  ends: { readonly in?: PortId | null; readonly out?: PortId | null },
  working: Working,
): Hardware => ({
  ...modelled(rig, ends, working),
  correctionSamples: correction(rig),
});

/** A way past the computer: an input is brought to an output by the interface's own mixer. */
export interface DirectWay {
  readonly mixer: InterfaceMixer;
  readonly adcMs: number;
  readonly mixerMs: number;
  readonly dacMs: number;
}

/**
 * The way of an input to an output through the mixer of an interface; null where none can bring it there. The delay
 * that a mixer states is the whole way from socket to socket with its own converters; of an input of another device
 * that one's converter counts in place of its own.
 * @example an interface that states 0.9 ms with ADC 0.30 and DAC 0.32: 0.30 + 0.28 + 0.32
 */
export const directWay = (
  rig: Rig,
  portId: PortId | null,
  outId: PortId | null,
  rateHz: SampleRateHz,
): DirectWay | null => {
  const mixer = mixerFor(rig, portId, outId);
  if (!mixer) return null;
  const own = rig.timing[mixer.deviceId];
  const [ownAdc, dacMs] = [converterMs(own?.adc, rateHz), converterMs(own?.dac, rateHz)];
  return {
    mixer,
    adcMs: converterMs(deviceTiming(rig, portId)?.adc, rateHz),
    mixerMs: Math.max(0, mixer.delayMs - ownAdc - dacMs),
    dacMs,
  };
};
