import { type BareDevice, type Blueprint, bareDevice } from "../blueprints/blueprints";
import { type Bundle, ports, wires } from "../blueprints/kit";
import type { DeviceId, LinkId, PortId } from "../model/ids";
import { devicesOf } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { byOrder, entriesOf } from "../model/table";
import type { Port } from "../model/tables/ports";
import type { RigEdit } from "./edits/rig-editing";
import { freeName } from "./free-name";

/**
 * An id for a device that nobody has, as near to its own as can be, so that the same box in two rigs has the same
 * ports.
 */
const freeId = (rig: Rig, base: string): string => {
  let id = base;
  for (let number = 2; Object.hasOwn(rig.devices, id); number++) id = `${base}-${number}`;
  return id;
};

const freeShort = (rig: Rig, wanted: string): string => {
  const taken = new Set(entriesOf(rig.devices).map((device) => device.shortName.toLowerCase()));
  let short = wanted;
  for (let number = 2; taken.has(short.toLowerCase()); number++)
    short = `${wanted || "I"}${String.fromCharCode(64 + number)}`.slice(0, 3);
  return short;
};

const freeDeviceName = (rig: Rig, wanted: string): string =>
  freeName(
    wanted,
    entriesOf(rig.devices).map((device) => device.name),
  );

interface Added {
  readonly edits: readonly RigEdit[];
  readonly deviceId: DeviceId;
}

/** The first free digital socket that could carry a device; null when there is none. */
const freeSocket = (rig: Rig): LinkId | null =>
  entriesOf(rig.links)
    .filter((link) => !link.fromDeviceId && link.kind !== "word-clock")
    .sort(byOrder)[0]?.id ?? null;

/** A second interface serves as one with the first: it follows its clock. */
const clocked = (rig: Rig, bundle: Bundle): Bundle => {
  const [device] = bundle.devices;
  const led = entriesOf(rig.devices).some((other) => other.clock.kind === "leads");
  return led && device.clock.kind === "leads"
    ? { ...bundle, devices: [{ ...device, clock: { kind: "follows", linkId: null } }] }
    : bundle;
};

const place = (rig: Rig, bundle: Bundle): Added => {
  const [device] = bundle.devices;
  const socket = device.kind === "expander" ? freeSocket(rig) : null;
  const add: RigEdit = { kind: "entries.add", entries: clocked(rig, bundle) as never };
  return {
    deviceId: device.id,
    edits: socket ? [add, { kind: "links.plug", linkId: socket, deviceId: device.id }] : [add],
  };
};

/** Adds a device as it is built. An expander is plugged into the first free digital socket. */
export const addBlueprint = (rig: Rig, blueprint: Blueprint): Added =>
  place(
    rig,
    blueprint.make({
      id: freeId(rig, blueprint.id),
      name: freeDeviceName(rig, blueprint.name),
      shortName:
        blueprint.kind === "interface" && !devicesOf(rig).some((device) => device.kind === "interface")
          ? ""
          : freeShort(rig, blueprint.shortName),
    }),
  );

/** Adds a device from scratch: so many like inputs and outputs. */
export const addBare = (rig: Rig, bare: BareDevice): Added => {
  const first = bare.kind === "interface" && !devicesOf(rig).some((device) => device.kind === "interface");
  const short = first ? "" : freeShort(rig, (bare.name.trim()[0] ?? "D").toUpperCase());
  const base = bare.name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 30);
  return place(
    rig,
    bareDevice(
      { ...bare, name: freeDeviceName(rig, bare.name.trim()) },
      { id: freeId(rig, base || "device"), shortName: short },
    ),
  );
};

/** Names ports in one run, from one on as they are numbered; lines beyond the last port are left out. */
export const nameRun = (rig: Rig, from: PortId, names: readonly string[]): RigEdit | null => {
  const start = rig.ports[from];
  if (!start) return null;
  const run = entriesOf(rig.ports)
    .filter(
      (port) =>
        port.deviceId === start.deviceId &&
        port.direction === start.direction &&
        port.role === start.role &&
        port.number >= start.number,
    )
    .sort((a, b) => a.number - b.number);
  return {
    kind: "ports.name",
    names: run
      .slice(0, names.length)
      .map((port, at) => ({ portId: port.id, name: (names[at] ?? "").trim().slice(0, 60) })),
  };
};

/** One more port of a device, like the last of its direction, with the next number. */
export const addPort = (rig: Rig, deviceId: DeviceId, direction: Port["direction"]): RigEdit => {
  const own = entriesOf(rig.ports)
    .filter((port) => port.deviceId === deviceId && port.direction === direction && port.role !== "loop-back")
    .sort((a, b) => a.number - b.number);
  const last = own.at(-1);
  const number = (last?.number ?? 0) + 1;
  const fresh = ports({
    device: deviceId,
    direction,
    from: number,
    to: number,
    connector: "jack",
    levels: ["line"],
  })[0];
  const like =
    last && fresh
      ? { ...last, id: fresh.id, number, name: "", neighbourId: null, running: null, carriedBy: null }
      : fresh;
  return { kind: "entries.add", entries: { ports: [like] as never } };
};

/** Moves a device one place up or down in the rack; null at the end. */
export const stepDevice = (rig: Rig, deviceId: DeviceId, step: 1 | -1): readonly RigEdit[] | null => {
  const devices = devicesOf(rig);
  const at = devices.findIndex((device) => device.id === deviceId);
  const beyond = devices[at + step];
  if (at < 0 || !beyond) return null;
  return [
    {
      kind: "entries.move",
      table: "devices",
      ids: [deviceId],
      before: step === -1 ? beyond.id : (devices[at + 2]?.id ?? null),
    },
  ];
};

interface WireRun {
  readonly from: DeviceId;
  readonly fromNumber: number;
  readonly to: DeviceId;
  readonly toNumber: number;
  readonly count: number;
}

const portAt = (rig: Rig, deviceId: DeviceId, direction: Port["direction"], number: number): Port | undefined =>
  entriesOf(rig.ports).find(
    (port) =>
      port.deviceId === deviceId && port.direction === direction && port.number === number && port.role !== "loop-back",
  );

/**
 * Wires a run of outputs to a run of inputs. Answers what is missing when one of them is not there, or taken already.
 */
export const wireRun = (rig: Rig, { from, fromNumber, to, toNumber, count }: WireRun): RigEdit | string => {
  if (!Number.isInteger(count) || count < 1 || count > 256) return "Say how many wires, from 1 to 256.";
  const taken = new Set(entriesOf(rig.wires).map((wire) => wire.toPortId));
  const made = wires([from, fromNumber], [to, toNumber], count).map((wire, at) => {
    const [out, into] = [portAt(rig, from, "out", fromNumber + at), portAt(rig, to, "in", toNumber + at)];
    if (!out) return `${rig.devices[from]?.name} has no output ${fromNumber + at}.`;
    if (!into) return `${rig.devices[to]?.name} has no input ${toNumber + at}.`;
    if (taken.has(into.id)) return `Input ${into.number} of ${rig.devices[to]?.name} has a wire already.`;
    return { ...wire, id: `${out.id}>${into.id}`, fromPortId: out.id, toPortId: into.id };
  });
  const refused = made.find((wire): wire is string => typeof wire === "string");
  return refused ?? { kind: "entries.add", entries: { wires: made as never } };
};
