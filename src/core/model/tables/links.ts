import type { SampleRateHz } from "../../units/hertz";
import { choice, closed, type EntryOf, name, partOf, referenceOrNull } from "../describe/fields";
import { described } from "../describe/table";
import type { DeviceId, LinkId } from "../ids";
import { MOST } from "../limits";
import { atRate, type ByRate, byRate } from "../rig-values";
import { whole } from "../schema-parts";

export const LINK_KINDS = ["optical", "coaxial", "aes3", "madi", "word-clock"] as const;

type LinkKind = (typeof LINK_KINDS)[number];

const KIND_NAMES: Readonly<Record<LinkKind, string>> = {
  optical: "optical",
  coaxial: "coaxial",
  aes3: "AES3",
  madi: "MADI",
  "word-clock": "word clock",
};

const FIELDS = {
  name: name(60, { word: "the name", cell: { heading: "Socket", width: 120 } }),
  kind: choice<LinkKind>(LINK_KINDS, {
    word: "the kind",
    cell: { heading: "Kind", width: 110, names: (kind: LinkKind) => KIND_NAMES[kind] },
  }),
  /** The device plugged in; null while the socket is free. */
  fromDeviceId: referenceOrNull<DeviceId>(
    { to: "devices", dangling: "leads to a device that is not there" },
    { word: "what is plugged in", cell: { heading: "Plugged in" } },
  ),
  toDeviceId: partOf<DeviceId>(
    { to: "devices", dangling: "leads to a device that is not there", brings: true },
    { word: "the device" },
  ),
  channels: closed<ByRate>(
    { schema: byRate(whole(0, 512)), samples: [{ single: 8, double: 4, quadruple: 2 }] },
    { word: "the channels", cell: { heading: "Channels by rate", width: 120, empty: "8/4/2" } },
  ),
};

/** Digital sockets of interfaces, in and out, and what is plugged into them. Word clock carries no channels. */
export const LINKS = described({
  one: "digital socket",
  many: "digital sockets",
  most: MOST.parts,
  fields: FIELDS,
  order: { within: null },
  rules: [
    (link: DigitalLink) =>
      link.fromDeviceId === link.toDeviceId ? `${link.name} leads from a device into itself` : null,
  ],
  called: (link: DigitalLink) => link.name,
});

export interface DigitalLink extends EntryOf<typeof FIELDS> {
  readonly id: LinkId;
  readonly order: string;
}

/**
 * Channels a digital link carries at a rate: single rates up to 48 kHz, double up to 96, quadruple above.
 * @example linkChannels(optical, 96000) // 4 for eight-channel optical
 */
export const linkChannels = (link: DigitalLink, rateHz: SampleRateHz): number => atRate(link.channels, rateHz);
