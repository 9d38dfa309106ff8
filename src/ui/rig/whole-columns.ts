import type { PortId } from "@/core/model/ids";
import { type MicrophoneKind, phantomAttitude } from "@/core/model/microphone-kinds";
import type { Rig } from "@/core/model/rig";
import { FEEDS, type Feed } from "@/core/model/tables/feeds";
import { type HardwareLoop, LOOPS } from "@/core/model/tables/loops";
import { MICROPHONES, type Microphone } from "@/core/model/tables/microphones";
import type { Port } from "@/core/model/tables/ports";
import { type InstalledProcessor, PROCESSORS } from "@/core/model/tables/processors";
import type { Wire } from "@/core/model/tables/wires";
import { portsText, readNumber, readPorts } from "@/core/reading/rig-cells";
import { formatGain } from "@/core/units/decibels";
import { describedColumns } from "../parts/described-columns";
import type { PartColumn } from "../parts/part-table";

/** Ports of the rig, named by the numbers that its sockets have. */
const ports = <T>(rig: Rig, key: keyof T & string, direction: Port["direction"]): Partial<PartColumn<T>> => ({
  text: (row) => portsText(rig, row[key] as readonly PortId[]),
  editor: { kind: "text", placeholder: "3-4" },
  write: (text) => {
    const read = readPorts(rig, text, direction);
    if (!read.ok) return `${rig.name} has no ${direction === "in" ? "input" : "output"} ${read.missing}.`;
    return read.portIds.length
      ? { [key]: read.portIds }
      : `Type the ${direction === "in" ? "inputs" : "outputs"} by number, as 3-4.`;
  },
});

export const microphoneColumns = describedColumns<Microphone>(MICROPHONES, {
  // What phantom does to it is known by its kind, until somebody says otherwise.
  kind: { write: (kind) => ({ kind, phantom: phantomAttitude(kind as MicrophoneKind) }) },
  capsules: {
    text: (item) => item.capsules.join(", "),
    write: (text) => ({
      capsules: text
        .split(",")
        .map((word) => word.trim())
        .filter(Boolean),
    }),
  },
});

export const processorColumns = describedColumns<InstalledProcessor>(PROCESSORS);

export const wireColumns = (rig: Rig): readonly PartColumn<Wire>[] => {
  const end = (id: PortId) => {
    const port = rig.ports[id];
    return port
      ? `${rig.devices[port.deviceId]?.name} ${port.direction === "out" ? "output" : "input"} ${port.number}`
      : "";
  };
  return [
    { id: "from", header: "From", text: (wire) => end(wire.fromPortId) },
    { id: "to", header: "To", text: (wire) => end(wire.toPortId) },
  ];
};

export const feedColumns = (rig: Rig): readonly PartColumn<Feed>[] =>
  describedColumns<Feed>(FEEDS, { portIds: ports<Feed>(rig, "portIds", "out") });

export const loopColumns = (rig: Rig): readonly PartColumn<HardwareLoop>[] =>
  describedColumns<HardwareLoop>(LOOPS, {
    sendPortIds: ports<HardwareLoop>(rig, "sendPortIds", "out"),
    returnPortIds: ports<HardwareLoop>(rig, "returnPortIds", "in"),
  });

export const dimColumns = (rig: Rig, feeds: readonly Feed[]): readonly PartColumn<Rig>[] => [
  {
    id: "dim",
    header: "Dim dB",
    width: 120,
    text: () => formatGain(rig.dimDb),
    editor: { kind: "number" },
    write: (text) => {
      const value = readNumber(text, { min: -100, max: 0 });
      return value === null ? "Dim takes the monitors down: from −100 to 0 dB." : { dimDb: value };
    },
  },
  {
    id: "sets",
    header: "Sets of monitors",
    text: () =>
      feeds.flatMap((feed) => (feed.kind === "monitors" ? [feed.name] : [])).join(", ") ||
      "none yet: add a listening place",
  },
];
