import type { RackPort } from "@/core/layout/rack";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import { CONNECTORS, PORT_ROLES } from "@/core/model/tables/ports";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { nameRun } from "@/core/planning/rig-plans";
import { readLevels, readNumber, readRange } from "@/core/reading/rig-cells";
import { formatGain } from "@/core/units/decibels";
import type { PartColumn } from "../parts/part-table";

export interface PortRow extends RackPort {
  readonly id: string;
}

const CONNECTOR_NAMES = { xlr: "XLR", jack: "jack", combo: "XLR and jack", optical: "optical", none: "none" } as const;
const ROLE_NAMES = { plain: "plain", headphones: "headphones", "loop-back": "loop-back" } as const;
const LEVEL_CHOICES = [
  "microphone",
  "microphone, line",
  "microphone, line, instrument",
  "line",
  "line, instrument",
  "instrument",
];

const decibels = (key: "padDb" | "fullScaleDbu" | "maxInputDbu", what: string) => (text: string) => {
  const value = readNumber(text, { min: -120, max: 120 });
  if (!text.trim()) return { [key]: null };
  return value === null ? `“${text}” is no ${what}. Type a number of dB, or nothing.` : { [key]: value };
};

const phantomText = ({ port }: PortRow): string =>
  port.phantom.kind === "bank" ? `bank ${port.phantom.bankId}` : port.phantom.kind;

const gain = (text: string) => {
  if (!text.trim()) return { gainDb: null };
  const range = readRange(text);
  return range ? { gainDb: range } : `“${text}” is no range of gain. Type it as 0 to 62.`;
};

/** What can be said of ports, as columns of a table. Names can be typed in one run, or pasted, one a line. */
export const portColumns = (
  rig: Rig,
  direction: "in" | "out",
  act: (edits: readonly RigEdit[]) => boolean,
): readonly PartColumn<PortRow>[] => {
  const number: PartColumn<PortRow> = { id: "number", header: "No.", width: 44, text: ({ label }) => label };
  const name: PartColumn<PortRow> = {
    id: "name",
    header: "Name",
    width: 116,
    text: ({ port }) => port.name,
    editor: { kind: "text", placeholder: "by its number" },
    write: (text) => (text.trim().length > 60 ? "A port's name has 60 characters at most." : { name: text.trim() }),
    onLines: (lines, { port }) => {
      const command = nameRun(rig, port.id, lines);
      return command !== null && act([command]);
    },
  };
  const connector: PartColumn<PortRow> = {
    id: "connector",
    header: "Connector",
    width: 98,
    text: ({ port }) => port.connector,
    editor: { kind: "choice", options: () => CONNECTORS.map((value) => ({ value, label: CONNECTOR_NAMES[value] })) },
    write: (connector) => ({ connector }),
  };
  const role: PartColumn<PortRow> = {
    id: "role",
    header: "Use",
    width: 96,
    text: ({ port }) => port.role,
    editor: {
      kind: "choice",
      options: () =>
        PORT_ROLES.filter((value) => (direction === "in" ? value !== "headphones" : value !== "loop-back")).map(
          (value) => ({ value, label: ROLE_NAMES[value] }),
        ),
    },
    write: (role) => ({ role }),
  };
  const joined: PartColumn<PortRow> = {
    id: "joined",
    header: direction === "in" ? "Comes from" : "Goes to",
    text: (row) => row.joined,
  };
  const fullScale: PartColumn<PortRow> = {
    id: "fullScale",
    header: "0 dBFS",
    width: 62,
    text: ({ port }) => (port.fullScaleDbu === null ? "" : formatGain(port.fullScaleDbu)),
    editor: { kind: "number" },
    write: decibels("fullScaleDbu", "level"),
  };
  const pair: PartColumn<PortRow> = {
    id: "pair",
    header: "Pair",
    width: 58,
    text: ({ port }) => port.neighbourId ?? "",
    editor: {
      kind: "choice",
      options: ({ port }) => [
        { value: "", label: "–" },
        ...entriesOf(rig.ports)
          .filter(
            (other) =>
              other.deviceId === port.deviceId &&
              other.direction === port.direction &&
              other.role === port.role &&
              other.id !== port.id,
          )
          .sort((a, b) => a.number - b.number)
          .map((other) => ({ value: other.id as string, label: String(other.number) })),
      ],
    },
    write: (neighbourId) => ({ neighbourId: neighbourId || null }),
  };
  const computer: PartColumn<PortRow> = {
    id: "running",
    header: "Counts",
    width: 54,
    text: ({ port }) => (port.running === null ? "" : String(port.running)),
  };
  if (direction === "out") return [number, name, role, connector, fullScale, pair, computer, joined];
  return [
    number,
    name,
    {
      id: "levels",
      header: "Takes",
      width: 116,
      text: ({ port }) => port.levels.join(", "),
      editor: {
        kind: "choice",
        options: ({ port }) =>
          [...new Set([...LEVEL_CHOICES, port.levels.join(", ")])].map((value) => ({ value, label: value })),
      },
      write: (text) => {
        const levels = readLevels(text);
        return levels ? { levels } : "An input takes at least one level.";
      },
    },
    connector,
    {
      id: "phantom",
      header: "Phantom",
      width: 104,
      text: phantomText,
      editor: {
        kind: "choice",
        options: ({ port }) => [
          { value: "none", label: "none" },
          { value: "own", label: "own switch" },
          ...entriesOf(rig.banks)
            .filter((bank) => bank.deviceId === port.deviceId)
            .map((bank) => ({ value: `bank ${bank.id}`, label: `bank ${bank.name}` })),
        ],
      },
      write: (text) => ({
        phantom: text.startsWith("bank ") ? { kind: "bank", bankId: text.slice(5) } : { kind: text },
      }),
    },
    {
      id: "gain",
      header: "Gain dB",
      width: 74,
      text: ({ port }) => (port.gainDb ? `${formatGain(port.gainDb.min)} to ${formatGain(port.gainDb.max)}` : ""),
      editor: { kind: "text", placeholder: "none" },
      write: gain,
    },
    {
      id: "pad",
      header: "Pad",
      width: 44,
      text: ({ port }) => (port.padDb === null ? "" : formatGain(port.padDb)),
      editor: { kind: "number" },
      write: decibels("padDb", "pad"),
    },
    {
      id: "maxInput",
      header: "Up to dBu",
      width: 72,
      text: ({ port }) => (port.maxInputDbu === null ? "" : formatGain(port.maxInputDbu)),
      editor: { kind: "number" },
      write: decibels("maxInputDbu", "level"),
    },
    fullScale,
    pair,
    computer,
    joined,
  ];
};
