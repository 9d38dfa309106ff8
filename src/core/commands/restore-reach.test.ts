import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { EMPTY_HISTORY, perform, undo } from "../history/history";
import { newStudio } from "../model/studio";
import { templateFaults } from "../model/template-schema";
import { aTemplate } from "../testing/a-template";
import { apply } from "./apply";
import type { Patch } from "./engine";
import { brokenInvariants } from "./invariants";
import { rigEngine } from "./rig/apply-rig";
import { studioEngine } from "./studio/apply-studio";

const doc = aTemplate()
  .folder("Strings")
  .track("Fiddle", { input: "9", folder: "Strings" })
  .track("Above", { input: ["5", "6"] })
  .build();
const withOutputs = (() => {
  const fitted = apply(doc, { kind: "template.fit", rigId: doc.rigId, rigName: "x", inputs: [], mainOutputs: ["brindle:out:1", "brindle:out:2"] as never });
  if (!fitted.ok) throw new Error(fitted.refusal.message);
  return fitted.doc;
})();

const OUTPUTS = ["channels", "main", "output", "portIds"];
const restore = (...patches: readonly Patch[]) => apply(withOutputs, { kind: "document.restore", undoes: "x", patches });

describe("patches reach only what the schema knows", () => {
  it.each<[string, Patch]>([
    ["four billion places of nothing", { op: "replace", path: [...OUTPUTS, "length"], value: 4_294_967_295 }],
    ["one place of nothing", { op: "replace", path: [...OUTPUTS, "length"], value: 3 }],
    ["a length that is no number", { op: "replace", path: [...OUTPUTS, "length"], value: "2" }],
    ["a place far behind the end of a list", { op: "add", path: [...OUTPUTS, 4_294_967_294], value: "x" }],
    ["a place before a list", { op: "replace", path: [...OUTPUTS, -1], value: "x" }],
    ["a place between two", { op: "replace", path: [...OUTPUTS, 0.5], value: "x" }],
    ["a place of a list called by a word", { op: "add", path: [...OUTPUTS, "0"], value: "x" }],
    ["what every list can do", { op: "replace", path: [...OUTPUTS, "map"], value: 1 }],
    ["what every object has", { op: "add", path: ["lines", "__proto__"], value: {} }],
    ["a field that nothing has", { op: "add", path: ["format", "loudness"], value: 3 }],
    ["a table that is none", { op: "add", path: ["widgets"], value: {} }],
    ["into a text", { op: "replace", path: ["name", "length"], value: 3 }],
    ["into a number", { op: "add", path: ["format", "sampleRateHz", "x"], value: 3 }],
    ["the schema", { op: "replace", path: ["schema"], value: 4 }],
    ["an id", { op: "replace", path: ["lines", "line-1", "id"], value: "x" }],
    ["a whole table gone", { op: "remove", path: ["lines"] }],
  ])("%s is refused", (_what, patch) => {
    expect(restore(patch)).toMatchObject({ ok: false });
  });

  it("of rig and studio as well", () => {
    const rigPatch: Patch = { op: "replace", path: ["ports", "brindle:in:1", "levels", "length"], value: 4_294_967_295 };
    expect(rigEngine.apply(wheelhouseCart, { kind: "document.restore", undoes: "x", patches: [rigPatch] })).toMatchObject({ ok: false });
    const studio = newStudio("The studio");
    expect(studioEngine.apply(studio, { kind: "document.restore", undoes: "x", patches: [{ op: "add", path: ["people", "length"], value: 4_294_967_295 }] })).toMatchObject({
      ok: false,
    });
  });

  it("a list is made shorter by its length, as an undo does", () => {
    const done = restore({ op: "replace", path: [...OUTPUTS, "length"], value: 1 });
    expect(done.ok && done.doc.channels["main" as never]).toMatchObject({ output: { portIds: ["brindle:out:1"] } });
  });

  it("whatever the patches are, they are refused or leave a whole document", () => {
    const steps = fc.constantFrom<string | number>(
      "channels",
      "main",
      "output",
      "portIds",
      "length",
      "lines",
      "line-1",
      "folders",
      "folder-1",
      "parentId",
      "format",
      "name",
      "note",
      "x",
      "constructor",
      0,
      1,
      -1,
      4_294_967_294,
    );
    const value = fc.oneof(fc.jsonValue({ maxDepth: 2 }), fc.constantFrom(4_294_967_295, 2 ** 31, "x", null));
    const patch = fc.record({ op: fc.constantFrom("add", "replace", "remove" as const), path: fc.array(steps, { maxLength: 6 }), value });
    fc.assert(
      fc.property(fc.array(patch, { maxLength: 4 }), (patches) => {
        const done = restore(...(patches as Patch[]));
        if (done.ok) expect([templateFaults(done.doc), brokenInvariants(done.doc)]).toEqual([[], []]);
      }),
      { numRuns: 3000, seed: 20261126 },
    );
  });
});

describe("a gesture that changes a thing and then removes it", () => {
  it("can be undone", () => {
    const gesture = {
      commands: [
        { kind: "tracks.set", trackIds: ["track-1"], set: { name: "Viola" } },
        { kind: "lines.set", lineIds: ["line-1"], set: { phantom: true } },
        { kind: "tracks.remove", trackIds: ["track-1"] },
      ] as never,
    };
    const step = perform(doc, EMPTY_HISTORY, gesture);
    const back = step.ok ? undo(step.doc, step.history) : step;
    expect(back).toMatchObject({ ok: true, doc });
  });
});
