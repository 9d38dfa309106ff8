import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { VERBS } from "@/core/commands/command";
import { templateEditing } from "@/core/planning/edits/template-editing";
import { aTemplate } from "@/core/testing/a-template";
import { runs } from "@/core/testing/how-many";
import { chanceRuns, randomEdit } from "@/core/testing/random-edits";
import { CommandsRequest, CreateTemplateRequest, ExportQuery, ImportRequest, ListQuery, NewerQuery } from "./requests";
import { parse, parseCommands } from "./validate";
import { NAMED_VERBS, VERB_SCHEMAS } from "./verb-schemas";

const pointers = (type: new () => object, value: unknown) => {
  const parsed = parse(type, value);
  return parsed.ok ? [] : parsed.errors.map((error) => error.pointer);
};

const folder = (id: string, parentId: string | null = null) => ({
  kind: "add",
  table: "folders",
  entries: [{ id, name: "a", colour: null, parentId, open: true }],
});

describe("ids", () => {
  it.each(["__proto__", "constructor", "valueOf"])("%s is none, wherever a command asks for one", (id) => {
    const commands = [
      folder(id),
      folder("f", id),
      { kind: "move", table: "folders", ids: [id], parent: null, before: null },
      { kind: "move", table: "folders", ids: ["f"], parent: id, before: null },
      { kind: "move", table: "folders", ids: ["f"], parent: null, before: id },
      { kind: "set", table: "channels", values: JSON.parse(`{"${id}": {"name": "x"}}`) },
      { kind: "set", table: "document", values: { t: { rigId: id } } },
      { kind: "remove", table: "channels", ids: ["t", id] },
      { kind: "add", table: "accepted", entries: [{ id, cause: "c", reason: "r" }] },
    ];
    for (const command of commands)
      expect(parseCommands("template", [command]).ok, JSON.stringify(command)).toBe(false);
    expect(parseCommands("rig", [{ kind: "remove", table: "ports", ids: [id] }]).ok).toBe(false);
  });

  it("a name may be any word", () => {
    expect(
      parseCommands("template", [{ kind: "set", table: "channels", values: { t: { name: "constructor" } } }]).ok,
    ).toBe(true);
  });
});

describe("request classes", () => {
  it.each([
    [CreateTemplateRequest, { name: "Evening", kind: "band", rigId: "duo" }],
    [CreateTemplateRequest, {}],
    [CommandsRequest, { base: 1, batch: "b", commands: [{}] }],
    [ListQuery, {}],
    [ListQuery, { query: "", kind: "solo" }],
    [ImportRequest, { columns: ["input", "source", "ignore"] }],
    [ExportQuery, { format: "pdf" }],
    [NewerQuery, { since: 0 }],
  ] as const)("%# take what they should", (type, value) => expect(pointers(type, value)).toEqual([]));

  it.each([
    [CreateTemplateRequest, { name: "" }, ["/name"]],
    [CreateTemplateRequest, { kind: "opera" }, ["/kind"]],
    [CreateTemplateRequest, { name: "x".repeat(201) }, ["/name"]],
    [CommandsRequest, { base: "1", commands: [{}] }, ["/base"]],
    [CommandsRequest, { base: 0, commands: [{}] }, ["/base"]],
    [CommandsRequest, { base: 1, commands: {} }, ["/commands"]],
    [ImportRequest, { columns: ["volume"] }, ["/columns"]],
    [ExportQuery, {}, ["/format"]],
    [NewerQuery, { since: 1.5 }, ["/since"]],
    [NewerQuery, { since: Number.NaN }, ["/since"]],
    [ListQuery, { surplus: "x" }, ["/surplus"]],
    [CommandsRequest, { base: 1, commands: [{ names: [{ constructor: 1 }] }] }, ["/commands/0/names/0/constructor"]],
    [CreateTemplateRequest, JSON.parse('{"__proto__": {"name": "x"}}'), ["/__proto__"]],
  ] as const)("%# refuse what they should not, with its place", (type, value, places) => {
    expect(pointers(type, value)).toEqual(expect.arrayContaining([...places]));
  });

  it.each([null, 5, "text", [], undefined])("a body that is %j is no object", (value) =>
    expect(pointers(ListQuery, value)).toEqual([""]),
  );
});

