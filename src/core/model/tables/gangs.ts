import { type EntryOf, flag, text } from "../describe/fields";
import { described } from "../describe/table";
import type { GangId } from "../ids";
import { MOST } from "../limits";

const HELD = { on: "together", off: "each by itself" } as const;

const FIELDS = {
  name: text(200, { word: "the name" }),
  level: flag(HELD, { word: "whether faders move together" }),
  mute: flag(HELD, { word: "whether they are muted together" }),
  pan: flag(HELD, { word: "whether they are panned together" }),
  sends: flag(HELD, { word: "whether they are sent together" }),
};

/** What of a gang's members moves together. */
export const HELD_ATTRIBUTES = ["level", "mute", "pan", "sends"] as const;
export type HeldAttribute = (typeof HELD_ATTRIBUTES)[number];

/** Channels that are held together; a channel says itself which gang it is in, and a gang without members goes. */
export const GANGS = described({
  one: "gang",
  many: "gangs",
  most: MOST.gangs,
  fields: FIELDS,
  held: (gang: Gang) => `the gang ${gang.name || "without a name"} holds nothing`,
  called: (gang: Gang) => gang.name || null,
});

export interface Gang extends EntryOf<typeof FIELDS> {
  readonly id: GangId;
}
