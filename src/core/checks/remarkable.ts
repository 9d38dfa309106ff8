import type { ChainProcessorId, ChannelId } from "../model/ids";
import { isParked, isSum } from "../model/read-template";
import { entriesOf } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel, Sum } from "../model/tables/channels";
import type { Template } from "../model/template";

export const nameOf = (channel: Channel | undefined): string => channel?.name || "a channel without a name";
export const inUse = (channel: Channel | undefined): channel is Channel => channel !== undefined && !isParked(channel);

/** Buses and returns, in the order in which they came. */
export const sumsIn = ({ channels }: Pick<Template, "channels">): readonly Sum[] =>
  entriesOf<Channel>(channels).filter(isSum);

export const used = <P extends Processor>(doc: Template, processors: readonly P[]): readonly P[] =>
  processors.filter(({ channelId }) => inUse(doc.channels[channelId]));
export const chainOf = (id: ChannelId) => [{ kind: "channel", id, field: "chain" }] as const;
export const set = (processorIds: readonly ChainProcessorId[], values: Readonly<Record<string, unknown>>) =>
  ({ kind: "entries.set", table: "processors", ids: processorIds, set: values }) as const;
