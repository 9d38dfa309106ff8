import type { ChannelId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import { isParked } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf, putInto } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { type Graph, graphOf, intoOf } from "../routing/graph";
import { orderOf } from "../routing/order";
import { chainSamples, type DelayContext, insertsOn } from "./processor-delay";

export interface Arrivals {
  /** When the sound comes to each channel, in samples after it began; 0 where it begins. */
  readonly at: ReadonlyMap<ChannelId, number>;
  /** How late each channel's own chain makes it, in samples. */
  readonly chain: ReadonlyMap<ChannelId, number>;
}

type Timed = Pick<Template, "channels" | "sends" | "processors" | "sideChains" | "buffers" | "format">;

const NO_INSERTS: DelayContext["insertSamples"] = () => 0;

/**
 * What delays depend on besides processors: the rate, and with a rig what a hardware insert costs at the recording
 * buffer.
 */
export const delayContext = ({ format, buffers }: Pick<Template, "format" | "buffers">, rig?: Rig): DelayContext => ({
  rateHz: format.sampleRateHz,
  insertSamples: rig
    ? insertsOn(rig, { rateHz: format.sampleRateHz, bufferSamples: buffers.recordingSamples })
    : NO_INSERTS,
});

/**
 * How late the chain of a channel makes what passes it while recording, in samples: what is bypassed or off then does
 * not count.
 */
export const channelSamples = (
  doc: Pick<Template, "processors" | "buffers">,
  id: ChannelId,
  context: DelayContext,
): number =>
  chainSamples(
    processorsOf(doc, id).filter((processor) => isWorking(doc, processor)),
    context,
  );

/** The same of all that is in, also of what is off while recording: what a chain takes when it is mixed. */
export const chainDelay = (doc: Pick<Template, "processors">, id: ChannelId, context: DelayContext): number =>
  chainSamples(
    processorsOf(doc, id).filter(({ bypassed }) => !bypassed),
    context,
  );

const computed = (doc: Pick<Template, "processors" | "buffers">, graph: Graph, context: DelayContext): Arrivals => {
  const at = new Map<ChannelId, number>();
  const chain = new Map<ChannelId, number>();
  const steered = new Map<ChannelId, ChannelId[]>();
  for (const { from, to } of graph.steers) putInto(steered, to, from);
  const leaves = new Map<ChannelId, number>();
  for (const id of orderOf(graph).ids) {
    let latest = 0;
    for (const { from } of intoOf(graph, id)) {
      const left = leaves.get(from) ?? 0;
      if (left > latest) latest = left;
    }
    for (const from of steered.get(id) ?? []) latest = Math.max(latest, leaves.get(from) ?? 0);
    const parked = isParked(graph.channels[id]);
    const own = parked ? 0 : channelSamples(doc, id, context);
    at.set(id, latest);
    chain.set(id, own);
    leaves.set(id, parked ? 0 : latest + own);
  }
  return { at, chain };
};

const sameFigures = (a: ReadonlyMap<ChannelId, number>, b: ReadonlyMap<ChannelId, number>): boolean => {
  if (a.size !== b.size) return false;
  for (const [id, figure] of a) if (b.get(id) !== figure) return false;
  return true;
};

let last: Arrivals = { at: new Map(), chain: new Map() };

/** The very same as the ones before for as long as they say the same. */
const asBefore = (now: Arrivals): Arrivals => {
  if (!sameFigures(now.at, last.at) || !sameFigures(now.chain, last.chain)) last = now;
  return last;
};

/**
 * One answer for each rig, rate, buffer, switch and set of parked channels that was asked for, for as long as nothing
 * leads elsewhere and no processor changes.
 */
const kept = perTwo((_threads: Graph["threads"], _processors: Template["processors"]) =>
  perTwo((_steers: Graph["steers"], _rig: object) => new Map<string, Arrivals>()),
);
/** Stands for no rig. */
const NO_RIG = {};

const parkedIn = perDocument((channels: Template["channels"]): string =>
  entriesOf<Channel>(channels)
    .flatMap((channel) => (isParked(channel) ? [channel.id] : []))
    .join(" "),
);

/**
 * When the sound arrives at each channel while recording, with compensation: where ways meet, each is held back to the
 * longest, so a channel is reached at the maximum over its inputs of (when they are reached + what their chain takes).
 * Outputs, what is recorded, sends and side-chains count; what is parked does not. With a rig hardware inserts count a
 * whole round trip by the converters of their own ports. In samples; one pass along the order of the sound, linear in
 * channels and threads.
 * @example a track with 48 samples of chain and one without, into one bus: the bus is reached after 48
 */
export const arrivalsOf = (doc: Timed, rig?: Rig): Arrivals => {
  // Whoever goes through the threads of a template asks for the same again and again.
  if (lastAsked?.doc !== doc || lastAsked.rig !== rig) lastAsked = { doc, rig, arrivals: lookedUp(doc, rig) };
  return lastAsked.arrivals;
};

let lastAsked: { readonly doc: Timed; readonly rig: Rig | undefined; readonly arrivals: Arrivals } | null = null;

const lookedUp = (doc: Timed, rig?: Rig): Arrivals => {
  const graph = graphOf(doc);
  const answers = kept(graph.threads, doc.processors)(graph.steers, rig ?? NO_RIG);
  const key = `${doc.format.sampleRateHz} ${doc.buffers.recordingSamples} ${doc.buffers.allOff} ${Object.keys(doc.channels).length} ${parkedIn(doc.channels)}`;
  const answer = answers.get(key) ?? asBefore(computed(doc, graph, delayContext(doc, rig)));
  answers.set(key, answer);
  return answer;
};

/**
 * By how many samples the sound of one channel is held back on its way into another, so that it meets the latest there.
 */
export const heldBack = ({ at, chain }: Arrivals, from: ChannelId, to: ChannelId): number =>
  (at.get(to) ?? 0) - (at.get(from) ?? 0) - (chain.get(from) ?? 0);
