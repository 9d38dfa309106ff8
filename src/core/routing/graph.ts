import type { ChainProcessorId, ChannelId, SendId, SideChainId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import { differingIds, entriesOf, putInto } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Send } from "../model/tables/sends";
import type { SideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";

/** One way of the sound from a channel to the next: its output, a send, or a bus that a track records. */
export interface Thread {
  /**
   * The id of the send; of an output that of the channel that it leaves; of what is recorded that of the track, with
   * `in ` before it.
   */
  readonly id: string;
  readonly kind: "output" | "send" | "input";
  readonly from: ChannelId;
  readonly to: ChannelId;
  /** Its place among the threads that leave the channel. */
  readonly at: number;
  /** Its place among all of them: outputs and what is recorded in the order of the channels, then sends. */
  readonly place: number;
}

/** A channel that steers a processor in another: no sound goes that way, but it must be there before. */
export interface Steer {
  readonly id: SideChainId;
  readonly from: ChannelId;
  readonly to: ChannelId;
  readonly processorId: ChainProcessorId;
}

/** What leads where. The same for as long as nothing leads elsewhere, whatever else changes. */
interface Shape {
  readonly threads: readonly Thread[];
  readonly out: ReadonlyMap<ChannelId, readonly Thread[]>;
  readonly into: ReadonlyMap<ChannelId, readonly Thread[]>;
  readonly steers: readonly Steer[];
}

/** How the channels of a template are routed to one another. */
export interface Graph extends Shape {
  readonly channels: Template["channels"];
  readonly sends: Template["sends"];
}

const NONE: readonly Thread[] = [];

export const outOf = ({ out }: Graph, id: ChannelId): readonly Thread[] => out.get(id) ?? NONE;
export const intoOf = ({ into }: Graph, id: ChannelId): readonly Thread[] => into.get(id) ?? NONE;

/** The send that a thread is; null for an output. */
export const sendOf = ({ sends }: Pick<Graph, "sends">, { kind, id }: Thread): Send | null =>
  kind === "send" ? (sends[id as SendId] ?? null) : null;

type Laid = Omit<Thread, "at">;

/** The bus or instrument that a track records. */
export const recordedFrom = (channel: Channel | undefined): ChannelId | null => {
  if (channel?.kind !== "track") return null;
  if (channel.input.kind === "instrument") return channel.input.instrumentId;
  return channel.input.kind === "bus" ? channel.input.busId : null;
};

/**
 * Where a channel leads by itself: its output, and what it records. The place of the channel among all of them is said.
 */
const threadsOfChannel = (channel: Channel, place: number): readonly Laid[] => {
  const { id, output } = channel;
  const bus = recordedFrom(channel);
  return [
    ...(output.kind === "channel"
      ? [{ id, kind: "output", from: id, to: output.channelId, place: 2 * place } as const]
      : []),
    ...(bus === null ? [] : [{ id: `in ${id}`, kind: "input", from: bus, to: id, place: 2 * place + 1 } as const]),
  ];
};

const threadOfSend = ({ id, fromId, toId }: Send, place: number): Laid => ({
  id,
  kind: "send",
  from: fromId,
  to: toId,
  place,
});

interface Routed {
  readonly channels: Template["channels"];
  readonly sends: Template["sends"];
  readonly steers: readonly Steer[];
}

const build = ({ channels, sends, steers }: Routed): Graph => {
  const threads: Thread[] = [];
  const out = new Map<ChannelId, Thread[]>();
  const into = new Map<ChannelId, Thread[]>();
  const lay = (laid: Laid): void => {
    const thread = { ...laid, at: out.get(laid.from)?.length ?? 0 };
    threads.push(thread);
    putInto(out, thread.from, thread);
    putInto(into, thread.to, thread);
  };
  const all = entriesOf<Channel>(channels);
  for (const [at, channel] of all.entries()) for (const laid of threadsOfChannel(channel, at)) lay(laid);
  for (const [at, send] of entriesOf<Send>(sends).entries()) lay(threadOfSend(send, 2 * all.length + at));
  return { channels, sends, threads, out, into, steers };
};

const staysRouted = (was: Channel | undefined, is: Channel | undefined): boolean =>
  was !== undefined &&
  is !== undefined &&
  recordedFrom(was) === recordedFrom(is) &&
  (was.output === is.output || JSON.stringify(was.output) === JSON.stringify(is.output));

const staysSent = (was: Send | undefined, is: Send | undefined): boolean =>
  was !== undefined && is !== undefined && was.fromId === is.fromId && was.toId === is.toId;

/**
 * The graph of a moment ago with other channels and sends in it, where none of them leads elsewhere than it did; null
 * when one does, came or went.
 */
const moved = (before: Graph, now: Routed): Graph | null => {
  if (before.steers !== now.steers) return null;
  const routed = (differingIds<Channel>(before.channels, now.channels) as readonly ChannelId[]).every((id) =>
    staysRouted(before.channels[id], now.channels[id]),
  );
  const same =
    routed &&
    (differingIds<Send>(before.sends, now.sends) as readonly SendId[]).every((id) =>
      staysSent(before.sends[id], now.sends[id]),
    );
  return same ? { ...before, ...now } : null;
};

/** Of more changes than this the graph is laid from nothing. */
const FEW = 32;

const byPlace = (a: Thread, b: Thread): number => a.place - b.place;

/** Lists of threads in which some are laid anew; a list that none of them is in is the very same. */
class Relaying {
  private readonly out: Map<ChannelId, readonly Thread[]>;
  private readonly into: Map<ChannelId, readonly Thread[]>;
  private readonly gone = new Set<Thread>();
  private readonly come: Thread[] = [];

  constructor(private readonly before: Graph) {
    this.out = new Map(before.out);
    this.into = new Map(before.into);
  }

  private put(lists: Map<ChannelId, readonly Thread[]>, id: ChannelId, list: readonly Thread[]): void {
    if (list.length) lists.set(id, list);
    else lists.delete(id);
  }

  take(thread: Thread): void {
    this.gone.add(thread);
    this.put(
      this.out,
      thread.from,
      (this.out.get(thread.from) ?? NONE).filter((one) => one !== thread),
    );
    this.put(
      this.into,
      thread.to,
      (this.into.get(thread.to) ?? NONE).filter((one) => one !== thread),
    );
  }

  lay(thread: Thread): void {
    this.come.push(thread);
    this.put(this.out, thread.from, [...(this.out.get(thread.from) ?? NONE), thread].sort(byPlace));
    this.put(this.into, thread.to, [...(this.into.get(thread.to) ?? NONE), thread].sort(byPlace));
  }

  /**
   * Threads know their place among those that leave a channel: where one before them came or went they are others now.
   */
  private numbered(): void {
    for (const id of new Set([...this.gone, ...this.come].map(({ from }) => from)))
      for (const [at, thread] of (this.out.get(id) ?? NONE).entries()) {
        if (thread.at === at) continue;
        const laid = { ...thread, at };
        const swap = (list: readonly Thread[]): readonly Thread[] => list.map((one) => (one === thread ? laid : one));
        this.out.set(id, swap(this.out.get(id) ?? NONE));
        this.into.set(thread.to, swap(this.into.get(thread.to) ?? NONE));
        const came = this.come.indexOf(thread);
        if (came >= 0) this.come[came] = laid;
        else {
          this.gone.add(thread);
          this.come.push(laid);
        }
      }
  }

  done(now: Routed): Graph {
    this.numbered();
    const threads = [...this.before.threads.filter((thread) => !this.gone.has(thread)), ...this.come].sort(byPlace);
    return { ...now, threads, out: this.out, into: this.into };
  }
}

/**
 * The graph of a moment ago with a few threads in it laid anew: null where entries came or went, or too many lead
 * elsewhere.
 */
const rerouted = (before: Graph, now: Routed): Graph | null => {
  const [channelIds, sendIds] = [
    differingIds<Channel>(before.channels, now.channels) as readonly ChannelId[],
    differingIds<Send>(before.sends, now.sends) as readonly SendId[],
  ];
  const stays =
    channelIds.every((id) => before.channels[id] && now.channels[id]) &&
    sendIds.every((id) => before.sends[id] && now.sends[id]);
  const channels = channelIds.filter((id) => !staysRouted(before.channels[id], now.channels[id]));
  const sends = sendIds.filter((id) => !staysSent(before.sends[id], now.sends[id]));
  if (!stays || channels.length + sends.length > FEW) return null;
  const relaying = new Relaying(before);
  const relay = (was: readonly Laid[], is: readonly Laid[]): void => {
    for (const { id, from } of was) {
      const thread = before.out.get(from)?.find((one) => one.id === id);
      if (thread) relaying.take(thread);
    }
    for (const laid of is) relaying.lay({ ...laid, at: -1 });
  };
  const places = new Map<string, number>(channels.length ? Object.keys(now.channels).map((id, at) => [id, at]) : []);
  for (const id of channels)
    relay(
      threadsOfChannel(before.channels[id] as Channel, 0),
      threadsOfChannel(now.channels[id] as Channel, places.get(id) ?? 0),
    );
  for (const id of sends) {
    const place = before.out.get(before.sends[id]?.fromId as ChannelId)?.find((one) => one.id === id)?.place ?? 0;
    relay([threadOfSend(before.sends[id] as Send, 0)], [threadOfSend(now.sends[id] as Send, place)]);
  }
  return relaying.done(now);
};

let last: Graph | null = null;

const kept = perDocument((steers: readonly Steer[]) =>
  perTwo((channels: Template["channels"], sends: Template["sends"]): Graph => {
    const now = { channels, sends, steers };
    last = (last && (moved(last, now) ?? rerouted(last, now))) ?? build(now);
    return last;
  }),
);

let lastSteers: readonly Steer[] = [];

/**
 * What steers what: the very same list for as long as nothing steers another thing, whatever is set in the processors.
 */
const steersOf = perTwo((sideChains: Template["sideChains"], processors: Template["processors"]): readonly Steer[] => {
  const steers = entriesOf<SideChain>(sideChains).flatMap(({ id, fromId, processorId }): readonly Steer[] => {
    const to = processors[processorId]?.channelId;
    return to === undefined ? [] : [{ id, from: fromId, to, processorId }];
  });
  const same =
    steers.length === lastSteers.length &&
    steers.every((steer, at) => JSON.stringify(steer) === JSON.stringify(lastSteers[at]));
  if (!same) lastSteers = steers;
  return lastSteers;
});

type Routing = Pick<Template, "channels" | "sends" | "processors" | "sideChains">;

/**
 * The routing of a template: linear in channels, sends and side-chains, kept for as long as none of them changes, and
 * taken over where nothing leads elsewhere.
 */
export const graphOf = ({ channels, sends, processors, sideChains }: Routing): Graph =>
  kept(steersOf(sideChains, processors))(channels, sends);
