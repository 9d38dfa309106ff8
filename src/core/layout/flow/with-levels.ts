import type { MixLevels } from "../../levels/mix-levels";
import { peakAside } from "../level-words";
import type { Flow, FlowNode } from "./picture";

const told = (node: FlowNode, { channels }: MixLevels): FlowNode => {
  const [only] = node.channelIds;
  const levels =
    node.channelIds.length === 1 && only && node.kind !== "family" && node.kind !== "opened"
      ? channels.get(only)
      : undefined;
  return levels ? { ...node, aside: peakAside(levels) } : node;
};

/** The picture with the worst peak of each channel, in dBFS, in place of what else stands at its right. */
export const withLevels = (flow: Flow, levels: MixLevels): Flow => ({
  ...flow,
  nodes: flow.nodes.map((node) => told(node, levels)),
});
