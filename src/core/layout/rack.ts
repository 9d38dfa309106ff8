import type { DeviceId, PortId } from "../model/ids";
import { devicesOf, portLabel } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { atRate } from "../model/rig-values";
import { byOrder, entriesOf, putInto } from "../model/table";
import type { Device } from "../model/tables/devices";
import type { DigitalLink } from "../model/tables/links";
import type { Port } from "../model/tables/ports";
import { formatRate, SAMPLE_RATES_HZ } from "../units/hertz";

export interface RackPort {
  readonly port: Port;
  readonly label: string;
  /** What it is joined to, in words; empty when nothing is. */
  readonly joined: string;
}

export interface RackLink {
  readonly link: DigitalLink;
  readonly device: Device | null;
  /** "8 channels, 4 at 88.2 and 96 kHz, 2 above". */
  readonly carries: string;
}

export interface RackDevice {
  readonly device: Device;
  readonly inputs: readonly RackPort[];
  readonly outputs: readonly RackPort[];
  readonly links: readonly RackLink[];
  /** How it is clocked, in words; empty for an analogue device. */
  readonly clock: string;
}

const nameOf = (rig: Rig, portId: PortId): string => {
  const port = rig.ports[portId];
  return port ? `${rig.devices[port.deviceId]?.name ?? "a device"} ${port.number}` : "nothing";
};

/** Everything a port is joined to, by port. Linear in wires, feeds, loops and MIDI returns. */
const joints = (rig: Rig): ReadonlyMap<PortId, readonly string[]> => {
  const found = new Map<PortId, string[]>();
  const note = (portId: PortId, words: string) => putInto(found, portId, words);
  for (const { fromPortId, toPortId } of entriesOf(rig.wires)) {
    note(fromPortId, `→ ${nameOf(rig, toPortId)}`);
    note(toPortId, `← ${nameOf(rig, fromPortId)}`);
  }
  for (const feed of entriesOf(rig.feeds))
    for (const portId of feed.portIds)
      note(portId, feed.who && feed.who !== feed.name ? `${feed.name} (${feed.who})` : feed.name);
  for (const loop of entriesOf(rig.loops)) {
    for (const portId of loop.sendPortIds) note(portId, `send ${loop.name}`);
    for (const portId of loop.returnPortIds) note(portId, `return ${loop.name}`);
  }
  for (const midi of entriesOf(rig.midiPorts))
    for (const portId of midi.returnPortIds) note(portId, midi.name || midi.usage);
  return found;
};

const carries = ({ channels, kind }: DigitalLink): string => {
  if (kind === "word-clock") return "clock only";
  const [, double] = [44100, 88200].map((rate) => SAMPLE_RATES_HZ.find((known) => known === rate));
  const at = double ? formatRate(double) : "";
  return `${atRate(channels, 48000)} channels, ${atRate(channels, 96000)} from ${at}, ${atRate(channels, 192000)} from ${formatRate(176400)}`;
};

const clockWords = (rig: Rig, device: Device): string => {
  const { clock } = device;
  if (clock.kind === "none") return "";
  if (clock.kind === "leads") return "leads the clock";
  const link = clock.linkId ? rig.links[clock.linkId] : undefined;
  return link ? `follows through ${link.name}` : "follows nothing yet";
};

const byNumber = (a: Port, b: Port) =>
  Number(a.role === "loop-back") - Number(b.role === "loop-back") || a.number - b.number;

/** The devices of a rig as they sit, with their ports, digital sockets and clock, and what each is joined to. */
export const rackView = (rig: Rig): readonly RackDevice[] => {
  const joined = joints(rig);
  const ports = entriesOf(rig.ports).sort(byNumber);
  return devicesOf(rig).map((device) => {
    const of = (direction: Port["direction"]): readonly RackPort[] =>
      ports
        .filter((port) => port.deviceId === device.id && port.direction === direction)
        .map((port) => ({ port, label: portLabel(rig, port), joined: (joined.get(port.id) ?? []).join("; ") }));
    const links = entriesOf(rig.links)
      .filter((link) => link.toDeviceId === device.id)
      .sort(byOrder)
      .map((link) => ({
        link,
        device: link.fromDeviceId ? (rig.devices[link.fromDeviceId] ?? null) : null,
        carries: carries(link),
      }));
    return { device, inputs: of("in"), outputs: of("out"), links, clock: clockWords(rig, device) };
  });
};

export interface TouchedTemplate {
  readonly name: string;
  readonly lines: readonly { readonly portId: PortId | null }[];
}

/**
 * How many lines of each template are on a device: what a change of it, or its retiring, touches. An outside preamp is
 * reached through the inputs it is wired to.
 */
export const linesOnDevice = <T extends TouchedTemplate>(
  rig: Rig,
  deviceId: DeviceId,
  templates: readonly T[],
): readonly { readonly template: T; readonly count: number }[] => {
  const reached = new Set<PortId>(
    entriesOf(rig.ports).flatMap((port) => (port.deviceId === deviceId ? [port.id] : [])),
  );
  for (const { fromPortId, toPortId } of entriesOf(rig.wires)) if (reached.has(fromPortId)) reached.add(toPortId);
  return templates
    .map((template) => ({
      template,
      count: template.lines.filter((line) => line.portId && reached.has(line.portId)).length,
    }))
    .filter(({ count }) => count > 0);
};

/** What of the rig itself hangs on a device, one sentence each: what its retiring takes along or lets go. */
export const deviceUses = (rig: Rig, deviceId: DeviceId): readonly string[] => {
  const own = new Set<PortId>(entriesOf(rig.ports).flatMap((port) => (port.deviceId === deviceId ? [port.id] : [])));
  const wires = entriesOf(rig.wires).filter((wire) => own.has(wire.fromPortId) || own.has(wire.toPortId)).length;
  const feeds = entriesOf(rig.feeds).filter((feed) => feed.portIds.some((id) => own.has(id)));
  const loops = entriesOf(rig.loops).filter((loop) =>
    [...loop.sendPortIds, ...loop.returnPortIds].some((id) => own.has(id)),
  );
  const plugged = entriesOf(rig.links).filter((link) => link.toDeviceId === deviceId && link.fromDeviceId);
  const followers = entriesOf(rig.devices).filter(
    (device) =>
      device.clock.kind === "follows" &&
      device.clock.linkId &&
      rig.links[device.clock.linkId]?.toDeviceId === deviceId &&
      device.id !== deviceId,
  );
  return [
    ...(wires ? [`${wires === 1 ? "One wire is" : `${wires} wires are`} taken out.`] : []),
    ...feeds.map((feed) => `${feed.name} loses its outputs.`),
    ...loops.map((loop) => `The send and return ${loop.name} goes.`),
    ...plugged.map((link) => `${rig.devices[link.fromDeviceId as DeviceId]?.name} is unplugged from ${link.name}.`),
    ...followers.map((device) => `${device.name} loses its clock.`),
    ...(rig.devices[deviceId]?.clock.kind === "leads" ? ["It leads the clock: another device must."] : []),
  ];
};
