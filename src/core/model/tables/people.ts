import { choice, type EntryOf, name, text } from "../describe/fields";
import { described } from "../describe/table";
import type { PersonId } from "../ids";
import { MOST } from "../limits";
import { PERFORMER_KINDS, PERFORMER_NAMES, type PerformerKind } from "../performers";
import { nameOnce } from "./rooms";

const FIELDS = {
  name: name(120, { word: "the name", cell: { heading: "Name", width: 150 } }),
  /** "Fiddle", "engineer". */
  does: text(120, { word: "the part", cell: { heading: "Does", width: 160 } }),
  performs: choice<PerformerKind>(PERFORMER_KINDS, {
    word: "the kind of performer",
    cell: { heading: "Performs as", width: 170, names: (kind: PerformerKind) => PERFORMER_NAMES[kind] },
  }),
  note: text(400, { word: "the note", cell: { heading: "Note" } }),
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
