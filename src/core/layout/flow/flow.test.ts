import { describe, expect, it } from "vitest";
import { wholeMill } from "../../demo/rigs";
import { demoTemplates } from "../../demo/templates";
import type { ChannelId, FolderId } from "../../model/ids";
import { entriesOf } from "../../model/table";
import type { Template } from "../../model/template";
import type { Edit } from "../../planning/edits/edit";
import { applyAll } from "../../planning/edits/template-editing";
import { graphOf } from "../../routing/graph";
import { aTemplate } from "../../testing/a-template";
import { besideIn } from "./beside";
import { fitted } from "./fitted";
import { layoutFlow } from "./flow";
import { isLitNode, litBy, litThreads } from "./lit";
import type { Flow, FlowView } from "./picture";

const SEEN: FlowView = {
  width: 1000,
  height: 660,
  folded: new Set(),
  within: null,
  outputs: true,
  sends: true,
  parked: false,
};
const demo = (name: string): Template => demoTemplates().find((doc) => doc.name === name) ?? expect.unreachable();
const nine = demo("The Tidewrack Nine");
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const look = (doc: Template, view: Partial<FlowView> = {}): Flow => layoutFlow(doc, wholeMill, { ...SEEN, ...view });
const nodeNamed = (flow: Flow, label: string, kind?: string) =>
  flow.nodes.find((node) => node.label === label && (!kind || node.kind === kind)) ?? expect.unreachable(`no ${label}`);
const idOf = (doc: Template, name: string): ChannelId =>
  entriesOf(doc.channels).find((channel) => channel.name === name)?.id ?? expect.unreachable(name);
const overlapping = ({ nodes }: Flow) =>
  nodes.flatMap((a, at) =>
    nodes
      .slice(at + 1)
      .flatMap((b) =>
        a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height - 0.01 && b.y < a.y + a.height - 0.01
          ? [`${a.label} on ${b.label}`]
          : [],
      ),
  );

describe("the woven picture", () => {
  it.each(demoTemplates().map((doc) => [doc.name, doc] as const))(
    "%s: nothing lies over anything else, and all of it is within the width",
    (_name, doc) => {
      for (const folded of [new Set<FolderId>(), new Set(entriesOf(doc.folders).map(({ id }) => id))]) {
        const flow = look(doc, { folded });
        expect(overlapping(flow)).toEqual([]);
        for (const node of flow.nodes) {
          expect(node.x + node.width).toBeLessThanOrEqual(flow.width);
          expect(node.y + node.height).toBeLessThanOrEqual(flow.height);
        }
      }
    },
  );

  it("puts tracks before the buses that sum them, each bus behind those that feed it, and the outputs last", () => {
    const flow = look(demo("The Ferryman's Ghost"));
    const x = (label: string, kind?: string) => nodeNamed(flow, label, kind).x;
    expect([
      x("Boy") < x("Actors", "bus"),
      x("Actors", "bus") < x("Speech"),
      x("Speech") < x("Main"),
      x("Main") < x("Outputs 1–2"),
    ]).toEqual([true, true, true, true]);
    expect(flow.headings.map(({ text }) => text)).toEqual(["Tracks", "Buses and returns", "Main", "Heard at"]);
  });

  it("draws each way of the sound once, and what is sent apart from what is routed", () => {
    const flow = look(nine);
    const ways = flow.threads.flatMap(({ kind, threadIds, to }) =>
      kind === "line" || to.startsWith("out ") ? [] : threadIds,
    );
    expect([...ways].sort()).toEqual(
      graphOf(nine)
        .threads.map(({ id }) => id as string)
        .sort(),
    );
    expect(flow.threads.filter(({ kind }) => kind === "send")).toHaveLength(5);
    expect(flow.threads.filter(({ kind }) => kind === "line")).toHaveLength(15);
    expect(look(nine, { sends: false }).threads.filter(({ kind }) => kind === "send")).toEqual([]);
    // Only what is sent: everything stays where it is, and nothing but sends is drawn between.
    const only = look(nine, { outputs: false });
    expect([
      new Set(only.threads.map(({ kind }) => kind)),
      only.nodes.filter(({ kind }) => kind !== "out").map(({ x, y }) => [x, y]),
    ]).toEqual([
      new Set(["line", "send"]),
      look(nine)
        .nodes.filter(({ kind }) => kind !== "out")
        .map(({ x, y }) => [x, y]),
    ]);
  });

  it("folds a family to one bundle, thicker with more in it, and leaves the others as they are", () => {
    const cantata = demo("The Flood Cantata");
    const families = entriesOf(cantata.folders);
    const folded = new Set(families.filter(({ name }) => name !== "Tenors").map(({ id }) => id));
    const flow = look(cantata, { folded });
    expect(flow.nodes.filter(({ kind }) => kind === "family").map(({ label }) => label)).toEqual([
      "Sopranos",
      "Altos",
      "Basses",
      "Strings",
      "Winds",
    ]);
    expect(nodeNamed(flow, "Sopranos", "family").aside).toBe("24 tracks");
    expect(flow.nodes.filter(({ kind }) => kind === "track")).toHaveLength(20);
    const bundle = (name: string) =>
      flow.threads.find(({ from, kind }) => from === nodeNamed(flow, name, "family").id && kind === "output") ??
      expect.unreachable();
    expect(bundle("Sopranos").threadIds).toHaveLength(24);
    expect(bundle("Sopranos").width).toBeGreaterThan(bundle("Winds").width);
    expect(flow.height).toBeLessThanOrEqual(SEEN.height);
  });

  it("stays put when one thing changes that leads nowhere else, and is the same for the same", () => {
    expect(look(nine)).toEqual(look(nine));
    const places = (doc: Template) => look(doc).nodes.map(({ id, x, y }) => [id, x, y]);
    const changed = done(nine, {
      kind: "entries.set",
      table: "channels",
      ids: [idOf(nine, "Snare")],
      set: { faderDb: -6 as never, muted: true },
    });
    expect(places(changed)).toEqual(places(nine));
  });

  it("leaves out what is parked unless it is asked for, and what a folder does not need", () => {
    const doc = done(nine, {
      kind: "entries.set",
      table: "channels",
      ids: [idOf(nine, "Fiddle")],
      set: { parked: true },
    });
    expect(look(doc).nodes.some(({ label }) => label === "Fiddle")).toBe(false);
    expect(nodeNamed(look(doc, { parked: true }), "Fiddle")).toMatchObject({ parked: true, aside: "parked" });
    const voices = look(nine, { within: entriesOf(nine.folders).find(({ name }) => name === "Voices")?.id ?? null });
    expect(voices.nodes.map(({ label }) => label).sort()).toEqual([
      "Lead voice",
      "Main",
      "Outputs 1–2",
      "Plate",
      "Second voice",
      "Voices",
    ]);
  });

  it("has a place for a track that goes out by itself, and none for what goes nowhere", () => {
    const doc = done(aTemplate(wholeMill).track("Click", { input: "1" }).track("Spare", { input: "2" }).build(), {
      kind: "entries.set",
      table: "channels",
      ids: ["track-1" as ChannelId],
      set: { output: { kind: "hardware", portIds: ["brindle:out:3", "brindle:out:4"] as never } },
    });
    const flow = look(
      done(doc, {
        kind: "entries.set",
        table: "channels",
        ids: ["track-2" as ChannelId],
        set: { output: { kind: "nowhere" } },
      }),
    );
    expect(flow.nodes.filter(({ kind }) => kind === "out").map(({ label }) => label)).toEqual(
      expect.arrayContaining(["Outputs 1–2", "Outputs 3–4"]),
    );
    expect(flow.threads.filter(({ from }) => from === "track-2")).toEqual([]);
  });

  it("takes more width where buses lie too deep in one another for what there is", () => {
    const names = Array.from({ length: 12 }, (_, at) => `b${at}`);
    const laid = names.map(
      (name): Edit => ({ kind: "channels.add", channels: [{ kind: "bus", id: name as ChannelId, name }], feedIds: [] }),
    );
    const chained = names.slice(1).map(
      (name, at): Edit => ({
        kind: "entries.set",
        table: "channels",
        ids: [`b${at}` as ChannelId],
        set: { output: { kind: "channel", channelId: name as ChannelId } },
      }),
    );
    const flow = look(done(aTemplate(wholeMill).build(), ...laid, ...chained));
    expect(overlapping(flow)).toEqual([]);
    expect(flow.width).toBeGreaterThan(SEEN.width);
  });
});

