import { describe, expect, it } from "vitest";
import { wholeMill } from "../../demo/rigs";
import { demoStudio } from "../../demo/studio";
import { demoTemplates } from "../../demo/templates";
import { type ChannelId, type CueId, type IdSource, sequentialIds } from "../../model/ids";
import { entriesOf } from "../../model/table";
import type { Template } from "../../model/template";
import { addInstrument } from "../../planning/add-instrument";
import { applyAll } from "../../planning/edits/template-editing";
import { splitInBands } from "../../planning/further-ways";
import type { Planned } from "../../planning/gesture";
import { hearingOf } from "../../timing/hearing";
import { earSays, earThreads, heardInWords, heardOf, toldWays } from "./ears";
import { layoutFlow } from "./flow";
import { EAR_CLOSEST, type FlowView } from "./picture";
import { fittingZoom, SMALLEST, stepZoom, zoomedView } from "./zoom";

const nine = demoTemplates().find(({ name }) => name === "The Tidewrack Nine") ?? expect.unreachable();
const view: FlowView = {
  width: 1000,
  height: 660,
  folded: new Set(),
  within: null,
  outputs: true,
  sends: true,
  parked: false,
};
const idOf = (doc: Template, name: string): ChannelId =>
  entriesOf(doc.channels).find((channel) => channel.name === name)?.id ?? expect.unreachable(name);

describe("who hears what is selected", () => {
  it("a performer's own track comes as late as their own sound is reckoned to", () => {
    const hearing = hearingOf(nine, wholeMill, demoStudio);
    let compared = 0;
    for (const path of hearing.paths) {
      const there = heardOf(nine, wholeMill, path.trackId).find(({ cueId }) => cueId === path.cueId);
      const same = there?.ways.find(
        ({ viaId, direct, ms }) =>
          viaId === path.channelIds.at(-1) && direct === path.direct && Math.abs((ms ?? 0) - path.ms) < 1e-9,
      );
      expect(same, path.id).toBeDefined();
      compared++;
    }
    expect(compared).toBeGreaterThan(8);
  });

  it("the lead voice: direct to whoever has it so, and once more through the plate", () => {
    const lead = idOf(nine, "Lead voice");
    const ilse = heardOf(nine, wholeMill, lead).find(({ name }) => name === "Ilse") ?? expect.unreachable();
    expect(toldWays(ilse.ways).map((way) => heardInWords(nine, lead, way))).toEqual([
      "direct, 0.9 ms",
      "through Plate, wet, 5.3 ms",
    ]);
    expect(earSays(ilse, [ilse])).toBe("at 0.9 ms");
  });

  it("a return by the cues that carry it, without a delay of its own; what nobody hears is heard by nobody", () => {
    const plate = heardOf(nine, wholeMill, idOf(nine, "Plate"));
    expect(plate.some(({ ways }) => ways.some(({ wet, ms }) => wet && ms === null))).toBe(true);
    const silent = { ...nine, cueLevels: {} } as Template;
    expect(heardOf(silent, wholeMill, idOf(nine, "Lead voice")).flatMap(({ ways }) => ways)).toEqual([]);
    expect(earSays({ cueId: "x" as CueId }, [])).toBeNull();
  });

  it("is drawn from what carries it to the headphones, which stand apart and inside the picture", () => {
    const flow = layoutFlow(nine, wholeMill, view);
    const threads = earThreads(flow, heardOf(nine, wholeMill, idOf(nine, "Lead voice")));
    expect(threads.filter(({ direct }) => direct)).toHaveLength(4);
    for (const { path } of threads) expect(path).toMatch(/^M[\d.]+ [\d.]+C/);
    for (const [at, { y }] of flow.ears.entries()) {
      expect(y).toBeLessThan(flow.height);
      const above = flow.ears[at - 1];
      if (above) expect(y - above.y).toBeGreaterThanOrEqual(EAR_CLOSEST - 1e-9);
    }
  });

  it("headphones of sixty cues stand below one another, and the picture grows with them", () => {
    const cue = entriesOf(nine.cues)[0] ?? expect.unreachable();
    const cues = Object.fromEntries(
      Array.from({ length: 60 }, (_, at) => [
        `cue-${at}`,
        { ...cue, id: `cue-${at}`, order: `a${String(at).padStart(3, "0")}` },
      ]),
    );
    const flow = layoutFlow({ ...nine, cues } as unknown as Template, wholeMill, view);
    const ys = flow.ears.map(({ y }) => y);
    expect(ys.every((y, at) => at === 0 || y - (ys[at - 1] ?? 0) >= EAR_CLOSEST - 1e-9)).toBe(true);
    expect(Math.max(...ys)).toBeLessThan(flow.height);
  });
});

