import type { DeviceId, PortId, WireId } from "../model/ids";
import { devicesOf } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { byOrder, entriesOf, putInto } from "../model/table";
import type { Device } from "../model/tables/devices";
import type { Feed } from "../model/tables/feeds";
import type { Wire } from "../model/tables/wires";
import type { RigEdit } from "../planning/edits/rig-editing";
import { nextFreePair } from "../queries/free-outputs";
import { portsText } from "../reading/rig-cells";
import type { Severity } from "./finding";

export interface RigFinding {
  readonly id: string;
  readonly rule: string;
  readonly severity: Severity;
  readonly message: string;
  readonly deviceId: DeviceId | null;
  readonly fixes: readonly { readonly label: string; readonly edits: readonly RigEdit[] }[];
}

const isDigital = (device: Device): boolean => device.kind === "interface" || device.kind === "expander";

const setClock = (ids: readonly DeviceId[], clock: Device["clock"]): RigEdit => ({
  kind: "entries.set",
  table: "devices",
  ids,
  set: { clock },
});

/** Exactly one device leads; all other digital ones follow. */
const leaders = (rig: Rig): readonly RigFinding[] => {
  const digital = devicesOf(rig).filter((device) => isDigital(device) || device.clock.kind !== "none");
  const leading = digital.filter((device) => device.clock.kind === "leads");
  const [first, second] = leading;
  if (!digital.length || (first && !second)) return [];
  if (!first) {
    const candidate = digital.find((device) => device.kind === "interface") ?? digital[0];
    return [
      {
        id: "clock-without-leader",
        rule: "clock-leader",
        severity: "problem",
        message: "No device leads the clock: all of them wait for one that does, and clicks are what is heard.",
        deviceId: candidate?.id ?? null,
        fixes: candidate
          ? [{ label: `Let ${candidate.name} lead`, edits: [setClock([candidate.id], { kind: "leads" })] }]
          : [],
      },
    ];
  }
  return [
    {
      id: "clock-with-two-leaders",
      rule: "clock-leader",
      severity: "problem",
      message: `${leading.map((device) => device.name).join(" and ")} both lead the clock. They drift apart, and every few seconds something clicks.`,
      deviceId: second?.id ?? null,
      fixes: leading.map((device) => ({
        label: `Let ${device.name} lead alone`,
        edits: leading
          .filter((other) => other !== device)
          .map((other) => {
            const link = linkBetween(rig, other.id);
            return setClock([other.id], { kind: "follows", linkId: link });
          }),
      })),
    },
  ];
};

/** A socket through which a device hangs on another, word clock last; null when there is none. */
const linkBetween = (rig: Rig, deviceId: DeviceId) =>
  entriesOf(rig.links)
    .filter((link) => link.fromDeviceId === deviceId || (link.toDeviceId === deviceId && link.fromDeviceId))
    .sort((a, b) => Number(a.kind === "word-clock") - Number(b.kind === "word-clock") || byOrder(a, b))[0]?.id ?? null;

/** A follower needs a socket that joins it to somebody, and the socket must be plugged. */
const followers = (rig: Rig): readonly RigFinding[] =>
  devicesOf(rig).flatMap((device) => {
    const { clock } = device;
    if (clock.kind !== "follows") return isDigital(device) && clock.kind === "none" ? [withoutClock(device)] : [];
    const link = clock.linkId ? rig.links[clock.linkId] : undefined;
    const joins = link?.fromDeviceId && (link.fromDeviceId === device.id || link.toDeviceId === device.id);
    if (joins) return [];
    const usable = linkBetween(rig, device.id);
    const free = entriesOf(rig.links).filter(
      (candidate) => !candidate.fromDeviceId && candidate.toDeviceId !== device.id,
    );
    return [
      {
        id: `clock-follower:${device.id}`,
        rule: "clock-follower",
        severity: "problem",
        message: link
          ? `${device.name} follows the clock through ${link.name}, and ${link.name} does not lead to it.`
          : `${device.name} follows the clock, and no link brings it one. Plug it into a digital socket or word clock.`,
        deviceId: device.id,
        fixes: usable
          ? [
              {
                label: `Follow through ${rig.links[usable]?.name}`,
                edits: [setClock([device.id], { kind: "follows", linkId: usable })],
              },
            ]
          : free.slice(0, 2).map((socket) => ({
              label: `Plug it into ${socket.name} of ${rig.devices[socket.toDeviceId]?.name}`,
              edits: [
                { kind: "links.plug", linkId: socket.id, deviceId: device.id } as const,
                setClock([device.id], { kind: "follows", linkId: socket.id }),
              ],
            })),
      },
    ];
  });

