import { type EntryOf, number } from "../describe/fields";
import { described } from "../describe/table";
import { PERFORMER_KINDS, type PerformerKind } from "../performers";

export type Performing = Exclude<PerformerKind, "none">;
const PERFORMING = PERFORMER_KINDS.filter((kind): kind is Performing => kind !== "none");

const FIELDS = {
  ms: number(
    { min: 0.5, max: 100 },
    { word: "the target", cell: { heading: "Target, ms", ask: "milliseconds, from 0.5 to 100" } },
  ),
};

/** How late a performer of a kind may hear themself, dry path. */
export const TARGETS = described({
  one: "target",
  many: "targets",
  most: PERFORMING.length,
  ids: "fixed",
  id: { enum: PERFORMING },
  fields: FIELDS,
  called: (target: Target) => target.id,
});

export interface Target extends EntryOf<typeof FIELDS> {
  readonly id: Performing;
}