describe("what comes from one place", () => {
  const did = (doc: Template, plan: Planned): Template => {
    const done = plan.ok ? applyAll(doc, plan.gesture.edits) : expect.unreachable(plan.message);
    return done.ok ? done.doc : expect.unreachable(done.refusal.message);
  };
  const made = sequentialIds();
  const ids = ((kind: string) => `new-${made(kind)}`) as IdSource;

  it("bands of a source are drawn as a split: solid threads to each, where sends are dashed", () => {
    const parted = did(
      nine,
      splitInBands(nine, { channelId: idOf(nine, "Snare"), lowText: "300 Hz", highText: "300 Hz", upperText: "", ids }),
    );
    const bands = layoutFlow(parted, wholeMill, { ...view, sends: false }).threads.filter(
      ({ kind }) => kind === "band",
    );
    expect(bands.map(({ from }) => from)).toEqual([idOf(nine, "Snare"), idOf(nine, "Snare")]);
    expect(layoutFlow(nine, wholeMill, view).threads.some(({ kind }) => kind === "band")).toBe(false);
  });

  it("outputs of an instrument stand in their order", () => {
    const played = did(
      nine,
      addInstrument(nine, wholeMill, {
        name: "Machine",
        outputsText: "12",
        usedText: "",
        midiPortId: null,
        midiChannelText: "",
        folderText: "",
        outputText: "",
        ids,
      }),
    );
    const nodes = layoutFlow(played, wholeMill, view).nodes.filter(({ label }) => label.startsWith("Machine "));
    expect(nodes.sort((a, b) => a.y - b.y).map(({ label }) => label)).toEqual(
      Array.from({ length: 12 }, (_, at) => `Machine ${at + 1}`),
    );
  });

  it("tracks on one line take it from one place", () => {
    const lullaby = demoTemplates().find(({ name }) => name === "Harp & Lullaby") ?? expect.unreachable();
    const lines = layoutFlow(lullaby, wholeMill, view).threads.filter(
      ({ kind, from }) => kind === "line" && from !== "",
    );
    expect(lines.length).toBeGreaterThan(10);
    expect(new Set(lines.map(({ from }) => from)).size).toBe(1);
  });
});

describe("a picture made smaller", () => {
  it("fits its window at the largest zoom that does, and no larger one does", () => {
    const low = { ...view, height: 330 };
    const zoom = fittingZoom(nine, wholeMill, low);
    const heightAt = (at: number) => layoutFlow(nine, wholeMill, zoomedView(low, at)).height * at;
    expect(zoom).toBeGreaterThan(SMALLEST);
    expect(zoom).toBeLessThan(1);
    expect(heightAt(zoom)).toBeLessThanOrEqual(low.height + 1);
    expect(heightAt(zoom + 0.01)).toBeGreaterThan(low.height + 1);
    expect(fittingZoom(nine, wholeMill, { ...view, height: 900 })).toBe(1);
  });

  it("goes in steps, and stops at its ends", () => {
    expect([stepZoom(1, 1), stepZoom(1, -1), stepZoom(0.16, -1), stepZoom(2, 1)]).toEqual([1.25, 0.8, SMALLEST, 2]);
  });
});
