import type { PortId } from "@/core/model/ids";
import { MICROPHONE_KINDS, type MicrophoneKind, phantomAttitude } from "@/core/model/microphone-kinds";
import type { Rig } from "@/core/model/rig";
import { FEED_KINDS, type Feed } from "@/core/model/tables/feeds";
import type { HardwareLoop } from "@/core/model/tables/loops";
import type { Microphone } from "@/core/model/tables/microphones";
import type { Port } from "@/core/model/tables/ports";
import type { InstalledProcessor } from "@/core/model/tables/processors";
import type { Wire } from "@/core/model/tables/wires";
import { portsText, readNumber, readPorts } from "@/core/reading/rig-cells";
import { formatGain } from "@/core/units/decibels";
import { nameColumn } from "../parts/name-column";
import type { PartColumn } from "../parts/part-table";

const KIND_NAMES: Readonly<Record<MicrophoneKind, string>> = {
  "moving-coil": "moving coil",
  "ribbon-passive": "passive ribbon",
  "ribbon-active": "active ribbon",
  condenser: "condenser",
  "condenser-supplied": "condenser with its own supply",
  "di-passive": "passive DI box",
  "di-active": "active DI box",
  "line-source": "line source",
};
const FEED_NAMES: Readonly<Record<Feed["kind"], string>> = {
  monitors: "monitors",
  headphones: "headphones",
  "room-loudspeaker": "loudspeaker of a room",
  amplifier: "amplifier to record through again",
};
const PHANTOM_NAMES = { needs: "needs 48 V", tolerates: "tolerates it", endangered: "endangered by it" } as const;

const portsColumn = <T>(
  rig: Rig,
  {
    key,
    header,
    direction,
  }: { readonly key: keyof T & string; readonly header: string; readonly direction: Port["direction"] },
): PartColumn<T> => ({
  id: key,
  header,
  width: 130,
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

export const microphoneColumns: readonly PartColumn<Microphone>[] = [
  nameColumn("Microphone or box", "microphone"),
  {
    id: "kind",
    header: "Kind",
    width: 130,
    text: (item) => item.kind,
    editor: { kind: "choice", options: () => MICROPHONE_KINDS.map((value) => ({ value, label: KIND_NAMES[value] })) },
    write: (kind) => ({ kind, phantom: phantomAttitude(kind as MicrophoneKind) }),
  },
  {
    id: "phantom",
    header: "Phantom",
    width: 130,
    text: (item) => item.phantom,
    editor: {
      kind: "choice",
      options: () =>
        (["needs", "tolerates", "endangered"] as const).map((value) => ({ value, label: PHANTOM_NAMES[value] })),
    },
    write: (phantom) => ({ phantom }),
  },
  {
    id: "sensitivity",
    header: "mV/Pa",
    width: 70,
    text: (item) => (item.sensitivityMvPerPa === null ? "" : String(item.sensitivityMvPerPa)),
    editor: { kind: "number" },
    write: (text) => {
      const value = readNumber(text, { min: 0.001, max: 1000 });
      if (!text.trim()) return { sensitivityMvPerPa: null };
      return value === null
        ? "Type the sensitivity in mV/Pa, from 0.001 to 1000, or nothing."
        : { sensitivityMvPerPa: value };
    },
  },
  {
    id: "maxSpl",
    header: "Up to dB SPL",
    width: 92,
    text: (item) => (item.maxSplDb === null ? "" : String(item.maxSplDb)),
    editor: { kind: "number" },
    write: (text) => {
      const value = readNumber(text, { min: 60, max: 200 });
      if (!text.trim()) return { maxSplDb: null };
      return value === null
        ? "Type the highest sound pressure in dB SPL, from 60 to 200, or nothing."
        : { maxSplDb: value };
    },
  },
  {
    id: "capsules",
    header: "Capsules",
    width: 140,
    text: (item) => item.capsules.join(", "),
    editor: { kind: "text", placeholder: "one" },
    write: (text) => ({
      capsules: text
        .split(",")
        .map((word) => word.trim())
        .filter(Boolean),
    }),
  },
  {
    id: "count",
    header: "How many",
    width: 78,
    text: (item) => String(item.count),
    editor: { kind: "number" },
    write: (text) => {
      const count = readNumber(text, { min: 1, max: 999, whole: true });
      return count === null ? "Type how many there are, from 1 on." : { count };
    },
  },
];

export const processorColumns: readonly PartColumn<InstalledProcessor>[] = [
  nameColumn("Processor", "processor"),
  {
    id: "version",
    header: "Version",
    width: 110,
    text: (item) => item.version,
    editor: { kind: "text" },
    write: (version) => ({ version: version.trim() }),
  },
  {
    id: "kind",
    header: "What it does",
    width: 260,
    text: (item) => item.kind,
    editor: { kind: "text" },
    write: (kind) => ({ kind: kind.trim() }),
  },
];

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

export const feedColumns = (rig: Rig): readonly PartColumn<Feed>[] => [
  nameColumn("Place", "listening place"),
  {
    id: "kind",
    header: "What it is",
    width: 200,
    text: (feed) => feed.kind,
    editor: { kind: "choice", options: () => FEED_KINDS.map((value) => ({ value, label: FEED_NAMES[value] })) },
    write: (kind) => ({ kind }),
  },
  portsColumn<Feed>(rig, { key: "portIds", header: "Outputs", direction: "out" }),
  {
    id: "who",
    header: "Who or which room",
    width: 190,
    text: (feed) => feed.who,
    editor: { kind: "text", placeholder: "nobody yet" },
    write: (who) => ({ who: who.trim() }),
  },
];

export const loopColumns = (rig: Rig): readonly PartColumn<HardwareLoop>[] => [
  nameColumn("Send and return", "send and return"),
  portsColumn<HardwareLoop>(rig, { key: "sendPortIds", header: "Goes out on", direction: "out" }),
  portsColumn<HardwareLoop>(rig, { key: "returnPortIds", header: "Comes back on", direction: "in" }),
];

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
