import { COLOUR, COLOUR_NAMES, type Colour, isColour } from "../colours";
import { choice, closed, type EntryOf, numberFrom, numberOrNull, referenceOrNull, text } from "../describe/fields";
import { described } from "../describe/table";
import { FAMILIES, type Family, ICONS, type Icon } from "../families";
import type { ChainId } from "../ids";
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
  /** The folder its tracks go to; empty: one called as the family is. */
  folder: text(200, { word: "the folder", cell: { heading: "Folder", width: 130, empty: "as the family" } }),
  /** The bus they are summed to; empty: that of the folder. */
  bus: text(200, { word: "the bus", cell: { heading: "Bus", width: 130, empty: "as the folder" } }),
  /** Where it stands among the families, from 1; equal ones in the order of the house. */
  place: numberFrom<number>(
    { min: 1, max: 99, whole: true, initial: 50 },
    { word: "the place", cell: { heading: "Place", width: 66, ask: "its place among the families, from 1 to 99" } },
  ),
  /** The chain its tracks begin with, where it is wanted. */
  chainId: referenceOrNull<ChainId>(
    { to: "chains", dangling: "begins with a chain that is not there" },
    { word: "the chain" },
  ),
  /** The return its tracks send to, by its name; empty: none. */
  sendTo: text(200, { word: "the return", cell: { heading: "Sends to", width: 120, empty: "no return" } }),
  /** How loud; null: −12 dB. */
  sendDb: numberOrNull<number>(
    { min: -60, max: 12 },
    { word: "the level of its send", cell: { heading: "Send dB", width: 76, ask: "a level from −60 to 12 dB" } },
  ),
};

/** What new tracks of a family get: dye and icon, folder and bus, chain and send. */
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
