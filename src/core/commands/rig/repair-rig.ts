import type { Draft } from "immer";
import type { PortId } from "../../model/ids";
import { entriesOf, type Port, type Rig, type RigTable } from "../../model/rig";

type RigDraft = Draft<Rig>;

const dropFrom = (draft: RigDraft, table: RigTable, gone: (entry: never) => boolean): void => {
  const entries = draft[table] as Record<string, unknown>;
  for (const [key, entry] of Object.entries(entries)) if (gone(entry as never)) delete entries[key];
};

const byNumber = (a: Port, b: Port) => a.number - b.number;

/** Inputs or outputs of a device that the computer counts: its own first, loop-backs after them. */
const ownPorts = (draft: RigDraft, deviceId: string, direction: Port["direction"]) =>
  entriesOf(draft.ports).filter((port) => port.deviceId === deviceId && port.direction === direction && !port.carriedBy);

/** Assigns without touching what is right already, so that an edit's patches name only what it changed. */
const setRunning = (port: Draft<Port>, running: number | null): void => {
  if (port.running !== running) port.running = running;
};

/** Ports of a device that is plugged into a digital socket ride on it in ascending order; those of one that is not ride nowhere. */
const carry = (draft: RigDraft): void => {
  const interfaces = new Set<string>(entriesOf(draft.devices).flatMap((device) => (device.kind === "interface" ? [device.id] : [])));
  const links = entriesOf(draft.links).filter((link) => link.kind !== "word-clock" && link.fromDeviceId);
  for (const device of entriesOf(draft.devices)) {
    if (interfaces.has(device.id)) continue;
    const own = links.filter((link) => link.fromDeviceId === device.id).sort((a, b) => a.order - b.order);
    const seats = own.flatMap((link) => Array.from({ length: link.channels.single }, (_, at) => ({ linkId: link.id, channel: at + 1 })));
    const inputs = entriesOf(draft.ports).filter((port) => port.deviceId === device.id && port.direction === "in");
    for (const [at, port] of inputs.sort(byNumber).entries()) {
      const seat = seats[at] ?? null;
      if (port.carriedBy?.linkId !== seat?.linkId || port.carriedBy?.channel !== seat?.channel) port.carriedBy = seat;
    }
  }
};

/**
 * Counts the inputs and outputs as the computer sees them: interface by interface as they sit, each with its own inputs first, then the channels of its digital sockets,
 * plugged or not, and loop-backs last. Several interfaces serving as one count on from each other.
 */
const countRunning = (draft: RigDraft): void => {
  const base = { in: 0, out: 0 };
  const seen = new Set<string>();
  const interfaces = entriesOf(draft.devices)
    .filter((device) => device.kind === "interface")
    .sort((a, b) => a.order - b.order);
  const give = (ports: readonly Draft<Port>[], direction: "in" | "out") => {
    for (const port of [...ports].sort(byNumber)) {
      base[direction] += 1;
      setRunning(port, base[direction]);
      seen.add(port.id);
    }
  };
  for (const device of interfaces) {
    const inputs = ownPorts(draft, device.id, "in");
    give(
      inputs.filter((port) => port.role !== "loop-back"),
      "in",
    );
    for (const link of entriesOf(draft.links)
      .filter((candidate) => candidate.toDeviceId === device.id)
      .sort((a, b) => a.order - b.order)) {
      for (const port of entriesOf(draft.ports)) {
        if (port.direction !== "in" || port.carriedBy?.linkId !== link.id) continue;
        setRunning(port, base.in + port.carriedBy.channel);
        seen.add(port.id);
      }
      base.in += link.channels.single;
    }
    give(
      inputs.filter((port) => port.role === "loop-back"),
      "in",
    );
    give(ownPorts(draft, device.id, "out"), "out");
  }
  for (const port of entriesOf(draft.ports)) if (!seen.has(port.id)) setRunning(port, null);
};

const repairPorts = (draft: RigDraft): void => {
  for (const port of entriesOf(draft.ports)) {
    if (port.neighbourId && !draft.ports[port.neighbourId]) port.neighbourId = null;
    if (port.phantom.kind === "bank" && !draft.banks[port.phantom.bankId]) port.phantom = { kind: "own" };
    if (port.carriedBy && !draft.links[port.carriedBy.linkId]) port.carriedBy = null;
  }
};

const keepThere = (draft: RigDraft, ids: readonly PortId[]): PortId[] | null => {
  const there = ids.filter((id) => draft.ports[id]);
  return there.length === ids.length ? null : there;
};

const repairConnections = (draft: RigDraft): void => {
  dropFrom(draft, "wires", ({ fromPortId, toPortId }: Rig["wires"][never]) => !draft.ports[fromPortId] || !draft.ports[toPortId]);
  for (const feed of entriesOf(draft.feeds)) feed.portIds = keepThere(draft, feed.portIds) ?? feed.portIds;
  dropFrom(draft, "feeds", ({ portIds }: Rig["feeds"][never]) => portIds.length === 0);
  for (const loop of entriesOf(draft.loops)) {
    loop.sendPortIds = keepThere(draft, loop.sendPortIds) ?? loop.sendPortIds;
    loop.returnPortIds = keepThere(draft, loop.returnPortIds) ?? loop.returnPortIds;
  }
  dropFrom(draft, "loops", ({ sendPortIds, returnPortIds }: Rig["loops"][never]) => !sendPortIds.length || !returnPortIds.length);
  for (const mixer of entriesOf(draft.mixers)) mixer.inputIds = keepThere(draft, mixer.inputIds) ?? mixer.inputIds;
  for (const midi of entriesOf(draft.midiPorts)) midi.returnPortIds = keepThere(draft, midi.returnPortIds) ?? midi.returnPortIds;
};

/**
 * Brings everything that hangs on devices in line with the devices there are: what led to a port, bank, socket or device that is gone goes as well or is let go,
 * and running numbers are counted anew. Changes nothing in a rig that is whole.
 */
export const repairRig = (draft: RigDraft): void => {
  const there = (id: string): boolean => Object.hasOwn(draft.devices, id);
  for (const table of ["ports", "banks", "mixers", "midiPorts"] as const) dropFrom(draft, table, ({ deviceId }: { deviceId: string }) => !there(deviceId));
  dropFrom(draft, "timing", ({ id }: { id: string }) => !there(id));
  dropFrom(draft, "links", ({ toDeviceId }: Rig["links"][never]) => !there(toDeviceId));
  for (const link of entriesOf(draft.links)) if (link.fromDeviceId && !there(link.fromDeviceId)) link.fromDeviceId = null;
  for (const device of entriesOf(draft.devices)) if (device.clock.kind === "follows" && device.clock.linkId && !draft.links[device.clock.linkId]) device.clock.linkId = null;
  repairPorts(draft);
  repairConnections(draft);
  carry(draft);
  countRunning(draft);
};
