import type { Decibels } from "../../units/decibels";
import { choice, closed, type EntryOf, number, numberOrNull, partOf, referenceOrNull, text } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { BankId, DeviceId, LinkId, PortId } from "../ids";
import { MOST } from "../limits";
import { LEVELS, type Level } from "../microphone-kinds";
import { DIRECTIONS, HARDWARE_DB } from "../rig-values";
import { number as between, byKind, id, list, object, orNull, whole } from "../schema-parts";
import type { Device } from "./devices";

export const CONNECTORS = ["xlr", "jack", "combo", "optical", "none"] as const;

/**
 * What a port is for besides sound going in or out: headphones, or sound of other programs and far guests coming back
 * in.
 */
export const PORT_ROLES = ["plain", "headphones", "loop-back"] as const;

export type PhantomSupply =
  | { readonly kind: "none" }
  | { readonly kind: "own" }
  | { readonly kind: "bank"; readonly bankId: BankId };

interface GainRange {
  readonly min: Decibels;
  readonly max: Decibels;
}
interface Seat {
  readonly linkId: LinkId;
  readonly channel: number;
}

const decibels = between(HARDWARE_DB.min, HARDWARE_DB.max);

const deviceOf = (port: Port, around: Around): string =>
  (around.entry("devices", port.deviceId) as Device | undefined)?.name ?? "a device";

const CONNECTOR_NAMES = { xlr: "XLR", jack: "jack", combo: "XLR and jack", optical: "optical", none: "none" } as const;

const FIELDS = {
  deviceId: partOf<DeviceId>({ to: "devices", dangling: "belongs to no device", brings: true }, { word: "the device" }),
  direction: choice<(typeof DIRECTIONS)[number]>(DIRECTIONS, { word: "the direction" }),
  number: number({ min: 1, max: 4096, whole: true }, { word: "the number" }),
  /** The engineer's own name for it; empty when it has none. */
  name: text(60, { word: "the name", cell: { heading: "Name", width: 116, empty: "by its number" } }),
  role: choice<(typeof PORT_ROLES)[number]>(PORT_ROLES, { word: "the use", cell: { heading: "Use", width: 96 } }),
  connector: choice<(typeof CONNECTORS)[number]>(CONNECTORS, {
    word: "the connector",
    cell: { heading: "Connector", width: 98, names: (one: (typeof CONNECTORS)[number]) => CONNECTOR_NAMES[one] },
  }),
  levels: closed<readonly Level[]>(
    {
      schema: { ...list({ enum: LEVELS }, 3), minItems: 1 },
      samples: [["microphone"], ["line"], ["microphone", "line"]],
    },
    { word: "the levels", cell: { heading: "Accepts", width: 116 } },
  ),
  phantom: closed<PhantomSupply>(
    {
      schema: byKind({ none: {}, own: {}, bank: { bankId: id } }),
      samples: [{ kind: "none" }, { kind: "own" }],
      references: [
        {
          to: "banks",
          dangling: "is in a bank that is not there",
          ids: (phantom: PhantomSupply) => (phantom.kind === "bank" ? [phantom.bankId] : []),
          without: () => ({ value: { kind: "own" } }),
        },
      ],
    },
    { word: "phantom", cell: { heading: "Phantom", width: 104 } },
  ),
  padDb: numberOrNull<Decibels>(HARDWARE_DB, {
    word: "the pad",
    cell: { heading: "Pad", width: 44, ask: "a number of dB" },
  }),
  gainDb: closed<GainRange | null>(
    { schema: orNull(object({ min: decibels, max: decibels })), initial: null, samples: [null] },
    { word: "the gain range", cell: { heading: "Gain dB", width: 74, empty: "none" } },
  ),
  fullScaleDbu: numberOrNull<Decibels>(HARDWARE_DB, {
    word: "the level at full scale",
    cell: { heading: "0 dBFS", width: 62, ask: "a number of dB" },
  }),
  /** Of a preamp: the strongest level that it takes without its pad, in dBu; null where nobody has said. */
  maxInputDbu: numberOrNull<Decibels>(HARDWARE_DB, {
    word: "the highest input level",
    cell: { heading: "Up to dBu", width: 72, ask: "a number of dB" },
  }),
  /** The port that makes a stereo pair with this one. */
  neighbourId: referenceOrNull<PortId>(
    { to: "ports", dangling: "has a neighbour that is not there" },
    { word: "the stereo pair", cell: { heading: "Pair", width: 58 } },
  ),
  /**
   * The running number under which the computer sees it; null when the computer does not (an input of an outside
   * preamp). Counted, not set.
   */
  running: numberOrNull({ min: 1, max: 8192, whole: true }, { word: "the running number" }),
  /** The digital link by which it reaches the computer, and its channel there from 1. Counted, not set. */
  carriedBy: closed<Seat | null>(
    {
      schema: orNull(object({ linkId: id, channel: whole(1, 512) })),
      initial: null,
      samples: [null],
      references: [
        {
          to: "links",
          dangling: "rides on a socket that is not there",
          ids: (seat: Seat | null) => (seat ? [seat.linkId] : []),
          without: () => ({ value: null }),
        },
      ],
    },
    { word: "the channel it rides on" },
  ),
};

/** Sockets of a device. On a preamp the input takes the microphone and the output is wired onwards. */
export const PORTS = described({
  one: "port",
  many: "ports",
  most: MOST.ports,
  fields: FIELDS,
  unique: [
    {
      key: (port: Port) => `${port.deviceId} ${port.direction} ${port.role === "loop-back"} ${port.number}`,
      says: (port: Port, around: Around) =>
        `${deviceOf(port, around)} has two ${port.direction === "in" ? "inputs" : "outputs"} ${port.number}`,
    },
  ],
  rules: [
    (port: Port, around: Around) => {
      const neighbour = port.neighbourId ? (around.entry("ports", port.neighbourId) as Port | undefined) : undefined;
      const strange =
        neighbour &&
        (neighbour.deviceId !== port.deviceId || neighbour.direction !== port.direction || neighbour.id === port.id);
      return strange ? `port ${port.number} pairs with a port that can't be its neighbour` : null;
    },
    (port: Port) => (port.gainDb && port.gainDb.min > port.gainDb.max ? "a gain range ends below its start" : null),
  ],
  called: (port: Port, around: Around) =>
    `${deviceOf(port, around)} ${port.direction === "in" ? "input" : "output"} ${port.number}`,
});

export interface Port extends EntryOf<typeof FIELDS> {
  readonly id: PortId;
}

/** Whether all of some ports are there and go this way; one that is missing is told by its reference. */
export const allGo = (around: Around, ids: readonly string[], direction: Port["direction"]): boolean =>
  ids.every((one) => ((around.entry("ports", one) as Port | undefined)?.direction ?? direction) === direction);
