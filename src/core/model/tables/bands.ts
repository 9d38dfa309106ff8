import { type EntryOf, partOf } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { BandId, ChainProcessorId } from "../ids";
import { MOST } from "../limits";
import { BAND_FIELDS } from "./processor-settings";

/** The equaliser that a band belongs to. */
export const OF_EQUALISER = partOf<ChainProcessorId>({ to: "processors", kinds: ["equaliser"], astray: "belongs to no equaliser" }, { word: "the equaliser" });

const FIELDS = { ...BAND_FIELDS, processorId: OF_EQUALISER };

export const BANDS = described({
  one: "band",
  many: "bands",
  most: MOST.bands,
  fields: FIELDS,
  order: { within: "processorId" },
  called: () => null,
});

export interface Band extends EntryOf<typeof FIELDS> {
  readonly id: BandId;
  readonly order: string;
}

export const newBand = (given: Partial<Omit<Band, "order">> & Pick<Band, "id" | "processorId">): Omit<Band, "order"> => newEntry(BANDS, given) as unknown as Omit<Band, "order">;
