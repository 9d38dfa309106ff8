import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoTemplates } from "../demo/templates";
import { passDraft } from "../layout/pass-draft";
import { type ChannelId, type LineId, type PassId, sequentialIds } from "../model/ids";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { armedOf, passesOf, runningPass } from "../queries/cues";
import { recordable } from "../queries/track-order";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { tally } from "../testing/tally";
import type { Edit } from "./edits/edit";
import { apply, applyAll } from "./edits/template-editing";
import type { Planned } from "./gesture";
import { armInPass, nextPass, planPasses } from "./pass-plans";

const ids = sequentialIds();
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const did = (doc: Template, plan: Planned): Template =>
  plan.ok ? done(doc, ...plan.gesture.edits) : expect.unreachable(plan.message);
const said = (plan: Planned): string => (plan.ok ? "done" : plan.message);
const plan = (doc: Template, more: Partial<Parameters<typeof planPasses>[1]> = {}): Planned =>
  planPasses(doc, {
    trackIds: recordable(doc).map(({ id }) => id),
    inputs: 2,
    takeMinutes: 4,
    takes: 2,
    anew: true,
    ids,
    ...more,
  });
const names = (doc: Template) =>
  passesOf(doc).map(({ trackIds }) => trackIds.map((id) => doc.channels[id]?.name).join(" + "));

/** Two singers' lines and two microphones in one input. */
const evening = done(
  aTemplate()
    .track("Lead", { input: "1" })
    .trackOnLine("Double", "line-1")
    .track("Second", { input: "2" })
    .track("Whisper", { input: "2" })
    .track("Above", { input: ["5", "6"] })
    .build(),
  { kind: "entries.set", table: "channels", ids: ["track-1", "track-2"] as never, set: { sharing: "by-turns" } },
);

/** Lines that are in one input; two of one pair that were put there by hand are left out. */
const clashes = (doc: Template, lines: readonly LineId[], pairs: readonly (readonly LineId[])[]): readonly LineId[] =>
  lines.filter((a) => {
    const port = doc.lines[a]?.portId;
    return (
      port &&
      lines.some(
        (b) => b !== a && doc.lines[b]?.portId === port && !pairs.some((pair) => pair.includes(a) && pair.includes(b)),
      )
    );
  });

describe("passes that are planned", () => {
  it("arm together what can be: not two by turns on one line, not two lines in one input, not more inputs than there are", () => {
    expect(names(did(evening, plan(evening)))).toEqual(["Lead + Second", "Double + Whisper", "Above"]);
    expect(names(did(evening, plan(evening, { inputs: 4 })))).toEqual(["Lead + Second + Above", "Double + Whisper"]);
    expect(passesOf(did(evening, plan(evening)))[0]).toMatchObject({
      name: "Lead and Second",
      parkedIds: ["track-2", "track-4", "track-5"],
      takes: 2,
    });
  });

  it("cost minutes, disk and re-patching: a line that goes where another was", () => {
    const draft = passDraft(did(evening, plan(evening)));
    expect(draft.wefts.map(({ repatched }) => repatched.length)).toEqual([0, 1, 0]);
    expect([draft.minutes, draft.minutesInAll, draft.repatched, draft.inputs]).toEqual([24, 24 + 3 + 2, 1, 4]);
    expect(draft.bytes).toBe(3 * 2 * 144_000 * 8 * 60);
    expect(draft.wefts[1]?.crossings).toEqual(["recorded", "armed", "recorded", "armed", "parked"]);
  });

  it("say what is missing", () => {
    expect(said(plan(evening, { trackIds: [] }))).toContain("at least one track");
    expect(said(plan(evening, { inputs: 0 }))).toContain("at least one input");
    expect(said(plan(evening, { inputs: 1 }))).toBe("Above takes 2 inputs, and there is 1.");
    expect(said(nextPass(evening))).toContain("no passes yet");
  });

  it("arm every track once, whatever the template, and never two in one input", () => {
    const drawn = tally();
    fc.assert(
      fc.property(chanceRuns, fc.integer({ min: 2, max: 9 }), (chance, inputs) => {
        let doc = evening;
        for (let n = 0; n < 25; n++) {
          const made = apply(doc, randomEdit(doc, chance));
          if (made.ok) doc = made.doc;
        }
        const made = plan(doc, { inputs });
        if (!drawn.took(made.ok) || !made.ok) return;
        const planned = did(doc, made);
        const armed = passesOf(planned).flatMap(({ trackIds }) => trackIds);
        expect([...armed].sort()).toEqual(
          recordable(planned)
            .map(({ id }) => id)
            .sort(),
        );
        for (const { trackIds } of passesOf(planned)) {
          const pairs = trackIds.map((id) => inputLineIds((planned.channels[id] as Track).input));
          const lines = [...new Set(pairs.flat())];
          expect(lines.length).toBeLessThanOrEqual(inputs);
          expect(clashes(planned, lines, pairs)).toEqual([]);
        }
      }),
      { numRuns: runs(60, 600), seed: 20261126 },
    );
    expect(drawn.share()).toBeGreaterThan(0.5);
  });

  it("are fourteen for the singer of the lullabies, on one input", () => {
    const draft = passDraft(demoTemplates().find(({ name }) => name === "Harp & Lullaby") ?? expect.unreachable());
    expect([draft.wefts.length, draft.inputs, draft.repatched]).toEqual([14, 1, 0]);
    expect(draft.warps.map(({ name }) => name).slice(0, 4)).toEqual(["Lead", "Shadow", "Harmony high", "Harmony low"]);
  });
});

describe("the pass that runs", () => {
  const planned = did(evening, plan(evening));
  const running = (doc: Template) => runningPass(doc)?.name;

  it("is the first until another is started; one key goes to the next, and the last is the last", () => {
    expect(running(planned)).toBe("Lead and Second");
    const second = did(planned, nextPass(planned));
    expect([running(second), [...armedOf(second)]]).toEqual(["Double and Whisper", ["track-2", "track-4"]]);
    const third = did(second, nextPass(second));
    expect(passesOf(third).map((pass) => pass.running)).toEqual([false, false, true]);
    expect(said(nextPass(third))).toBe("Above is the last pass.");
  });

  it("is armed and disarmed by hand; what is armed is not parked", () => {
    const [pass] = passesOf(planned);
    const armed = did(
      planned,
      armInPass(planned, { passId: pass?.id as PassId, trackIds: ["track-5" as ChannelId], on: true }),
    );
    expect(passesOf(armed)[0]).toMatchObject({
      trackIds: ["track-1", "track-3", "track-5"],
      parkedIds: ["track-2", "track-4"],
    });
    expect(
      passesOf(
        did(armed, armInPass(armed, { passId: pass?.id as PassId, trackIds: ["track-1" as ChannelId], on: false })),
      )[0]?.trackIds,
    ).toEqual(["track-3", "track-5"]);
  });

  it("goes along when it is removed, and its tracks leave it when they go", () => {
    const gone = done(planned, { kind: "entries.remove", table: "channels", ids: ["track-1" as ChannelId] });
    expect(names(gone)).toEqual(["Second", "Double + Whisper", "Above"]);
  });
});
