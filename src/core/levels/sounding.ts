import type { ChannelId } from "../model/ids";
import type { Template } from "../model/template";
import type { Asked } from "../queries/at-work";
import { graphOf, intoOf, outOf, type Thread } from "../routing/graph";
import { alongThread } from "./passing";

const letsThrough = (doc: Template, thread: Thread, asked: Asked): boolean => {
  const leaves = alongThread(doc, { thread, asked });
  return leaves !== null && leaves.gain >= 1e-6;
};

/** Everything whose sound comes to one of some channels, themselves included: the other way round. Linear in what is reached. */
export const soundsFrom = (doc: Template, to: readonly ChannelId[], asked: Asked): ReadonlySet<ChannelId> => {
  const graph = graphOf(doc);
  const reached = new Set<ChannelId>(to);
  const open = [...to];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const thread of intoOf(graph, id)) {
      if (reached.has(thread.from) || !letsThrough(doc, thread, asked)) continue;
      reached.add(thread.from);
      open.push(thread.from);
    }
  return reached;
};

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
      if (reached.has(thread.to) || !letsThrough(doc, thread, asked)) continue;
      reached.add(thread.to);
      open.push(thread.to);
    }
  return reached;
};
