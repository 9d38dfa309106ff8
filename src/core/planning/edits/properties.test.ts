import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { evaluate } from "../../checks";
import type { Finding, Fix } from "../../checks/finding";
import { brokenInvariants, templateEngine } from "../../commands/template-engine";
import { DEMO_RIGS, wheelhouseCart } from "../../demo/rigs";
import { readTemplateJson, writeDocument } from "../../formats/document-json";
import { EMPTY_HISTORY, type History, type StepOf } from "../../history/history";
import { TEMPLATE_SCHEMA, type Template } from "../../model/template";
import { templateFaults } from "../../model/template-schema";
import { aTemplate } from "../../testing/a-template";
import { freeze } from "../../testing/freeze";
import { runs } from "../../testing/how-many";
import { chanceRuns, randomEdit } from "../../testing/random-edits";
import { tally } from "../../testing/tally";
import { perform, redo, undo } from "../../testing/undoing";
import { apply, applyAll } from "./template-editing";

const start = () =>
  aTemplate()
    .folder("Strings")
    .track("Fiddle", { input: "9", folder: "Strings" })
    .track("Above", { input: ["5", "6"] })
    .build();
const settings = { numRuns: runs(30, 600), seed: 20261125 };

const taken = (step: StepOf<Template>): [Template, History] => {
  if (!step.ok) throw new Error(step.refusal.message);
  return [step.doc, step.history];
};

/** What comes of twenty-five random commands. */
const someTemplate = (chance: () => number): Template => {
  let doc = start();
  for (let n = 0; n < 25; n++) {
    const applied = apply(doc, randomEdit(doc, chance));
    if (applied.ok) doc = applied.doc;
  }
  return doc;
};

const look = (doc: Template): readonly Finding[] => {
  const rig = DEMO_RIGS.find((candidate) => candidate.id === doc.rigId) ?? wheelhouseCart;
  return evaluate({ doc, rig, otherRigs: DEMO_RIGS.filter((other) => other !== rig) });
};

const judgeFix = (
  doc: Template,
  { finding, fix, before }: { readonly finding: Finding; readonly fix: Fix; readonly before: readonly Finding[] },
): void => {
  const fixed = applyAll(doc, fix.edits);
  if (!fixed.ok) throw new Error(`${fix.label}: ${fixed.refusal.message}`);
  const after = look(fixed.doc);
  const known = new Set(before.map((other) => other.id));
  expect(
    after.map((other) => other.id),
    `${fix.label} clears ${finding.message}`,
  ).not.toContain(finding.id);
  expect(
    after
      .filter((other) => other.severity === "problem" && !known.has(other.id))
      .map((other) => `${fix.label} → ${other.message}`),
  ).toEqual([]);
};

