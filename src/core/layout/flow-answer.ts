import type { ChannelId, SendId } from "../model/ids";
import { isParked } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Output } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import type { Tap } from "../model/tables/sends";
import type { Template } from "../model/template";
import { graphOf, type Steer, sendOf, type Thread } from "../routing/graph";
import { orderOf } from "../routing/order";
import { pathsBetween } from "../routing/paths";
import { arrivalsOf, heldBack } from "../timing/arrivals";
import type { Decibels } from "../units/decibels";
import { pathInWords } from "./signal-path";

/** A way of the sound as others read it. */
export interface ToldThread {
  readonly kind: Thread["kind"];
  readonly from: ChannelId;
  readonly to: ChannelId;
  /** By how many samples its sound is held back, so that it meets the latest that comes there. */
  readonly heldBackSamples: number;
  /** Of sends. */
  readonly send?: { readonly id: SendId; readonly levelDb: Decibels | null; readonly tap: Tap; readonly on: boolean };
}

export interface ToldFlow {
  readonly nodes: readonly {
    readonly id: ChannelId;
    readonly kind: Channel["kind"];
    readonly name: string;
    readonly rank: number;
    readonly output: Output;
    readonly arrivesSamples: number;
    readonly chainSamples: number;
  }[];
  readonly threads: readonly ToldThread[];
  /** What steers a processor of another channel. */
  readonly sideChains: readonly Steer[];
  /** Every channel after all that feed or steer it. */
  readonly order: readonly ChannelId[];
}

export interface ToldPaths {
  readonly count: number;
  /** As many as are written out. */
  readonly paths: readonly { readonly threads: readonly ToldThread[]; readonly words: string }[];
}

const toldIn =
  (doc: Template, rig?: Rig) =>
  (thread: Thread): ToldThread => {
    const { kind, from, to } = thread;
    const send = sendOf(doc, thread);
    return {
      kind,
      from,
      to,
      heldBackSamples: isParked(doc.channels[from]) ? 0 : heldBack(arrivalsOf(doc, rig), from, to),
      ...(send ? { send: { id: send.id, levelDb: send.levelDb, tap: send.tap, on: send.on } } : {}),
    };
  };

/**
 * The routing of a template in data: what the picture is made of. With a rig hardware inserts count as they do in every
 * other answer.
 */
export const flowAnswer = (doc: Template, rig?: Rig): ToldFlow => {
  const graph = graphOf(doc);
  const { ids, rank } = orderOf(graph);
  const { at, chain } = arrivalsOf(doc, rig);
  const nodes = ids.flatMap((id) => {
    const channel = doc.channels[id];
    return channel
      ? [
          {
            id,
            kind: channel.kind,
            name: channel.name,
            rank: rank.get(id) ?? 0,
            output: channel.output,
            arrivesSamples: at.get(id) ?? 0,
            chainSamples: chain.get(id) ?? 0,
          },
        ]
      : [];
  });
  return { nodes, threads: graph.threads.map(toldIn(doc, rig)), sideChains: graph.steers, order: ids };
};

/** Every way from one channel to another, in data and in words. Null when one of the two is not there. */
export const pathsAnswer = (
  doc: Template,
  { from, to, rig }: { readonly from: string; readonly to: string; readonly rig?: Rig },
): ToldPaths | null => {
  const [start, end] = [doc.channels[from as ChannelId], doc.channels[to as ChannelId]];
  if (!start || !end) return null;
  const { paths, count } = pathsBetween(graphOf(doc), start.id, end.id);
  return {
    count,
    paths: paths.map((path) => ({ threads: path.map(toldIn(doc, rig)), words: pathInWords(doc, start.id, path) })),
  };
};