const withoutClock = (device: Device): RigFinding => ({
  id: `clock-follower:${device.id}`,
  rule: "clock-follower",
  severity: "problem",
  message: `${device.name} is digital and neither leads the clock nor follows one.`,
  deviceId: device.id,
  fixes: [{ label: "Let it follow", edits: [setClock([device.id], { kind: "follows", linkId: null })] }],
});

/** An expander with more inputs than its sockets carry, already at single rates. */
const crowded = (rig: Rig): readonly RigFinding[] =>
  devicesOf(rig).flatMap((device): readonly RigFinding[] => {
    const links = entriesOf(rig.links).filter((link) => link.fromDeviceId === device.id);
    const room = links.reduce((sum, link) => sum + link.channels.single, 0);
    const inputs = entriesOf(rig.ports).filter((port) => port.deviceId === device.id && port.direction === "in").length;
    if (device.kind !== "expander" || !links.length || inputs <= room) return [];
    return [
      {
        id: `link-beyond-count:${device.id}`,
        rule: "link-beyond-count",
        severity: "problem",
        message: `${device.name} has ${inputs} inputs, and ${links.map((link) => link.name).join(" and ")} ${links.length === 1 ? "carries" : "carry"} ${room}: the rest never reach the computer.`,
        deviceId: device.id,
        fixes: entriesOf(rig.links)
          .filter((link) => !link.fromDeviceId && link.kind !== "word-clock" && link.toDeviceId !== device.id)
          .slice(0, 1)
          .map((link) => ({
            label: `Plug it into ${link.name} as well`,
            edits: [{ kind: "links.plug", linkId: link.id, deviceId: device.id } as const],
          })),
      },
    ];
  });

/** An expander that hangs on nothing: its inputs are not there for anybody. */
const unplugged = (rig: Rig): readonly RigFinding[] =>
  devicesOf(rig).flatMap((device): readonly RigFinding[] => {
    if (
      device.kind !== "expander" ||
      entriesOf(rig.links).some((link) => link.fromDeviceId === device.id && link.kind !== "word-clock")
    )
      return [];
    return [
      {
        id: `expander-unplugged:${device.id}`,
        rule: "expander-unplugged",
        severity: "hint",
        message: `${device.name} is not plugged into any digital socket, so its inputs don't reach the computer.`,
        deviceId: device.id,
        fixes: entriesOf(rig.links)
          .filter((link) => !link.fromDeviceId && link.kind !== "word-clock")
          .slice(0, 2)
          .map((link) => ({
            label: `Plug it into ${link.name} of ${rig.devices[link.toDeviceId]?.name}`,
            edits: [{ kind: "links.plug", linkId: link.id, deviceId: device.id } as const],
          })),
      },
    ];
  });

