import type { ChannelId } from "../../model/ids";
import { colourOf, tracksOf } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import { entriesOf } from "../../model/table";
import type { Channel, Sum, Track } from "../../model/tables/channels";
import type { Template } from "../../model/template";
import { cuesOf } from "../../queries/cues";
import { outputsInWords, sumsOf } from "../../queries/outputs";
import { splitBandsOf } from "../../queries/split-bands";
import { type Graph, graphOf, intoOf, recordedFrom, type Thread } from "../../routing/graph";
import { counted } from "../../units/counted";
import { formatDb } from "../../units/decibels";
import { sumColour } from "../channel-colour";
import {
  type Box,
  EAR_CLOSEST,
  EAR_PITCH,
  EAR_RADIUS,
  type Ear,
  type Flow,
  type FlowNode,
  type FlowView,
  FOOT,
  GAP,
  isHidden,
  LEFT,
  middle,
  OUT_WIDTH,
  TOP,
  thickness,
} from "./picture";
import { type Bundle, carriedOf, drawn, keyOf, lineThreads, outId } from "./threads";
import { familiesOf, firstColumn, stacked } from "./tracks";

const levelOf = (channel: Channel): string =>
  channel.faderDb === null ? "−∞ dB" : channel.faderDb === 0 ? "" : formatDb(channel.faderDb);

/** What stands between the first column and the main bus: buses, returns, and tracks that record one. */
type Placed = Sum | Track;

/**
 * In which column each of them stands: one behind the last of those that feed it; only they count. Linear, since each
 * is looked at once.
 */
const columnsOf = (graph: Graph, sums: readonly Placed[]): ReadonlyMap<ChannelId, number> => {
  const columns = new Map<ChannelId, number>();
  const ids = new Set(sums.map(({ id }) => id));
  const columnOf = (id: ChannelId): number => {
    const known = columns.get(id);
    if (known !== undefined) return known;
    columns.set(id, 1);
    const column = intoOf(graph, id).reduce(
      (most, { from }) => (ids.has(from) ? Math.max(most, columnOf(from) + 1) : most),
      1,
    );
    columns.set(id, column);
    return column;
  };
  for (const { id } of sums) columnOf(id);
  return columns;
};

interface Wanted extends Box {
  readonly at: number;
  /** What comes from one place stands in this order. */
  readonly nth: number;
}

/**
 * Places what stands in one column as near as can be to where it would be best, without one over the other: down from
 * the top, then up from the bottom.
 */
const settled = (
  boxes: readonly Wanted[],
  { x, width, bottom }: { readonly x: number; readonly width: number; readonly bottom: number },
): readonly FlowNode[] => {
  const ys: number[] = [];
  let free = TOP;
  for (const { at, height } of boxes) {
    const y = Math.max(free, at - height / 2);
    ys.push(y);
    free = y + height + GAP;
  }
  let limit = bottom;
  for (let index = boxes.length - 1; index >= 0; index--) {
    const height = boxes[index]?.height ?? 0;
    ys[index] = Math.max(TOP, Math.min(ys[index] ?? 0, limit - height));
    limit = (ys[index] ?? 0) - GAP;
  }
  return boxes.map(({ at: _at, nth: _nth, gap: _gap, ...box }, index) => ({ ...box, x, width, y: ys[index] ?? 0 }));
};

interface Columns {
  readonly first: number;
  readonly sum: number;
  readonly main: number;
  readonly xs: readonly number[];
  readonly width: number;
}

/** Where columns stand: the whole from left to right in the width that there is. */
const columnsFor = (view: number, count: number, wide: boolean): Columns => {
  const first = wide ? 190 : 140;
  // Buses that lie many deep in one another need more than there is.
  const width = Math.max(view, LEFT + first + count * 108 + 76 + OUT_WIDTH + 64);
  const right = width - OUT_WIDTH - 16;
  const main = Math.min(104, Math.max(76, width / 10));
  const room = right - 24 - main - LEFT - first;
  const sum = Math.min(172, Math.max(84, (room / count) * 0.62));
  const step = (room - sum * count) / (count + 1);
  const xs = Array.from({ length: count }, (_, at) => LEFT + first + step * (at + 1) + sum * at);
  return { first, sum, main, xs: [...xs, right - 24 - main, right], width };
};

