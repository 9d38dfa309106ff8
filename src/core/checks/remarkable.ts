import type { ChainProcessorId, ChannelId } from "../model/ids";
import { perDocument } from "../model/per-document";
import { isParked, isSum } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Processor, ProcessorOf } from "../model/tables/chain-processors";
import type { Channel, Sum } from "../model/tables/channels";
import type { Template } from "../model/template";

export const nameOf = (channel: Channel | undefined): string => channel?.name || "a channel without a name";
export const inUse = (channel: Channel | undefined): channel is Channel => channel !== undefined && !isParked(channel);

/** Processors by what can be said of them: nearly all are none of these, and one pass over the table finds them for all checks, kept for as long as no processor changes. */
export const remarkable = perDocument((processors: Template["processors"]) => {
  const found = {
    effects: [] as Processor[],
    listening: [] as Processor[],
    asking: [] as Processor[],
    splits: [] as ProcessorOf<"split">[],
    inserts: [] as ProcessorOf<"insert">[],
    moved: [] as Processor[],
    gates: [] as Processor[],
  };
  for (const processor of entriesOf<Processor>(processors)) {
    if (processor.installed) found.asking.push(processor);
    if (processor.steering) found.moved.push(processor);
    if (processor.bypassed) continue;
    if (processor.kind === "reverb" || processor.kind === "delay") found.effects.push(processor);
    else if (processor.kind === "insert") found.inserts.push(processor);
    else if (processor.kind === "split") found.splits.push(processor);
    else if ("listens" in processor && processor.listens === "others") found.listening.push(processor);
  }
  found.gates = entriesOf<Processor>(processors).filter(({ kind, bypassed }) => kind === "gate" && !bypassed);
  return found;
});

/** Buses and returns, in the order in which they came. */
export const sumsIn = ({ channels }: Pick<Template, "channels">): readonly Sum[] => entriesOf<Channel>(channels).filter(isSum);

export const used = <P extends Processor>(doc: Template, processors: readonly P[]): readonly P[] => processors.filter(({ channelId }) => inUse(doc.channels[channelId]));
export const chainOf = (id: ChannelId) => [{ kind: "channel", id, field: "chain" }] as const;
export const set = (processorIds: readonly ChainProcessorId[], values: Readonly<Record<string, unknown>>) => ({ kind: "processors.set", processorIds, set: values }) as const;
