import { DirectedGraph } from "graphology";
import { topologicalSort } from "graphology-dag";
import { describe } from "vitest";
import { CHAIN_CHECKS } from "../checks/chains";
import { ROUTING_CHECKS } from "../checks/routing";
import { WOVEN_CHECKS } from "../checks/woven";
import { wholeMill } from "../demo/rigs";
import { layoutFlow } from "../layout/flow/flow";
import { litBy, litThreads } from "../layout/flow/lit";
import type { ChainProcessorId, ChannelId, FolderId, SendId } from "../model/ids";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { apply } from "../planning/edits/template-editing";
import { aWeave } from "../testing/a-weave";
import { bench } from "../testing/bench";
import { dB } from "../units/decibels";
import { type Graph, graphOf } from "./graph";
import { orderOf } from "./order";

const CHECKS_OF_FLOW = [...ROUTING_CHECKS, ...CHAIN_CHECKS, ...WOVEN_CHECKS];

/** The same as other tables, so that nothing kept for the tables before is taken over. */
const anew = (doc: Template): Template => ({ ...doc, channels: { ...doc.channels }, sends: { ...doc.sends } });

const packaged = ({ channels, threads }: Graph): readonly string[] => {
  const graph = new DirectedGraph();
  for (const id of Object.keys(channels)) graph.addNode(id);
  for (const { from, to } of threads) graph.mergeEdge(from, to);
  return topologicalSort(graph);
};

for (const [channels, sends] of [
  [128, 512],
  [512, 4096],
] as const) {
  const doc = aWeave(channels, sends);
  const graph = graphOf(doc);
  let level = 0;
  // Each edit goes on from the one before, as in a window: what is kept beside a document moves on with it.
  let now = doc;
  const after = (edit: Edit): Template => {
    const made = apply(now, edit);
    if (!made.ok) throw new Error(`expected the edit to be done, got: ${made.refusal.message}`);
    now = made.doc;
    return now;
  };
  const turned = () =>
    after({
      kind: "entries.set",
      table: "sends",
      ids: ["send-7" as SendId],
      set: { levelDb: (-(level++ % 60) - 1) as never },
    });
  const routed = () =>
    after({
      kind: "entries.set",
      table: "channels",
      ids: ["track-7" as ChannelId],
      set: { output: { kind: "channel", channelId: `bus-${level++ % 8}` as ChannelId } },
    });
  const processed = () =>
    after({
      kind: "entries.set",
      table: "processors",
      ids: ["compressor-7" as ChainProcessorId],
      set: { thresholdDb: dB(-(level++ % 60) - 1) },
    });
  const evaluate = (of: Template): void => {
    orderOf(graphOf(of));
    for (const rule of CHECKS_OF_FLOW) rule.check({ doc: of, rig: wholeMill, otherRigs: [] });
  };
  const view = {
    width: 1000,
    height: 660,
    folded: new Set<FolderId>(),
    within: null,
    outputs: true,
    sends: true,
    parked: false,
  };
  const folded = new Set(Object.keys(doc.folders) as FolderId[]);
  const flow = layoutFlow(doc, wholeMill, view);
  describe(`${channels} channels, ${sends} sends`, () => {
    bench("baseline: the document to JSON and back", () => void JSON.parse(JSON.stringify(doc)));
    bench("one send set: done, refused if it went round", () => void turned());
    bench("one track routed: done, refused if it went round", () => void routed());
    bench("evaluation after one send was set", () => evaluate(turned()));
    bench("evaluation after one track was routed", () => evaluate(routed()));
    bench("evaluation after one processor was set", () => evaluate(processed()));
    bench("evaluation from scratch", () => evaluate(anew(doc)));
    bench("order from scratch", () => void orderOf(graphOf(anew(doc))));
    bench("order from scratch by the graph package", () => void packaged(graph));
    bench("the picture laid out, families folded", () => void layoutFlow(anew(doc), wholeMill, { ...view, folded }));
    bench("the picture laid out, every thread by itself", () => void layoutFlow(anew(doc), wholeMill, view));
    bench(
      "the path of one track lit",
      () => void litThreads(graph, litBy(graph, ["track-7" as ChannelId], "all"), flow.threads),
    );
  });
}
