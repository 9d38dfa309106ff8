import { orderKeys } from "../commands/order-keys";
import type { PersonId, RoomId } from "../model/ids";
import type { PerformerKind } from "../model/performers";
import { newStudio, type Studio } from "../model/studio";
import { withChains } from "./chains";

const ROOMS = [
  ["wheelhouse", "Wheelhouse", "large live room", 198.4, 0.6],
  ["loft", "Loft", "small room", 45, 0.4],
  ["booth", "Booth", "dry", 12, 0.15],
  ["stair", "Stair", "echo chamber", 90, 2.4],
  ["office", "Office", "control room", 50, 0.3],
] as const;

const PEOPLE: readonly (readonly [string, string, string, PerformerKind])[] = [
  ["nadia", "Nadia Okonjo-Reyes", "engineer", "none"],
  ["tom", "Tom Hallgarth", "assistant", "none"],
  ["pell", "Pell Marrow", "drums", "percussion"],
  ["bram", "Bram Teller", "double bass", "strings"],
  ["juno", "Juno Ashby", "cimbalom and second voice", "strings"],
  ["wynn", "Wynn Solari", "fiddle", "strings"],
  ["odile", "Odile Farr", "accordion", "keys"],
  ["kester", "Kester Blom", "clarinet", "wind"],
  ["mab", "Mab Tregarth", "trumpet", "wind"],
  ["hob", "Hob Linley", "sousaphone", "wind"],
  ["ilse", "Ilse Varga", "lead voice", "voice"],
];

/** Entries by id, each in its place. */
const inRow = <T, E extends { readonly id: string }>(rows: readonly T[], entry: (row: T) => E) => {
  const keys = orderKeys(rows.length);
  return rows.map((row, at) => [entry(row).id, { ...entry(row), order: keys[at] ?? "" }] as const);
};

/** Mossgate Mill: its rooms and the people of the evenings there. */
export const demoStudio: Studio = withChains({
  ...newStudio("Mossgate Mill"),
  rooms: Object.fromEntries(
    inRow(ROOMS, ([id, name, note, volumeM3, decayS]) => ({ id: id as RoomId, name, note, volumeM3, decayS })),
  ),
  people: Object.fromEntries(
    inRow(PEOPLE, ([id, name, does, performs]) => ({ id: id as PersonId, name, does, performs, note: "" })),
  ),
});
