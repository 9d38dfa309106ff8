import { colourFault, OWN_COLOUR_ID, type OwnColourId } from "../colours";
import { closed, type EntryOf, name } from "../describe/fields";
import { described } from "../describe/table";
import { MOST } from "../limits";
import { nameOnce } from "./rooms";

const hex = { schema: { type: "string", pattern: "^#[0-9a-f]{6}$" }, samples: ["#69737d", "#96a0a9"] };

const FIELDS = {
  name: name(40, { word: "the name", cell: { heading: "Dye", width: 150 } }),
  cloth: closed<string>(hex, { word: "the colour on cloth", cell: { heading: "On cloth", width: 90 } }),
  night: closed<string>(hex, { word: "the colour on night", cell: { heading: "On night", width: 90 } }),
};

/** Colours that the studio added to those of the house: each on cloth and on night. */
export const OWN_COLOURS = described({
  one: "dye",
  many: "dyes",
  most: MOST.parts,
  id: OWN_COLOUR_ID,
  fields: FIELDS,
  unique: nameOnce("dyes"),
  rules: [
    (own: OwnColour) => {
      const fault = colourFault(own.cloth, "cloth") ?? colourFault(own.night, "night");
      return fault ? `${own.name}: ${fault}` : null;
    },
  ],
  called: (own: OwnColour) => own.name,
});

export interface OwnColour extends EntryOf<typeof FIELDS> {
  readonly id: OwnColourId;
}
