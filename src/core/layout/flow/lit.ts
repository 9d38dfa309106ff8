import type { ChannelId } from "../../model/ids";
import { perDocument } from "../../model/per-document";
import { putInto } from "../../model/table";
import { type Graph, outOf, type Thread } from "../../routing/graph";
import { downFrom, type Reach, upFrom } from "../../routing/reach";
import type { FlowNode, FlowThread } from "./picture";

export const WAYS = ["all", "dry", "sent"] as const;
/** Which ways are followed from what is selected: all, only outputs, or only what is sent and what comes of it. */
export type Ways = (typeof WAYS)[number];

const isDry = ({ kind }: Thread): boolean => kind !== "send";

const joined = (reaches: readonly Reach[]): Reach => ({
  channels: new Set(reaches.flatMap(({ channels }) => [...channels])),
  threads: new Set(reaches.flatMap(({ threads }) => [...threads])),
});

const sentFrom = (graph: Graph, id: ChannelId): Reach => {
  const sends = outOf(graph, id).filter(({ kind }) => kind === "send");
  const own: Reach = { channels: new Set([id]), threads: new Set(sends.map((thread) => thread.id)) };
  return joined([own, ...sends.map(({ to }) => downFrom(graph, to))]);
};

const waysOf = (graph: Graph, id: ChannelId, ways: Ways): Reach => {
  if (ways === "sent") return sentFrom(graph, id);
  return ways === "dry"
    ? joined([downFrom(graph, id, isDry), upFrom(graph, id, isDry)])
    : joined([downFrom(graph, id), upFrom(graph, id), steersAt(graph, id)]);
};

/** What a channel steers and is steered by: only the side-chains at its own ends, as no sound goes on along them. */
const steersAt = ({ steers }: Graph, id: ChannelId): Reach => {
  const own = steers.filter(({ from, to }) => from === id || to === id);
  return {
    channels: new Set(own.flatMap(({ from, to }) => [from, to])),
    threads: new Set(own.map((steer) => steer.id)),
  };
};

/**
 * The whole way up and down of what is selected; null when nothing is, and all is shown alike. Linear in what is
 * reached.
 */
export const litBy = (graph: Graph, selected: readonly ChannelId[], ways: Ways): Reach | null => {
  const there = selected.filter((id) => graph.channels[id]);
  return there.length ? joined(there.map((id) => waysOf(graph, id, ways))) : null;
};

const exits = (graph: Graph, lit: Reach): ReadonlySet<string> =>
  new Set([...lit.channels].flatMap((id) => (graph.channels[id]?.output.kind === "hardware" ? [id as string] : [])));

export const isLitNode = (lit: Reach | null, { kind, channelIds }: FlowNode): boolean =>
  !lit || kind === "out" || channelIds.some((id) => lit.channels.has(id));

/** Which drawn threads each way of the sound runs in, and which each line and each output of the interface ends in. */
const drawnIn = perDocument((threads: readonly FlowThread[]) => {
  const [ways, lines, outs] = [new Map<string, string[]>(), new Map<string, string[]>(), new Map<string, string[]>()];
  for (const { id, kind, to, threadIds } of threads) {
    if (kind === "line") putInto(lines, to, id);
    else
      for (const way of threadIds) {
        putInto(ways, way, id);
        if (to.startsWith("out ")) putInto(outs, way, id);
      }
  }
  return { ways, lines, outs, all: new Set(threads.map(({ id }) => id)) };
});

/**
 * A thread is lit when one of the ways in it is; that to an output of the interface when its channel is. Linear in what
 * is lit.
 */
export const litThreads = (graph: Graph, lit: Reach | null, threads: readonly FlowThread[]): ReadonlySet<string> => {
  const { ways, lines, outs, all } = drawnIn(threads);
  if (!lit) return all;
  return new Set([
    ...[...lit.channels].flatMap((id) => lines.get(id) ?? []),
    ...[...lit.threads].flatMap((id) => ways.get(id) ?? []),
    ...[...exits(graph, lit)].flatMap((id) => outs.get(id) ?? []),
  ]);
};