/** Everything that placing one thing after the other needs to know. */
interface Placing {
  readonly doc: Template;
  readonly rig: Rig;
  readonly graph: Graph;
  readonly view: FlowView;
  readonly columns: Columns;
  readonly bottom: number;
  readonly carried: (id: ChannelId) => number;
  /** Where each channel is drawn, as far as it is placed by now. */
  readonly nodeOf: Map<ChannelId, FlowNode>;
}

/** The mean height of what feeds a channel; null where nothing that is shown does. */
const meanOf = ({ graph, nodeOf }: Placing, id: ChannelId, outputsOnly: boolean): number | null => {
  const ys = intoOf(graph, id).flatMap((thread) => {
    const node = outputsOnly && thread.kind === "send" ? undefined : nodeOf.get(thread.from);
    return node ? [middle(node)] : [];
  });
  return ys.length ? ys.reduce((sum, y) => sum + y, 0) / ys.length : null;
};

const asideOf = ({ graph }: Placing, sum: Sum): string => {
  if (sum.parked || sum.muted) return sum.parked ? "parked" : "muted";
  const sent = intoOf(graph, sum.id).filter(({ kind }) => kind === "send").length;
  return levelOf(sum) || (sum.kind === "return" && sent > 1 ? counted(sent, "send") : "");
};

const PLAIN = {
  aside: "",
  colour: null,
  channelIds: [],
  folderId: null,
  gap: 0,
  parked: false,
  muted: false,
  output: null,
} as const;

const trackBox = (placing: Placing, track: Track): Wanted => ({
  ...PLAIN,
  kind: "track",
  id: track.id,
  label: track.name || "A track without a name",
  aside: track.parked ? "parked" : track.muted ? "muted" : "",
  colour: colourOf(placing.doc, track),
  channelIds: [track.id],
  height: 22,
  parked: track.parked,
  muted: track.muted,
  at: meanOf(placing, track.id, true) ?? placing.bottom,
  nth: track.input.kind === "instrument" ? track.input.output : 0,
});

/** What is summed stands beside what feeds it, and a return beside what is sent to it, so that sends run close by. */
const sumBox = (placing: Placing, sum: Sum): Wanted => {
  const { doc, bottom, carried } = placing;
  const isReturn = sum.kind === "return";
  const at = meanOf(placing, sum.id, !isReturn) ?? bottom;
  const height = isReturn ? 26 : Math.max(24, thickness(carried(sum.id)) + 8);
  const { id, kind, name: label, parked, muted } = sum;
  return {
    ...PLAIN,
    kind,
    id,
    label,
    aside: asideOf(placing, sum),
    colour: sumColour(doc, sum),
    channelIds: [id],
    height,
    parked,
    muted,
    output: isReturn ? null : { kind: "channel", channelId: id },
    at,
    nth: 0,
  };
};

const byPlace = (a: Wanted, b: Wanted): number => a.at - b.at || a.nth - b.nth || (a.id < b.id ? -1 : 1);

const placeSums = (
  placing: Placing,
  sums: readonly Placed[],
  column: ReadonlyMap<ChannelId, number>,
): readonly FlowNode[] => {
  const { columns, bottom, nodeOf } = placing;
  return Array.from({ length: columns.xs.length - 2 }, (_, at) => {
    const boxes = sums
      .filter(({ id }) => column.get(id) === at + 1)
      .map((sum) => (sum.kind === "track" ? trackBox(placing, sum) : sumBox(placing, sum)));
    const placed = settled(boxes.sort(byPlace), { x: columns.xs[at] ?? 0, width: columns.sum, bottom });
    for (const node of placed) nodeOf.set(node.id as ChannelId, node);
    return placed;
  }).flat();
};

const placeMain = (placing: Placing, main: Channel): FlowNode => {
  const { graph, columns, bottom, carried, nodeOf } = placing;
  const total = intoOf(graph, main.id).reduce(
    (sum, { from }) => (nodeOf.has(from) ? sum + thickness(carried(from)) : sum),
    0,
  );
  const height = Math.min(Math.max(56, total + 16), bottom - TOP);
  const at = meanOf(placing, main.id, true) ?? (TOP + bottom) / 2;
  const y = Math.max(TOP, Math.min(bottom - height, at - height / 2));
  const { gap: _gap, ...plain } = PLAIN;
  const node: FlowNode = {
    ...plain,
    kind: "main",
    id: main.id,
    label: main.name,
    aside: levelOf(main),
    channelIds: [main.id],
    output: { kind: "channel", channelId: main.id },
    x: columns.xs.at(-2) ?? 0,
    y,
    width: columns.main,
    height,
  };
  nodeOf.set(main.id, node);
  return node;
};

