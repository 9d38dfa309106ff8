import type { Rig } from "../model/rig";
import { byOrder, entriesOf } from "../model/table";
import type { DigitalLink } from "../model/tables/links";
import type { Port } from "../model/tables/ports";
import type { Loose } from "./references";
import type { Work } from "./work";

const byNumber = (a: Port, b: Port) => a.number - b.number;

/** What a port is counted as; one that is counted as before is not touched. */
const count = (work: Work<Rig>, port: Port, counted: Partial<Pick<Port, "running" | "carriedBy">>): void => {
  const now = work.entry("ports", port.id);
  if (now) work.change("ports", now, counted as Loose);
};

const portsBy = (rig: Rig): ReadonlyMap<string, readonly Port[]> => {
  const found = new Map<string, Port[]>();
  for (const port of entriesOf(rig.ports)) {
    const key = `${port.deviceId} ${port.direction}`;
    const there = found.get(key);
    if (there) there.push(port);
    else found.set(key, [port]);
  }
  for (const ports of found.values()) ports.sort(byNumber);
  return found;
};

/**
 * Ports of a device that is plugged into a digital socket ride on it in ascending order; those of one that is not ride
 * nowhere.
 */
const carry = (work: Work<Rig>): void => {
  const rig = work.snapshot();
  const ports = portsBy(rig);
  const links = entriesOf(rig.links)
    .filter((link) => link.kind !== "word-clock" && link.fromDeviceId)
    .sort(byOrder);
  for (const device of entriesOf(rig.devices)) {
    if (device.kind === "interface") continue;
    const own = links.filter((link) => link.fromDeviceId === device.id);
    const seats = own.flatMap((link) =>
      Array.from({ length: link.channels.single }, (_, at) => ({ linkId: link.id, channel: at + 1 })),
    );
    for (const [at, port] of (ports.get(`${device.id} in`) ?? []).entries())
      count(work, port, { carriedBy: seats[at] ?? null });
  }
};

/** The numbers under which the computer knows ports, as they are given out. */
class Counting {
  readonly numbers = new Map<string, number>();
  private readonly base = { in: 0, out: 0 };

  give(ports: readonly Port[], direction: Port["direction"]): void {
    for (const port of ports) {
      this.base[direction] += 1;
      this.numbers.set(port.id, this.base[direction]);
    }
  }

  /** The channels of a socket count whether something is plugged in or not. */
  giveSocket(link: DigitalLink, riding: readonly Port[]): void {
    for (const port of riding) this.numbers.set(port.id, this.base.in + (port.carriedBy?.channel ?? 0));
    this.base.in += link.channels.single;
  }
}

const ridingOn = (rig: Rig): ReadonlyMap<string, readonly Port[]> => {
  const found = new Map<string, Port[]>();
  for (const port of entriesOf(rig.ports)) {
    if (port.direction !== "in" || !port.carriedBy) continue;
    const there = found.get(port.carriedBy.linkId);
    if (there) there.push(port);
    else found.set(port.carriedBy.linkId, [port]);
  }
  return found;
};

/**
 * Inputs of an interface as the computer counts them: its own, the channels of its sockets whether plugged or not, and
 * loop-backs last.
 */
const countRunning = (work: Work<Rig>): void => {
  const rig = work.snapshot();
  const [ports, riding, counting] = [portsBy(rig), ridingOn(rig), new Counting()];
  const links: readonly DigitalLink[] = entriesOf(rig.links).sort(byOrder);
  const own = (id: string, direction: Port["direction"]) =>
    (ports.get(`${id} ${direction}`) ?? []).filter((port) => !port.carriedBy);
  for (const device of entriesOf(rig.devices).sort(byOrder)) {
    if (device.kind !== "interface") continue;
    const inputs = own(device.id, "in");
    counting.give(
      inputs.filter((port) => port.role !== "loop-back"),
      "in",
    );
    for (const link of links) if (link.toDeviceId === device.id) counting.giveSocket(link, riding.get(link.id) ?? []);
    counting.give(
      inputs.filter((port) => port.role === "loop-back"),
      "in",
    );
    counting.give(own(device.id, "out"), "out");
  }
  for (const port of entriesOf(rig.ports)) count(work, port, { running: counting.numbers.get(port.id) ?? null });
};

/**
 * Counts anew what follows from devices, sockets and ports: what each port rides on, and the number under which the
 * computer knows it: interface by interface as they sit, several serving as one counting on from each other. Linear in
 * the ports of the rig; nothing is done where none of them changed.
 */
export const countRig = (work: Work<Rig>): void => {
  if (!["devices", "links", "ports"].some((table) => work.touched.has(table))) return;
  carry(work);
  countRunning(work);
};
