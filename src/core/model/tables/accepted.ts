import { counted } from "../../units/counted";
import { type EntryOf, text } from "../describe/fields";
import { described } from "../describe/table";
import { MOST } from "../limits";
import { idOf } from "../schema-parts";

const FIELDS = {
  cause: text(64, { word: "the cause" }),
  reason: text(1000, { word: "the reason", needed: "Say why this is all right, so that the next person knows." }),
};

/**
 * Findings that the engineer has looked at and lives with, by their ids. One counts for as long as its cause stays what
 * it was.
 */
export const ACCEPTED = described({
  one: "accepted finding",
  many: "accepted findings",
  most: MOST.accepted,
  ids: "meant",
  id: idOf(300),
  fields: FIELDS,
  called: () => null,
  calls: {
    added: (found: readonly Acceptance[]) =>
      `Accept ${found.length === 1 ? "a finding" : counted(found.length, "finding")}: ${found[0]?.reason.trim()}`,
    removed: (found: readonly Acceptance[]) =>
      `Reopen ${found.length === 1 ? "a finding" : counted(found.length, "finding")}`,
  },
});

export interface Acceptance extends EntryOf<typeof FIELDS> {
  readonly id: string;
}