/** Channels that go out of the interface, by the outputs that they go to. */
const leavers = ({ doc, nodeOf }: Placing): ReadonlyMap<string, readonly Channel[]> => {
  const outs = new Map<string, Channel[]>();
  for (const channel of entriesOf<Channel>(doc.channels)) {
    const id = outId(channel);
    if (id === null || !nodeOf.has(channel.id)) continue;
    const there = outs.get(id);
    if (there) there.push(channel);
    else outs.set(id, [channel]);
  }
  return outs;
};

const placeOuts = (
  { rig, columns, bottom, nodeOf }: Placing,
  outs: ReadonlyMap<string, readonly Channel[]>,
): readonly FlowNode[] => {
  const boxes = [...outs].map(([id, channels]): Wanted => {
    const ys = channels.flatMap((channel) => nodeOf.get(channel.id) ?? []).map(middle);
    const output = channels[0]?.output ?? null;
    const label = output?.kind === "hardware" ? outputsInWords(rig, output.portIds) : "";
    return {
      ...PLAIN,
      kind: "out",
      id,
      label,
      output,
      height: 22,
      at: ys.reduce((sum, y) => sum + y, 0) / Math.max(1, ys.length),
      nth: 0,
    };
  });
  return settled(boxes.sort(byPlace), { x: columns.xs.at(-1) ?? 0, width: OUT_WIDTH, bottom });
};

/** Who hears a cue, below the outputs, as close as there must be: each at the same place whatever is selected. */
const placeEars = ({ doc, columns, bottom }: Placing, outNodes: readonly FlowNode[]): readonly Ear[] => {
  const cues = cuesOf(doc);
  const free = Math.max(TOP, ...outNodes.map(({ y, height }) => y + height)) + GAP + EAR_RADIUS;
  const above = Math.min(bottom, ...outNodes.map(({ y }) => y)) - GAP - EAR_RADIUS;
  const lowest = bottom - EAR_RADIUS;
  const wanted = (cues.length - 1) * EAR_PITCH;
  const closest = (cues.length - 1) * EAR_CLOSEST;
  // Below the outputs where they have room, else from the top on.
  const from = free + closest <= lowest ? free : above - TOP > lowest - free ? TOP + EAR_RADIUS : free;
  const to = from === TOP + EAR_RADIUS ? Math.max(above, from + closest) : Math.max(lowest, from + closest);
  const pitch = cues.length > 1 ? Math.min(EAR_PITCH, Math.max(EAR_CLOSEST, (to - from) / (cues.length - 1))) : 0;
  const first = from === free && wanted <= to - from ? Math.min(from + 28, to - wanted) : from;
  return cues.map(({ id, name }, at) => ({
    cueId: id,
    name,
    x: (columns.xs.at(-1) ?? 0) + EAR_RADIUS + 2,
    y: first + at * pitch,
  }));
};

/** A way of the sound, or a side-chain. */
type Laid = Omit<Thread, "kind" | "at" | "place"> & { readonly kind: Bundle["kind"] };

/** Which buses take a band each of what source. */
const partedBy = (doc: Template): ReadonlyMap<ChannelId, ReadonlySet<ChannelId>> =>
  new Map(splitBandsOf(doc).map(({ sourceId, bands }) => [sourceId, new Set(bands.map(({ bus }) => bus.id))]));

