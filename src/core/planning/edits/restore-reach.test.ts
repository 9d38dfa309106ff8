import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Patch } from "../../commands/command";
import { rigEngine } from "../../commands/rig-engine";
import { studioEngine } from "../../commands/studio-engine";
import { brokenInvariants, templateEngine } from "../../commands/template-engine";
import { wheelhouseCart } from "../../demo/rigs";
import { EMPTY_HISTORY } from "../../history/history";
import { newStudio } from "../../model/studio";
import { templateFaults } from "../../model/template-schema";
import { aTemplate } from "../../testing/a-template";
import { runs } from "../../testing/how-many";
import { perform, undo } from "../../testing/undoing";
import { apply } from "./template-editing";

const doc = aTemplate()
  .folder("Strings")
  .track("Fiddle", { input: "9", folder: "Strings" })
  .track("Above", { input: ["5", "6"] })
  .build();
const withOutputs = (() => {
  const fitted = apply(doc, {
    kind: "template.fit",
    rigId: doc.rigId,
    rigName: "x",
    inputs: [],
    mainOutputs: ["brindle:out:1", "brindle:out:2"] as never,
  });
  if (!fitted.ok) throw new Error(fitted.refusal.message);
  return fitted.doc;
})();

const restore = (...patches: readonly Patch[]) =>
  templateEngine.apply(withOutputs, { kind: "restore", undoes: "x", patches });
const main = withOutputs.channels["main" as never] as object;

describe("patches reach only what is described", () => {
  it.each<[string, Patch]>([
    ["a place in a list", { op: "replace", path: ["channels", "main", "output", "portIds"], value: [] }],
    ["what every object has", { op: "add", path: ["lines", "__proto__"], value: { id: "__proto__" } }],
    [
      "an entry under another id",
      { op: "add", path: ["folders", "folder-9"], value: { ...withOutputs.folders["folder-1" as never] } },
    ],
    ["an entry that is there", { op: "add", path: ["channels", "main"], value: main }],
    ["an entry that is not there", { op: "remove", path: ["lines", "nobody"] }],
    ["an entry in place of another", { op: "replace", path: ["channels", "main"], value: main }],
    ["a field that nothing has", { op: "replace", path: ["format", "loudness"], value: 3 }],
    ["a field of an entry that none has", { op: "replace", path: ["lines", "line-1", "loudness"], value: 3 }],
    ["a table that is none", { op: "add", path: ["widgets"], value: {} }],
    ["into a text", { op: "replace", path: ["name", "length"], value: 3 }],
    ["into a number", { op: "replace", path: ["format", "sampleRateHz", "x"], value: 3 }],
    ["the schema", { op: "replace", path: ["schema"], value: 4 }],
    ["an id", { op: "replace", path: ["lines", "line-1", "id"], value: "x" }],
    ["a kind", { op: "replace", path: ["channels", "track-1", "kind"], value: "main" }],
    ["a place that is none", { op: "replace", path: ["channels", "track-1", "order"], value: "!" }],
    [
      "a place that others can't be put beside",
      { op: "replace", path: ["channels", "track-1", "order"], value: "a00" },
    ],
    ["a whole table gone", { op: "remove", path: ["lines"] }],
    ["nothing where something must be", { op: "replace", path: ["lines", "line-1", "source"] }],
  ])("%s is refused", (_what, patch) => {
    expect(restore(patch)).toMatchObject({ ok: false });
  });

  it("of rig and studio as well", () => {
    expect(
      rigEngine.apply(wheelhouseCart, {
        kind: "restore",
        undoes: "x",
        patches: [{ op: "replace", path: ["ports", "brindle:in:1", "levels"], value: [] }],
      }),
    ).toMatchObject({
      ok: false,
    });
    const studio = newStudio("The studio");
    expect(
      studioEngine.apply(studio, {
        kind: "restore",
        undoes: "x",
        patches: [{ op: "add", path: ["people", "length"], value: 4_294_967_295 }],
      }),
    ).toMatchObject({ ok: false });
  });

  it("whatever the patches are, they are refused or leave a whole document", () => {
    const steps = fc.constantFrom(
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
      "0",
      "order",
      "track-1",
      "input",
    );
    const value = fc.oneof(fc.jsonValue({ maxDepth: 2 }), fc.constantFrom(4_294_967_295, 2 ** 31, "x", null));
    const patch = fc.record({
      op: fc.constantFrom("add", "replace", "remove" as const),
      path: fc.array(steps, { maxLength: 6 }),
      value,
    });
    fc.assert(
      fc.property(fc.array(patch, { maxLength: 4 }), (patches) => {
        const done = restore(...(patches as Patch[]));
        if (done.ok) expect([templateFaults(done.doc), brokenInvariants(done.doc)]).toEqual([[], []]);
      }),
      { numRuns: runs(300, 3000), seed: 20261126 },
    );
  });
});

describe("a gesture that changes a thing and then removes it", () => {
  it("can be undone", () => {
    const gesture = {
      edits: [
        { kind: "entries.set", table: "channels", ids: ["track-1"], set: { name: "Viola" } },
        { kind: "entries.set", table: "lines", ids: ["line-1"], set: { phantom: true } },
        { kind: "entries.remove", table: "channels", ids: ["track-1"] },
      ] as never,
    };
    const step = perform(doc, EMPTY_HISTORY, gesture);
    const back = step.ok ? undo(step.doc, step.history) : step;
    expect(back).toMatchObject({ ok: true, doc });
  });
});
