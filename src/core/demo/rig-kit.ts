import type { BankId, DeviceId, LinkId, MicrophoneId, PortId, RigId, WireId } from "../model/ids";
import {
  type Device,
  type DeviceKind,
  type DeviceTiming,
  type DigitalLink,
  type Microphone,
  type MicrophoneKind,
  type PhantomBank,
  type Port,
  phantomAttitude,
  RIG_SCHEMA,
  type Rig,
  type Wire,
} from "../model/rig";
import { dB } from "../units/decibels";

/** Ids say what they name ("brindle:in:7"), so that the same socket has the same id in every rig it stands in, and templates move between rigs. */
export const portId = (device: string, direction: "in" | "out", number: number): PortId => `${device}:${direction}:${number}` as PortId;
const bankId = (device: string, name: string): BankId => `${device}:bank:${name}` as BankId;

/** What a device brings to a rig. */
export interface Bundle {
  readonly device: Device;
  readonly ports: readonly Port[];
  readonly banks: readonly PhantomBank[];
  readonly links: readonly DigitalLink[];
  readonly timing: readonly DeviceTiming[];
}

interface PortRun {
  readonly device: string;
  readonly direction: "in" | "out";
  readonly from: number;
  readonly to: number;
  readonly connector: Port["connector"];
  readonly levels: Port["levels"];
  readonly phantom?: "own" | { readonly bank: string };
  readonly padDb?: number;
  readonly gainDb?: readonly [number, number];
  readonly fullScaleDbu?: number;
  /** Running number of the first port; absent where the computer does not see them. */
  readonly running?: number;
  readonly link?: LinkId;
  readonly names?: (number: number) => string;
}

const supply = (device: string, phantom: PortRun["phantom"]): Port["phantom"] => {
  if (phantom === undefined) return { kind: "none" };
  return phantom === "own" ? { kind: "own" } : { kind: "bank", bankId: bankId(device, phantom.bank) };
};

/** A run of like ports. Odd and even neighbours make stereo pairs. */
export const ports = (run: PortRun): Port[] =>
  Array.from({ length: run.to - run.from + 1 }, (_, at) => {
    const number = run.from + at;
    const neighbour = number % 2 === 1 ? number + 1 : number - 1;
    return {
      id: portId(run.device, run.direction, number),
      deviceId: run.device as DeviceId,
      direction: run.direction,
      number,
      name: run.names?.(number) ?? "",
      connector: run.connector,
      levels: run.levels,
      phantom: supply(run.device, run.phantom),
      padDb: run.padDb === undefined ? null : dB(run.padDb),
      gainDb: run.gainDb ? { min: dB(run.gainDb[0]), max: dB(run.gainDb[1]) } : null,
      fullScaleDbu: run.fullScaleDbu === undefined ? null : dB(run.fullScaleDbu),
      neighbourId: portId(run.device, run.direction, neighbour),
      running: run.running === undefined ? null : run.running + at,
      carriedBy: run.link ? { linkId: run.link, channel: at + 1 } : null,
    };
  });

export const bank = (device: string, name: string, label = name): PhantomBank => ({ id: bankId(device, name), deviceId: device as DeviceId, name: label });

export const device = (id: string, kind: DeviceKind, [name, shortName, order]: readonly [string, string, number]): Device => ({ id: id as DeviceId, kind, name, shortName, order });

/** Wires outputs of one device to inputs of another, in ascending order. */
export const wires = (from: readonly [device: string, first: number], to: readonly [device: string, first: number], count: number): Wire[] =>
  Array.from({ length: count }, (_, at) => {
    const [fromPortId, toPortId] = [portId(from[0], "out", from[1] + at), portId(to[0], "in", to[1] + at)];
    return { id: `${fromPortId}>${toPortId}` as WireId, fromPortId, toPortId };
  });

export const microphone = (id: string, kind: MicrophoneKind, [name, sensitivityMvPerPa, count]: readonly [string, number | null, number]): Omit<Microphone, "order"> => ({
  id: id as MicrophoneId,
  name,
  kind,
  phantom: phantomAttitude(kind),
  sensitivityMvPerPa,
  count,
});

const byId = <T extends { readonly id: string }>(items: readonly T[]): Record<string, T> => Object.fromEntries(items.map((item) => [item.id, item]));

interface Assembly {
  readonly id: string;
  readonly name: string;
  readonly bundles: readonly Bundle[];
  readonly wires: readonly Wire[];
  readonly shelf: readonly Omit<Microphone, "order">[];
}

/** Puts a rig together from what its devices bring. */
export const assemble = ({ id, name, bundles, wires: wiring, shelf }: Assembly): Rig => ({
  schema: RIG_SCHEMA,
  id: id as RigId,
  name,
  devices: byId(bundles.map((bundle) => bundle.device)),
  ports: byId(bundles.flatMap((bundle) => bundle.ports)),
  banks: byId(bundles.flatMap((bundle) => bundle.banks)),
  links: byId(bundles.flatMap((bundle) => bundle.links)),
  wires: byId(wiring),
  microphones: byId(shelf.map((item, order) => ({ ...item, order }))),
  timing: Object.fromEntries(bundles.flatMap((bundle) => bundle.timing).map((timing) => [timing.deviceId, timing])),
});
