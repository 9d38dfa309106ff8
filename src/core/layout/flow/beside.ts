import { type Flow, type FlowThread, middle } from "./picture";

/** The nodes beside one: those its threads lead to and come from, and those above and below it in its column, for moving along by keys. */
export const besideIn = (flow: Flow, id: string): { readonly up: string | null; readonly down: string | null; readonly before: string | null; readonly after: string | null } => {
  const node = flow.nodes.find((one) => one.id === id);
  const found = new Map(flow.nodes.map((one) => [one.id, one]));
  if (!node) return { up: null, down: null, before: null, after: null };
  const nearest = (ids: readonly string[]): string | null => {
    const nodes = ids.flatMap((one) => found.get(one) ?? []);
    return nodes.sort((a, b) => Math.abs(middle(a) - middle(node)) - Math.abs(middle(b) - middle(node)))[0]?.id ?? null;
  };
  const ways = flow.threads.filter(({ kind }) => kind !== "line");
  const outputsFirst = (of: readonly FlowThread[]) => (of.some(({ kind }) => kind === "output") ? of.filter(({ kind }) => kind === "output") : of);
  const column = flow.nodes.filter((one) => one.x === node.x).sort((a, b) => a.y - b.y);
  const at = column.indexOf(node);
  return {
    up: nearest(outputsFirst(ways.filter(({ to }) => to === id)).map(({ from }) => from)),
    down: nearest(outputsFirst(ways.filter(({ from }) => from === id)).map(({ to }) => to)),
    before: column[at - 1]?.id ?? null,
    after: column[at + 1]?.id ?? null,
  };
};
