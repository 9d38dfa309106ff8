import { describe } from "vitest";
import { evaluate } from "./checks";
import { wholeMill } from "./demo/rigs";
import { planImport } from "./formats/input-list/plan-import";
import { readInputList } from "./formats/input-list/read-input-list";
import { EMPTY_HISTORY } from "./history/history";
import { layoutRows } from "./layout/rows";
import { type ChannelId, sequentialIds } from "./model/ids";
import { tracksOf } from "./model/read-template";
import { templateFaults } from "./model/template-schema";
import { fillDown, pasteBlock } from "./planning/block";
import type { Edit } from "./planning/edits/edit";
import { apply, applyAll } from "./planning/edits/template-editing";
import type { CellColumn } from "./queries/columns";
import { aChoir, choirContext } from "./testing/a-choir";
import { bench } from "./testing/bench";
import { perform, undo } from "./testing/undoing";

/** A fresh document each time, or what is kept by document would be measured instead of the work. */
const fresh = (count: number) => {
  const doc = aChoir(count);
  return () => choirContext({ ...doc });
};

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

/** What a large edit works on: a document, the block that is pasted, and what comes of it. */
const large = (count: number) => {
  const doc = aChoir(count);
  const trackIds = tracksOf(doc).map((track) => track.id);
  const cells = trackIds.map((_id, n) => [
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
  const paste = (to = doc) =>
    pasteBlock(to, wholeMill, { cells, trackIds, columns: COLUMNS, folderId: null, ids: sequentialIds() });
  const { planned } = paste();
  if (!planned.ok) throw new Error(`expected the paste to be planned, got: ${planned.message}`);
  const done = perform(doc, EMPTY_HISTORY, planned.gesture);
  if (!done.ok) throw new Error(`expected the paste to be done, got: ${done.refusal.message}`);
  const block = { trackIds, columns: ["microphone", "phantom", "note", "player", "position"] as const };
  const move: Edit = {
    kind: "entries.move",
    table: "channels",
    ids: trackIds.slice(count / 2),
    parent: null,
    before: trackIds[0] ?? null,
  };
  return {
    doc,
    paste,
    gesture: planned.gesture,
    done,
    fill: () => fillDown({ ...doc }, wholeMill, { block, ids: sequentialIds() }),
    move,
  };
};

for (const count of [16, 128, 512, 2048, 4096]) {
  const context = fresh(count);
  // With its headings as many rows as there are lines.
  const list = `Input,Source,Microphone,Folder\n${Array.from({ length: count - 1 }, (_, n) => `${n + 1},Voice ${n + 1},condenser,Folder ${n % 1000}`).join("\n")}`;
  const read = readInputList(list);
  if (!read.ok) throw new Error(`expected the list to be read, got: ${read.message}`);
  const { doc, paste, gesture, done, fill, move } = large(count);
  // The baseline of each group is the plainest pass over as many lines in the same run.
  describe(`${count} lines`, () => {
    bench("baseline: the document to JSON and back", () => void JSON.parse(JSON.stringify(doc)));
    bench("all checks, with their fixes", () => void evaluate(context()));
    bench("rows of the grid", () => void layoutRows({ ...doc }));
    bench(
      "one command",
      () =>
        void apply(doc, {
          kind: "entries.set",
          table: "channels",
          ids: ["track-3" as ChannelId],
          set: { name: "Alto" },
        }),
    );
    bench("document against its schema", () => void templateFaults(doc));
    bench("ten columns pasted: planned", () => void paste({ ...doc }));
    bench("ten columns pasted: done", () => void perform(doc, EMPTY_HISTORY, gesture));
    bench("ten columns pasted: taken back", () => void undo(done.doc, done.history));
    bench("five columns filled down: planned", () => void fill());
    bench("half the tracks moved", () => void applyAll(doc, [move]));
    bench("as many tracks added", () => void aChoir(count));
    bench("an input list read", () => void readInputList(list));
    bench(
      "an input list of up to a thousand folders planned",
      () => void planImport(read.list, wholeMill, sequentialIds()),
    );
  });
}
