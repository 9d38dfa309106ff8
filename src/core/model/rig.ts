import type { Decibels } from "../units/decibels";
import { type EntryOf, name, number } from "./describe/fields";
import { emptyTables } from "./describe/table";
import type {
  BankId,
  DeviceId,
  FeedId,
  LinkId,
  LoopId,
  MicrophoneId,
  MidiPortId,
  MixerId,
  PortId,
  ProcessorId,
  RigId,
  WireId,
} from "./ids";
import type { Table } from "./table";
import { BANKS, type PhantomBank } from "./tables/banks";
import { DEVICES, type Device } from "./tables/devices";
import { FEEDS, type Feed } from "./tables/feeds";
import { type DigitalLink, LINKS } from "./tables/links";
import { type HardwareLoop, LOOPS } from "./tables/loops";
import { MICROPHONES, type Microphone } from "./tables/microphones";
import { MIDI_PORTS, type MidiPort } from "./tables/midi-ports";
import { type InterfaceMixer, MIXERS } from "./tables/mixers";
import { PORTS, type Port } from "./tables/ports";
import { type InstalledProcessor, PROCESSORS } from "./tables/processors";
import { type DeviceTiming, TIMING } from "./tables/timing";
import { WIRES, type Wire } from "./tables/wires";

export const RIG_SCHEMA = 5;

/** A rig: the hardware of a place, described once. */
export const RIG = {
  what: "rig",
  schema: RIG_SCHEMA,
  header: {
    name: name(200, { word: "the name" }),
    /** How far the dim button takes the monitors down. */
    dimDb: number<Decibels>({ min: -100, max: 0 }, { word: "the dim" }),
  },
  tables: {
    devices: DEVICES,
    ports: PORTS,
    banks: BANKS,
    links: LINKS,
    wires: WIRES,
    microphones: MICROPHONES,
    timing: TIMING,
    feeds: FEEDS,
    loops: LOOPS,
    mixers: MIXERS,
    midiPorts: MIDI_PORTS,
    processors: PROCESSORS,
  },
} as const;

export interface RigTables {
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
}
export type RigTable = keyof RigTables;

export interface Rig extends EntryOf<typeof RIG.header>, RigTables {
  readonly schema: typeof RIG_SCHEMA;
  readonly id: RigId;
}

export const emptyRig = (id: RigId, name: string): Rig => ({
  schema: RIG_SCHEMA,
  id,
  name,
  ...(emptyTables(RIG) as unknown as RigTables),
  dimDb: -20 as Decibels,
});
