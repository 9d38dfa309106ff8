import { COLOUR, COLOUR_NAMES, type Colour, isColour } from "../colours";
import { choice, closed, type EntryOf, numberFrom } from "../describe/fields";
import { described } from "../describe/table";
import { FAMILIES, type Family, ICONS, type Icon } from "../families";
import { CREST_DB, DISTANCE_M, LOUDNESS_DB } from "../loudness";

const FIELDS = {
  colour: closed<Colour>(
    {
      schema: COLOUR,
      samples: COLOUR_NAMES,
      references: [
        {
          to: "colours",
          dangling: "has a dye that is not there",
          ids: (colour: Colour) => (isColour(colour) ? [] : [colour]),
          without: () => ({ value: "slate" }),
        },
      ],
    },
    { word: "the dye" },
  ),
  icon: choice<Icon>(ICONS, { word: "the icon" }),
  /** Sound pressure a metre away, in dB SPL: how loud one of them plays when they play out. */
  loudnessDb: numberFrom<number>({ ...LOUDNESS_DB, initial: 85 }, { word: "how loud it is" }),
  /** How far its microphone stands. */
  distanceM: numberFrom<number>({ ...DISTANCE_M, initial: 0.5 }, { word: "how far the microphone is" }),
  /** How far its peaks stand above its RMS level, in dB. */
  crestDb: numberFrom<number>({ ...CREST_DB, initial: 14 }, { word: "the crest" }),
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
