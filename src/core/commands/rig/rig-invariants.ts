import { MOST } from "../../model/limits";
import { entriesOf, RIG_TABLES, type Rig } from "../../model/rig";

const keyed = (rig: Rig): string[] =>
  RIG_TABLES.flatMap((table) => Object.entries(rig[table]).flatMap(([key, entry]) => ((entry as { id: string }).id === key ? [] : [`${key} holds another part`])));

const portFaults = (rig: Rig): string[] =>
  entriesOf(rig.ports).flatMap((port) => {
    const neighbour = port.neighbourId ? rig.ports[port.neighbourId] : null;
    const strange = neighbour && (neighbour.deviceId !== port.deviceId || neighbour.direction !== port.direction || neighbour.id === port.id);
    return [
      ...(rig.devices[port.deviceId] ? [] : [`port ${port.id} belongs to no device`]),
      ...(port.neighbourId && !neighbour ? [`port ${port.id} has a neighbour that is not there`] : []),
      ...(strange ? [`port ${port.number} pairs with a port that can't be its neighbour`] : []),
      ...(port.phantom.kind === "bank" && !rig.banks[port.phantom.bankId] ? [`port ${port.id} is in a bank that is not there`] : []),
      ...(port.carriedBy && !rig.links[port.carriedBy.linkId] ? [`port ${port.id} rides on a socket that is not there`] : []),
      ...(port.gainDb && port.gainDb.min > port.gainDb.max ? ["a gain range ends below its start"] : []),
    ];
  });

const doubled = (rig: Rig): string[] => {
  const seen = new Set<string>();
  return entriesOf(rig.ports).flatMap((port) => {
    const key = `${port.deviceId} ${port.direction} ${port.role === "loop-back"} ${port.number}`;
    if (!seen.has(key)) {
      seen.add(key);
      return [];
    }
    return [`${rig.devices[port.deviceId]?.name} has two ${port.direction === "in" ? "inputs" : "outputs"} ${port.number}`];
  });
};

const wireFaults = (rig: Rig): string[] => {
  const fed = new Set<string>();
  return entriesOf(rig.wires).flatMap(({ fromPortId, toPortId }) => {
    const [from, to] = [rig.ports[fromPortId], rig.ports[toPortId]];
    const twice = fed.has(toPortId);
    fed.add(toPortId);
    if (!from || !to) return ["a wire ends at a port that is not there"];
    if (from.direction !== "out" || to.direction !== "in") return ["a wire leads from an output to an input"];
    return twice ? [`two wires lead into input ${to.number} of ${rig.devices[to.deviceId]?.name}`] : [];
  });
};

const connectionFaults = (rig: Rig): string[] => {
  const has = (ids: readonly string[], direction: "in" | "out") => ids.every((id) => rig.ports[id as keyof typeof rig.ports]?.direction === direction);
  return [
    ...entriesOf(rig.feeds).flatMap((feed) => (has(feed.portIds, "out") ? [] : [`${feed.name} hangs on an output that is not there`])),
    ...entriesOf(rig.loops).flatMap((loop) => (has(loop.sendPortIds, "out") && has(loop.returnPortIds, "in") ? [] : [`${loop.name} does not go out and come back`])),
    ...entriesOf(rig.mixers).flatMap((mixer) => (rig.devices[mixer.deviceId] && has(mixer.inputIds, "in") ? [] : ["a mixer takes an input that is not there"])),
    ...entriesOf(rig.midiPorts).flatMap((midi) => (rig.devices[midi.deviceId] && has(midi.returnPortIds, "in") ? [] : ["a MIDI port comes back on an input that is not there"])),
    ...entriesOf(rig.banks).flatMap((bank) => (rig.devices[bank.deviceId] ? [] : [`bank ${bank.name} belongs to no device`])),
    ...entriesOf(rig.timing).flatMap((timing) => (rig.devices[timing.id] ? [] : ["delays are given for a device that is not there"])),
  ];
};

const linkFaults = (rig: Rig): string[] => [
  ...entriesOf(rig.links).flatMap((link) => {
    if (!rig.devices[link.toDeviceId] || (link.fromDeviceId && !rig.devices[link.fromDeviceId])) return [`${link.name} leads to a device that is not there`];
    return link.fromDeviceId === link.toDeviceId ? [`${link.name} leads from a device into itself`] : [];
  }),
  ...entriesOf(rig.devices).flatMap((device) =>
    device.clock.kind === "follows" && device.clock.linkId && !rig.links[device.clock.linkId] ? [`${device.name} follows a socket that is not there`] : [],
  ),
];

const overfull = (rig: Rig): string[] =>
  RIG_TABLES.flatMap((table) => {
    const [count, most] = [Object.keys(rig[table]).length, table === "ports" ? MOST.ports : MOST.parts];
    return count > most ? [`it holds ${count} ${table === "midiPorts" ? "MIDI ports" : table}, and ${most} is the most`] : [];
  });

/** What must hold in every revision of a rig: sizes, ids, references to the right kind of thing, one wire into an input, neighbours of one device. In words; empty when all holds. */
export const brokenRig = (rig: Rig): readonly string[] => [
  ...overfull(rig),
  ...keyed(rig),
  ...portFaults(rig),
  ...doubled(rig),
  ...wireFaults(rig),
  ...connectionFaults(rig),
  ...linkFaults(rig),
];
