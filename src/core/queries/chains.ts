import type { ChainId, ChainProcessorId, ChannelId } from "../model/ids";
import { perDocument, stepping } from "../model/per-document";
import type { Studio } from "../model/studio";
import { byOrder, entriesOf, putInto, sameList } from "../model/table";
import type { Band } from "../model/tables/bands";
import type { Processor } from "../model/tables/chain-processors";
import type { KeptBand, KeptProcessor } from "../model/tables/chains";
import type { SideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";

type Groups<T> = ReadonlyMap<string, readonly T[]>;

/**
 * Entries by what they belong to, each group in its order. A group in which nothing changed is the very same as before.
 */
const grouping = <T extends { readonly id: string; readonly order: string }>(of: (entry: T) => string) =>
  stepping((table: Readonly<Record<string, T>>, before: Groups<T> | null): Groups<T> => {
    const groups = new Map<string, T[]>();
    for (const entry of entriesOf<T>(table)) putInto(groups, of(entry), entry);
    const kept = new Map<string, readonly T[]>();
    for (const [key, group] of groups) {
      group.sort(byOrder);
      const was = before?.get(key);
      kept.set(key, was && sameList(was, group) ? was : group);
    }
    return kept;
  });

const byChannel = grouping<Processor>(({ channelId }) => channelId);
const byEqualiser = grouping<Band>(({ processorId }) => processorId);
const byKeptChain = grouping<KeptProcessor>(({ chainId }) => chainId);
const byKeptEqualiser = grouping<KeptBand>(({ processorId }) => processorId);

const NO_PROCESSORS: readonly Processor[] = [];

/** All processors of a channel in their order, those in branches among them. */
export const processorsOf = (doc: Pick<Template, "processors">, channelId: ChannelId): readonly Processor[] =>
  byChannel(doc.processors).get(channelId) ?? NO_PROCESSORS;

/** The bands of an equaliser in their order. */
export const bandsOf = (doc: Pick<Template, "bands">, processorId: ChainProcessorId): readonly Band[] =>
  byEqualiser(doc.bands).get(processorId) ?? [];

export const keptProcessorsOf = (studio: Pick<Studio, "processors">, chainId: ChainId): readonly KeptProcessor[] =>
  byKeptChain(studio.processors).get(chainId) ?? [];
export const keptBandsOf = (studio: Pick<Studio, "bands">, processorId: ChainProcessorId): readonly KeptBand[] =>
  byKeptEqualiser(studio.bands).get(processorId) ?? [];

const steered = perDocument((sideChains: Template["sideChains"]) => {
  const groups = new Map<string, SideChain[]>();
  for (const side of entriesOf<SideChain>(sideChains)) putInto(groups, side.processorId as string, side);
  return groups;
});

/** What steers a processor. */
export const sideChainsOf = (doc: Pick<Template, "sideChains">, processorId: ChainProcessorId): readonly SideChain[] =>
  steered(doc.sideChains).get(processorId) ?? [];

/** One step along a chain: a processor, or a split with what lies in its branches. */
export interface ChainStep<P> {
  readonly processor: P;
  readonly first: readonly P[];
  readonly second: readonly P[];
}

interface Branched {
  readonly id: string;
  readonly splitId: string | null;
  readonly branch: "first" | "second";
}

/** A chain as the sound passes it: what lies in a split stands with it. */
export const stepsOf = <P extends Branched>(processors: readonly P[]): readonly ChainStep<P>[] =>
  processors
    .filter(({ splitId }) => splitId === null)
    .map((processor) => {
      const inside = processors.filter(({ splitId }) => splitId === processor.id);
      return {
        processor,
        first: inside.filter(({ branch }) => branch === "first"),
        second: inside.filter(({ branch }) => branch === "second"),
      };
    });
