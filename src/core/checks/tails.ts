import type { ChannelId } from "../model/ids";
import { listOf, putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel, Return, Track } from "../model/tables/channels";
import { processorName } from "../model/tables/processor-names";
import type { Send } from "../model/tables/sends";
import type { Template } from "../model/template";
import { processorsOf } from "../queries/chains";
import { remarkable } from "../queries/remarkable";
import { isThrow, sendsOf } from "../queries/sends";
import { type Graph, graphOf, outOf, sendOf, type Thread } from "../routing/graph";
import { counted, listed } from "../units/counted";
import { type Check, type Finding, finding } from "./finding";
import { REMARKABLE, ROUTING } from "./reads";
import { chainOf, inUse, nameOf, set, used } from "./remarkable";

const makesTail = ({ kind, bypassed }: Processor): boolean => !bypassed && (kind === "reverb" || kind === "delay");

/** A channel on which something rings, and the channel from which it comes to another one. */
interface Tail {
  readonly of: Channel;
  readonly from: Channel;
}

const sounds = (graph: Graph, thread: Thread): boolean => {
  const send = sendOf(graph, thread);
  return send === null || (send.on && send.levelDb !== null);
};

/**
 * What rings in the sound that comes into each channel: the nearest of all. Returns ring, and whatever has a reverb or
 * a delay in its chain. Linear in threads and channels.
 */
const tailsInto = (doc: Template): ReadonlyMap<ChannelId, Tail> => {
  const graph = graphOf(doc);
  const ringing = new Set<ChannelId>(used(doc, remarkable(doc.processors).effects).map(({ channelId }) => channelId));
  const queue = listOf<Channel>(doc.channels)
    .filter((channel) => inUse(channel) && (channel.kind === "return" || ringing.has(channel.id)))
    .map((channel): Tail => ({ of: channel, from: channel }));
  const into = new Map<ChannelId, Tail>();
  for (let at = 0; at < queue.length; at++) {
    const { of, from } = queue[at] as Tail;
    for (const thread of outOf(graph, from.id)) {
      const to = doc.channels[thread.to];
      if (!inUse(to) || into.has(to.id) || !sounds(graph, thread)) continue;
      into.set(to.id, { of, from });
      queue.push({ of, from: to });
    }
  }
  return into;
};

/** Who is sent to each return. Linear in the sends. */
const sentTo = (doc: Template): ReadonlyMap<ChannelId, readonly Channel[]> => {
  const into = new Map<ChannelId, Channel[]>();
  for (const { fromId, toId, on } of listOf<Send>(doc.sends)) {
    const from = doc.channels[fromId];
    if (on && from && doc.channels[toId]?.kind === "return") putInto(into, toId, from);
  }
  return into;
};

const isThrown = (doc: Template, channel: Channel): channel is Track =>
  channel.kind === "track" && inUse(channel) && isThrow(doc, channel);

const closesOn = ({ of, from }: Tail): string =>
  `closes on the tail of ${nameOf(of)}, which ${from.id === of.id ? "is routed there" : `comes there through ${nameOf(from)}`}`;
const comesAfter = (ringing: Processor | undefined): string =>
  `comes after ${ringing ? processorName(ringing) : "what rings"} and closes on its tail`;
const cutOff = (throws: readonly Channel[]): string =>
  throws.length
    ? `: the throw${throws.length > 1 ? "s" : ""} ${listed(throws.slice(0, 3).map(nameOf))} can't ring out`
    : "";

/**
 * Gates that stand where something rings: behind a reverb or a delay in their own chain, or anywhere on the way of what
 * a return or such a chain is routed to.
 */
