import type { ChannelId } from "../model/ids";
import type { Template } from "../model/template";
import type { Asked } from "../queries/at-work";
import { graphOf, intoOf, outOf, type Thread } from "../routing/graph";
import { alongThread } from "./passing";

const letsThrough = (doc: Template, thread: Thread, asked: Asked): boolean => {
  const leaves = alongThread(doc, { thread, asked });
  return leaves !== null && leaves.gain >= 1e-6;
};

/**
 * All that is come by from some channels, themselves included, along threads that let something through, down or up.
 */
const walked = (
  doc: Template,
  from: readonly ChannelId[],
  { asked, up }: { readonly asked: Asked; readonly up: boolean },
): ReadonlySet<ChannelId> => {
  const graph = graphOf(doc);
  const reached = new Set<ChannelId>(from);
  const open = [...from];
  for (let id = open.pop(); id !== undefined; id = open.pop())
    for (const thread of up ? intoOf(graph, id) : outOf(graph, id)) {
      const next = up ? thread.from : thread.to;
      if (reached.has(next) || !letsThrough(doc, thread, asked)) continue;
      reached.add(next);
      open.push(next);
    }
  return reached;
};

/**
 * Everything that the sound of some channels comes to, themselves included: along threads that let something through.
 * What is off, at −∞, muted, parked, or while recording not heard through the computer, leads nowhere. Linear in what
 * is reached.
 */
export const soundsIn = (doc: Template, from: readonly ChannelId[], asked: Asked): ReadonlySet<ChannelId> =>
  walked(doc, from, { asked, up: false });

/**
 * Everything whose sound comes to one of some channels, themselves included: the other way round. Linear in what is
 * reached.
 */
export const soundsFrom = (doc: Template, to: readonly ChannelId[], asked: Asked): ReadonlySet<ChannelId> =>
  walked(doc, to, { asked, up: true });
