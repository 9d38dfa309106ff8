import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { demoTemplates } from "../demo/templates";
import { gainPlans } from "../levels/gain-plan";
import { mixLevels } from "../levels/mix-levels";
import type { FolderId } from "../model/ids";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { heardTwice, hearingOf } from "../timing/hearing";
import { formatBytes, formatHours } from "../units/bytes";
import { chainAnswer } from "./chain-answer";
import { cueHeads, cueRows } from "./cue-matrix";
import { delayAnswer, levelsAnswer, storageAnswer } from "./delay-answer";
import {
  axisMs,
  combOf,
  type DelayRow,
  delayRows,
  foldDelays,
  foldedInWords,
  type Switchable,
  switchable,
  ticksMs,
} from "./delay-rows";
import { layoutFlow } from "./flow/flow";
import { withLevels } from "./flow/with-levels";
import { contributorsOf, headroomRows } from "./headroom-rows";
import { gainInWords, levelInWords } from "./level-words";

const demo = (name: string): Template => demoTemplates().find((doc) => doc.name === name) ?? expect.unreachable();
const nine = demo("The Tidewrack Nine");
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const folder = (doc: Template, name: string): FolderId =>
  (Object.values(doc.folders).find((one) => one.name === name) ?? expect.unreachable(name)).id;
const rows = (doc: Template, folded: readonly string[] = [], buses = false) =>
  cueRows(doc, { folded: new Set(folded), buses }).map(
    (row) =>
      `${"  ".repeat(row.depth)}${row.name}${row.kind === "group" ? ` (${row.sourceIds.length}${row.open ? "" : ", folded"})` : ""}`,
  );

describe("the rows of the cue matrix", () => {
  it("are the tracks by their folders, then returns, talkback and click", () => {
    expect(rows(nine).slice(0, 4)).toEqual(["Percussion (5)", "  Bass drum", "  Frame drum", "  Snare"]);
    expect(rows(nine).slice(-6)).toEqual([
      "Returns (2)",
      "  Plate",
      "  Stair chamber",
      "Talkback and click (2)",
      "  Click",
      "  Talkback",
    ]);
  });

  it("hide what lies in a folded group, which stands for all of it, however deep", () => {
    const lullaby = demo("Harp & Lullaby");
    expect(rows(lullaby, [folder(lullaby, "Choir")])).toContain("  Choir (10, folded)");
    const outer = rows(lullaby, [folder(lullaby, "Voice")]);
    expect(outer[0]).toBe("Voice (14, folded)");
    expect(outer.join()).not.toContain("Choir 1");
  });

  it("have buses where they are asked for, or where a cue carries one", () => {
    expect(rows(nine).join()).not.toContain("Buses");
    expect(rows(nine, [], true)).toContain("Buses (8)");
    const cueId = Object.values(nine.cues)[0]?.id ?? expect.unreachable();
    expect(
      rows(done(nine, { kind: "cueLevels.put", levels: [{ id: "x" as never, cueId, sourceId: "main" as never }] })),
    ).toContain("Buses (1)");
  });
});

describe("the heads of cues", () => {
  const heads = (doc: Template) =>
    cueHeads(doc, wholeMill, hearingOf(doc, wholeMill, demoStudio)).map(
      ({ cue, output, plays, state, latest }) =>
        `${cue.name}, ${output}, ${plays}: ${latest ? latest.ms.toFixed(1) : "–"} ${state}`,
    );

  it("say where each goes out, what they play, and how late it is against what it should be", () => {
    expect(heads(nine)).toEqual([
      "Ilse, Headphones 1, Lead voice: 0.9 on-time",
      "Juno, Headphones 2, Cimbalom, Second voice: 4.0 late",
      "Pell and Bram, Headphones 3, Bass drum and 6 more: 4.0 on-time",
      "Winds and fiddle, Headphones 4, Fiddle and 4 more: 4.0 on-time",
    ]);
  });

  it("say that a far guest is kept out of their own mix, or comes back in it, and when nobody hears one", () => {
    const ghost = demo("The Ferryman's Ghost");
    expect(heads(ghost).at(-1)).toBe("Far guest, Headphones 4, Far guest: – kept-out");
    const far = Object.values(ghost.cues).find(({ name }) => name === "Far guest") ?? expect.unreachable();
    const own =
      Object.values(ghost.channels).find(({ name, kind }) => name === "Far guest" && kind === "track") ??
      expect.unreachable();
    expect(
      heads(done(ghost, { kind: "cueLevels.put", levels: [{ id: "x" as never, cueId: far.id, sourceId: own.id }] })).at(
        -1,
      ),
    ).toContain("comes-back");
    expect(
      heads(done(ghost, { kind: "entries.set", table: "cues", ids: [far.id], set: { people: [], portIds: [] } })).at(
        -1,
      ),
    ).toBe("Far guest, no output, : – nobody");
  });
});

