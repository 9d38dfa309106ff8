import type { BankId, DeviceId, LinkId, MicrophoneId, PortId, WireId } from "../model/ids";
import { type MicrophoneKind, phantomAttitude } from "../model/microphone-kinds";
import type { ByRate } from "../model/rig-values";
import type { PhantomBank } from "../model/tables/banks";
import type { Device } from "../model/tables/devices";
import type { Feed } from "../model/tables/feeds";
import type { DigitalLink } from "../model/tables/links";
import type { HardwareLoop } from "../model/tables/loops";
import type { Microphone } from "../model/tables/microphones";
import type { MidiPort } from "../model/tables/midi-ports";
import type { InterfaceMixer } from "../model/tables/mixers";
import type { Port } from "../model/tables/ports";
import type { ConverterDelay, DeviceTiming } from "../model/tables/timing";
import type { Wire } from "../model/tables/wires";
import { dB } from "../units/decibels";
import { SAMPLE_RATES_HZ } from "../units/hertz";

/**
 * Ids say what they name ("brindle:in:7"), so that the same socket has the same id in every rig it stands in, and
 * templates move between rigs.
 */
export const portId = (device: string, direction: "in" | "out", number: number): PortId =>
  `${device}:${direction}:${number}` as PortId;
const bankId = (device: string, name: string): BankId => `${device}:bank:${name}` as BankId;

/** What a device brings to a rig, ready to be added in the order in which it is listed. */
export interface Bundle {
  readonly devices: readonly [Omit<Device, "order">];
  readonly ports: readonly Port[];
  readonly banks?: readonly PhantomBank[];
  readonly links?: readonly Omit<DigitalLink, "order">[];
  readonly timing?: readonly DeviceTiming[];
  readonly mixers?: readonly InterfaceMixer[];
  readonly midiPorts?: readonly MidiPort[];
}

export interface PortRun {
  readonly device: string;
  readonly direction: "in" | "out";
  readonly from: number;
  readonly to: number;
  readonly connector: Port["connector"];
  readonly levels: Port["levels"];
  readonly role?: Port["role"];
  readonly phantom?: "own" | { readonly bank: string };
  readonly padDb?: number;
  readonly gainDb?: readonly [number, number];
  readonly fullScaleDbu?: number;
  readonly maxInputDbu?: number;
  readonly names?: (number: number) => string;
}

const supply = (device: string, phantom: PortRun["phantom"]): Port["phantom"] => {
  if (phantom === undefined) return { kind: "none" };
  return phantom === "own" ? { kind: "own" } : { kind: "bank", bankId: bankId(device, phantom.bank) };
};

/** A run of like ports. Odd and even neighbours make stereo pairs; the last of an odd count stands alone. */
export const ports = (run: PortRun): Port[] =>
  Array.from({ length: run.to - run.from + 1 }, (_, at) => {
    const number = run.from + at;
    const neighbour = number % 2 === 1 ? number + 1 : number - 1;
    const paired = neighbour >= run.from && neighbour <= run.to;
    const idOf = (n: number) =>
      run.role === "loop-back" ? (`${run.device}:loop:${n}` as PortId) : portId(run.device, run.direction, n);
    return {
      id: idOf(number),
      deviceId: run.device as DeviceId,
      direction: run.direction,
      number,
      name: run.names?.(number) ?? "",
      role: run.role ?? "plain",
      connector: run.connector,
      levels: run.levels,
      phantom: supply(run.device, run.phantom),
      padDb: run.padDb === undefined ? null : dB(run.padDb),
      gainDb: run.gainDb ? { min: dB(run.gainDb[0]), max: dB(run.gainDb[1]) } : null,
      fullScaleDbu: run.fullScaleDbu === undefined ? null : dB(run.fullScaleDbu),
      maxInputDbu: run.maxInputDbu === undefined ? null : dB(run.maxInputDbu),
      neighbourId: paired ? idOf(neighbour) : null,
      running: null,
      carriedBy: null,
    };
  });

export const bank = (device: string, name: string, label = name): PhantomBank => ({
  id: bankId(device, name),
  deviceId: device as DeviceId,
  name: label,
});

const same = (figure: number): ByRate => ({ single: figure, double: figure, quadruple: figure });
const ms = (figure: number | null): ConverterDelay | null => (figure === null ? null : { unit: "ms", ...same(figure) });

/** Converter delays in ms, margins in samples, buffer sizes offered; the same at every rate. */
export const timing = (
  device: string,
  delays: {
    readonly adc: number | null;
    readonly dac: number | null;
    readonly margin?: number;
    readonly buffers?: readonly number[];
  },
): DeviceTiming => ({
  id: device as DeviceId,
  adc: ms(delays.adc),
  dac: ms(delays.dac),
  marginInSamples: same(delays.margin ?? 0),
  marginOutSamples: same(delays.margin ?? 0),
  buffersIn: delays.buffers ? 1 : 0,
  buffersOut: delays.buffers ? 1 : 0,
  bufferSizesSamples: delays.buffers ?? [],
  ratesHz: SAMPLE_RATES_HZ,
  measured: null,
});

export const link = (
  device: string,
  [id, name, kind, single]: readonly [string, string, DigitalLink["kind"], number],
): Omit<DigitalLink, "order"> => ({
  id: `${device}:${id}` as LinkId,
  name,
  kind,
  fromDeviceId: null,
  toDeviceId: device as DeviceId,
  channels: { single, double: Math.floor(single / 2), quadruple: Math.floor(single / 4) },
});

/** Wires outputs of one device to inputs of another, in ascending order. */
export const wires = (
  from: readonly [device: string, first: number],
  to: readonly [device: string, first: number],
  count: number,
): Wire[] =>
  Array.from({ length: count }, (_, at) => {
    const [fromPortId, toPortId] = [portId(from[0], "out", from[1] + at), portId(to[0], "in", to[1] + at)];
    return { id: `${fromPortId}>${toPortId}` as WireId, fromPortId, toPortId };
  });

export const microphone = (
  id: string,
  kind: MicrophoneKind,
  [name, sensitivityMvPerPa, count, maxSplDb = null]: readonly [string, number | null, number, (number | null)?],
): Omit<Microphone, "order"> => ({
  id: id as MicrophoneId,
  name,
  kind,
  phantom: phantomAttitude(kind),
  sensitivityMvPerPa,
  maxSplDb,
  capsules: [],
  count,
});

export const feed = (
  id: string,
  kind: Feed["kind"],
  [name, who]: readonly [string, string],
  portIds: readonly PortId[],
): Omit<Feed, "order"> => ({
  id: id as Feed["id"],
  kind,
  name,
  who,
  portIds,
});

export const loop = (
  id: string,
  name: string,
  sendPortIds: readonly PortId[],
  returnPortIds: readonly PortId[],
): HardwareLoop => ({
  id: id as HardwareLoop["id"],
  name,
  sendPortIds,
  returnPortIds,
});
