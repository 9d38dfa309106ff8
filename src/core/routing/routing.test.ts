import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { brokenInvariants } from "../commands/template-engine";
import { pathInWords } from "../layout/signal-path";
import type { ChannelId, SendId } from "../model/ids";
import { entriesOf } from "../model/table";
import { newProcessor } from "../model/tables/chain-processors";
import { MAIN_ID } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import { newSideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { apply, applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { graphOf, type Thread } from "./graph";
import { orderOf } from "./order";
import { MOST_PATHS, pathsBetween } from "./paths";
import { downFrom, upFrom } from "./reach";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  if (!made.ok) throw new Error(made.refusal.message);
  return made.doc;
};
const bus = (name: string, to = "main"): Edit => ({
  kind: "channels.add",
  channels: [{ kind: "bus", id: id(name), name, output: { kind: "channel", channelId: id(to) } }],
  feedIds: [],
});
const routed = (from: string, to: string): Edit => ({
  kind: "entries.set",
  table: "channels",
  ids: [id(from)],
  set: { output: { kind: "channel", channelId: id(to) } },
});
const sent = (from: string, to: string): Edit => ({
  kind: "sends.add",
  sends: [{ id: `${from} to ${to}` as SendId, fromId: id(from), toId: id(to) }],
});

/**
 * A graph of so many buses: each leads to one further on or to the main bus, and is sent to some further on, so that
 * there is no loop.
 */
const graphs = fc
  .integer({ min: 1, max: 9 })
  .chain((count) =>
    fc.record({
      outputs: fc.array(fc.nat(), { minLength: count, maxLength: count }),
      sends: fc.uniqueArray(fc.tuple(fc.nat(count - 1), fc.nat(count - 1)), {
        maxLength: 14,
        selector: ([a, b]) => `${a} ${b}`,
      }),
    }),
  )
  .map(({ outputs, sends }) => {
    const count = outputs.length;
    const target = (at: number, choice: number) => at + 1 + (choice % (count - at));
    const names = outputs.map((_output, at) => `b${at}`);
    const laid = names.map((name) => bus(name));
    const routes = outputs.map((choice, at) =>
      routed(`b${at}`, target(at, choice) === count ? "main" : `b${target(at, choice)}`),
    );
    const forward = sends.filter(([a, b]) => a < b).map(([a, b]) => sent(`b${a}`, `b${b}`));
    return done(aTemplate().build(), ...laid, ...routes, ...forward);
  });

/** The plainest way to find every way: all of them, by going on from each end. */
const everyWay = (doc: Template, from: ChannelId, to: ChannelId): number => {
  if (from === to) return 1;
  return graphOf(doc)
    .threads.filter((thread) => thread.from === from)
    .reduce((sum, thread) => sum + everyWay(doc, thread.to, to), 0);
};

describe("routing, held against the plainest way to find it", () => {
  it("puts each channel after all that feed it, and ranks it by the longest way to it", () => {
    fc.assert(
      fc.property(graphs, (doc) => {
        const graph = graphOf(doc);
        const { ids, rank } = orderOf(graph);
        expect([...ids].sort()).toEqual(Object.keys(doc.channels).sort());
        const place = new Map(ids.map((one, at) => [one, at]));
        for (const { from, to } of graph.threads) expect(place.get(from)).toBeLessThan(place.get(to) ?? -1);
        for (const one of ids)
          expect(rank.get(one)).toBe(
            Math.max(0, ...graph.threads.filter(({ to }) => to === one).map(({ from }) => (rank.get(from) ?? 0) + 1)),
          );
      }),
      { numRuns: runs(60, 600), seed: 20261202 },
    );
  });

  it("counts every way between any two, writes each out once, and agrees on what reaches what", () => {
    fc.assert(
      fc.property(graphs, (doc) => {
        const graph = graphOf(doc);
        const all = Object.keys(doc.channels) as ChannelId[];
        for (const from of all)
          for (const to of all) {
            const ways = everyWay(doc, from, to);
            const { count, paths } = pathsBetween(graph, from, to);
            expect([count, paths.length]).toEqual([ways, Math.min(ways, MOST_PATHS)]);
            expect(new Set(paths.map((path) => path.map((thread: Thread) => thread.id).join(" "))).size).toBe(
              paths.length,
            );
            expect(downFrom(graph, from).channels.has(to)).toBe(ways > 0);
            expect(upFrom(graph, to).channels.has(from)).toBe(ways > 0);
          }
      }),
      { numRuns: runs(40, 400), seed: 20261203 },
    );
  });

  it("is the same whether it is built anew or taken over from a moment ago", () => {
    fc.assert(
      fc.property(graphs, fc.nat(8), (doc, at) => {
        graphOf(doc);
        const muted = apply(doc, {
          kind: "entries.set",
          table: "channels",
          ids: [
            id(
              Object.keys(doc.channels).filter((one) => one !== MAIN_ID)[at % (Object.keys(doc.channels).length - 1)] ??
                "",
            ),
          ],
          set: { muted: true },
        });
        const after = muted.ok ? muted.doc : expect.unreachable();
        const [over, anew] = [
          graphOf(after),
          graphOf({ ...after, channels: { ...after.channels }, sends: { ...after.sends } }),
        ];
        expect([over.threads, over.channels]).toEqual([anew.threads, after.channels]);
      }),
      { numRuns: runs(40, 400), seed: 20261204 },
    );
  });

  it("writes out no more ways than it may, and counts the rest", () => {
    const names = Array.from({ length: 20 }, (_, at) => `b${at}`);
    const ladder = done(
      aTemplate().build(),
      ...names.map((name) => bus(name)),
      ...names.map((name, at) => routed(name, at < 19 ? `b${at + 1}` : "main")),
      ...names.slice(0, 18).map((name, at) => sent(name, `b${at + 2}`)),
    );
    const { count, paths } = pathsBetween(graphOf(ladder), id("b0"), MAIN_ID);
    // Steps of one or two: as many ways as the Fibonacci number of the ladder's length.
    expect([count, paths.length]).toEqual([6_765, MOST_PATHS]);
  });
});

describe("a loop", () => {
  const doc = done(
    aTemplate().track("Fiddle", { input: "9" }).build(),
    bus("Drums"),
    bus("Crush"),
    routed("Crush", "Drums"),
  );
  const refused = (edit: Edit, on = doc): string => {
    const made = apply(on, edit);
    return made.ok ? "" : made.refusal.message;
  };

  it("is refused with its whole way in words, whichever thread would close it", () => {
    expect(refused(routed("Drums", "Crush"))).toBe(
      "That can't be: the sound would go round for ever: Drums → Crush → Drums.",
    );
    expect(refused(sent("Drums", "Crush"))).toBe(
      "That can't be: the sound would go round for ever: Drums → (by a send) Crush → Drums.",
    );
    expect(refused(routed("Drums", "Drums"))).toBe("That can't be: the sound would go round for ever: Drums → Drums.");
  });

  it("counts sends that are off as well, since they can be switched on", () => {
    const off = done(doc, {
      kind: "sends.add",
      sends: [{ id: "s" as SendId, fromId: id("Crush"), toId: id("Drums"), on: false }],
    });
    expect(refused(routed("Drums", "Crush"), off)).toContain("go round for ever");
  });

  it("never comes to be, whatever is routed and sent where", () => {
    const five = ["a", "b", "c", "d", "e"];
    const start = done(aTemplate().build(), ...five.map((name) => bus(name)));
    const step = fc.tuple(fc.boolean(), fc.constantFrom(...five), fc.constantFrom(...five, "main"));
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let now = start;
        for (const [bySend, from, to] of steps) {
          const before = now;
          const made = apply(now, bySend ? sent(from, to) : routed(from, to));
          if (made.ok) now = made.doc;
          // Refused only where it is right to be: the end leads back to the beginning already, or can't be sent to.
          else if (!(bySend && (to === "main" || from === to)))
            expect(downFrom(graphOf(before), id(to)).channels.has(id(from))).toBe(true);
          expect(orderOf(graphOf(now)).ids).toHaveLength(entriesOf<Channel>(now.channels).length);
        }
        expect(brokenInvariants(now)).toEqual([]);
      }),
      { numRuns: runs(60, 600), seed: 20261205 },
    );
  });

  it("is told of a document that has one all the same", () => {
    const broken = {
      ...doc,
      channels: {
        ...doc.channels,
        Drums: { ...doc.channels[id("Drums")], output: { kind: "channel", channelId: "Crush" } },
      },
    } as Template;
    expect(brokenInvariants(broken)[0]).toContain("the sound would go round for ever");
    expect(orderOf(graphOf(broken)).ids).not.toContain("Drums");
  });
});