describe("the threads of the delay", () => {
  const hearing = hearingOf(nine, wholeMill, demoStudio);
  const threads = delayRows(nine, hearing);

  it("are those of each cue, dry before wet, those that are alike as one", () => {
    expect(threads.map(({ cueName, what, way, path }) => `${cueName}: ${what}, ${way}, ${path.ms.toFixed(1)}`)).toEqual(
      [
        "Ilse: Lead voice, direct, dry, 0.9",
        "Ilse: Lead voice, Plate, wet, 5.3",
        "Juno: Cimbalom, direct, dry, 0.9",
        "Juno: Second voice, direct, dry, 0.9",
        "Juno: Second voice, computer, dry, 4.0",
        "Juno: Second voice, Plate, wet, 4.0",
        "Pell and Bram: Bass drum and 4 more, computer, dry, 4.0",
        "Pell and Bram: Double bass DI and 1 more, computer, dry, 4.0",
        "Pell and Bram: Double bass DI and 1 more, Bass, dry, 4.0",
        "Winds and fiddle: Fiddle, computer, dry, 4.0",
        "Winds and fiddle: Accordion, direct, dry, 0.9",
        "Winds and fiddle: Clarinet and 2 more, direct, dry, 0.9",
        "Winds and fiddle: Fiddle and 2 more, Stair chamber, wet, 7.9",
      ],
    );
  });

  it("have parts that come to the whole, and an axis with at most ten steps that holds all of them", () => {
    for (const { path } of threads) expect(path.parts.reduce((sum, { ms }) => sum + ms, 0)).toBeCloseTo(path.ms, 9);
    const axis = axisMs(threads);
    expect(axis).toBeGreaterThanOrEqual(Math.max(...threads.map(({ path }) => Math.max(path.ms, path.targetMs ?? 0))));
    expect([ticksMs(8), ticksMs(11), ticksMs(300).length <= 11, axisMs([])]).toEqual([
      [0, 1, 2, 3, 4, 5, 6, 7, 8],
      [0, 2, 4, 6, 8, 10],
      true,
      8,
    ]);
  });

  it("have a comb where one is heard twice: as deep as the two are alike, at the notches of its lag", () => {
    const [twice] = heardTwice(hearing);
    const comb = combOf(twice ?? expect.unreachable());
    expect([comb.firstHz, comb.spacingHz]).toEqual([
      expect.closeTo(1000 / (2 * comb.lagMs), 9),
      expect.closeTo(1000 / comb.lagMs, 9),
    ]);
    expect(comb.curve[0]?.hz).toBe(20);
    expect(comb.curve.at(-1)?.hz).toBeCloseTo(20_000, 6);
    expect(Math.max(...comb.curve.map(({ db }) => db))).toBeLessThanOrEqual(comb.peakDb + 1e-9);
  });

  it("say which processors on dry paths can be switched", () => {
    expect(switchable(nine, wholeMill, hearing)).toEqual([]);
    const lead =
      Object.values(nine.channels).find(({ name, kind }) => name === "Lead voice" && kind === "track") ??
      expect.unreachable();
    const through = done(nine, {
      kind: "entries.set",
      table: "channels",
      ids: [lead.id],
      set: { monitor: "computer" },
    });
    expect(
      switchable(through, wholeMill, hearingOf(through, wholeMill, demoStudio)).map(
        ({ name, channelName, samples, off }) => [name, channelName, samples, off],
      ),
    ).toEqual([["Equaliser", "Lead voice", 64, false]]);
    // At a double rate it is its own figure for that, here as in the chain's view and in what the service tells.
    const [{ processor }] = switchable(through, wholeMill, hearingOf(through, wholeMill, demoStudio)) as [Switchable];
    const double = done(
      through,
      { kind: "entries.set", table: "processors", ids: [processor.id], set: { delayDoubleSamples: 150 } },
      { kind: "settings.set", set: { format: { sampleRateHz: 96000 } } },
    );
    expect(
      switchable(double, wholeMill, hearingOf(double, wholeMill, demoStudio)).map(({ samples }) => samples),
    ).toEqual([150]);
    expect(
      (chainAnswer(double, wholeMill, lead.id)?.delaySamples ?? 0) -
        (chainAnswer(through, wholeMill, lead.id)?.delaySamples ?? 0),
    ).toBe(150 - 64);
  });
});

