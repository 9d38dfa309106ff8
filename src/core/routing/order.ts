import type { ChannelId } from "../model/ids";
import { putInto } from "../model/table";
import { type Graph, intoOf, outOf } from "./graph";

export interface Order {
  /**
   * Every channel after all that feed or steer it. Of those that are free at the same time the one that was free first
   * comes first, so that it stays as it is.
   */
  readonly ids: readonly ChannelId[];
  /** How many channels the sound has passed at most when it comes to this one: 0 where nothing feeds it. */
  readonly rank: ReadonlyMap<ChannelId, number>;
}

/** What each channel steers, and by how many it is steered. */
const steering = ({ steers }: Graph) => {
  const from = new Map<ChannelId, ChannelId[]>();
  const into = new Map<ChannelId, number>();
  for (const steer of steers) {
    putInto(from, steer.from, steer.to);
    into.set(steer.to, (into.get(steer.to) ?? 0) + 1);
  }
  return { from, into };
};

const sorted = (graph: Graph): Order => {
  const steered = steering(graph);
  const waiting = new Map<ChannelId, number>();
  const rank = new Map<ChannelId, number>();
  const ids: ChannelId[] = [];
  for (const id of Object.keys(graph.channels) as ChannelId[]) {
    const feeds = intoOf(graph, id).length + (steered.into.get(id) ?? 0);
    waiting.set(id, feeds);
    if (!feeds) {
      rank.set(id, 0);
      ids.push(id);
    }
  }
  for (let at = 0; at < ids.length; at++) {
    const id = ids[at] as ChannelId;
    const next = (rank.get(id) ?? 0) + 1;
    const passOn = (to: ChannelId): void => {
      if (next > (rank.get(to) ?? 0)) rank.set(to, next);
      const left = (waiting.get(to) ?? 0) - 1;
      waiting.set(to, left);
      if (left === 0) ids.push(to);
    };
    for (const { to } of outOf(graph, id)) passOn(to);
    for (const to of steered.from.get(id) ?? []) passOn(to);
  }
  return { ids, rank };
};

const kept = new WeakMap<object, Order>();

/**
 * The order in which the sound is worked on: each channel after all that feed or steer it, by taking away what nothing
 * feeds any more (A. B. Kahn, 1962). Linear in channels and threads, and kept for as long as nothing leads elsewhere. A
 * document has no loop; should there be one all the same, what is in it and behind it is left out.
 */
export const orderOf = (graph: Graph): Order => {
  const known = kept.get(graph.threads) ?? sorted(graph);
  kept.set(graph.threads, known);
  return known;
};
