import { choice, type EntryOf, name } from "../describe/fields";
import { described } from "../describe/table";
import { FAMILIES, FAMILY_DEFAULTS, type Family } from "../families";
import type { FamilyWordId } from "../ids";
import { MOST } from "../limits";

const FIELDS = {
  /** As it was written; compared without accents, in lower case. */
  word: name(200, { word: "the name", cell: { heading: "Name in a list", width: 260 } }),
  family: choice<Family>(FAMILIES, {
    word: "the family",
    cell: { heading: "Family", names: (family: Family) => FAMILY_DEFAULTS[family].name },
  }),
};

/** Names of sources that somebody put into a family: the studio knows them from then on. */
export const TAUGHT_WORDS = described({
  one: "name",
  many: "names",
  most: MOST.parts,
  fields: FIELDS,
  unique: [
    {
      key: (entry: TaughtWord) => entry.word.trim().toLowerCase(),
      says: (entry: TaughtWord) => `${entry.word} stands in two families`,
    },
  ],
  called: (entry: TaughtWord) => entry.word,
});

export interface TaughtWord extends EntryOf<typeof FIELDS> {
  readonly id: FamilyWordId;
}
