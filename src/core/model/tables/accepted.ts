import { type EntryOf, text } from "../describe/fields";
import { described } from "../describe/table";
import { MOST } from "../limits";
import { idOf } from "../schema-parts";

const FIELDS = { cause: text(64, { word: "the cause" }), reason: text(1000, { word: "the reason" }) };

/** Findings that the engineer has looked at and lives with, by their ids. One counts for as long as its cause stays what it was. */
export const ACCEPTED = described({
  one: "accepted finding",
  many: "accepted findings",
  most: MOST.accepted,
  ids: "meant",
  id: idOf(300),
  fields: FIELDS,
  called: () => null,
});

export interface Acceptance extends EntryOf<typeof FIELDS> {
  readonly id: string;
}
