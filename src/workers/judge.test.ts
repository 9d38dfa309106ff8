import fc from "fast-check";
import { expect, it } from "vitest";
import { evaluateAll } from "@/core/checks";
import { contextOf } from "@/core/checks/context";
import { withChange } from "@/core/checks/evaluation-change";
import { differenceOf, withDifference } from "@/core/commands/difference";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { newStudio } from "@/core/model/studio";
import { TEMPLATE, type Template } from "@/core/model/template";
import { apply } from "@/core/planning/edits/template-editing";
import { aChoir } from "@/core/testing/a-choir";
import { aTemplate } from "@/core/testing/a-template";
import { runs } from "@/core/testing/how-many";
import { chanceRuns, randomEdit } from "@/core/testing/random-edits";
import { judge } from "./judge";

const contextFor = (doc: Template) => contextOf({ doc, rigs: DEMO_RIGS, studio: newStudio("Test") });

it("told edit by edit, it says what a look at the whole says, whatever is done", () => {
  let changes = 0;
  fc.assert(
    fc.property(chanceRuns, (chance) => {
      let doc = aTemplate()
        .folder("Strings")
        .track("Fiddle", { input: "9", folder: "Strings" })
        .track("Above", { input: ["5", "6"] })
        .build();
      const judged = judge();
      const first = judged(structuredClone({ number: 0, context: contextFor(doc) }));
      let seen = "evaluation" in first ? first.evaluation : expect.unreachable();
      const states: { readonly doc: Template; readonly seen: typeof seen }[] = [];
      for (let number = 1; number < 25; number++) {
        const done = apply(doc, randomEdit(doc, chance));
        if (!done.ok) continue;
        const change = differenceOf(TEMPLATE, doc, done.doc);
        expect(withDifference(doc, change)).toEqual(done.doc);
        doc = done.doc;
        // As between threads: nothing is shared, only said.
        const answer = structuredClone(judged(structuredClone({ number, change })));
        changes += Number("change" in answer);
        seen = "change" in answer ? withChange(seen, answer.change) : answer.evaluation;
        states.push({ doc, seen });
      }
      // Only afterwards, or what is kept from edit to edit would be forgotten each time.
      for (const state of states)
        expect(state.seen).toEqual(structuredClone(evaluateAll(contextFor(structuredClone(state.doc)))));
    }),
    { numRuns: runs(15, 400), seed: 20261126 },
  );
  expect(changes).toBeGreaterThan(200);
});

it("an edit of one line of many is said in a few words, and asks for few", () => {
  const doc = aChoir(600);
  const judged = judge();
  judged({ number: 0, context: contextFor(doc) });
  const done = apply(doc, { kind: "entries.set", table: "lines", ids: ["line-500" as never], set: { source: "Alto" } });
  const change = differenceOf(TEMPLATE, doc, done.ok ? done.doc : doc);
  expect(JSON.stringify(change).length).toBeLessThan(600);
  const answer = judged({ number: 1, change });
  expect("change" in answer && answer.change.open.put.length).toBeLessThan(3);
});

it("a change of nothing that it was told is a bug, and says so", () => {
  expect(() => judge()({ number: 1, change: { header: {}, tables: {} } })).toThrow("expected a whole state first");
});
