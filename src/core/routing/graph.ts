import type { ChannelId, SendId } from "../model/ids";
import { perTwo } from "../model/per-document";
import { differingIds, entriesOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { Send } from "../model/tables/sends";
import type { Template } from "../model/template";

/** One way of the sound from a channel to the next: its output, or a send. */
export interface Thread {
  /** The id of the send; of an output that of the channel that it leaves. */
  readonly id: string;
  readonly kind: "output" | "send";
  readonly from: ChannelId;
  readonly to: ChannelId;
}

/** What leads where. The same for as long as nothing leads elsewhere, whatever else changes. */
interface Shape {
  readonly threads: readonly Thread[];
  readonly out: ReadonlyMap<ChannelId, readonly Thread[]>;
  readonly into: ReadonlyMap<ChannelId, readonly Thread[]>;
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

const outputThread = (channel: Channel): Thread | null =>
  channel.output.kind === "channel" ? { id: channel.id, kind: "output", from: channel.id, to: channel.output.channelId } : null;

const put = (map: Map<ChannelId, Thread[]>, id: ChannelId, thread: Thread): void => {
  const there = map.get(id);
  if (there) there.push(thread);
  else map.set(id, [thread]);
};

const build = (channels: Template["channels"], sends: Template["sends"]): Graph => {
  const threads: Thread[] = [];
  const out = new Map<ChannelId, Thread[]>();
  const into = new Map<ChannelId, Thread[]>();
  const lay = (thread: Thread): void => {
    threads.push(thread);
    put(out, thread.from, thread);
    put(into, thread.to, thread);
  };
  for (const channel of entriesOf<Channel>(channels)) {
    const thread = outputThread(channel);
    if (thread) lay(thread);
  }
  for (const send of entriesOf<Send>(sends)) lay({ id: send.id, kind: "send", from: send.fromId, to: send.toId });
  return { channels, sends, threads, out, into };
};

const staysRouted = (was: Channel | undefined, is: Channel | undefined): boolean =>
  was !== undefined && is !== undefined && (was.output === is.output || JSON.stringify(was.output) === JSON.stringify(is.output));

const staysSent = (was: Send | undefined, is: Send | undefined): boolean => was !== undefined && is !== undefined && was.fromId === is.fromId && was.toId === is.toId;

/** The graph of a moment ago with other channels and sends in it, where none of them leads elsewhere than it did; null when one does, came or went. */
const moved = (before: Graph, channels: Template["channels"], sends: Template["sends"]): Graph | null => {
  const routed = (differingIds<Channel>(before.channels, channels) as readonly ChannelId[]).every((id) => staysRouted(before.channels[id], channels[id]));
  const same = routed && (differingIds<Send>(before.sends, sends) as readonly SendId[]).every((id) => staysSent(before.sends[id], sends[id]));
  return same ? { ...before, channels, sends } : null;
};

let last: Graph | null = null;

const kept = perTwo((channels: Template["channels"], sends: Template["sends"]): Graph => {
  last = (last && moved(last, channels, sends)) ?? build(channels, sends);
  return last;
});

/** The routing of a template: linear in channels and sends, kept for as long as neither of the two tables changes, and taken over where nothing leads elsewhere. */
export const graphOf = (doc: Pick<Template, "channels" | "sends">): Graph => kept(doc.channels, doc.sends);
