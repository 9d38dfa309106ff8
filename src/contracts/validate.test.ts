import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { COMMAND_KINDS } from "@/core/commands/apply";
import { aTemplate } from "@/core/testing/a-template";
import { chanceRuns, randomCommand } from "@/core/testing/random-commands";
import { COMMAND_CLASS_NAMES, COMMAND_CLASSES } from "./commands";
import { CommandsRequest, CreateTemplateRequest, ExportQuery, ImportRequest, ListQuery, NewerQuery } from "./requests";
import { parse, parseCommands, parseRigCommands } from "./validate";

const pointers = (type: new () => object, value: unknown) => {
  const parsed = parse(type, value);
  return parsed.ok ? [] : parsed.errors.map((error) => error.pointer);
};

describe("ids", () => {
  it.each(["__proto__", "constructor", "valueOf"])("%s is none, wherever a command asks for one", (id) => {
    const commands = [
      { kind: "folders.add", folders: [{ id, name: "a", colour: null }], parentId: null },
      { kind: "folders.move", folderId: "f", parentId: id, before: null },
      { kind: "tracks.set", trackIds: ["t", id], set: { name: "x" } },
      { kind: "template.rig", rigId: id, rigName: "x", inputs: [], mainOutputs: [] },
      { kind: "findings.accept", findings: [{ id, cause: "c", reason: "r" }] },
    ];
    for (const command of commands) expect(parseCommands([command]).ok, command.kind).toBe(false);
    expect(parseRigCommands([{ kind: "parts.set", table: "ports", ids: [id], set: { name: "x" } }]).ok).toBe(false);
    expect(parseRigCommands([{ kind: "parts.add", parts: { microphones: [{ id }] } }]).ok).toBe(false);
  });

  it("a name may be any word", () => {
    expect(parseCommands([{ kind: "tracks.set", trackIds: ["t"], set: { name: "constructor" } }]).ok).toBe(true);
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

  it.each([null, 5, "text", [], undefined])("a body that is %j is no object", (value) => expect(pointers(ListQuery, value)).toEqual([""]));
});

describe("commands", () => {
  it("each kind has a class and a name", () => {
    expect(Object.keys(COMMAND_CLASSES).sort()).toEqual([...COMMAND_KINDS].sort());
    expect(new Set(Object.values(COMMAND_CLASS_NAMES)).size).toBe(COMMAND_KINDS.length);
  });

  it("whatever the core makes passes its class unchanged", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const doc = aTemplate()
          .folder("Strings")
          .track("Fiddle", { input: "9", folder: "Strings" })
          .track("Above", { input: ["5", "6"] })
          .build();
        const command = randomCommand(doc, chance);
        if ("trackIds" in command && !command.trackIds.length) return;
        if ("lineIds" in command && !command.lineIds.length) return;
        if (command.kind === "lines.patch" && !command.inputs.length) return;
        if (command.kind === "template.rename" && !command.name) return;
        expect(parseCommands([command])).toEqual({ ok: true, value: [command] });
      }),
      { numRuns: 300, seed: 20261125 },
    );
  });

  it.each([
    [{ kind: "tracks.set", trackIds: [], set: { name: "x" } }, "/commands/0/trackIds"],
    [{ kind: "tracks.set", trackIds: ["a"], set: {} }, "/commands/0/set"],
    [{ kind: "tracks.set", trackIds: ["a"], set: { name: "x", volume: 3 } }, "/commands/0/set"],
    [{ kind: "tracks.set", trackIds: "a", set: { name: "x" } }, "/commands/0/trackIds"],
    [{ kind: "tracks.move", trackIds: ["a"], before: null }, "/commands/0/folderId"],
    [{ kind: "tracks.share", trackIds: ["a"], sharing: "sometimes" }, "/commands/0/sharing"],
    [{ kind: "template.set", format: { sampleRateHz: 22050 } }, "/commands/0/format"],
    [{ kind: "lines.patch", inputs: [{ lineId: "a", portId: 3, requestedInput: null }] }, "/commands/0/inputs"],
    [{ kind: "folders.add", folders: [{ id: "f", name: "X", colour: "beige" }], parentId: null }, "/commands/0/folders"],
    [{ kind: "document.restore", undoes: "x", patches: [{ op: "move", path: ["a"] }] }, "/commands/0/patches"],
    [{ kind: "__proto__" }, "/commands/0/kind"],
    [{}, "/commands/0/kind"],
  ])("%# is refused with its place", (command, pointer) => {
    const parsed = parseCommands([command]);
    expect(parsed.ok ? [] : parsed.errors.map((error) => error.pointer)).toContain(pointer);
  });
});
