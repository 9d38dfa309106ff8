import { described } from "../describe/table";
import { MOST } from "../limits";

/** Starters that the studio does not want to see, by their ids. */
export const HIDDEN_STARTERS = described({
  one: "hidden starter",
  many: "hidden starters",
  most: MOST.parts,
  ids: "meant",
  fields: {},
  called: () => null,
});

export interface HiddenStarter {
  readonly id: string;
}
