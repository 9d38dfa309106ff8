import type { PersonId, RoomId } from "../model/ids";
import { newStudio, type PerformerKind, type Studio } from "../model/studio";

const ROOMS = [
  ["wheelhouse", "Wheelhouse", "large live room"],
  ["loft", "Loft", "small room"],
  ["booth", "Booth", "dry"],
  ["stair", "Stair", "echo chamber"],
  ["office", "Office", "control room"],
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

/** Mossgate Mill: its rooms and the people of the evenings there. */
export const demoStudio: Studio = {
  ...newStudio("Mossgate Mill"),
  rooms: Object.fromEntries(ROOMS.map(([id, name, note], order) => [id, { id: id as RoomId, name, note, order }])),
  people: Object.fromEntries(PEOPLE.map(([id, name, does, performs], order) => [id, { id: id as PersonId, name, does, performs, note: "", order }])),
};
