import { choice, closed, type EntryOf, name, text } from "../describe/fields";
import { described } from "../describe/table";
import type { DeviceId, LinkId } from "../ids";
import { MOST } from "../limits";
import { byKind, id, orNull } from "../schema-parts";

export const DEVICE_KINDS = ["interface", "expander", "preamp", "outboard", "headphone-amplifier"] as const;
export type DeviceKind = (typeof DEVICE_KINDS)[number];

/**
 * How a device is clocked. An analogue one is not; of the others one leads and the rest follow it, each through a link.
 */
export type Clock =
  | { readonly kind: "none" }
  | { readonly kind: "leads" }
  | { readonly kind: "follows"; readonly linkId: LinkId | null };

const KIND_NAMES: Readonly<Record<DeviceKind, string>> = {
  interface: "interface",
  expander: "expander",
  preamp: "outside preamp",
  outboard: "outboard",
  "headphone-amplifier": "headphone amplifier",
};

const FIELDS = {
  kind: choice<DeviceKind>(DEVICE_KINDS, {
    word: "the kind",
    cell: { heading: "Kind", width: 150, names: (kind: DeviceKind) => KIND_NAMES[kind] },
  }),
  name: name(200, { word: "the name", cell: { heading: "Name" } }),
  /** Stands before a port number in lists ("E" gives E5). Empty for the interface whose inputs are plain numbers. */
  shortName: text(3, {
    word: "the short name",
    cell: { heading: "Label", width: 130, empty: "nothing" },
  }),
  clock: closed<Clock>(
    {
      schema: byKind({ none: {}, leads: {}, follows: { linkId: orNull(id) } }),
      samples: [{ kind: "none" }, { kind: "leads" }, { kind: "follows", linkId: null }],
      references: [
        {
          to: "links",
          dangling: "follows a socket that is not there",
          ids: (clock: Clock) => (clock.kind === "follows" && clock.linkId ? [clock.linkId] : []),
          without: () => ({ value: { kind: "follows", linkId: null } }),
        },
      ],
    },
    { word: "the clock", cell: { heading: "Clock", width: 220 } },
  ),
};

/** Interfaces, expanders, outside preamps, outboard, headphone amplifiers: in the order in which they sit. */
export const DEVICES = described({
  one: "device",
  many: "devices",
  most: MOST.parts,
  fields: FIELDS,
  order: { within: null },
  called: (device: Device) => device.name,
  calls: { removed: (_devices: readonly Device[], who: string) => `Retire ${who}` },
});

export interface Device extends EntryOf<typeof FIELDS> {
  readonly id: DeviceId;
  readonly order: string;
}
