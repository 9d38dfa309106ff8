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
  name: name(80, { word: "the name", cell: { heading: "Room", width: 150 } }),
  /** What it is like: "dry", "large live room". */
  note: text(400, { word: "the note", cell: { heading: "Character" } }),
  /**
   * How large it is, and how long it takes to fall silent: from both follows how far the direct sound carries. Null
   * where nobody has said.
   */
  volumeM3: numberOrNull<number>(
    { min: 1, max: 1_000_000 },
    { word: "the volume", cell: { heading: "Volume m³", width: 86, ask: "the volume in m³, from 1 to 1,000,000" } },
  ),
  decayS: numberOrNull<number>(
    { min: 0.05, max: 30 },
    {
      word: "the reverberation time",
      cell: { heading: "Decay s", width: 86, ask: "how long it takes to fall silent in seconds, from 0.05 to 30" },
    },
  ),
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
