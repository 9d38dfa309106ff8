import type { ChannelId } from "../model/ids";
import type { Processor } from "../model/tables/chain-processors";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { processorsOf } from "./chains";

/** "High-pass, compressor, equaliser": what is in a chain, short. */
export const chainShort = (processors: readonly Pick<Processor, "name" | "kind">[]): string => {
  const names = processors.map((processor) => processorName(processor));
  return names.map((name, at) => (at === 0 || processors[at]?.name ? name : name.toLowerCase())).join(", ");
};

/** The chain of a channel as a cell shows it. */
export const chainText = (doc: Pick<Template, "processors">, id: ChannelId): string =>
  chainShort(processorsOf(doc, id));
