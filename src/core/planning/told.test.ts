import { describe, expect, it } from "vitest";
import { evaluate } from "../checks";
import { rigFindings } from "../checks/rig-findings";
import { wheelhouseCart } from "../demo/rigs";
import { patchingSheet, sharedWords } from "../layout/patching-sheet";
import { sequentialIds } from "../model/ids";
import { linesOfTrack, tracksOf } from "../model/read-template";
import { nextFreePair } from "../queries/free-outputs";
import { aTemplate } from "../testing/a-template";
import { fillDown } from "./block";
import { applyAll } from "./edits/template-editing";

const rig = wheelhouseCart;

describe("filling down over stereo rows", () => {
  it("keeps both microphones as they are on the shelf", () => {
    const doc = aTemplate()
      .track("Above", { input: ["5", "6"] })
      .track("Below", { input: ["7", "8"] })
      .build();
    const [above, below] = tracksOf(doc);
    if (!above || !below) throw new Error("expected two tracks");
    const shelf = Object.values(rig.microphones)
      .slice(0, 2)
      .map((item) => ({ kind: "shelf" as const, microphoneId: item.id, name: item.name }));
    const set = applyAll(
      doc,
      linesOfTrack(doc, above).map(
        (line, at) =>
          ({ kind: "entries.set", table: "lines", ids: [line.id], set: { microphone: shelf[at] ?? null } }) as const,
      ),
    );
    const before = set.ok ? set.doc : doc;
    const { planned } = fillDown(before, rig, {
      block: { trackIds: [above.id, below.id], columns: ["microphone"] },
      ids: sequentialIds(),
    });
    const done = planned.ok ? applyAll(before, planned.gesture.edits) : null;
    expect(done?.ok && linesOfTrack(done.doc, below).map((line) => line.microphone)).toEqual(shelf);
  });
});

describe("the sheet", () => {
  it("tells gain, pad, polarity and who shares an input", () => {
    const doc = aTemplate().track("Snare", { input: "1" }).track("Spare", { input: "1" }).build();
    const [line] = Object.values(doc.lines);
    const set = applyAll(doc, [
      { kind: "entries.set", table: "lines", ids: line ? [line.id] : [], set: { pad: true, polarityInverted: true } },
    ]);
    expect(set.ok && patchingSheet(set.doc, rig).sections[0]?.rows).toMatchObject([
      { source: "Snare", settings: "pad, polarity inverted", sharedWith: ["Spare"] },
      { source: "Spare", settings: "", sharedWith: ["Snare"] },
    ]);
  });

  it("names the first few of many on one input, so that the sheet grows no faster than the list", () => {
    const crowd = aTemplate();
    for (let at = 1; at <= 40; at += 1) crowd.track(`Player ${at}`, { input: "1" });
    const found = patchingSheet(crowd.build(), rig).sections[0]?.rows ?? [];
    expect(found.map(({ sharedWith, sharedWithMore }) => [sharedWith.length, sharedWithMore])).toEqual(
      Array.from({ length: 40 }, () => [4, 35]),
    );
    expect(found[0] && sharedWords(found[0])).toBe("same input as Player 2, Player 3, Player 4, Player 5 and 35 more");
  });
});

describe("folders without a dye", () => {
  it("whose threads have dyes of their own are not said to look alike", () => {
    const doc = aTemplate()
      .folder("One")
      .folder("Two")
      .track("A", { folder: "One", input: "1" })
      .track("B", { folder: "Two", input: "2" })
      .build();
    const [a, b] = tracksOf(doc);
    const coloured = applyAll(doc, [
      { kind: "entries.set", table: "channels", ids: a ? [a.id] : [], set: { colour: "madder" } },
      { kind: "entries.set", table: "channels", ids: b ? [b.id] : [], set: { colour: "woad" } },
    ]);
    const rules = (of: typeof doc) =>
      evaluate({ doc: of, rig, otherRigs: [], ownColours: [] }).map((finding) => finding.rule);
    expect([rules(doc).includes("dye-clash"), coloured.ok && rules(coloured.doc).includes("dye-clash")]).toEqual([
      true,
      false,
    ]);
  });
});

describe("listening places", () => {
  it("take outputs that nothing is on, and two on one pair are told", () => {
    const [feed] = Object.values(rig.feeds);
    if (!feed) throw new Error("expected a listening place");
    const used = new Set(Object.values(rig.feeds).flatMap((each) => each.portIds));
    expect((nextFreePair(rig) ?? []).some((id) => used.has(id))).toBe(false);
    const twice = { ...rig, feeds: { ...rig.feeds, twin: { ...feed, id: "twin" as never, name: "Twin", order: 99 } } };
    expect(rigFindings(twice as typeof rig)).toContainEqual(
      expect.objectContaining({ rule: "output-shared", message: expect.stringContaining("Twin") }),
    );
  });
});
