import { type Decibels, formatLevel } from "../../units/decibels";
import { COLOUR_NAMES, COLOUR_OR_NULL, type Colour } from "../colours";
import { addTitled, titled } from "../describe/calls";
import { choiceFrom, closed, type EntryOf, level, name, type ToldAround, text } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { CueId, PortId } from "../ids";
import { MOST } from "../limits";
import { id, list, named } from "../schema-parts";
import { FADER_DB } from "./channel-fields";

/** How a cue is heard: on the head, from a loudspeaker in a room, or by a guest at the far end of a line. */
export const HEARINGS = ["headphones", "loudspeaker", "far"] as const;
export type Hearing = (typeof HEARINGS)[number];

/**
 * Where a cue is mixed: in the computer, or in the interface's own mixer, which takes its inputs before the computer
 * has them.
 */
export const MIXED_IN = ["computer", "interface"] as const;
export type MixedIn = (typeof MIXED_IN)[number];

const FIELDS = {
  name: name(200, {
    word: "the name",
    searched: true,
    needed: "A cue needs a name, for example that of who wears it.",
  }),
  colour: closed<Colour | null>(
    { schema: COLOUR_OR_NULL, initial: null, samples: [null, ...COLOUR_NAMES] },
    { word: "the colour" },
  ),
  /** Who wears or hears it: names of players. */
  people: closed<readonly string[]>(
    { schema: list(named(200), 64), initial: [], samples: [[], ["Ilse Varga"], ["Ilse Varga", "Pell Marrow"]] },
    { word: "who hears it" },
  ),
  hearing: choiceFrom<Hearing>(HEARINGS, { word: "how it is heard" }),
  /** Outputs of the rig, left before right; none while nobody has said. Whether they are there is a check's to tell. */
  portIds: closed<readonly PortId[]>(
    { schema: list(id, 2), initial: [], samples: [[], ["elsewhere" as PortId]] },
    {
      word: "the output",
      tells: (ports: readonly PortId[], around: ToldAround) => ports.map(around.port).join("–") || "none",
    },
  ),
  mixedIn: choiceFrom<MixedIn>(MIXED_IN, {
    word: "where it is mixed",
    says: (who: string, where: MixedIn) => `Mix ${who} in the ${where === "interface" ? "interface" : "computer"}`,
  }),
  /** How loud the whole of it goes out. */
  levelDb: level(FADER_DB, {
    word: "the level",
    says: (who: string, to: Decibels | null) => `Set ${who} to ${formatLevel(to)}`,
  }),
  /** The room that its loudspeaker stands in. */
  room: text(200, { word: "the room" }),
  note: text(4000, { word: "the note" }),
};

/** Mixes of their own for those who play: in the order in which they are shown. */
export const CUES = described({
  one: "cue",
  many: "cues",
  most: MOST.cues,
  fields: FIELDS,
  order: { within: null },
  rules: [
    (cue: Cue) =>
      new Set(cue.portIds).size < cue.portIds.length ? `${cue.name} has one output as left and right` : null,
  ],
  called: (cue: Cue) => cue.name,
  calls: { who: titled("cue"), added: addTitled("cue") },
});

export interface Cue extends EntryOf<typeof FIELDS> {
  readonly id: CueId;
  readonly order: string;
}

/** One that is to be added: its place comes with the command. */
export type NewCue = Omit<Cue, "order">;

/** A cue with what it begins with where nothing is said. */
export const newCue = (given: Partial<NewCue> & Pick<Cue, "id" | "name">): NewCue =>
  newEntry(CUES, given) as unknown as NewCue;
