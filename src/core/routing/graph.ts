import type { ChainProcessorId, ChannelId, SendId, SideChainId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import { differingIds, entriesOf, putInto } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Send } from "../model/tables/sends";
import type { SideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";

/** One way of the sound from a channel to the next: its output, a send, or a bus that a track records. */
export interface Thread {
  /** The id of the send; of an output that of the channel that it leaves; of what is recorded that of the track, with `in ` before it. */
  readonly id: string;
  readonly kind: "output" | "send" | "input";
  readonly from: ChannelId;
  readonly to: ChannelId;
  /** Its place among the threads that leave the channel. */
  readonly at: number;
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
export const sendOf = ({ sends }: Pick<Graph, "sends">, { kind, id }: Thread): Send | null => (kind === "send" ? (sends[id as SendId] ?? null) : null);

type Laid = Omit<Thread, "at">;

const outputThread = (channel: Channel): Laid | null =>
  channel.output.kind === "channel" ? { id: channel.id, kind: "output", from: channel.id, to: channel.output.channelId } : null;

/** The bus or instrument that a track records. */
export const recordedFrom = (channel: Channel | undefined): ChannelId | null => {
  if (channel?.kind !== "track") return null;
  if (channel.input.kind === "instrument") return channel.input.instrumentId;
  return channel.input.kind === "bus" ? channel.input.busId : null;
};

const inputThread = (channel: Channel): Laid | null => {
  const bus = recordedFrom(channel);
  return bus === null ? null : { id: `in ${channel.id}`, kind: "input", from: bus, to: channel.id };
};

interface Routed {
  readonly channels: Template["channels"];
  readonly sends: Template["sends"];
  readonly steers: readonly Steer[];
}

const sameList = (a: readonly Thread[] | undefined, b: readonly Thread[]): a is readonly Thread[] =>
  a !== undefined && a.length === b.length && a.every((one, at) => one === b[at]);

/** Lists that hold the very same as before are the very same. */
const takenOver = (lists: ReadonlyMap<ChannelId, readonly Thread[]>, before: ReadonlyMap<ChannelId, readonly Thread[]> | undefined): ReadonlyMap<ChannelId, readonly Thread[]> => {
  if (!before) return lists;
  const kept = new Map<ChannelId, readonly Thread[]>();
  for (const [id, list] of lists) {
    const was = before.get(id);
    kept.set(id, sameList(was, list) ? was : list);
  }
  return kept;
};

/** The graph from nothing; a thread that leads as it did, and a list of such, is the very one of before. */
const build = ({ channels, sends, steers }: Routed, before: Graph | null): Graph => {
  const threads: Thread[] = [];
  const out = new Map<ChannelId, Thread[]>();
  const into = new Map<ChannelId, Thread[]>();
  const lay = (laid: Laid): void => {
    const there = out.get(laid.from);
    const at = there?.length ?? 0;
    const was = before?.out.get(laid.from)?.[at];
    const thread = was && was.id === laid.id && was.to === laid.to && was.kind === laid.kind ? was : { ...laid, at };
    threads.push(thread);
    if (there) there.push(thread);
    else out.set(laid.from, [thread]);
    putInto(into, thread.to, thread);
  };
  for (const channel of entriesOf<Channel>(channels)) {
    const [output, input] = [outputThread(channel), inputThread(channel)];
    if (output) lay(output);
    if (input) lay(input);
  }
  for (const send of entriesOf<Send>(sends)) lay({ id: send.id, kind: "send", from: send.fromId, to: send.toId });
  return { channels, sends, threads, out: takenOver(out, before?.out), into: takenOver(into, before?.into), steers };
};

const staysRouted = (was: Channel | undefined, is: Channel | undefined): boolean =>
  was !== undefined && is !== undefined && recordedFrom(was) === recordedFrom(is) && (was.output === is.output || JSON.stringify(was.output) === JSON.stringify(is.output));

const staysSent = (was: Send | undefined, is: Send | undefined): boolean => was !== undefined && is !== undefined && was.fromId === is.fromId && was.toId === is.toId;

/** The graph of a moment ago with other channels and sends in it, where none of them leads elsewhere than it did; null when one does, came or went. */
const moved = (before: Graph, now: Routed): Graph | null => {
  if (before.steers !== now.steers) return null;
  const routed = (differingIds<Channel>(before.channels, now.channels) as readonly ChannelId[]).every((id) => staysRouted(before.channels[id], now.channels[id]));
  const same = routed && (differingIds<Send>(before.sends, now.sends) as readonly SendId[]).every((id) => staysSent(before.sends[id], now.sends[id]));
  return same ? { ...before, ...now } : null;
};

let last: Graph | null = null;

const kept = perDocument((steers: readonly Steer[]) =>
  perTwo((channels: Template["channels"], sends: Template["sends"]): Graph => {
    const now = { channels, sends, steers };
    last = (last && moved(last, now)) ?? build(now, last);
    return last;
  }),
);

let lastSteers: readonly Steer[] = [];

/** What steers what: the very same list for as long as nothing steers another thing, whatever is set in the processors. */
const steersOf = perTwo((sideChains: Template["sideChains"], processors: Template["processors"]): readonly Steer[] => {
  const steers = entriesOf<SideChain>(sideChains).flatMap(({ id, fromId, processorId }): readonly Steer[] => {
    const to = processors[processorId]?.channelId;
    return to === undefined ? [] : [{ id, from: fromId, to, processorId }];
  });
  const same = steers.length === lastSteers.length && steers.every((steer, at) => JSON.stringify(steer) === JSON.stringify(lastSteers[at]));
  if (!same) lastSteers = steers;
  return lastSteers;
});

type Routing = Pick<Template, "channels" | "sends" | "processors" | "sideChains">;

/** The routing of a template: linear in channels, sends and side-chains, kept for as long as none of them changes, and taken over where nothing leads elsewhere. */
export const graphOf = ({ channels, sends, processors, sideChains }: Routing): Graph => kept(steersOf(sideChains, processors))(channels, sends);
