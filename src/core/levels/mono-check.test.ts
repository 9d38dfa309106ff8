import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { type ChannelId, sequentialIds } from "../model/ids";
import { trackOf } from "../model/read-template";
import type { Template } from "../model/template";
import { addCue } from "../planning/cue-plans";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { cuesOf } from "../queries/cues";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { monoFallDb, monoOfCue, monoOfMain } from "./mono-check";

const edited = (doc: Template, ...edits: readonly Edit[]): Template => {
  const done = applyAll(doc, edits);
  return done.ok ? done.doc : expect.unreachable(done.refusal.message);
};
const set = (doc: Template, id: string, values: object): Template =>
  edited(doc, { kind: "entries.set", table: "channels", ids: [id as ChannelId], set: values });
const turned = (doc: Template, id: string, side: 0 | 1): Template => {
  const input = trackOf(doc, id as ChannelId)?.input;
  const lineId =
    input?.kind === "pair" ? [input.leftId, input.rightId][side] : input?.kind === "line" ? input.lineId : undefined;
  return edited(doc, {
    kind: "entries.set",
    table: "lines",
    ids: [lineId ?? expect.unreachable()],
    set: { polarityInverted: true },
  });
};
const told = (doc: Template) =>
  monoOfMain(doc).map(({ name, of, fallDb }) => [name, of, fallDb === null ? null : Math.round(fallDb * 100) / 100]);

describe("what falls out in mono", () => {
  it("a figure by hand: the middle 0, hard to one side −3.01, equal sides 0, of opposite polarity nothing", () => {
    expect(monoFallDb([[Math.SQRT1_2, Math.SQRT1_2]])).toBeCloseTo(0, 10);
    expect(monoFallDb([[1, 0]])).toBeCloseTo(-3.0103, 3);
    expect(
      monoFallDb([
        [1, 0],
        [0, 1],
      ]),
    ).toBeCloseTo(0, 10);
    expect(
      monoFallDb([
        [1, 0],
        [0, -1],
      ]),
    ).toBeNull();
    // What cancels in stereo as well is not lost to mono.
    expect(
      monoFallDb([
        [0.5, 0.5],
        [-0.5, -0.5],
      ]),
    ).toBe(0);
    expect(monoFallDb([])).toBe(0);
  });

  it("agrees with sines that are summed sample by sample", () => {
    const side = fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 20 }), fc.constantFrom(1, -1));
    fc.assert(
      fc.property(fc.array(side, { minLength: 1, maxLength: 3 }), (sides) => {
        const samples = Array.from({ length: 480 }, (_, n) => Math.sin((2 * Math.PI * n) / 48));
        const rms = (of: (sample: number) => number): number =>
          Math.sqrt(samples.reduce((sum, sample) => sum + of(sample) ** 2, 0) / samples.length);
        const over = (pick: (l: number, r: number, sign: number) => number) => (sample: number) =>
          sides.reduce((sum, [l, r, sign]) => sum + sample * pick(l, r, sign), 0);
        const both = Math.hypot(rms(over((l, _r, sign) => sign * l)), rms(over((_l, r, sign) => sign * r)));
        const mono = rms(over((l, r, sign) => (sign * (l + r)) / Math.SQRT2));
        const is = monoFallDb(sides.map(([l, r, sign]) => [sign * l, sign * r]));
        if (both < 1e-9) expect(is).toBe(0);
        else if (mono / both < 1e-6) expect(is).toBeNull();
        else expect(is).toBeCloseTo(20 * Math.log10(mono / both), 6);
      }),
      { numRuns: runs(200, 2000), seed: 20261201 },
    );
  });

  const doc = turned(
    aTemplate(wholeMill)
      .track("Above", { input: ["1", "2"] })
      .track("Snare top", { input: "3" })
      .track("Snare bottom", { input: "4" })
      .track("Guitar", { input: "5" })
      .build(),
    "track-3",
    0,
  );
  const back = (of: Template): Template => set(of, "track-3", { polarityTurned: true });

  it("a sound template loses nothing; a turned side, a bottom that is as its top and a hard pan are told, most of it first", () => {
    expect(told(doc)).toEqual([]);
    const apart = set(set(doc, "track-2", { pan: -100 }), "track-3", { pan: 100 });
    expect(told(apart)).toEqual([]);
    const faulty = set(back(turned(apart, "track-1", 1)), "track-4", { pan: -100 });
    expect(told(faulty)).toEqual([
      ["Snare top and Snare bottom", "pair", null],
      ["Above", "sides", null],
      ["Guitar", "single", -3.01],
    ]);
  });

  it("a polarity that is turned twice is as it was, and one turned side at half its level leaves a part", () => {
    const lead = set(turned(doc, "track-4", 0), "track-4", { polarityTurned: true });
    expect(told(lead)).toEqual([]);
    // In the middle both cancel in stereo as well; apart (1 − ½)/√2 is left of √(1 + ¼): −10 dB.
    const half = set(back(doc), "track-3", { faderDb: -6.0206 });
    expect(told(half)).toEqual([]);
    expect(told(set(set(half, "track-2", { pan: -100 }), "track-3", { pan: 100 }))).toEqual([
      ["Snare top and Snare bottom", "pair", -10],
    ]);
  });

  it("of a cue by the pans it has, and what is muted or goes nowhere is not told of the main mix", () => {
    const ids = sequentialIds();
    const made = addCue(doc, {
      people: ["Pell"],
      name: "Pell",
      from: "main",
      portIds: [],
      hearing: "headphones",
      mixedIn: "computer",
      gear: { rig: wholeMill, studio: demoStudio },
      ids,
    });
    const cued = made.ok ? edited(doc, ...made.gesture.edits) : expect.unreachable(made.message);
    const [cue] = cuesOf(cued);
    const cueId = cue?.id ?? expect.unreachable();
    expect(monoOfCue(cued, cueId)).toEqual([]);
    const wide = edited(cued, {
      kind: "cueLevels.put",
      levels: [{ id: "x" as never, cueId, sourceId: "track-4" as ChannelId, pan: 100 }],
    });
    expect(monoOfCue(wide, cueId).map(({ name, fallDb }) => [name, Math.round((fallDb ?? 0) * 100) / 100])).toEqual([
      ["Guitar", -3.01],
    ]);
    expect(told(wide)).toEqual([]);
    expect(told(set(set(doc, "track-4", { pan: 100 }), "track-4", { muted: true }))).toEqual([]);
  });
});
