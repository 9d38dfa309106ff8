import type { Decibels } from "../units/decibels";
import type { SampleRateHz } from "../units/hertz";
import type { BankId, DeviceId, FeedId, LinkId, LoopId, MicrophoneId, MidiPortId, MixerId, PortId, ProcessorId, RigId, WireId } from "./ids";

export const RIG_SCHEMA = 2;

export const DEVICE_KINDS = ["interface", "expander", "preamp", "outboard", "headphone-amplifier"] as const;
export type DeviceKind = (typeof DEVICE_KINDS)[number];

/** How a device is clocked. An analogue one is not; of the others one leads and the rest follow it, each through a link. */
export type Clock = { readonly kind: "none" } | { readonly kind: "leads" } | { readonly kind: "follows"; readonly linkId: LinkId | null };

export interface Device {
  readonly id: DeviceId;
  readonly kind: DeviceKind;
  readonly name: string;
  /** Stands before a port number in lists ("E" gives E5). Empty for the interface whose inputs are plain numbers. */
  readonly shortName: string;
  readonly order: number;
  readonly clock: Clock;
}

export const LEVELS = ["microphone", "line", "instrument"] as const;
export type Level = (typeof LEVELS)[number];

export const CONNECTORS = ["xlr", "jack", "combo", "optical", "none"] as const;

/** What a port is for besides sound going in or out: headphones, or sound of other programs and far guests coming back in. */
export const PORT_ROLES = ["plain", "headphones", "loop-back"] as const;

export type PhantomSupply = { readonly kind: "none" } | { readonly kind: "own" } | { readonly kind: "bank"; readonly bankId: BankId };

/** A socket of a device. On a preamp the input takes the microphone and the output is wired onwards. */
export interface Port {
  readonly id: PortId;
  readonly deviceId: DeviceId;
  readonly direction: "in" | "out";
  readonly number: number;
  /** The engineer's own name for it; empty when it has none. */
  readonly name: string;
  readonly role: (typeof PORT_ROLES)[number];
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

export const LINK_KINDS = ["optical", "coaxial", "aes3", "madi", "word-clock"] as const;

/** A figure for single (44.1/48 kHz), double and quadruple rates. */
export interface ByRate {
  readonly single: number;
  readonly double: number;
  readonly quadruple: number;
}

/** A digital socket of an interface, in and out, and what is plugged into it. Word clock carries no channels. */
export interface DigitalLink {
  readonly id: LinkId;
  readonly name: string;
  readonly kind: (typeof LINK_KINDS)[number];
  /** The device plugged in; null while the socket is free. */
  readonly fromDeviceId: DeviceId | null;
  readonly toDeviceId: DeviceId;
  readonly channels: ByRate;
  readonly order: number;
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
  /** Capsules it can carry, by name; empty when it has but one. */
  readonly capsules: readonly string[];
  readonly count: number;
  readonly order: number;
}

/** A converter's delay in milliseconds or in samples, as its maker states it, by rate. */
export interface ConverterDelay extends ByRate {
  readonly unit: "ms" | "samples";
}

/** Converter delays, driver margins and buffers of a device as the computer sees it. The id is that of the device. */
export interface DeviceTiming {
  readonly id: DeviceId;
  /** Null where there is no converter in that direction. */
  readonly adc: ConverterDelay | null;
  readonly dac: ConverterDelay | null;
  readonly marginInSamples: ByRate;
  readonly marginOutSamples: ByRate;
  readonly buffersIn: number;
  readonly buffersOut: number;
  readonly bufferSizesSamples: readonly number[];
}

export const FEED_KINDS = ["monitors", "headphones", "room-loudspeaker", "amplifier"] as const;

/** What outputs lead to: a set of monitors, somebody's headphones, the loudspeaker of a room, an amplifier to record again through. */
export interface Feed {
  readonly id: FeedId;
  readonly name: string;
  readonly kind: (typeof FEED_KINDS)[number];
  readonly portIds: readonly PortId[];
  /** Who wears the headphones, or which room hears it. */
  readonly who: string;
  readonly order: number;
}

/** A hardware send and its return: out to a box or a room, and back in. */
export interface HardwareLoop {
  readonly id: LoopId;
  readonly name: string;
  readonly sendPortIds: readonly PortId[];
  readonly returnPortIds: readonly PortId[];
}

/** The mixer inside an interface. Direct monitoring is a path through it. */
export interface InterfaceMixer {
  readonly id: MixerId;
  readonly deviceId: DeviceId;
  /** Inputs it can bring to its mixes; empty: every one that reaches the interface. */
  readonly inputIds: readonly PortId[];
  readonly mixes: number;
  readonly mixLayout: "mono" | "stereo";
  readonly delayMs: number;
  /** What it holds, named by kind: "reverb", "compressor". */
  readonly processing: readonly string[];
  /** Whether that processing is recorded, or only heard. */
  readonly recorded: boolean;
}

export const MIDI_USAGES = ["nothing", "keyboard", "pads", "pedal", "instrument", "surface"] as const;

/** A MIDI port and what hangs on it. The sound of an outside instrument comes back on inputs. */
export interface MidiPort {
  readonly id: MidiPortId;
  readonly deviceId: DeviceId;
  readonly direction: "in" | "out";
  readonly number: number;
  readonly usage: (typeof MIDI_USAGES)[number];
  readonly name: string;
  readonly returnPortIds: readonly PortId[];
}

/** A processor installed on the computer here, so that a template can say what is missing. */
export interface InstalledProcessor {
  readonly id: ProcessorId;
  readonly name: string;
  readonly version: string;
  readonly kind: string;
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
  readonly feeds: Table<FeedId, Feed>;
  readonly loops: Table<LoopId, HardwareLoop>;
  readonly mixers: Table<MixerId, InterfaceMixer>;
  readonly midiPorts: Table<MidiPortId, MidiPort>;
  readonly processors: Table<ProcessorId, InstalledProcessor>;
  /** How far the dim button takes the monitors down. */
  readonly dimDb: Decibels;
}

export const RIG_TABLES = ["devices", "ports", "banks", "links", "wires", "microphones", "timing", "feeds", "loops", "mixers", "midiPorts", "processors"] as const;
export type RigTable = (typeof RIG_TABLES)[number];

export const emptyRig = (id: RigId, name: string): Rig => ({
  schema: RIG_SCHEMA,
  id,
  name,
  devices: {},
  ports: {},
  banks: {},
  links: {},
  wires: {},
  microphones: {},
  timing: {},
  feeds: {},
  loops: {},
  mixers: {},
  midiPorts: {},
  processors: {},
  dimDb: -20 as Decibels,
});

/** All entries of a table. Object.values loses the key's brand but not the value's type. */
export const entriesOf = <T>(table: Readonly<Record<string, T>>): T[] => Object.values(table);

/** The figure for a rate: single up to 48 kHz, double up to 96, quadruple above. */
export const atRate = (figures: ByRate, rateHz: SampleRateHz): number => (rateHz <= 48000 ? figures.single : rateHz <= 96000 ? figures.double : figures.quadruple);

/**
 * Channels a digital link carries at a rate: single rates up to 48 kHz, double up to 96, quadruple above.
 * @example linkChannels(optical, 96000) // 4 for eight-channel optical
 */
export const linkChannels = (link: DigitalLink, rateHz: SampleRateHz): number => atRate(link.channels, rateHz);

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
