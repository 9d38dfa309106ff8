import { counted } from "../../units/counted";
import { type EntryOf, partOf, referenceOrNull } from "../describe/fields";
import { type Around, described, newEntry } from "../describe/table";
import type { ChainProcessorId, ChannelId } from "../ids";
import { MOST } from "../limits";
import { processorName } from "./processor-names";
import {
  type OfKind,
  PROCESSOR_FIELDS,
  PROCESSOR_KINDS,
  type ProcessorBase,
  type ProcessorKind,
} from "./processor-settings";

/** The split that a processor lies in; the branch says on which side. Without its split it stands in the row again. */
export const SPLIT = referenceOrNull<ChainProcessorId>(
  { to: "processors", kinds: ["split"], dangling: "lies in a split that is not there" },
  { word: "the split it lies in" },
);

/** A split lies in a row, its members beside it in the same chain. */
export const inItsChain =
  (owner: string) =>
  (processor: { readonly kind: string; readonly splitId: string | null }, around: Around): string | null => {
    if (processor.splitId === null) return null;
    if (processor.kind === "split") return "a split lies in a split";
    const split = around.entry("processors", processor.splitId);
    return split && split[owner] !== (processor as unknown as Readonly<Record<string, unknown>>)[owner]
      ? "a processor lies in the split of another chain"
      : null;
  };

/** A crossover is two filters of 12 dB in a row. */
export const crosses = (processor: {
  readonly kind: string;
  readonly crossover?: boolean;
  readonly slopeDb?: number;
}): string | null =>
  processor.kind === "filter" && processor.crossover && processor.slopeDb !== 24
    ? "a crossover has 24 dB an octave"
    : null;

const FIELDS = {
  ...PROCESSOR_FIELDS,
  channelId: partOf<ChannelId>(
    { to: "channels", dangling: "works in a channel that is not there", brings: true },
    { word: "the channel" },
  ),
  splitId: SPLIT,
};

/** "compressor", "compressors", "3 processors". */
const kindsInWords = (processors: readonly Processor[]): string => {
  const [name, ...others] = new Set(processors.map(processorName));
  return name && !others.length
    ? `${name.toLowerCase()}${processors.length === 1 ? "" : "s"}`
    : counted(processors.length, "processor");
};

const ownersInWords = (processors: readonly Processor[], around: Around): string => {
  const [owner, ...others] = new Set(processors.map(({ channelId }) => channelId));
  return owner && !others.length
    ? String(around.entry("channels", owner)?.name || "a channel without a name")
    : counted(others.length + 1, "channel");
};

/** What a channel's sound passes, one after the other. */
export const CHAIN_PROCESSORS = described({
  one: "processor",
  many: "processors",
  most: MOST.processors,
  fields: FIELDS,
  kinds: PROCESSOR_KINDS,
  order: { within: "channelId" },
  rules: [
    inItsChain("channelId"),
    crosses,
    (processor: Processor, around: Around) =>
      processor.kind === "notes" && around.entry("channels", processor.channelId)?.kind !== "instrument"
        ? "a note processor works in something that is no instrument"
        : null,
  ],
  called: (processor: Processor) => processor.name || `a ${processor.kind}`,
  calls: {
    who: (processors: readonly Processor[]) =>
      processors.length === 1 && processors[0]
        ? `the ${processorName(processors[0]).toLowerCase()}`
        : counted(processors.length, "processor"),
    added: (processors: readonly Processor[], around: Around) =>
      `Put ${kindsInWords(processors)} on ${ownersInWords(processors, around)}`,
    moved: (
      processors: readonly Processor[],
      { who, parent }: { readonly who: string; readonly parent: string | null },
      around: Around,
    ) =>
      parent === null || processors.every(({ channelId }) => channelId === parent)
        ? `Move ${who} in the chain`
        : `Move ${who} to ${around.entry("channels", parent)?.name}`,
    removed: (processors: readonly Processor[], who: string, around: Around) =>
      `Take ${who} off ${ownersInWords(processors, around)}`,
  },
});

interface Base extends ProcessorBase, EntryOf<Pick<typeof FIELDS, "channelId" | "splitId">> {
  readonly id: ChainProcessorId;
  readonly order: string;
}

export type Processor = OfKind<Base>;
export type ProcessorOf<K extends ProcessorKind> = Extract<Processor, { readonly kind: K }>;
/** One that is to be added: its place comes with the command. */
export type NewProcessor = Omit<OfKind<Omit<Base, "order">>, never>;

/** A processor with what it begins with where nothing is said. */
export const newProcessor = <K extends ProcessorKind>(
  kind: K,
  given: Partial<ProcessorOf<K>> & Pick<Processor, "id" | "channelId">,
): ProcessorOf<K> => {
  const { order: _order, ...rest } = given as Partial<Processor> & Pick<Processor, "id">;
  return {
    kind,
    ...newEntry({ fields: { ...FIELDS, ...PROCESSOR_KINDS[kind] } }, rest as never),
  } as unknown as ProcessorOf<K>;
};