describe("threads that are folded away", () => {
  const threads = delayRows(nine, hearingOf(nine, wholeMill, demoStudio));
  const states = (rows: readonly DelayRow[]) => rows.map(({ path }) => path.state);

  it("are on time or wet: what is late stays, also where it is much, and what is nearest to its target", () => {
    const { apart, folded } = foldDelays(threads, null);
    expect([...apart, ...folded]).toHaveLength(threads.length);
    expect(apart).toHaveLength(7);
    expect(states(folded).every((state) => state === "on-time" || state === "wet")).toBe(true);
    const share = ({ path }: DelayRow) => path.ms / (path.targetMs ?? Number.POSITIVE_INFINITY);
    const shownOnTime = apart.filter(({ path }) => path.state === "on-time").map(share);
    const foldedOnTime = folded.filter(({ path }) => path.state === "on-time").map(share);
    expect(Math.min(...shownOnTime)).toBeGreaterThanOrEqual(Math.max(...foldedOnTime));
    const late = threads.map((row) => ({ ...row, path: { ...row.path, state: "late" as const } }));
    expect(foldDelays(late, null).apart).toEqual(late);
  });

  it("leave the one that is chosen in sight, and few are not folded at all", () => {
    const last = foldDelays(threads, null).folded.at(-1) ?? expect.unreachable();
    expect(foldDelays(threads, last.id).apart).toContain(last);
    expect(foldDelays(threads.slice(0, 8), null)).toEqual({ apart: threads.slice(0, 8), folded: [] });
    expect(foldedInWords(threads.filter(({ path }) => path.wet).slice(0, 2))).toBe("2 wet");
  });
});

describe("levels as they are shown", () => {
  it("stand in rows: buses in the order of the input list, returns, the main bus, then cues, with what contributes most", () => {
    const headroom = headroomRows(nine, {
      levels: mixLevels(nine, { rig: wholeMill, studio: demoStudio, asked: "mixing" }),
    });
    expect(headroom.map(({ name }) => name)).toEqual([
      "Percussion",
      "Bass blend",
      "Low strings",
      "Strings",
      "Keys",
      "Winds",
      "Voices",
      "Plate",
      "Stair chamber",
      "Main",
      "Ilse",
      "Juno",
      "Pell and Bram",
      "Winds and fiddle",
    ]);
    for (const row of headroom) {
      expect(row.worstPeakDb).toBeLessThanOrEqual(0.005);
      expect(row.likelyPeakDb ?? 0).toBeLessThanOrEqual((row.worstPeakDb ?? 0) + 1e-9);
    }
    const ilse = headroom.find(({ name }) => name === "Ilse") ?? expect.unreachable();
    expect(
      contributorsOf(nine, {
        levels: mixLevels(nine, { rig: wholeMill, studio: demoStudio, asked: "mixing" }),
        row: ilse,
      })[0]?.name,
    ).toBe("Lead voice");
  });

  it("are told in words and at the nodes of the picture", () => {
    const levels = mixLevels(nine, { rig: wholeMill, studio: demoStudio, asked: "mixing" });
    const main = levels.channels.get("main" as never) ?? expect.unreachable();
    expect(levelInWords(main)).toMatch(
      /^−[\d.]+ dBFS if all is alike, −[\d.]+ dBFS if not; peaks at worst −0\.\d dBFS$/,
    );
    const flow = layoutFlow(nine, wholeMill, {
      width: 1000,
      height: 660,
      folded: new Set<FolderId>(),
      within: null,
      outputs: true,
      sends: true,
      parked: false,
    });
    const asides = new Map(withLevels(flow, levels).nodes.map(({ id, aside }) => [id, aside]));
    expect(asides.get("main")).toMatch(/^−0\.\d$/);
    expect(flow.nodes.find(({ id }) => id === "main")?.aside).not.toBe(asides.get("main"));
  });

  it("of a line say what comes and which gain it wants", () => {
    const line = Object.values(nine.lines).find(({ source }) => source === "Trumpet") ?? expect.unreachable();
    expect(gainInWords(gainPlans(nine, wholeMill, demoStudio).get(line.id) ?? expect.unreachable())).toBe(
      "100.4 dB SPL at the microphone, −46.2 dBu at the socket; wants 48.2 dB of gain. Level −18 dBFS, peaks −9 dBFS.",
    );
  });

  it("are the same in what the service answers", () => {
    const seen = { doc: nine, rig: wholeMill, studio: demoStudio };
    expect(delayAnswer(seen, {}).paths).toHaveLength(hearingOf(nine, wholeMill, demoStudio).paths.length);
    expect(delayAnswer(seen, { rateHz: 96000, buffer: 32 })).toMatchObject({ rateHz: 96000, bufferSamples: 32 });
    expect(levelsAnswer(seen).cues).toHaveLength(4);
    expect(storageAnswer(seen, { hours: 2 })).toMatchObject({ hours: 2, takes: 3 });
  });
});

describe("bytes and hours", () => {
  it.each([
    [900, "1 kB"],
    [52e6, "52 MB"],
    [12_441_600_000, "12.4 GB"],
    [3.2e12, "3.2 TB"],
  ])("%d bytes are %s", (bytes, text) => expect(formatBytes(bytes)).toBe(text));
  it.each([
    [59, "0 min"],
    [3540, "59 min"],
    [7456, "2 h 4 min"],
  ])("%d seconds are %s", (seconds, text) => expect(formatHours(seconds)).toBe(text));
});