describe("a way in words", () => {
  it("names each step, and how what is sent is sent", () => {
    const doc = done(
      aTemplate().track("Fiddle", { input: "9" }).build(),
      bus("Strings"),
      routed("track-1", "Strings"),
      {
        kind: "sends.add",
        sends: [
          { id: "s" as SendId, fromId: id("track-1"), toId: id("Strings"), levelDb: -15 as never, tap: "before" },
        ],
      },
    );
    const { paths } = pathsBetween(graphOf(doc), id("track-1"), MAIN_ID);
    expect(paths.map((path) => pathInWords(doc, id("track-1"), path))).toEqual([
      "Fiddle → Strings → Main",
      "Fiddle → (by a send at −15 dB, before the fader) Strings → Main",
    ]);
  });
});

describe("whatever is edited", () => {
  it("nothing ever goes round: every channel has its place in the order, after all that feed or steer it", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc: Template = aTemplate()
          .folder("Strings")
          .track("Fiddle", { input: "9", folder: "Strings" })
          .track("Harp", { input: "3" })
          .track("Voice", { input: "1" })
          .build();
        for (let n = 0; n < 60; n++) {
          const made = apply(doc, randomEdit(doc, chance));
          if (made.ok) doc = made.doc;
        }
        const graph = graphOf(doc);
        const { ids } = orderOf(graph);
        const at = new Map(ids.map((one, index) => [one, index]));
        expect(ids).toHaveLength(Object.keys(doc.channels).length);
        for (const { from, to } of [...graph.threads, ...graph.steers])
          expect(at.get(from)).toBeLessThan(at.get(to) ?? -1);
      }),
      { numRuns: runs(60, 600), seed: 20261126 },
    );
  });

  it("a bus that a track records, and a side-chain, close a loop as an output does", () => {
    const ready = done(
      aTemplate().track("Mix", { input: "1" }).track("Voice", { input: "2" }).build(),
      bus("sum"),
      { kind: "tracks.take", trackId: id("track-1"), input: { kind: "bus", busId: id("sum") }, lines: [] },
      {
        kind: "entries.add",
        entries: { processors: [newProcessor("compressor", { id: "c" as never, channelId: id("sum") }) as never] },
      },
    );
    const says = (edit: Edit): string => {
      const made = apply(ready, edit);
      return made.ok ? "" : made.refusal.message;
    };
    expect(says(routed("track-1", "sum"))).toContain("go round for ever: Mix → sum → (recorded on) Mix");
    expect(
      says({
        kind: "sideChains.add",
        sideChains: [newSideChain({ id: "s" as never, fromId: id("track-1"), processorId: "c" as never })],
      }),
    ).toContain("go round for ever: Mix → (by a side-chain) sum → (recorded on) Mix");
    expect(
      says({
        kind: "sideChains.add",
        sideChains: [newSideChain({ id: "s" as never, fromId: id("track-2"), processorId: "c" as never })],
      }),
    ).toBe("");
  });
});
