import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { demoTemplates } from "../demo/templates";
import { comparedRows, delayRows } from "../layout/delay-rows";
import { hearingOf } from "../timing/hearing";
import { applyAll } from "./edits/template-editing";
import { editsOf, NOTHING_TRIED, takeOver, triedOn, type WhatIf } from "./what-if";

const lullaby = demoTemplates().find(({ name }) => name === "Harp & Lullaby") ?? expect.unreachable();
const lead = Object.values(lullaby.channels).find(({ name }) => name === "Lead")?.id ?? expect.unreachable();
const tried: WhatIf = { ...NOTHING_TRIED, bufferSamples: 256, monitors: { [lead]: "computer" } };
const rows = (doc: typeof lullaby) => delayRows(doc, hearingOf(doc, wholeMill, demoStudio));

describe("what is tried", () => {
  it("changes nothing of the template, and says what would become of each", () => {
    const now = triedOn(lullaby, tried);
    expect(lullaby.buffers.recordingSamples).toBe(64);
    const [change] = comparedRows(rows(lullaby), rows(now));
    expect(change).toMatchObject({ cueName: "Ilse", what: "Lead", was: "on-time", is: "late", targetMs: 3 });
    expect([change?.wasMs, change?.isMs]).toEqual([
      expect.closeTo(0.9, 6),
      expect.closeTo(0.62 + (2 * 256 + 32) / 48 + (1000 * (rows(now)[0]?.path.chainSamples ?? 0)) / 48000, 6),
    ]);
  });

  it("is taken over in one act that makes exactly what was shown", () => {
    const plan = takeOver(lullaby, tried);
    const made = plan.ok ? applyAll(lullaby, plan.gesture.edits) : expect.unreachable();
    expect(made.ok && made.doc).toEqual(triedOn(lullaby, tried));
  });

  it("is nothing where it is as the template, and says so", () => {
    expect(
      editsOf(lullaby, {
        ...NOTHING_TRIED,
        bufferSamples: 64,
        rateHz: 48000,
        allOff: false,
        monitors: { [lead]: "direct" },
      }),
    ).toEqual([]);
    expect(triedOn(lullaby, NOTHING_TRIED)).toBe(lullaby);
    expect(takeOver(lullaby, NOTHING_TRIED).ok).toBe(false);
  });
});
