import { describe, expect, it } from "vitest";
import { wholeMill } from "../../demo/rigs";
import { demoTemplates } from "../../demo/templates";
import { entriesOf } from "../../model/table";
import { graphOf } from "../../routing/graph";
import { wideSends } from "../../testing/shapes";
import { layoutFlow } from "./flow";
import { isNodeInSight, scrollTo, sightOf, threadsInSight } from "./in-sight";
import { litBy, litThreads } from "./lit";
import type { Flow, FlowThread } from "./picture";
import { strokesOf } from "./strokes";

const pictureOf = (doc: Parameters<typeof layoutFlow>[0]): Flow =>
  layoutFlow(doc, wholeMill, {
    width: 1000,
    height: 660,
    folded: new Set(),
    within: null,
    outputs: true,
    sends: true,
    parked: false,
  });

/** Heights along the drawn line itself, by its own numbers: ends and handles of each bend. */
const heightsOf = ({ path }: FlowThread): readonly number[] => {
  const numbers = [...path.matchAll(/[MCH](?:[^A-Z]*)/g)].flatMap(([part]) =>
    part.startsWith("H") ? [] : [...part.matchAll(/-?[\d.]+/g)].map(Number),
  );
  const shared = /^M12 (?<first>[\d.]+)H18.*C26 (?<last>[\d.]+) 26/.exec(path)?.groups;
  // Down the margin, from the input of the first that takes the line.
  if (shared)
    return Array.from(
      { length: 101 },
      (_, at) => Number(shared.first) + ((Number(shared.last) - Number(shared.first)) * at) / 100,
    );
  const points = numbers.flatMap((value, at) => (at % 2 ? [value] : []));
  if (points.length < 4) return points;
  const [a = 0, b = 0, c = 0, d = 0] = points;
  return Array.from({ length: 101 }, (_, at) => at / 100).map(
    (t) => (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t ** 2 * c + t ** 3 * d,
  );
};

const pictures = [...demoTemplates(), wideSends(90, 5)].map((doc) => [doc.name, pictureOf(doc), doc] as const);

describe("what is drawn of a picture", () => {
  it.each(pictures)(
    "%s: every thread that runs through what is seen, by the line itself, and few that do not",
    (_name, flow) => {
      for (let from = 0; from < flow.height; from += 137) {
        const sight = { from, to: from + 200 };
        const drawn = new Set(threadsInSight(flow, sight));
        const through = flow.threads.filter((thread) =>
          heightsOf(thread).some((y) => y >= sight.from && y <= sight.to),
        );
        expect(through.filter((thread) => !drawn.has(thread))).toEqual([]);
        const away = 40 + Math.max(...flow.nodes.map(({ height }) => height));
        expect(
          [...drawn].filter((thread) => heightsOf(thread).every((y) => y < sight.from - away || y > sight.to + away)),
        ).toEqual([]);
      }
    },
  );

  it("is all of a small one, and in a large one what is around the window, and stays the same for a little scrolling", () => {
    const [, large] = pictures.at(-1) ?? expect.unreachable();
    const sight = sightOf({ top: 1000, height: 700 });
    expect(sight).toEqual({ from: 200, to: 2600 });
    expect(sightOf({ top: 1050, height: 700 })).toEqual(sight);
    const nodes = large.nodes.filter((node) => isNodeInSight(node, sight));
    expect(nodes.length).toBeGreaterThan(20);
    expect(nodes.every(({ y, height }) => y + height >= 200 && y <= 2600)).toBe(true);
  });

  it("is scrolled to where a node is not seen, and not where it is", () => {
    const [, large] = pictures.at(-1) ?? expect.unreachable();
    const last = large.nodes.reduce((lowest, node) => (node.y > lowest.y ? node : lowest));
    const to = scrollTo(last, { top: 0, height: 400 });
    expect(to).toBe(last.y + last.height / 2 - 200);
    expect(scrollTo(last, { top: to ?? 0, height: 400 })).toBeNull();
    expect(scrollTo(large.nodes[0] ?? expect.unreachable(), { top: 900, height: 400 })).toBe(0);
  });
});

describe("threads that are lit, found by what is lit", () => {
  it.each(pictures)("%s: the same as asking each of them", (_name, flow, doc) => {
    const graph = graphOf(doc);
    for (const { id } of entriesOf(doc.channels))
      for (const ways of ["all", "dry", "sent"] as const) {
        const lit = litBy(graph, [id], ways);
        const leaves = (way: string) =>
          lit?.channels.has(way as never) &&
          graph.channels[way as never] &&
          (graph.channels[way as never] as { output: { kind: string } }).output.kind === "hardware";
        const asked = flow.threads.filter(({ kind, to, threadIds }) =>
          kind === "line"
            ? lit?.channels.has(to as never)
            : threadIds.some((way) => lit?.threads.has(way) || (to.startsWith("out ") && leaves(way))),
        );
        expect(litThreads(graph, lit, flow.threads)).toEqual(new Set(asked.map((thread) => thread.id)));
      }
  });
});

describe("strokes of several threads", () => {
  it.each(pictures)("%s: draw each line once, with those that look alike", (_name, flow) => {
    const strokes = strokesOf(flow.threads);
    const lines = (threads: readonly FlowThread[]) =>
      threads.flatMap(({ path, kind, colour, width, parked, off }) =>
        path
          .split("M")
          .slice(1)
          .map((line) => [line, kind, colour, width, parked, off].join("|")),
      );
    expect(lines(strokes).sort()).toEqual(lines(flow.threads).sort());
    expect(new Set(strokes.map(({ id }) => id)).size).toBe(strokes.length);
  });
});
