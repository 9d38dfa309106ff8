import { type EntryOf, partOf } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { BandId, ChainProcessorId } from "../ids";
import { MOST } from "../limits";
import { BAND_FIELDS } from "./processor-settings";

/** The equaliser that a band belongs to. */
export const OF_EQUALISER = partOf<ChainProcessorId>(
  { to: "processors", kinds: ["equaliser"], dangling: "belongs to no equaliser", brings: true },
  { word: "the equaliser" },
);

const FIELDS = { ...BAND_FIELDS, processorId: OF_EQUALISER };

/** The bands of equalisers, in a template or among what is kept: alike but for how many there may be. */
export const bandsAtMost = (most: number) =>
  described({ one: "band", many: "bands", most, fields: FIELDS, order: { within: "processorId" }, called: () => null });

export const BANDS = bandsAtMost(MOST.bands);

export interface Band extends EntryOf<typeof FIELDS> {
  readonly id: BandId;
  readonly order: string;
}

export const newBand = (given: Partial<Omit<Band, "order">> & Pick<Band, "id" | "processorId">): Omit<Band, "order"> =>
  newEntry(BANDS, given) as unknown as Omit<Band, "order">;
