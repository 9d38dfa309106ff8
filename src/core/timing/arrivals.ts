import type { ChannelId } from "../model/ids";
import { perTwo } from "../model/per-document";
import { isParked } from "../model/read-template";
import { putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Template } from "../model/template";
import { chainDelay, processorsOf } from "../queries/chains";
import { type Graph, graphOf, intoOf } from "../routing/graph";
import { orderOf } from "../routing/order";

export interface Arrivals {
  /** When the sound comes to each channel, in samples after it began; 0 where it begins. */
  readonly at: ReadonlyMap<ChannelId, number>;
  /** How late each channel's own chain makes it, in samples. */
  readonly chain: ReadonlyMap<ChannelId, number>;
}

/** Whether a processor works while a take runs. */
const isOnWhileRecording = ({ use }: Processor): boolean => use === "always";

/** How late the chain of a channel makes what passes it while recording, in samples: what is bypassed or off then does not count. */
const chainOf = (doc: Pick<Template, "processors">, id: ChannelId): number => chainDelay(processorsOf(doc, id).filter(isOnWhileRecording));

const computed = (doc: Pick<Template, "processors">, graph: Graph): Arrivals => {
  const at = new Map<ChannelId, number>();
  const chain = new Map<ChannelId, number>();
  const steered = new Map<ChannelId, ChannelId[]>();
  for (const { from, to } of graph.steers) putInto(steered, to, from);
  const leaves = (id: ChannelId): number => (isParked(graph.channels[id]) ? 0 : (at.get(id) ?? 0) + (chain.get(id) ?? 0));
  for (const id of orderOf(graph).ids) {
    let latest = 0;
    for (const { from } of intoOf(graph, id)) latest = Math.max(latest, leaves(from));
    for (const from of steered.get(id) ?? []) latest = Math.max(latest, leaves(from));
    at.set(id, latest);
    chain.set(id, isParked(graph.channels[id]) ? 0 : chainOf(doc, id));
  }
  return { at, chain };
};

const kept = perTwo((graph: Graph, processors: Template["processors"]) => computed({ processors }, graph));

/**
 * When the sound arrives at each channel while recording, with compensation: where ways meet, each is held back to the longest, so a channel is reached at the
 * maximum over its inputs of (when they are reached + what their chain takes). Outputs, what is recorded, sends and side-chains count; what is parked does not.
 * In samples; one pass along the order of the sound, linear in channels and threads.
 * @example a track with 48 samples of chain and one without, into one bus: the bus is reached after 48
 */
export const arrivalsOf = (doc: Pick<Template, "channels" | "sends" | "processors" | "sideChains">): Arrivals => kept(graphOf(doc), doc.processors);

/** By how many samples the sound of one channel is held back on its way into another, so that it meets the latest there. */
export const heldBack = ({ at, chain }: Arrivals, from: ChannelId, to: ChannelId): number => (at.get(to) ?? 0) - (at.get(from) ?? 0) - (chain.get(from) ?? 0);