export const gateClipsTail: Check = {
  id: "gate-clips-tail",
  why: "A gate after a reverb closes on its tail.",
  withoutRig: true,
  reads: [...ROUTING, ...REMARKABLE, "processors.order", "sends.levelDb", "sends.on"],
  check: ({ doc }) => {
    const gates = used(doc, remarkable(doc.processors).gates);
    if (!gates.length) return [];
    const tails = tailsInto(doc);
    const thrown = new Map(
      [...sentTo(doc)].map(([id, senders]) => [id, senders.filter((channel) => isThrown(doc, channel))] as const),
    );
    return gates.flatMap((gate): readonly Finding[] => {
      const chain = processorsOf(doc, gate.channelId);
      const before = chain
        .slice(
          0,
          chain.findIndex(({ id }) => id === gate.id),
        )
        .find(makesTail);
      const tail = before ? undefined : tails.get(gate.channelId);
      const throws = thrown.get(tail?.of.id ?? gate.channelId) ?? [];
      if (!before && !tail) return [];
      return [
        finding("gate-clips-tail", {
          severity: "hint",
          about: gate.id,
          message: `${processorName(gate)} on ${nameOf(doc.channels[gate.channelId])} ${tail ? closesOn(tail) : comesAfter(before)}${cutOff(throws)}.`,
          places: chainOf(gate.channelId),
          fixes: [
            before
              ? {
                  label: `Put ${processorName(gate)} before ${processorName(before)}`,
                  edits: [
                    {
                      kind: "entries.move",
                      table: "processors",
                      ids: [gate.id],
                      parent: gate.channelId,
                      before: before.id,
                    },
                  ],
                }
              : { label: `Bypass ${processorName(gate)}`, edits: [set([gate.id], { bypassed: true })] },
          ],
        }),
      ];
    });
  },
};

/** Where a throw rings out: the first return it is sent to. */
const ringsIn = (doc: Template, track: Track): Return | undefined =>
  sendsOf(doc, track.id)
    .filter(({ on }) => on)
    .map(({ toId }) => doc.channels[toId])
    .find((channel): channel is Return => channel?.kind === "return" && inUse(channel));

/** Reverbs and delays in the chain of a throw itself. */
export const throwClipsTail: Check = {
  id: "throw-clips-tail",
  why: "A throw is brought in for a word and taken out again: what rings in its own chain is cut off with it, and only what rings in the return goes on.",
  withoutRig: true,
  reads: [
    "channels.kind",
    "channels.output",
    "channels.parked",
    "processors.bypassed",
    "processors.channelId",
    "processors.installed",
    "processors.kind",
    "processors.listens",
    "processors.steering",
    "sends.fromId",
    "sends.on",
    "sends.toId",
  ],
  check: ({ doc }) => {
    const ringing = new Map<ChannelId, Processor[]>();
    const sent = sentTo(doc);
    for (const processor of used(doc, remarkable(doc.processors).effects))
      putInto(ringing, processor.channelId, processor);
    return [...ringing].flatMap(([id, processors]): readonly Finding[] => {
      const track = doc.channels[id];
      if (!track || !isThrown(doc, track)) return [];
      const place = ringsIn(doc, track);
      const others = new Set(place && sent.get(place.id)).size - 1;
      // All of them are moved: where not all can be named, they are counted.
      const which =
        processors.length > 3 ? counted(processors.length, "processor") : listed(processors.map(processorName));
      return [
        finding("throw-clips-tail", {
          severity: "hint",
          about: id,
          message: `${nameOf(track)} is a throw, and ${which} in its own chain ${processors.length === 1 ? "is" : "are"} cut off with it: only what rings in a return goes on.`,
          places: chainOf(id),
          fixes: place
            ? [
                {
                  label: `Put ${which} on ${nameOf(place)}${others > 0 ? `, for ${counted(others, "other channel")} sent there as well` : ""}`,
                  edits: [
                    {
                      kind: "entries.move",
                      table: "processors",
                      ids: processors.map((processor) => processor.id),
                      parent: place.id,
                      before: processorsOf(doc, place.id)[0]?.id ?? null,
                    },
                  ],
                },
              ]
            : [],
        }),
      ];
    });
  },
};

export const TAIL_CHECKS: readonly Check[] = [gateClipsTail, throwClipsTail];
