import { choice, type EntryOf, name, references, text } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { FeedId, PortId } from "../ids";
import { MOST } from "../limits";
import { allGo } from "./ports";

export const FEED_KINDS = ["monitors", "headphones", "room-loudspeaker", "amplifier"] as const;

const FIELDS = {
  name: name(200, { word: "the name" }),
  kind: choice<(typeof FEED_KINDS)[number]>(FEED_KINDS, { word: "the kind" }),
  portIds: references<PortId>(
    { to: "ports", astray: "hangs on an output that is not there", most: 64, least: 1 },
    { word: "the outputs" },
  ),
  /** Who wears the headphones, or which room hears it. */
  who: text(200, { word: "the listener" }),
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
