import { describe, expect, it } from "vitest";
import { evaluate } from "../checks";
import { brokenInvariants } from "../commands/template-engine";
import { wholeMill } from "../demo/rigs";
import { EMPTY_HISTORY } from "../history/history";
import { sequentialIds } from "../model/ids";
import { linesOfTrack, tracksOf } from "../model/read-template";
import { templateFaults } from "../model/template-schema";
import type { CellColumn } from "../queries/columns";
import { aChoir, choirContext } from "../testing/a-choir";
import { aTemplate } from "../testing/a-template";
import { perform, undo } from "../testing/undoing";
import { type BlockPlan, fillDown, pasteBlock } from "./block";
import { templateEditing } from "./edits/template-editing";

const COLUMNS: readonly CellColumn[] = [
  "name",
  "microphone",
  "phantom",
  "folder",
  "player",
  "note",
  "source",
  "gain",
  "pad",
  "position",
];
const cellsOf = (count: number) =>
  Array.from({ length: count }, (_, n) => [
    `N${n}`,
    "condenser",
    "no",
    `F${n % 50}`,
    `P${n}`,
    `n${n}`,
    `S${n}`,
    "20",
    "yes",
    "left",
  ]);

const doneWith = (doc: ReturnType<typeof aChoir>, { planned }: BlockPlan) => {
  if (!planned.ok) throw new Error(planned.message);
  const step = perform(doc, EMPTY_HISTORY, planned.gesture);
  if (!step.ok) throw new Error(step.refusal.message);
  return step;
};

describe.each([128, 2048])("%i rows", (count) => {
  const doc = aChoir(count);
  const trackIds = tracksOf(doc).map((track) => track.id);

  it("of ten columns pasted are what was on the clipboard, keep the rules, and are taken back as one", () => {
    const plan = pasteBlock(doc, wholeMill, {
      cells: cellsOf(count),
      trackIds,
      columns: COLUMNS,
      folderId: null,
      ids: sequentialIds(),
    });
    const step = doneWith(doc, plan);
    expect(plan.leftOut).toEqual([]);
    expect([templateFaults(step.doc), brokenInvariants(step.doc)]).toEqual([[], []]);
    const last = step.doc.channels[trackIds[count - 1] as never];
    expect(last).toMatchObject({ name: `N${count - 1}`, note: `n${count - 1}` });
    expect(Object.keys(step.doc.folders)).toHaveLength(50);
    expect(evaluate(choirContext(step.doc)).length).toBeGreaterThan(0);
    const back = undo(step.doc, step.history);
    expect(back.ok && back.doc).toEqual(doc);
  });

  it("filled down over five columns and added anew end as they should", () => {
    const filled = doneWith(
      doc,
      fillDown(doc, wholeMill, {
        block: { trackIds, columns: ["microphone", "phantom", "note", "player", "position"] },
        ids: sequentialIds(),
      }),
    );
    expect(tracksOf(filled.doc).every((track) => linesOfTrack(filled.doc, track).every((line) => line.phantom))).toBe(
      true,
    );
    const empty = aTemplate().build();
    const added = doneWith(
      empty,
      pasteBlock(empty, wholeMill, {
        cells: cellsOf(count),
        trackIds: [],
        columns: COLUMNS,
        folderId: null,
        ids: sequentialIds(),
      }),
    );
    expect(tracksOf(added.doc)).toHaveLength(count);
    expect(brokenInvariants(added.doc)).toEqual([]);
  });
});

describe("a gesture of many commands", () => {
  it("does the same as each command by itself", () => {
    const doc = aChoir(40);
    const ids = tracksOf(doc).map((track) => track.id);
    const plan = pasteBlock(doc, wholeMill, {
      cells: cellsOf(40),
      trackIds: ids,
      columns: COLUMNS,
      folderId: null,
      ids: sequentialIds(),
    });
    if (!plan.planned.ok) throw new Error(plan.planned.message);
    const { edits } = plan.planned.gesture;
    let single = doc;
    for (const command of edits) {
      const done = templateEditing.apply(single, command);
      if (!done.ok) throw new Error(done.refusal.message);
      single = done.doc;
    }
    const whole = templateEditing.applyAll(doc, edits);
    expect(whole.ok && whole.doc).toEqual(single);
  });

  it("a cell that can't be taken is left out and told, the others go on", () => {
    const doc = aTemplate().track("A", { input: "1" }).track("B", { input: "2" }).build();
    const trackIds = tracksOf(doc).map((track) => track.id);
    const plan = pasteBlock(doc, wholeMill, {
      cells: [
        ["", "20", "7"],
        ["Horn", "loud", "?!"],
      ],
      trackIds,
      columns: ["name", "gain", "input"],
      folderId: null,
      ids: sequentialIds(),
    });
    expect(plan.leftOut).toEqual([
      expect.stringContaining("“loud” is no gain"),
      expect.stringContaining("“?!” is no input"),
    ]);
    const step = doneWith(doc, plan);
    expect(tracksOf(step.doc).map((track) => track.name)).toEqual(["A", "Horn"]);
  });
});
