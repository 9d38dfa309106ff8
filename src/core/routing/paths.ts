import type { ChannelId } from "../model/ids";
import { type Graph, outOf, type Thread } from "./graph";
import { orderOf } from "./order";
import { upFrom } from "./reach";

/** More ways than this are counted and not written out. */
export const MOST_PATHS = 200;

export interface Paths {
  /** Each way as the threads it takes, in the order in which outputs come before sends. */
  readonly paths: readonly (readonly Thread[])[];
  /** How many there are, also those that are not written out. */
  readonly count: number;
}

/** How many ways lead from one channel to another, summed up along the order of the sound. */
const countWays = (graph: Graph, { from, to, leading }: Ends): number => {
  const counts = new Map<ChannelId, number>([[from, 1]]);
  for (const id of orderOf(graph).ids) {
    const count = counts.get(id) ?? 0;
    if (!count || !leading.has(id)) continue;
    for (const thread of outOf(graph, id))
      if (leading.has(thread.to)) counts.set(thread.to, (counts.get(thread.to) ?? 0) + count);
  }
  return counts.get(to) ?? 0;
};

interface Ends {
  readonly from: ChannelId;
  readonly to: ChannelId;
  /** What leads to the end: no step goes anywhere else, so that each comes to a way. */
  readonly leading: ReadonlySet<ChannelId>;
}

const writeOut = (graph: Graph, { from, to, leading }: Ends): readonly (readonly Thread[])[] => {
  const paths: Thread[][] = [];
  const way: Thread[] = [];
  const open = [{ threads: outOf(graph, from), next: 0 }];
  for (let at = open.at(-1); at && paths.length < MOST_PATHS; at = open.at(-1)) {
    const thread = at.threads[at.next++];
    if (!thread) {
      open.pop();
      way.pop();
    } else if (thread.to === to) paths.push([...way, thread]);
    else if (leading.has(thread.to)) {
      way.push(thread);
      open.push({ threads: outOf(graph, thread.to), next: 0 });
    }
  }
  return paths;
};

/**
 * Every way of the sound from one channel to another: counted in a time linear in the graph, and as many as MOST_PATHS
 * written out. From a channel to itself there is one, without a step.
 */
export const pathsBetween = (graph: Graph, from: ChannelId, to: ChannelId): Paths => {
  if (from === to) return { paths: [[]], count: 1 };
  const leading = upFrom(graph, to).channels;
  if (!leading.has(from)) return { paths: [], count: 0 };
  return { paths: writeOut(graph, { from, to, leading }), count: countWays(graph, { from, to, leading }) };
};
