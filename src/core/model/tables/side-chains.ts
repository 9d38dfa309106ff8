import { type EntryOf, numberOrNull, partOf } from "../describe/fields";
import { type Around, described, newEntry } from "../describe/table";
import type { ChainProcessorId, ChannelId, SideChainId } from "../ids";
import { MOST } from "../limits";
import { DYNAMICS } from "./processor-settings";

const HZ = { min: 10, max: 40_000 } as const;

const SAYS_BAND = (): string => "Set the band that the detector hears";

const FIELDS = {
  fromId: partOf<ChannelId>(
    {
      to: "channels",
      kinds: ["track", "bus", "return", "instrument", "reference", "click", "talkback"],
      dangling: "comes from a channel that is not there",
    },
    { word: "what steers", apart: true },
  ),
  processorId: partOf<ChainProcessorId>(
    { to: "processors", kinds: DYNAMICS, dangling: "steers nothing that can be steered", brings: true },
    { word: "what is steered", apart: true },
  ),
  /** The band that the detector hears; null where it is open. */
  lowHz: numberOrNull<number>(HZ, { word: "the lower end", says: SAYS_BAND }),
  highHz: numberOrNull<number>(HZ, { word: "the upper end", says: SAYS_BAND }),
};

/** Channels that steer a processor of another: what its detector hears in place of what it works on. */
export const SIDE_CHAINS = described({
  one: "side-chain",
  many: "side-chains",
  most: MOST.sideChains,
  fields: FIELDS,
  unique: [
    {
      key: (side: SideChain) => `${side.fromId} ${side.processorId}`,
      says: () => "a channel steers one processor twice",
    },
  ],
  rules: [
    (side: SideChain) =>
      side.lowHz !== null && side.highHz !== null && side.lowHz >= side.highHz
        ? "a detector hears a band that ends before it begins"
        : null,
    (side: SideChain, around: Around) =>
      around.entry("processors", side.processorId)?.channelId === side.fromId
        ? "a channel steers its own processor"
        : null,
  ],
  called: () => null,
  calls: { removed: (_sides: readonly SideChain[], who: string) => `Take off ${who}` },
});

export interface SideChain extends EntryOf<typeof FIELDS> {
  readonly id: SideChainId;
}

export const newSideChain = (given: Partial<SideChain> & Pick<SideChain, "id" | "fromId" | "processorId">): SideChain =>
  newEntry(SIDE_CHAINS, given) as unknown as SideChain;
