import { closed, type EntryOf, name } from "../describe/fields";
import { described } from "../describe/table";
import type { ListHabitId } from "../ids";
import { MOST } from "../limits";

/** As many columns as a list may have. */
const MOST_COLUMNS = 256;

const FIELDS = {
  /** The headings of the list, plain, with bars between. */
  headings: name(4000, { word: "the headings", cell: { heading: "Lists headed" } }),
  /** What each of its columns means. */
  meanings: closed<readonly string[]>(
    {
      schema: { type: "array", items: { type: "string", maxLength: 40 }, maxItems: MOST_COLUMNS },
      initial: [],
      samples: [[], ["input", "source"], ["ignore"]],
    },
    { word: "what its columns mean" },
  ),
};

/** What was corrected in lists of the same headings: taken for the next of them. */
export const LIST_HABITS = described({
  one: "reading",
  many: "readings",
  most: MOST.parts,
  fields: FIELDS,
  unique: [
    {
      key: (entry: ListHabit) => entry.headings,
      says: (entry: ListHabit) => `lists headed ${entry.headings} are read in two ways`,
    },
  ],
  called: (entry: ListHabit) => entry.headings,
});

export interface ListHabit extends EntryOf<typeof FIELDS> {
  readonly id: ListHabitId;
}
