import { COLOUR, COLOUR_NAMES, type Colour, isColour } from "../colours";
import { choice, closed, type EntryOf } from "../describe/fields";
import { described } from "../describe/table";
import { FAMILIES, type Family, ICONS, type Icon } from "../families";

const FIELDS = {
  colour: closed<Colour>(
    {
      schema: COLOUR,
      samples: COLOUR_NAMES,
      references: [
        {
          to: "colours",
          astray: "has a dye that is not there",
          ids: (colour: Colour) => (isColour(colour) ? [] : [colour]),
          without: () => ({ value: "slate" }),
        },
      ],
    },
    { word: "the dye" },
  ),
  icon: choice<Icon>(ICONS, { word: "the icon" }),
};

/** Colour and icon that new tracks of a family get. */
export const FAMILY_STYLES = described({
  one: "family",
  many: "families",
  most: FAMILIES.length,
  ids: "fixed",
  id: { enum: FAMILIES },
  fields: FIELDS,
  called: (family: FamilyStyle) => family.id.replaceAll("-", " "),
});

export interface FamilyStyle extends EntryOf<typeof FIELDS> {
  readonly id: Family;
}
