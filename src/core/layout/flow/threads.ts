import type { ChannelId, LineId } from "../../model/ids";
import { isParked } from "../../model/read-template";
import { inputLineIds } from "../../model/tables/channel-fields";
import type { Channel } from "../../model/tables/channels";
import { type Graph, intoOf, type Steer, sendOf, type Thread } from "../../routing/graph";
import { type FlowNode, type FlowThread, middle, thickness } from "./picture";

/** How many tracks each channel carries by outputs: what is sent comes on top and is not counted twice. */
export const carriedOf = (graph: Graph): ((id: ChannelId) => number) => {
  const carried = new Map<ChannelId, number>();
  const of = (id: ChannelId): number => {
    const known = carried.get(id);
    if (known !== undefined) return known;
    carried.set(id, 1);
    const begins = ["track", "instrument", "reference", "click", "talkback"].includes(graph.channels[id]?.kind ?? "");
    const count = begins
      ? 1
      : intoOf(graph, id).reduce((sum, { kind, from }) => (kind === "output" ? sum + of(from) : sum), 0);
    carried.set(id, count);
    return count;
  };
  return of;
};

export const curve = (x1: number, y1: number, x2: number, y2: number): string => {
  const bend = Math.max(24, (x2 - x1) / 2);
  const round = (value: number) => Math.round(value * 10) / 10;
  return `M${round(x1)} ${round(y1)}C${round(x1 + bend)} ${round(y1)} ${round(x2 - bend)} ${round(y2)} ${round(x2)} ${round(y2)}`;
};

/**
 * To the left edge of what is steered; where that does not stand further right, round to its right edge, so that it
 * crosses nothing in between.
 */
const steerCurve = (from: FlowNode, to: FlowNode): string => {
  const [x1, y1, y2] = [from.x + from.width, from.y + from.height * 0.3, to.y + to.height * 0.3];
  if (to.x > x1) return curve(x1, y1, to.x, y2);
  const x2 = to.x + to.width;
  const round = (value: number) => Math.round(value * 10) / 10;
  const bend = Math.max(x1, x2) + 26 + Math.min(40, Math.abs(y2 - y1) / 8);
  return `M${round(x1)} ${round(y1)}C${round(bend)} ${round(y1)} ${round(bend)} ${round(y2)} ${round(x2)} ${round(y2)}`;
};

/** Several ways of the sound from one node to another, drawn as one. */
export interface Bundle {
  readonly kind: "output" | "send" | "band" | "input" | "steer";
  readonly from: FlowNode;
  readonly to: FlowNode;
  readonly threads: readonly Pick<Thread, "id" | "from" | "to" | "kind">[] | readonly Steer[];
  readonly width: number;
}

export const keyOf = (from: string, to: string, kind: string): string => `${from} ${to} ${kind}`;

export const outId = (channel: Channel): string | null =>
  channel.output.kind === "hardware" ? `out ${channel.output.portIds.join(" ")}` : null;

/** Ends of bundles side by side on the edge of a node, in the order of where they come from or go to. */
export const spread = (
  bundles: readonly Bundle[],
  node: FlowNode,
  other: (bundle: Bundle) => FlowNode,
): ReadonlyMap<Bundle, number> => {
  const sorted = [...bundles].sort(
    (a, b) => middle(other(a)) - middle(other(b)) || (other(a).id < other(b).id ? -1 : 1),
  );
  const total = sorted.reduce((sum, { width }) => sum + width, 0);
  const share = Math.min(1, (node.height - 2) / Math.max(1, total));
  let y = middle(node) - (total * share) / 2;
  return new Map(
    sorted.map((bundle) => {
      const at = y + (bundle.width * share) / 2;
      y += bundle.width * share;
      return [bundle, at];
    }),
  );
};

