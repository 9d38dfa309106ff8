import type { ChannelId } from "../model/ids";
import type { Template } from "../model/template";
import type { Asked } from "../queries/at-work";
import { graphOf, outOf } from "../routing/graph";
import { alongThread } from "./passing";

/**
 * Everything that the sound of some channels comes to, themselves included: along threads that let something through. What is off, at −∞, muted, parked, or while
 * recording not heard through the computer, leads nowhere. Linear in what is reached.
 */
export const soundsIn = (doc: Template, from: readonly ChannelId[], asked: Asked): ReadonlySet<ChannelId> => {
  const graph = graphOf(doc);
  const reached = new Set<ChannelId>(from);
  const open = [...from];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const thread of outOf(graph, id)) {
      if (reached.has(thread.to)) continue;
      const leaves = alongThread(doc, { thread, asked });
      if (!leaves || leaves.gain < 1e-6) continue;
      reached.add(thread.to);
      open.push(thread.to);
    }
  return reached;
};
