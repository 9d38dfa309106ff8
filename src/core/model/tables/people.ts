import { choice, type EntryOf, name, text } from "../describe/fields";
import { described } from "../describe/table";
import type { PersonId } from "../ids";
import { MOST } from "../limits";
import { PERFORMER_KINDS, type PerformerKind } from "../performers";
import { nameOnce } from "./rooms";

const FIELDS = {
  name: name(120, { word: "the name" }),
  /** "Fiddle", "engineer". */
  does: text(120, { word: "the part" }),
  performs: choice<PerformerKind>(PERFORMER_KINDS, { word: "the kind of performer" }),
  note: text(400, { word: "the note" }),
};

export const PEOPLE = described({
  one: "person",
  many: "people",
  most: MOST.parts,
  fields: FIELDS,
  order: { within: null },
  unique: nameOnce("people"),
  called: (person: Person) => person.name,
});

export interface Person extends EntryOf<typeof FIELDS> {
  readonly id: PersonId;
  readonly order: string;
}
