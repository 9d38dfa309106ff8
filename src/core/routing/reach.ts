import type { ChannelId } from "../model/ids";
import { type Graph, intoOf, outOf, type Thread } from "./graph";

/** What can be reached from a channel and how. */
export interface Reach {
  readonly channels: ReadonlySet<ChannelId>;
  readonly threads: ReadonlySet<string>;
}

/** Which threads count: all, only what is not sent, or only what is. */
export type Taken = (thread: Thread) => boolean;

const ALL: Taken = () => true;

const walk = (
  start: ChannelId,
  next: (id: ChannelId) => readonly Thread[],
  { to, taken }: { readonly to: (thread: Thread) => ChannelId; readonly taken: Taken },
): Reach => {
  const channels = new Set<ChannelId>([start]);
  const threads = new Set<string>();
  const queue = [start];
  for (let at = 0; at < queue.length; at++) {
    for (const thread of next(queue[at] as ChannelId)) {
      if (!taken(thread)) continue;
      threads.add(thread.id);
      const id = to(thread);
      if (channels.has(id)) continue;
      channels.add(id);
      queue.push(id);
    }
  }
  return { channels, threads };
};

/** Everything that the sound of a channel comes to, itself included. Linear in what is reached. */
export const downFrom = (graph: Graph, id: ChannelId, taken: Taken = ALL): Reach =>
  walk(id, (at) => outOf(graph, at), { to: (thread) => thread.to, taken });
/** Everything whose sound comes to a channel, itself included. Linear in what is reached. */
export const upFrom = (graph: Graph, id: ChannelId, taken: Taken = ALL): Reach =>
  walk(id, (at) => intoOf(graph, at), { to: (thread) => thread.from, taken });