export const grouped = (
  bundles: readonly Bundle[],
  of: (bundle: Bundle) => FlowNode,
): ReadonlyMap<FlowNode, readonly Bundle[]> => {
  const map = new Map<FlowNode, Bundle[]>();
  for (const bundle of bundles) {
    const there = map.get(of(bundle));
    if (there) there.push(bundle);
    else map.set(of(bundle), [bundle]);
  }
  return map;
};

export const endsOf = (bundles: readonly Bundle[], side: "from" | "to"): ReadonlyMap<Bundle, number> => {
  const other = side === "from" ? "to" : "from";
  const ends = new Map<Bundle, number>();
  for (const [node, own] of grouped(bundles, (bundle) => bundle[side]))
    for (const [bundle, y] of spread(own, node, (one) => one[other])) ends.set(bundle, y);
  return ends;
};

export const drawn = (graph: Graph, bundles: readonly Bundle[]): readonly FlowThread[] => {
  const isSolid = (kind: Bundle["kind"]): boolean => kind === "output" || kind === "input" || kind === "band";
  const outputs = bundles.filter(({ kind }) => isSolid(kind));
  const sends = bundles.filter(({ kind }) => kind === "send");
  const [starts, ends, sendEnds] = [endsOf(outputs, "from"), endsOf(outputs, "to"), endsOf(sends, "to")];
  return bundles.map((bundle): FlowThread => {
    const { kind, from, to, threads, width } = bundle;
    const solid = isSolid(kind);
    const y1 = solid ? (starts.get(bundle) ?? middle(from)) : from.y + from.height * 0.75;
    const y2 = (solid ? ends : sendEnds).get(bundle) ?? middle(to);
    const parked = (id: ChannelId): boolean => isParked(graph.channels[id]);
    return {
      id: keyOf(from.id, to.id, kind),
      kind,
      from: from.id,
      to: to.id,
      path: kind === "steer" ? steerCurve(from, to) : curve(from.x + from.width, y1, to.x, y2),
      width,
      colour: from.colour,
      threadIds: threads.map((thread) => thread.id),
      parked: threads.every((thread) => parked(thread.from) || parked(thread.to)),
      off: kind === "send" && (threads as readonly Thread[]).every((thread) => sendOf(graph, thread)?.on === false),
    };
  });
};

/** From the input of the first track on a line down, and into another that takes the same. */
const sharedPath = (from: number, x: number, y: number): string =>
  `M12 ${from}H18C26 ${from} 26 ${from} 26 ${Math.min(from + 10, y)}V${Math.max(from, y - 10)}C26 ${y} 26 ${y} 34 ${y}H${x}`;

/**
 * Threads at the left, from the inputs: a track that takes no line has none. Tracks on one line, recorded at once or by
 * turns, take it from one place, that of the first of them.
 */
export const lineThreads = (nodes: readonly FlowNode[], graph: Graph): readonly FlowThread[] => {
  const firstOn = new Map<LineId, FlowNode>();
  return nodes.flatMap((node): FlowThread[] => {
    if (node.kind !== "track" && node.kind !== "family") return [];
    const linesOf = (id: ChannelId): readonly LineId[] => {
      const channel = graph.channels[id];
      return channel?.kind === "track" ? inputLineIds(channel.input) : [];
    };
    const fed = node.channelIds.filter((id) => linesOf(id).length > 0);
    const [line] = node.kind === "track" && fed[0] ? linesOf(fed[0]) : [];
    if (!fed.length) return [];
    const y = middle(node);
    const first = line ? firstOn.get(line) : undefined;
    if (line && !first) firstOn.set(line, node);
    return [
      {
        id: keyOf("line", node.id, "line"),
        kind: "line",
        from: first?.id ?? "",
        to: node.id,
        path: first ? sharedPath(middle(first), node.x, y) : `M12 ${y}H${node.x}`,
        width: node.kind === "family" ? Math.min(node.height, thickness(fed.length)) : 2.4,
        colour: node.colour,
        threadIds: [],
        parked: node.parked,
        off: false,
      },
    ];
  });
};
