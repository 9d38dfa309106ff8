import type { Decibels } from "../units/decibels";
import type { SampleRateHz } from "../units/hertz";
import type { BankId, DeviceId, LinkId, MicrophoneId, PortId, RigId, WireId } from "./ids";

export const RIG_SCHEMA = 1;

export const DEVICE_KINDS = ["interface", "expander", "preamp", "outboard", "headphone-amplifier"] as const;
export type DeviceKind = (typeof DEVICE_KINDS)[number];

export interface Device {
  readonly id: DeviceId;
  readonly kind: DeviceKind;
  readonly name: string;
  /** Stands before a port number in lists ("E" gives E5). Empty for the interface whose inputs are plain numbers. */
  readonly shortName: string;
  readonly order: number;
}

export const LEVELS = ["microphone", "line", "instrument"] as const;
export type Level = (typeof LEVELS)[number];

export const CONNECTORS = ["xlr", "jack", "combo", "optical"] as const;

export type PhantomSupply = { readonly kind: "none" } | { readonly kind: "own" } | { readonly kind: "bank"; readonly bankId: BankId };

/** A socket of a device. On a preamp the input takes the microphone and the output is wired onwards. */
export interface Port {
  readonly id: PortId;
  readonly deviceId: DeviceId;
  readonly direction: "in" | "out";
  readonly number: number;
  /** The engineer's own name for it; empty when it has none. */
  readonly name: string;
  readonly connector: (typeof CONNECTORS)[number];
  readonly levels: readonly Level[];
  readonly phantom: PhantomSupply;
  readonly padDb: Decibels | null;
  readonly gainDb: { readonly min: Decibels; readonly max: Decibels } | null;
  readonly fullScaleDbu: Decibels | null;
  /** The port that makes a stereo pair with this one. */
  readonly neighbourId: PortId | null;
  /** The running number under which the computer sees it; null when the computer does not (an input of an outside preamp). */
  readonly running: number | null;
  /** The digital link by which it reaches the computer, and its channel there from 1. */
  readonly carriedBy: { readonly linkId: LinkId; readonly channel: number } | null;
}

/** One switch that puts 48 V on several inputs. */
export interface PhantomBank {
  readonly id: BankId;
  readonly deviceId: DeviceId;
  readonly name: string;
}

export interface DigitalLink {
  readonly id: LinkId;
  readonly name: string;
  readonly kind: "optical" | "coaxial" | "aes3" | "madi";
  readonly fromDeviceId: DeviceId;
  readonly toDeviceId: DeviceId;
  /** Channels carried at single (44.1/48 kHz), double and quadruple rates. */
  readonly channels: { readonly single: number; readonly double: number; readonly quadruple: number };
}

export interface Wire {
  readonly id: WireId;
  readonly fromPortId: PortId;
  readonly toPortId: PortId;
}

export const MICROPHONE_KINDS = ["moving-coil", "ribbon-passive", "ribbon-active", "condenser", "di-passive", "di-active", "line-source"] as const;
export type MicrophoneKind = (typeof MICROPHONE_KINDS)[number];

export type PhantomAttitude = "needs" | "tolerates" | "endangered";

/** A microphone or box on the shelf. */
export interface Microphone {
  readonly id: MicrophoneId;
  readonly name: string;
  readonly kind: MicrophoneKind;
  readonly phantom: PhantomAttitude;
  readonly sensitivityMvPerPa: number | null;
  readonly count: number;
  readonly order: number;
}

/** Converter delays, driver margins and buffers of a device as the computer sees it. */
export interface DeviceTiming {
  readonly deviceId: DeviceId;
  readonly adcMs: number;
  readonly dacMs: number | null;
  readonly marginInSamples: number;
  readonly marginOutSamples: number;
  readonly bufferSizesSamples: readonly number[];
}

export type Table<K extends string, T> = Readonly<Record<K, T>>;

export interface Rig {
  readonly schema: typeof RIG_SCHEMA;
  readonly id: RigId;
  readonly name: string;
  readonly devices: Table<DeviceId, Device>;
  readonly ports: Table<PortId, Port>;
  readonly banks: Table<BankId, PhantomBank>;
  readonly links: Table<LinkId, DigitalLink>;
  readonly wires: Table<WireId, Wire>;
  readonly microphones: Table<MicrophoneId, Microphone>;
  readonly timing: Table<DeviceId, DeviceTiming>;
}

/** All entries of a table. Object.values loses the key's brand but not the value's type. */
export const entriesOf = <T>(table: Readonly<Record<string, T>>): T[] => Object.values(table);

/**
 * Channels a digital link carries at a rate: single rates up to 48 kHz, double up to 96, quadruple above.
 * @example linkChannels(optical, 96000) // 4 for eight-channel optical
 */
export const linkChannels = (link: DigitalLink, rateHz: SampleRateHz): number =>
  rateHz <= 48000 ? link.channels.single : rateHz <= 96000 ? link.channels.double : link.channels.quadruple;

/** What 48 V does to each kind of microphone or box. Active ones need it, a passive ribbon can be ruined by it. */
export const phantomAttitude = (kind: MicrophoneKind): PhantomAttitude => {
  switch (kind) {
    case "condenser":
    case "ribbon-active":
    case "di-active":
      return "needs";
    case "ribbon-passive":
      return "endangered";
    case "moving-coil":
    case "di-passive":
    case "line-source":
      return "tolerates";
    default:
      return kind satisfies never;
  }
};

/** The level at which a microphone or box arrives at the socket. A DI box turns an instrument into microphone level. */
export const levelOf = (kind: MicrophoneKind): Level => (kind === "line-source" ? "line" : "microphone");