describe("commands", () => {
  it("each verb of each kind of document has a schema with a name of its own", () => {
    for (const schemas of Object.values(VERB_SCHEMAS)) expect(Object.keys(schemas)).toEqual([...VERBS]);
    expect(Object.keys(NAMED_VERBS)).toHaveLength(15);
  });

  it("a field that can't be given is named in words, not in those of a schema", () => {
    const read = parseCommands("template", [{ kind: "set", table: "channels", values: { a: { order: "zz" } } }]);
    expect(read).toEqual({
      ok: false,
      errors: [{ pointer: "/commands/0/values/a/order", detail: "There is no such field here that could be given." }],
    });
  });

  it("of thousands that are wrong the first two hundred are told", () => {
    const wrong = { kind: "add", table: "lines", entries: Array.from({ length: 5000 }, () => ({})) };
    const read = parseCommands(
      "template",
      Array.from({ length: 500 }, () => wrong),
    );
    expect(read.ok ? [] : read.errors).toHaveLength(200);
    expect(read.ok ? "" : read.errors.at(-1)?.pointer).toMatch(/^\/commands\/0\/entries\/\d+\//);
  });

  it("whatever the core plans passes unchanged", () => {
    let passed = 0;
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = aTemplate()
          .folder("Strings")
          .track("Fiddle", { input: "9", folder: "Strings" })
          .track("Above", { input: ["5", "6"] })
          .build();
        const done = templateEditing.apply(doc, randomEdit(doc, chance));
        if (!done.ok || !done.patches.length) return;
        passed += 1;
        expect(parseCommands("template", done.commands)).toEqual({ ok: true, value: done.commands });
        const undo = { kind: "restore", undoes: "x", patches: done.inverse };
        expect(parseCommands("template", [undo])).toEqual({ ok: true, value: [undo] });
      }),
      { numRuns: runs(300, 3000), seed: 20261125 },
    );
    expect(passed).toBeGreaterThan(100);
  });

  it.each([
    [{ kind: "remove", table: "channels", ids: [] }, "/commands/0/ids"],
    [{ kind: "remove", table: "channels", ids: "a" }, "/commands/0/ids"],
    [{ kind: "remove", table: "channels" }, "/commands/0/ids"],
    [{ kind: "remove", table: "ports", ids: ["a"] }, "/commands/0/table"],
    [{ kind: "set", table: "channels", values: { a: {} } }, "/commands/0/values"],
    [{ kind: "set", table: "channels", values: { a: { name: "x", volume: 3 } } }, "/commands/0/values"],
    [{ kind: "set", table: "channels", values: { a: { folderId: "f" } } }, "/commands/0/values"],
    [{ kind: "set", table: "channels", values: { a: { sharing: "sometimes" } } }, "/commands/0/values"],
    [{ kind: "set", table: "lines", values: { a: { id: "b" } } }, "/commands/0/values"],
    [{ kind: "set", table: "document", values: { t: { format: { sampleRateHz: 22050 } } } }, "/commands/0/values"],
    [{ kind: "set", table: "document", values: { t: { schema: 9 } } }, "/commands/0/values"],
    [{ kind: "move", table: "lines", ids: ["a"], before: null }, "/commands/0/table"],
    [{ kind: "move", table: "channels", ids: ["a"] }, "/commands/0/before"],
    [{ kind: "add", table: "lines", entries: [] }, "/commands/0/entries"],
    [{ ...folder("f"), surplus: 1 }, "/commands/0/surplus"],
    [{ kind: "restore", undoes: "x", patches: [{ op: "move", path: ["a"] }] }, "/commands/0/patches"],
    [
      { kind: "restore", undoes: "x", patches: [{ op: "add", path: ["a", "b", "c", "d", "e"] }] },
      "/commands/0/patches",
    ],
    [{ kind: "__proto__" }, "/commands/0/kind"],
    [{}, "/commands/0/kind"],
  ])("%# is refused with its place", (command, pointer) => {
    const parsed = parseCommands("template", [command]);
    const at = parsed.ok ? [] : parsed.errors.map((error) => error.pointer);
    expect(at.filter((one) => one === pointer || one.startsWith(`${pointer}/`))).not.toEqual([]);
  });

  it.each([
    ["rig", { kind: "set", table: "document", values: { r: { dimDb: -12 } } }, true],
    ["rig", { kind: "set", table: "document", values: { r: { dimDb: 5 } } }, false],
    ["rig", { kind: "set", table: "ports", values: { "brindle:in:1": { name: "x" } } }, true],
    ["rig", { kind: "set", table: "ports", values: { p: { name: "x".repeat(61) } } }, false],
    ["rig", { kind: "remove", table: "wires", ids: [`${"a".repeat(64)}>${"b".repeat(64)}`] }, true],
    ["studio", { kind: "set", table: "targets", values: { voice: { ms: 0 } } }, false],
    ["studio", { kind: "set", table: "targets", values: { nobody: { ms: 3 } } }, false],
    ["studio", { kind: "remove", table: "wires", ids: ["w"] }, false],
  ] as const)("of a %s: %j", (what, command, ok) => expect(parseCommands(what, [command]).ok).toBe(ok));
});
