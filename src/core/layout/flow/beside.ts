import { perDocument } from "../../model/per-document";
import { putInto } from "../../model/table";
import { type Flow, type FlowNode, type FlowThread, middle } from "./picture";

const grouped = <T, K>(all: readonly T[], by: (one: T) => K): ReadonlyMap<K, readonly T[]> => {
  const groups = new Map<K, T[]>();
  for (const one of all) putInto(groups, by(one), one);
  return groups;
};

/** What one goes along by keys in a picture, found once for it. */
const waysIn = perDocument((flow: Flow) => {
  const ways = flow.threads.filter(({ kind }) => kind !== "line");
  return {
    nodes: new Map(flow.nodes.map((one) => [one.id, one])),
    from: grouped(ways, ({ from }) => from),
    to: grouped(ways, ({ to }) => to),
    columns: new Map(
      [...grouped(flow.nodes, ({ x }) => x)].map(([x, nodes]) => [x, [...nodes].sort((a, b) => a.y - b.y)]),
    ),
  };
});

/** A node of the picture by its id. */
export const nodeIn = (flow: Flow, id: string | null | undefined): FlowNode | undefined =>
  id ? waysIn(flow).nodes.get(id) : undefined;

const outputsFirst = (of: readonly FlowThread[]) =>
  of.some(({ kind }) => kind === "output") ? of.filter(({ kind }) => kind === "output") : of;

/**
 * The nodes beside one: those its threads lead to and come from, and those above and below it in its column, for moving
 * along by keys.
 */
export const besideIn = (
  flow: Flow,
  id: string,
): {
  readonly up: string | null;
  readonly down: string | null;
  readonly before: string | null;
  readonly after: string | null;
} => {
  const { nodes, from, to, columns } = waysIn(flow);
  const node = nodes.get(id);
  if (!node) return { up: null, down: null, before: null, after: null };
  const nearest = (ids: readonly string[]): string | null => {
    const found = ids.flatMap((one) => nodes.get(one) ?? []);
    return found.sort((a, b) => Math.abs(middle(a) - middle(node)) - Math.abs(middle(b) - middle(node)))[0]?.id ?? null;
  };
  const column = columns.get(node.x) ?? [];
  const at = column.indexOf(node);
  return {
    up: nearest(outputsFirst(to.get(id) ?? []).map((thread) => thread.from)),
    down: nearest(outputsFirst(from.get(id) ?? []).map((thread) => thread.to)),
    before: column[at - 1]?.id ?? null,
    after: column[at + 1]?.id ?? null,
  };
};
