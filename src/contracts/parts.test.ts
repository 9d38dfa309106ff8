import { describe, expect, it } from "vitest";
import { rigEngine } from "@/core/commands/rig/apply-rig";
import { studioEngine } from "@/core/commands/studio/apply-studio";
import { PARTS_CLASS_NAMES, RIG_COMMAND_CLASSES, STUDIO_COMMAND_CLASSES } from "./parts-commands";
import { parseRigCommands, parseStudioCommands } from "./validate";

const errors = (parsed: ReturnType<typeof parseRigCommands>) => (parsed.ok ? [] : parsed.errors.map((error) => error.pointer));

describe("commands of rigs and of the studio", () => {
  it("there is a class, and a name of it, for every kind", () => {
    expect(Object.keys(RIG_COMMAND_CLASSES).sort()).toEqual([...rigEngine.kinds].sort());
    expect(Object.keys(STUDIO_COMMAND_CLASSES).sort()).toEqual([...studioEngine.kinds].sort());
    expect(Object.keys(PARTS_CLASS_NAMES).sort()).toEqual([...rigEngine.kinds].sort());
  });

  it.each([
    [{ kind: "document.rename", name: "Loft" }],
    [{ kind: "settings.set", set: { dimDb: -12 } }],
    [{ kind: "parts.add", parts: { microphones: [{ id: "m", name: "x" }] } }],
    [{ kind: "parts.set", table: "ports", ids: ["p"], set: { name: "x" } }],
    [{ kind: "parts.remove", table: "wires", ids: ["w"] }],
    [{ kind: "rig.strip" }],
    [{ kind: "ports.name", names: [{ portId: "p", name: "" }] }],
    [{ kind: "links.plug", linkId: "l", deviceId: null }],
    [{ kind: "document.restore", undoes: "x", patches: [{ op: "remove", path: ["ports", "p"] }] }],
  ])("%j passes", (command) => expect(parseRigCommands([command]).ok).toBe(true));

  it.each([
    [{ kind: "document.rename", name: "" }, "/commands/0/name"],
    [{ kind: "document.rename", name: "x", surplus: 1 }, "/commands/0/surplus"],
    [{ kind: "parts.set", table: "ports", ids: [], set: { name: "x" } }, "/commands/0/ids"],
    [{ kind: "parts.set", table: "ports", ids: ["p"], set: {} }, "/commands/0/set"],
    [{ kind: "parts.add", parts: { microphones: [{ name: "no id" }] } }, "/commands/0/parts"],
    [{ kind: "ports.name", names: [{ portId: "p", name: "x".repeat(61) }] }, "/commands/0/names"],
    [{ kind: "links.plug", linkId: "l" }, "/commands/0/deviceId"],
    [{ kind: "rig.explode" }, "/commands/0/kind"],
    [{}, "/commands/0/kind"],
  ])("%j does not", (command, pointer) => expect(errors(parseRigCommands([command]))).toContain(pointer));

  it("the studio knows none of the rig's own", () => {
    expect(parseStudioCommands([{ kind: "rig.strip" }]).ok).toBe(false);
    expect(parseStudioCommands([{ kind: "parts.remove", table: "rooms", ids: ["loft"] }]).ok).toBe(true);
  });
});