describe("what is lit", () => {
  const flow = look(nine);
  const graph = graphOf(nine);
  const lit = (name: string, ways: "all" | "dry" | "sent") => {
    const reach = litBy(graph, [idOf(nine, name)], ways);
    return flow.nodes.filter((node) => node.kind !== "out" && isLitNode(reach, node)).map(({ label }) => label);
  };

  it("is the whole way up and down, only what is dry, or only what is sent", () => {
    expect(lit("Fiddle", "all").sort()).toEqual(["Fiddle", "Main", "Stair chamber", "Strings"]);
    expect(lit("Fiddle", "dry").sort()).toEqual(["Fiddle", "Main", "Strings"]);
    expect(lit("Fiddle", "sent").sort()).toEqual(["Fiddle", "Main", "Stair chamber"]);
    expect(lit("Strings", "all").sort()).toEqual(["Cimbalom", "Fiddle", "Main", "Strings"]);
  });

  it("goes out of the interface where the sound does, and is all of it where nothing is selected", () => {
    const ids = litThreads(graph, litBy(graph, [idOf(nine, "Fiddle")], "all"), flow.threads);
    const bright = flow.threads.filter(({ id }) => ids.has(id));
    expect(bright.map(({ kind }) => kind).sort()).toEqual(["line", "output", "output", "output", "output", "send"]);
    expect(litThreads(graph, null, flow.threads).size).toBe(flow.threads.length);
    expect(litBy(graph, ["gone" as ChannelId], "all")).toBeNull();
  });
});

describe("moving along by keys", () => {
  const flow = look(nine);
  const label = (id: string | null) => flow.nodes.find((node) => node.id === id)?.label ?? null;
  const beside = (name: string, kind?: string) => {
    const { up, down, before, after } = besideIn(flow, nodeNamed(flow, name, kind).id);
    return [up, down, before, after].map(label);
  };

  it("leads down and up the thread, by outputs before sends, and along the siblings", () => {
    expect(beside("Fiddle")).toEqual([null, "Strings", "Cimbalom", "Accordion"]);
    expect(beside("Winds", "bus")).toEqual(["Sousaphone", "Main", "Stair chamber", "Voices"]);
    expect(beside("Plate")).toEqual([expect.stringMatching(/voice/), "Main", "Voices", null]);
    expect(beside("Outputs 1–2")).toEqual(["Main", null, null, null]);
    expect(besideIn(flow, "gone")).toEqual({ up: null, down: null, before: null, after: null });
  });
});

describe("a label", () => {
  it("is cut where it does not fit, never through a character", () => {
    expect([fitted("Stair chamber", 200, 12), fitted("Stair chamber", 60, 12)]).toEqual(["Stair chamber", "Stair ch…"]);
    expect(fitted("🎻🎻🎻🎻", 20, 12)).toBe("🎻🎻…");
  });
});