describe("any run of commands", () => {
  it("keeps the rules that always hold, over a thousand commands", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc = start();
        let refusals = 0;
        for (let n = 0; n < 50; n++) {
          const applied = apply(doc, randomEdit(doc, chance));
          if (applied.ok) doc = applied.doc;
          else refusals++;
          expect(brokenInvariants(doc)).toEqual([]);
        }
        expect(templateFaults(doc)).toEqual([]);
        expect(refusals).toBeLessThan(35);
      }),
      { ...settings, numRuns: runs(12, 250) },
    );
  });

  it("is taken back by its inverse, and leaves its input untouched", () => {
    const drawn = tally();
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc: Template = freeze(start());
        for (let n = 0; n < 15; n++) {
          const applied = apply(doc, randomEdit(doc, chance));
          if (!drawn.took(applied.ok) || !applied.ok) continue;
          const back = templateEngine.apply(applied.doc, {
            kind: "restore",
            undoes: applied.name,
            patches: applied.inverse.length ? applied.inverse : [{ op: "replace", path: ["name"], value: doc.name }],
          });
          expect(back.ok && back.doc).toEqual(doc);
          doc = freeze(applied.doc);
        }
      }),
      settings,
    );
    expect(drawn.share()).toBeGreaterThan(0.5);
  });

  it("that takes back what never was is refused or keeps the rules, whatever is in it", () => {
    const doc = freeze(start());
    const step = fc.constantFrom(
      "channels",
      "lines",
      "folders",
      "accepted",
      "format",
      "name",
      "schema",
      "constructor",
      "input",
      "order",
      0,
      ...Object.keys(doc.channels),
      ...Object.keys(doc.lines),
    );
    const value = fc.oneof(
      fc.constant(undefined),
      fc.jsonValue(),
      fc.constantFrom(...Object.values(doc.lines), ...Object.values(doc.channels)),
    );
    const patch = fc
      .record({ op: fc.constantFrom("add", "replace", "remove"), path: fc.array(step, { maxLength: 4 }) })
      .chain((made) => value.map((put) => ({ ...made, ...(put === undefined ? {} : { value: put }) })));
    fc.assert(
      fc.property(fc.array(patch, { minLength: 1, maxLength: 3 }), (patches) => {
        const applied = templateEngine.apply(doc, { kind: "restore", undoes: "nothing", patches } as never);
        if (applied.ok) expect([...templateFaults(applied.doc), ...brokenInvariants(applied.doc)]).toEqual([]);
        else expect(applied.refusal.message).toContain("can't be undone");
      }),
      { ...settings, numRuns: runs(100, 2000) },
    );
  });

  it("is undone to the beginning and redone to the same end", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const first = start();
        let [doc, history]: [Template, History] = [first, EMPTY_HISTORY];
        for (let n = 0; n < 20; n++) {
          const step = perform(doc, history, { edits: [randomEdit(doc, chance)] });
          if (step.ok) [doc, history] = [step.doc, step.history];
        }
        const last = doc;
        for (let n = history.past.length; n > 0; n--) [doc, history] = taken(undo(doc, history));
        expect(doc).toEqual(first);
        for (let n = history.future.length; n > 0; n--) [doc, history] = taken(redo(doc, history));
        expect(doc).toEqual(last);
      }),
      settings,
    );
  });

  it("of two windows, each of which takes back what it did itself, leaves everything at a place of its own and keeps the rules", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc: Template = start();
        const windows: History[] = [EMPTY_HISTORY, EMPTY_HISTORY];
        for (let n = 0; n < 60; n++) {
          const at = chance() < 0.5 ? 0 : 1;
          const history = windows[at] ?? EMPTY_HISTORY;
          const step =
            chance() < 0.4 ? undo(doc, history) : perform(doc, history, { edits: [randomEdit(doc, chance)] });
          windows[at] = step.history;
          if (step.ok) doc = step.doc;
          expect(brokenInvariants(doc)).toEqual([]);
        }
        expect(templateFaults(doc)).toEqual([]);
      }),
      settings,
    );
  });

  it("survives the way to JSON and back", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = someTemplate(chance);
        const read = readTemplateJson(writeDocument(doc));
        if (doc.name) expect(read).toEqual({ ok: true, doc, from: TEMPLATE_SCHEMA });
      }),
      settings,
    );
  });

  it("leaves every fix of every finding clearing it, and adding no problem", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = someTemplate(chance);
        const before = look(doc);
        for (const finding of before) for (const fix of finding.fixes) judgeFix(doc, { finding, fix, before });
      }),
      settings,
    );
  });

  it("a thousand of them keep the rules of the model, every one", () => {
    let state = 20261125;
    const chance = () => {
      state = (Math.imul(state, 1664525) + 1013904223) | 0;
      return (state >>> 0) / 2 ** 32;
    };
    let doc = start();
    let [done, refused] = [0, 0];
    for (let n = 0; n < 1000; n++) {
      const applied = apply(doc, randomEdit(doc, chance));
      if (!applied.ok) {
        refused += 1;
        continue;
      }
      done += 1;
      doc = applied.doc;
      expect(brokenInvariants(doc)).toEqual([]);
    }
    expect(templateFaults(doc)).toEqual([]);
    expect(done).toBeGreaterThan(refused);
  });
});
