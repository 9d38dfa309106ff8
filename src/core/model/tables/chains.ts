import { type EntryOf, name, partOf, text } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { ChainId, ChainProcessorId } from "../ids";
import { MOST } from "../limits";
import { type Band, bandsAtMost } from "./bands";
import { crosses, inItsChain, SPLIT } from "./chain-processors";
import { type OfKind, PROCESSOR_FIELDS, PROCESSOR_KINDS, type ProcessorBase } from "./processor-settings";
import { nameOnce } from "./rooms";

const CHAIN_FIELDS = {
  name: name(120, { word: "the name", cell: { heading: "Name", width: 170 } }),
  /** For whom or what it is. */
  note: text(400, { word: "the note", cell: { heading: "For whom or what" } }),
};

/** Chains that are kept: named lists of processors, put on one channel or many in one act. */
export const CHAINS = described({
  one: "chain",
  many: "chains",
  most: MOST.parts,
  fields: CHAIN_FIELDS,
  order: { within: null },
  unique: nameOnce("chains"),
  called: (chain: Chain) => chain.name,
});

export interface Chain extends EntryOf<typeof CHAIN_FIELDS> {
  readonly id: ChainId;
  readonly order: string;
}

const KEPT_FIELDS = {
  ...PROCESSOR_FIELDS,
  chainId: partOf<ChainId>({ to: "chains", dangling: "belongs to no chain", brings: true }, { word: "the chain" }),
  splitId: SPLIT,
};

/** The processors of the chains that are kept. */
export const KEPT_PROCESSORS = described({
  one: "processor",
  many: "processors",
  most: MOST.keptProcessors,
  fields: KEPT_FIELDS,
  kinds: PROCESSOR_KINDS,
  order: { within: "chainId" },
  rules: [inItsChain("chainId"), crosses],
  called: (processor: KeptProcessor) => processor.name || `a ${processor.kind}`,
});

interface KeptBase extends ProcessorBase, EntryOf<Pick<typeof KEPT_FIELDS, "chainId" | "splitId">> {
  readonly id: ChainProcessorId;
  readonly order: string;
}

export type KeptProcessor = OfKind<KeptBase>;

/** The bands of their equalisers. */
export const KEPT_BANDS = bandsAtMost(MOST.keptProcessors);
export type KeptBand = Band;

export const newChain = (given: Pick<Chain, "id" | "name"> & Partial<Omit<Chain, "order">>): Omit<Chain, "order"> =>
  newEntry(CHAINS, given) as unknown as Omit<Chain, "order">;
