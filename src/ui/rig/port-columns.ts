import type { RackPort } from "@/core/layout/rack";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import { PORT_ROLES, PORTS, type Port } from "@/core/model/tables/ports";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { nameRun } from "@/core/planning/rig-plans";
import { readLevels, readRange } from "@/core/reading/rig-cells";
import { formatGain } from "@/core/units/decibels";
import { describedColumns } from "../parts/described-columns";
import type { PartColumn } from "../parts/part-table";

export interface PortRow extends RackPort {
  readonly id: string;
}

type Own = Partial<PartColumn<PortRow>>;

const LEVEL_CHOICES = [
  "microphone",
  "microphone, line",
  "microphone, line, instrument",
  "line",
  "line, instrument",
  "instrument",
];

const gain: Own = {
  text: ({ port }) => (port.gainDb ? `${formatGain(port.gainDb.min)} to ${formatGain(port.gainDb.max)}` : ""),
  write: (text) => {
    if (!text.trim()) return { gainDb: null };
    const range = readRange(text);
    return range ? { gainDb: range } : `“${text}” is no range of gain. Type it as 0 to 62.`;
  },
};

const levels: Own = {
  text: ({ port }) => port.levels.join(", "),
  editor: {
    kind: "choice",
    options: ({ port }) =>
      [...new Set([...LEVEL_CHOICES, port.levels.join(", ")])].map((value) => ({ value, label: value })),
  },
  write: (text) => {
    const read = readLevels(text);
    return read ? { levels: read } : "An input takes at least one level.";
  },
};

const name = (rig: Rig, act: (edits: readonly RigEdit[]) => boolean): Own => ({
  write: (text) => (text.trim().length > 60 ? "A port's name has 60 characters at most." : { name: text.trim() }),
  onLines: (lines, { port }) => {
    const command = nameRun(rig, port.id, lines);
    return command !== null && act([command]);
  },
});

/** What a port of this direction can be used as. */
const role = (direction: Port["direction"]): Own => ({
  editor: {
    kind: "choice",
    options: () =>
      PORT_ROLES.filter((value) => value !== (direction === "in" ? "headphones" : "loop-back")).map((value) => ({
        value,
        label: value,
      })),
  },
});

const phantom = (rig: Rig): Own => ({
  text: ({ port }) => (port.phantom.kind === "bank" ? `bank ${port.phantom.bankId}` : port.phantom.kind),
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
});

const sameSide = (one: Port, other: Port): boolean =>
  other.deviceId === one.deviceId &&
  other.direction === one.direction &&
  other.role === one.role &&
  other.id !== one.id;

const neighbour = (rig: Rig): Own => ({
  text: ({ port }) => port.neighbourId ?? "",
  editor: {
    kind: "choice",
    options: ({ port }) => [
      { value: "", label: "–" },
      ...entriesOf(rig.ports)
        .filter((other) => sameSide(port, other))
        .sort((a, b) => a.number - b.number)
        .map((other) => ({ value: other.id as string, label: String(other.number) })),
    ],
  },
  write: (neighbourId) => ({ neighbourId: neighbourId || null }),
});

const IN = [
  "name",
  "levels",
  "connector",
  "phantom",
  "gainDb",
  "padDb",
  "maxInputDbu",
  "fullScaleDbu",
  "neighbourId",
] as const;
const OUT = ["name", "role", "connector", "fullScaleDbu", "neighbourId"] as const;

/** Its port stands in a row of the rack: what a description says of ports is asked of it. */
const ofRow = (column: PartColumn<Port>): PartColumn<PortRow> =>
  ({ ...column, text: ({ port }: PortRow) => column.text(port) }) as unknown as PartColumn<PortRow>;

/** What can be said of ports, as columns of a table. Names can be typed in one run, or pasted, one a line. */
export const portColumns = (
  rig: Rig,
  direction: Port["direction"],
  act: (edits: readonly RigEdit[]) => boolean,
): readonly PartColumn<PortRow>[] => {
  const own: Readonly<Record<string, Own>> = {
    name: name(rig, act),
    levels,
    role: role(direction),
    phantom: phantom(rig),
    gainDb: gain,
    neighbourId: neighbour(rig),
  };
  const which: readonly string[] = direction === "in" ? IN : OUT;
  return [
    { id: "number", header: "No.", width: 44, text: ({ label }) => label },
    ...describedColumns<Port>(PORTS, {}, which).map((column) => ({ ...ofRow(column), ...own[column.id] })),
    {
      id: "running",
      header: "Computer number",
      width: 54,
      text: ({ port }) => (port.running === null ? "" : String(port.running)),
    },
    { id: "joined", header: direction === "in" ? "Wired from" : "Wired to", text: (row) => row.joined },
  ];
};
