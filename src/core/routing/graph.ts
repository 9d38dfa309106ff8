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
  readonly send: Send | null;
}

/** How the channels of a template are routed to one another. */
export interface Graph {
  readonly channels: Template["channels"];
  readonly threads: readonly Thread[];
  readonly out: ReadonlyMap<ChannelId, readonly Thread[]>;
  readonly into: ReadonlyMap<ChannelId, readonly Thread[]>;
}

const NONE: readonly Thread[] = [];

export const outOf = ({ out }: Graph, id: ChannelId): readonly Thread[] => out.get(id) ?? NONE;
export const intoOf = ({ into }: Graph, id: ChannelId): readonly Thread[] => into.get(id) ?? NONE;

const outputThread = (channel: Channel): Thread | null =>
  channel.output.kind === "channel" ? { id: channel.id, kind: "output", from: channel.id, to: channel.output.channelId, send: null } : null;

const put = (map: Map<ChannelId, Thread[]>, id: ChannelId, thread: Thread): void => {
  const there = map.get(id);
  if (there) there.push(thread);
  else map.set(id, [thread]);
};

const build = (channels: Template["channels"], sends: Readonly<Record<SendId, Send>>): Graph => {
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
  for (const send of entriesOf<Send>(sends)) lay({ id: send.id, kind: "send", from: send.fromId, to: send.toId, send });
  return { channels, threads, out, into };
};

/** The graph of a moment ago with other channels in it, where none of them leads elsewhere than it did; null when one does, came or went. */
const moved = (before: Graph, channels: Template["channels"]): Graph | null => {
  const ids = differingIds<Channel>(before.channels, channels) as readonly ChannelId[];
  const same = (id: ChannelId): boolean => {
    const [was, is] = [before.channels[id], channels[id]];
    return was !== undefined && is !== undefined && (was.output === is.output || JSON.stringify(was.output) === JSON.stringify(is.output));
  };
  return ids.every(same) ? { ...before, channels } : null;
};

let last: { readonly sends: object; readonly graph: Graph } | null = null;

const kept = perTwo((channels: Template["channels"], sends: Readonly<Record<SendId, Send>>): Graph => {
  const graph = (last?.sends === sends ? moved(last.graph, channels) : null) ?? build(channels, sends);
  last = { sends, graph };
  return graph;
});

/** The routing of a template: linear in channels and sends, kept for as long as neither of the two tables changes, and taken over where nothing leads elsewhere. */
export const graphOf = (doc: Pick<Template, "channels" | "sends">): Graph => kept(doc.channels, doc.sends);