/** The ways of the sound, those between the same two nodes as one bundle. */
const bundled = (
  { doc, graph, view, carried, nodeOf }: Placing,
  outs: ReadonlyMap<string, readonly Channel[]>,
  outNodes: readonly FlowNode[],
): readonly Bundle[] => {
  const bundles = new Map<
    string,
    { readonly kind: Bundle["kind"]; readonly from: FlowNode; readonly to: FlowNode; readonly threads: Laid[] }
  >();
  const lay = (from: FlowNode | undefined, to: FlowNode | undefined, thread: Laid): void => {
    if (!from || !to || from === to) return;
    const key = keyOf(from.id, to.id, thread.kind);
    const there = bundles.get(key);
    if (there) there.threads.push(thread);
    else bundles.set(key, { kind: thread.kind, from, to, threads: [thread] });
  };
  const parts = partedBy(doc);
  for (const thread of graph.threads) {
    const band = thread.kind === "send" && (parts.get(thread.from)?.has(thread.to) ?? false);
    if (thread.kind === "send" && !band ? view.sends : view.outputs)
      lay(nodeOf.get(thread.from), nodeOf.get(thread.to), band ? { ...thread, kind: "band" } : thread);
  }
  if (view.sends)
    for (const steer of graph.steers) lay(nodeOf.get(steer.from), nodeOf.get(steer.to), { ...steer, kind: "steer" });
  const outNode = new Map(outNodes.map((node) => [node.id, node]));
  for (const [id, channels] of view.outputs ? outs : [])
    for (const channel of channels)
      lay(nodeOf.get(channel.id), outNode.get(id), {
        id: channel.id,
        kind: "output",
        from: channel.id,
        to: channel.id,
      });
  return [...bundles.values()].map((bundle): Bundle => {
    const tracks = bundle.threads.reduce((sum, { from }) => sum + Math.max(1, carried(from)), 0);
    return {
      ...bundle,
      threads: bundle.threads as Bundle["threads"],
      width:
        bundle.kind === "steer"
          ? 1.8
          : bundle.kind === "send"
            ? Math.min(4, 1.4 + 0.3 * Math.log2(bundle.threads.length))
            : bundle.kind === "band"
              ? 2.4
              : Math.min(bundle.from.height, thickness(tracks)),
    };
  });
};

/**
 * The woven picture: tracks at the left by family, buses and returns in columns by how many of them the sound has
 * passed, the main bus, and the outputs of the interface. Everything fits the width; the height grows only where tracks
 * would come closer than they can be read. Order in a column is by what feeds it, so that little crosses, and the same
 * document gives the same picture. Linear but for the sorting of each column.
 */
export const layoutFlow = (doc: Template, rig: Rig, view: FlowView): Flow => {
  const graph = graphOf(doc);
  const families = familiesOf(doc, view);
  const shown = new Set(families.flatMap(({ tracks }) => tracks.map(({ id }) => id)));
  const recording = tracksOf(doc).filter((track) => recordedFrom(track) !== null);
  const sums = [...sumsOf(doc), ...recording].filter(
    (sum: Placed) => !isHidden(sum, view) && (view.within === null || needs(graph, sum.id, shown)),
  );
  const column = columnsOf(graph, sums);
  const columns = columnsFor(view.width, Math.max(1, ...column.values()), view.folded.size > 0);
  const tracks = stacked(firstColumn(doc, view, families), LEFT, columns.first);
  const bottom = Math.max(view.height - FOOT, ...tracks.map(({ y, height }) => y + height));
  const nodeOf = new Map<ChannelId, FlowNode>(
    tracks.flatMap((node) => (node.kind === "opened" ? [] : node.channelIds.map((id) => [id, node] as const))),
  );
  const placing: Placing = { doc, rig, graph, view, columns, bottom, carried: carriedOf(graph), nodeOf };
  const placed = placeSums(placing, sums, column);
  const main = entriesOf<Channel>(doc.channels).find(({ kind }) => kind === "main");
  const last = main ? [placeMain(placing, main)] : [];
  const outs = leavers(placing);
  const outNodes = placeOuts(placing, outs);
  const ears = placeEars(placing, outNodes);
  const folders = families.filter(({ folder }) => folder).length;
  return {
    ears,
    nodes: [...tracks, ...placed, ...last, ...outNodes],
    threads: [...lineThreads(tracks, graph), ...drawn(graph, bundled(placing, outs, outNodes))],
    headings: [
      {
        x: LEFT,
        text: view.folded.size
          ? `${counted(shown.size, "track")} in ${counted(folders, "family", "families")}`
          : "Tracks",
      },
      ...(sums.length ? [{ x: columns.xs[0] ?? 0, text: "Buses and returns" }] : []),
      { x: columns.xs.at(-2) ?? 0, text: "Main" },
      { x: columns.xs.at(-1) ?? 0, text: "Heard at" },
    ],
    width: columns.width,
    height: Math.max(bottom, ...ears.map(({ y }) => y + EAR_RADIUS)) + FOOT,
  };
};

/** Whether a bus or return is on the way of one of these tracks. */
const needs = (graph: Graph, id: ChannelId, tracks: ReadonlySet<ChannelId>): boolean => {
  const seen = new Set<ChannelId>([id]);
  const queue = [id];
  for (let at = 0; at < queue.length; at++) {
    for (const { from } of intoOf(graph, queue[at] as ChannelId)) {
      if (tracks.has(from)) return true;
      if (!seen.has(from)) {
        seen.add(from);
        queue.push(from);
      }
    }
  }
  return false;
};