/** Two listening places on one output hear the same, which is seldom meant. */
const sharedOutputs = (rig: Rig): readonly RigFinding[] => {
  const byPort = new Map<PortId, Feed[]>();
  for (const feed of entriesOf(rig.feeds).sort(byOrder))
    for (const portId of feed.portIds) {
      const there = byPort.get(portId) ?? [];
      there.push(feed);
      byPort.set(portId, there);
    }
  const told = new Set<string>();
  return [...byPort].flatMap(([portId, feeds]): readonly RigFinding[] => {
    const [first, second] = feeds;
    const key = `${first?.id} ${second?.id}`;
    if (!first || !second || told.has(key)) return [];
    told.add(key);
    const free = nextFreePair(rig);
    return [
      {
        id: `output-shared:${first.id}:${second.id}`,
        rule: "output-shared",
        severity: "hint",
        message: `${first.name} and ${second.name} are on the same outputs (${portsText(rig, second.portIds)}): they hear the same, as loud as each other.`,
        deviceId: rig.ports[portId]?.deviceId ?? null,
        fixes: free
          ? [
              {
                label: `Put ${second.name} on ${portsText(rig, free)}`,
                edits: [{ kind: "entries.set", table: "feeds", ids: [second.id], set: { portIds: free } }],
              },
            ]
          : [],
      },
    ];
  });
};

const portOf = (rig: Rig, id: PortId): string => {
  const port = rig.ports[id];
  return port
    ? `${rig.devices[port.deviceId]?.name ?? "a device"} ${port.direction === "in" ? "input" : "output"} ${port.number}`
    : "a port";
};

const unwire = (ids: readonly WireId[]): RigEdit => ({ kind: "entries.remove", table: "wires", ids });

/** One output that is wired to two inputs. */
const wiredTwice = (rig: Rig): readonly RigFinding[] => {
  const byOutput = new Map<PortId, Wire[]>();
  for (const wire of entriesOf<Wire>(rig.wires)) putInto(byOutput, wire.fromPortId, wire);
  return [...byOutput].flatMap(([portId, wires]): readonly RigFinding[] => {
    const [first, ...others] = wires;
    return first && others.length
      ? [
          {
            id: `output-wired-twice:${portId}`,
            rule: "output-wired-twice",
            severity: "hint",
            message: `${portOf(rig, portId)} is wired to ${wires.map(({ toPortId }) => portOf(rig, toPortId)).join(" and ")}: one plug is in one socket.`,
            deviceId: rig.ports[portId]?.deviceId ?? null,
            fixes: [
              { label: `Leave it on ${portOf(rig, first.toPortId)} only`, edits: [unwire(others.map(({ id }) => id))] },
            ],
          },
        ]
      : [];
  });
};

/** Wires that lead from a device straight back into it, or at line level into what takes microphones only. */
const strangeWires = (rig: Rig): readonly RigFinding[] =>
  entriesOf<Wire>(rig.wires).flatMap((wire): readonly RigFinding[] => {
    const [from, to] = [rig.ports[wire.fromPortId], rig.ports[wire.toPortId]];
    if (!from || !to) return [];
    const [device, own] = [rig.devices[to.deviceId], from.deviceId === to.deviceId];
    const tooHot = !own && to.levels.every((level) => level === "microphone") && from.levels.includes("line");
    if (!own && !tooHot) return [];
    return [
      {
        id: `wire-dangling:${wire.id}`,
        rule: "wire-dangling",
        severity: "problem",
        message: own
          ? `${portOf(rig, wire.fromPortId)} is wired into ${portOf(rig, wire.toPortId)} of the same device: what goes out comes in again and howls.`
          : `${portOf(rig, wire.fromPortId)} gives line level, and ${portOf(rig, wire.toPortId)} takes microphones only: it clips.`,
        deviceId: device?.id ?? null,
        fixes: [{ label: "Take the wire away", edits: [unwire([wire.id])] }],
      },
    ];
  });

/**
 * What is wrong with a rig by itself, whatever is planned on it: clock, digital links, listening places, wires. Linear
 * in its parts.
 */
export const rigFindings = (rig: Rig): readonly RigFinding[] => [
  ...leaders(rig),
  ...followers(rig),
  ...crowded(rig),
  ...unplugged(rig),
  ...sharedOutputs(rig),
  ...wiredTwice(rig),
  ...strangeWires(rig),
];
