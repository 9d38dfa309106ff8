import { type EntryOf, name, numberOrNull, text } from "../describe/fields";
import { described } from "../describe/table";
import type { RoomId } from "../ids";
import { MOST } from "../limits";

/** No two of a kind are called the same, in capitals or not. */
export const nameOnce = (what: string) => [
  {
    key: (entry: { readonly name: string }) => entry.name.trim().toLowerCase(),
    says: (entry: { readonly name: string }) => `there are two ${what} called ${entry.name}`,
  },
];

const FIELDS = {
  name: name(80, { word: "the name" }),
  /** What it is like: "dry", "large live room". */
  note: text(400, { word: "the note" }),
  /**
   * How large it is, and how long it takes to fall silent: from both follows how far the direct sound carries. Null
   * where nobody has said.
   */
  volumeM3: numberOrNull<number>({ min: 1, max: 1_000_000 }, { word: "the volume" }),
  decayS: numberOrNull<number>({ min: 0.05, max: 30 }, { word: "the reverberation time" }),
};

export const ROOMS = described({
  one: "room",
  many: "rooms",
  most: MOST.parts,
  fields: FIELDS,
  order: { within: null },
  unique: nameOnce("rooms"),
  called: (room: Room) => room.name,
});

export interface Room extends EntryOf<typeof FIELDS> {
  readonly id: RoomId;
  readonly order: string;
}
