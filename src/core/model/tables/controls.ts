import { type Decibels, formatLevel } from "../../units/decibels";
import { COLOUR_NAMES, COLOUR_OR_NULL, type Colour } from "../colours";
import { addTitled, titled } from "../describe/calls";
import { closed, type EntryOf, flag, level, type NamedAround, name, referenceOrNull } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { ControlId } from "../ids";
import { MOST } from "../limits";
import { FADER_DB } from "./channel-fields";

const FIELDS = {
  name: name(200, {
    word: "the name",
    needed: "A control fader needs a name, for example All voices.",
  }),
  colour: closed<Colour | null>(
    { schema: COLOUR_OR_NULL, initial: null, samples: [null, ...COLOUR_NAMES] },
    { word: "the colour" },
  ),
  /** Added to each of its members; −∞ silences them. */
  faderDb: level(FADER_DB, {
    word: "the fader",
    says: (who: string, to: Decibels | null) => `Set ${who} to ${formatLevel(to)}`,
  }),
  muted: flag(
    { on: "muted", off: "heard" },
    { word: "the mute", says: (who: string, muted: boolean) => `${muted ? "Mute" : "Unmute"} what ${who} holds` },
  ),
  /** The control fader that this one rides on. */
  parentId: referenceOrNull<ControlId>(
    { to: "controls", dangling: "rides on a control fader that is not there" },
    {
      word: "what it rides on",
      says: (who: string, to: ControlId | null, around: NamedAround) =>
        `Let ${who} ride on ${to ? around.entry("controls", to)?.name : "nothing"}`,
    },
  ),
};

/** Faders that carry no sound: they add their dB and their mute to their members. */
export const CONTROLS = described({
  one: "control fader",
  many: "control faders",
  most: MOST.controls,
  fields: FIELDS,
  nested: { by: "parentId", depth: 8 },
  called: (control: Control) => control.name,
  calls: { who: titled("control fader"), added: addTitled("control fader") },
});

export interface Control extends EntryOf<typeof FIELDS> {
  readonly id: ControlId;
}

export const newControl = (given: Partial<Control> & Pick<Control, "id" | "name">): Control =>
  newEntry(CONTROLS, given) as unknown as Control;
