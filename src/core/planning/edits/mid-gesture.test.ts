import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tracksByLine, tracksOf } from "../../model/read-template";
import type { Template } from "../../model/template";
import { processorsOf } from "../../queries/chains";
import { levelsOfCue } from "../../queries/cues";
import { sendsOf } from "../../queries/sends";
import { aTemplate } from "../../testing/a-template";
import { runs } from "../../testing/how-many";
import { chanceRuns, randomEdit } from "../../testing/random-edits";
import { tally } from "../../testing/tally";
import type { Edit } from "./edit";
import { apply, applyAll } from "./template-editing";

/** Everything that is kept for tables, as it is read now and from a copy for which nothing is kept. */
const read = (doc: Template) => ({
  tracks: tracksOf(doc).map(({ id }) => id),
  takers: [...tracksByLine(doc)].map(([line, tracks]) => [line, tracks.map(({ id }) => id)]),
  levels: Object.keys(doc.cues).map((id) => levelsOfCue(doc, id as never).map((level) => level.id)),
  sends: Object.keys(doc.channels).map((id) => sendsOf(doc, id as never).map((send) => send.id)),
  chains: Object.keys(doc.channels).map((id) => processorsOf(doc, id as never).map((processor) => processor.id)),
});

describe("several edits in one gesture", () => {
  it("are each planned from what the ones before left, and what was read in between does not stand for the end", () => {
    const put = (sourceId: string): Edit => ({
      kind: "cueLevels.put",
      levels: [{ id: `level-${sourceId}` as never, cueId: "cue" as never, sourceId: sourceId as never }],
    });
    const doc = aTemplate().track("Fiddle", { input: "9" }).track("Voice", { input: "1" }).build();
    const made = applyAll(doc, [
      { kind: "entries.add", entries: { cues: [{ id: "cue" as never, name: "Ilse" }] } },
      put("track-1"),
      put("track-2"),
      put("main"),
      { kind: "document.rename", name: "Later" },
    ]);
    const after = made.ok ? made.doc : expect.unreachable();
    expect(levelsOfCue(after, "cue" as never).map(({ sourceId }) => sourceId)).toEqual(["track-1", "track-2", "main"]);
  });

  it("leave what is kept of the tables in between true", () => {
    const drawn = tally();
    fc.assert(
      fc.property(chanceRuns, fc.integer({ min: 2, max: 6 }), (chance, count) => {
        let doc = aTemplate()
          .folder("Strings")
          .track("Fiddle", { input: "9", folder: "Strings" })
          .track("Voice", { input: "1", player: "Ilse Varga" })
          .build();
        for (let round = 0; round < 8; round++) {
          // Drawn from what the ones before leave, as a plan does.
          const edits: Edit[] = [];
          let after = doc;
          for (let n = 0; n < count; n++) {
            const edit = randomEdit(after, chance);
            const made = apply(after, edit);
            if (!made.ok) continue;
            edits.push(edit);
            after = made.doc;
          }
          const whole = applyAll(doc, edits);
          // What one by one is tidied up after each may be refused as a whole; whatever is done comes to the same.
          if (!drawn.took(whole.ok) || !whole.ok) continue;
          expect(read(whole.doc)).toEqual(read(structuredClone(whole.doc)));
          doc = whole.doc;
        }
      }),
      { numRuns: runs(40, 400), seed: 20261126 },
    );
    expect(drawn.share()).toBeGreaterThan(0.5);
  });
});
