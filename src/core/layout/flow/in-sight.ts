import { perDocument } from "../../model/per-document";
import { nodeIn } from "./beside";
import { type Flow, type FlowNode, type FlowThread, middle } from "./picture";

/** A part of the height of a picture, in its pixels. */
export interface Sight {
  readonly from: number;
  readonly to: number;
}

/** How high and low each thread of a picture runs: it bends, but never beyond its ends. */
const spans = perDocument((flow: Flow): ReadonlyMap<FlowThread, Sight> => {
  const heights = (thread: FlowThread): readonly number[] =>
    [thread.from, thread.to].flatMap((id) => nodeIn(flow, id) ?? []).flatMap((node) => [node.y, node.y + node.height]);
  return new Map(
    flow.threads.map((thread) => {
      const ends = heights(thread);
      return [thread, { from: Math.min(...ends) - thread.width, to: Math.max(...ends) + thread.width }];
    }),
  );
});

export const isNodeInSight = ({ y, height }: Pick<FlowNode, "y" | "height">, { from, to }: Sight): boolean =>
  y + height >= from && y <= to;

/** The threads of a picture that run through a part of its height; those without an end in it count as well. */
export const threadsInSight = (flow: Flow, { from, to }: Sight): readonly FlowThread[] => {
  const of = spans(flow);
  return flow.threads.filter((thread) => {
    const span = of.get(thread);
    return !span || !(span.from > to || span.to < from);
  });
};

/** In steps, so that scrolling a little draws nothing anew. */
const STEP = 400;
/** So far above and below what is seen is drawn too. */
const MARGIN = 600;

/** What is drawn of a picture while so much of it is seen. */
export const sightOf = ({ top, height }: { readonly top: number; readonly height: number }): Sight => ({
  from: Math.floor(top / STEP) * STEP - MARGIN,
  to: Math.ceil((top + height) / STEP) * STEP + MARGIN,
});

/** Where to scroll to, so that a node is seen; null where it is seen already. */
export const scrollTo = (
  node: FlowNode,
  { top, height }: { readonly top: number; readonly height: number },
): number | null =>
  node.y >= top && node.y + node.height <= top + height ? null : Math.max(0, middle(node) - height / 2);
