import { choice, type EntryOf, name, references, text } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { FeedId, PortId } from "../ids";
import { MOST } from "../limits";
import { allGo } from "./ports";

export const FEED_KINDS = ["monitors", "headphones", "room-loudspeaker", "amplifier"] as const;

const FEED_NAMES: Readonly<Record<(typeof FEED_KINDS)[number], string>> = {
  monitors: "monitors",
  headphones: "headphones",
  "room-loudspeaker": "loudspeaker of a room",
  amplifier: "amplifier to record through again",
};

const FIELDS = {
  name: name(200, { word: "the name", cell: { heading: "Place" } }),
  kind: choice<(typeof FEED_KINDS)[number]>(FEED_KINDS, {
    word: "the kind",
    cell: { heading: "What it is", width: 200, names: (kind: (typeof FEED_KINDS)[number]) => FEED_NAMES[kind] },
  }),
  portIds: references<PortId>(
    { to: "ports", dangling: "hangs on an output that is not there", most: 64, least: 1 },
    { word: "the outputs", cell: { heading: "Outputs", width: 130 } },
  ),
  /** Who wears the headphones, or which room hears it. */
  who: text(200, { word: "the listener", cell: { heading: "Who or which room", width: 190, empty: "nobody yet" } }),
};

/**
 * What outputs lead to: a set of monitors, somebody's headphones, the loudspeaker of a room, an amplifier to record
 * again through.
 */
export const FEEDS = described({
  one: "listening place",
  many: "listening places",
  most: MOST.parts,
  fields: FIELDS,
  order: { within: null },
  rules: [
    (feed: Feed, around: Around) =>
      allGo(around, feed.portIds, "out") ? null : `${feed.name} hangs on an output that is not there`,
  ],
  called: (feed: Feed) => feed.name,
});

export interface Feed extends EntryOf<typeof FIELDS> {
  readonly id: FeedId;
  readonly order: string;
}
