import { type EntryOf, flag, text } from "../describe/fields";
import { described } from "../describe/table";
import type { GangId } from "../ids";
import { MOST } from "../limits";

const HELD = { on: "together", off: "each by itself" } as const;

const SAYS_HELD = (who: string): string => `Set what ${who} holds together`;

const FIELDS = {
  name: text(200, { word: "the name", says: (who: string, to: string) => `Call ${who} ${to}` }),
  level: flag(HELD, { word: "whether faders move together", says: SAYS_HELD }),
  mute: flag(HELD, { word: "whether they are muted together", says: SAYS_HELD }),
  pan: flag(HELD, { word: "whether they are panned together", says: SAYS_HELD }),
  sends: flag(HELD, { word: "whether they are sent together", says: SAYS_HELD }),
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
  calls: { who: ([gang]: readonly Gang[]) => gang?.name || "the gang" },
});

export interface Gang extends EntryOf<typeof FIELDS> {
  readonly id: GangId;
}
