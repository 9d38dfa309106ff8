import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { BLUEPRINTS, blueprintOf } from "../../blueprints/blueprints";
import { brokenRig } from "../../commands/rig-engine";
import { DEMO_RIGS, wheelhouseCart, wholeMill } from "../../demo/rigs";
import { EMPTY_HISTORY } from "../../history/history";
import type { DeviceId, LinkId, PortId } from "../../model/ids";
import { existsAtRate, findRigInput, rigInputsOf } from "../../model/read-rig";
import { emptyRig, RIG, type Rig, type RigTable } from "../../model/rig";
import { rigFaults } from "../../model/rig-schema";
import { entriesOf } from "../../model/table";
import { runs } from "../../testing/how-many";
import { tally } from "../../testing/tally";
import { undoingEdits } from "../../testing/undoing";
import { addBare, addBlueprint, nameRun, wireRun } from "../rig-plans";
import type { RigEdit } from "./rig-editing";
import { rigEditing } from "./rig-editing";

const done = (rig: Rig, ...edits: readonly RigEdit[]): Rig => {
  const applied = rigEditing.applyAll(rig, edits);
  if (!applied.ok) throw new Error(applied.refusal.message);
  expect(brokenRig(applied.doc)).toEqual([]);
  expect(rigFaults(applied.doc)).toEqual([]);
  return applied.doc;
};
const refusal = (rig: Rig, command: unknown) => {
  const applied = rigEditing.apply(rig, command as RigEdit);
  return applied.ok ? "" : applied.refusal.message;
};
const nameOf = (rig: Rig, command: unknown) => {
  const applied = rigEditing.apply(rig, command as RigEdit);
  return applied.ok ? applied.name : applied.refusal.message;
};
const running = (rig: Rig, device: string) =>
  rigInputsOf(rig).flatMap((rigInput) => (rigInput.device.id === device ? [rigInput.port.running] : []));
const blank = emptyRig("r" as never, "Blank");

describe("devices", () => {
  it.each(BLUEPRINTS.map((blueprint) => [blueprint.name, blueprint] as const))(
    "%s goes into an empty rig and keeps the rules",
    (_name, blueprint) => {
      const rig = done(blank, ...addBlueprint(blank, blueprint).edits);
      expect(entriesOf(rig.devices)).toHaveLength(1);
    },
  );

  it("an expander is plugged into the first free socket and counted there", () => {
    const rig = done(wheelhouseCart, ...addBlueprint(wheelhouseCart, blueprintOf("eight")).edits);
    expect(running(rig, "eight")).toEqual([17, 18, 19, 20, 21, 22, 23, 24]);
    expect(rig.devices["eight" as DeviceId]?.clock).toEqual({ kind: "follows", linkId: "brindle:optical-a" });
    const second = done(rig, ...addBlueprint(rig, blueprintOf("eight")).edits);
    expect(running(second, "eight-2")).toEqual([25, 26, 27, 28, 29, 30, 31, 32]);
    expect(second.devices["eight-2" as DeviceId]).toMatchObject({ name: "Brindle Eight 2", shortName: "EB" });
  });

  it("a second interface serves as one with the first: it counts on and follows", () => {
    const rig = done(wheelhouseCart, ...addBlueprint(wheelhouseCart, blueprintOf("duo")).edits);
    expect(running(rig, "duo")).toEqual([35, 36]);
    expect(rig.devices["duo" as DeviceId]?.clock).toEqual({ kind: "follows", linkId: null });
    expect(findRigInput(rig, "IA1")?.device.id ?? findRigInput(rig, "35")?.device.id).toBe("duo");
  });

  it("one from scratch has what was said", () => {
    const rig = done(
      blank,
      ...addBare(blank, {
        kind: "interface",
        name: "Long box",
        inputs: 24,
        outputs: 8,
        inputLevels: ["microphone"],
        phantom: "bank",
      }).edits,
    );
    expect([rigInputsOf(rig).length, entriesOf(rig.banks).map((bank) => bank.name)]).toEqual([24, ["Long box 1–24"]]);
  });

  it("retired takes along what hangs on it, and lets go what was joined to it", () => {
    const rig = done(wholeMill, { kind: "entries.remove", table: "devices", ids: ["brindle" as never] });
    expect([entriesOf(rig.links), entriesOf(rig.feeds), entriesOf(rig.loops), entriesOf(rig.wires)]).toEqual([
      [],
      [],
      [],
      [],
    ]);
    expect(entriesOf(rig.ports).every((port) => port.carriedBy === null && port.running === null)).toBe(true);
    expect(rig.devices["eight" as DeviceId]?.clock).toEqual({ kind: "follows", linkId: null });
  });
});

describe("digital sockets", () => {
  const plug = (linkId: string, deviceId: string | null): RigEdit => ({
    kind: "links.plug",
    linkId: linkId as LinkId,
    deviceId: deviceId as DeviceId | null,
  });

  it("moved from A to B the expander counts from 25", () => {
    const rig = done(wholeMill, plug("brindle:optical-a", null), plug("brindle:optical-b", "eight"));
    expect(running(rig, "eight")).toEqual([25, 26, 27, 28, 29, 30, 31, 32]);
  });

  it("two sockets carry eight channels at double rates together", () => {
    const rig = done(wholeMill, plug("brindle:optical-b", "eight"));
    const there = rigInputsOf(rig).filter(
      (rigInput) => rigInput.device.id === "eight" && existsAtRate(rig, rigInput, 96000),
    );
    expect(there).toHaveLength(4);
  });

  it("a device is not plugged into itself", () =>
    expect(refusal(wholeMill, plug("brindle:optical-a", "brindle"))).toContain("into itself"));
});

describe("wires and names", () => {
  it("run in ascending order, and stop where something is missing or taken", () => {
    const bare = done(wheelhouseCart, { kind: "rig.strip" });
    const run = { from: "thistle" as DeviceId, fromNumber: 1, to: "brindle" as DeviceId, toNumber: 9, count: 4 };
    const made = wireRun(bare, run);
    if (typeof made === "string") throw new Error(made);
    const rig = done(bare, made);
    expect(entriesOf(rig.wires).map((wire) => wire.toPortId)).toEqual([
      "brindle:in:9",
      "brindle:in:10",
      "brindle:in:11",
      "brindle:in:12",
    ]);
    expect(wireRun(rig, run)).toBe("Input 9 of Brindle 16 has a wire already.");
    expect(wireRun(rig, { ...run, toNumber: 13, count: 5 })).toBe("Thistle Four has no output 5.");
    expect(wireRun(rig, { ...run, count: 0 })).toContain("how many");
  });

  it("a second wire into an input is refused", () => {
    const wire = { id: "w", fromPortId: "oxbow:out:1", toPortId: "brindle:in:9" };
    expect(refusal(wheelhouseCart, { kind: "entries.add", entries: { wires: [wire] } })).toBe(
      "That can't be: two wires lead into input 9 of Brindle 16.",
    );
  });

  it("ports are named in one run, and what goes beyond the last is left", () => {
    const command = nameRun(wheelhouseCart, "brindle:in:15" as PortId, ["Left", "Right", "Nobody"]);
    expect(command).toEqual({
      kind: "ports.name",
      names: [
        { portId: "brindle:in:15", name: "Left" },
        { portId: "brindle:in:16", name: "Right" },
      ],
    });
  });
});

describe("what edits are called, and which are refused", () => {
  it.each([
    [{ kind: "document.rename", name: " Loft " }, "Rename the rig to Loft"],
    [
      { kind: "entries.set", table: "ports", ids: ["brindle:in:7"], set: { gainDb: { min: 0, max: 50 } } },
      "Set the gain range of Brindle 16 input 7",
    ],
    [
      { kind: "entries.set", table: "ports", ids: ["brindle:in:7"], set: { name: "Piano" } },
      "Rename Brindle 16 input 7 to Piano",
    ],
    [
      { kind: "entries.set", table: "devices", ids: ["stair"], set: { clock: { kind: "leads" } } },
      "Set the clock of Stair",
    ],
    [{ kind: "entries.remove", table: "microphones", ids: ["coil-1", "coil-2"] }, "Remove 2 microphones"],
    [{ kind: "entries.remove", table: "devices", ids: ["stair"] }, "Retire Stair"],
    [{ kind: "settings.set", set: { dimDb: -12 } }, "Set the dim"],
    [{ kind: "links.plug", linkId: "brindle:optical-b", deviceId: "eight" }, "Plug Brindle Eight into Optical B"],
    [{ kind: "rig.strip" }, "Empty the rig to its bare devices"],
  ])("%j", (command, name) => expect(nameOf(wholeMill, command)).toBe(name));

  it.each([
    [{ kind: "document.rename", name: " " }, "needs a name"],
    [{ kind: "entries.set", table: "ports", ids: ["nope"], set: { name: "x" } }, "no longer there"],
    [{ kind: "entries.set", table: "ports", ids: ["brindle:in:1"], set: { id: "x" } }, "has no field id"],
    [{ kind: "entries.set", table: "ports", ids: ["brindle:in:1"], set: { levels: [] } }, "does not fit at levels"],
    [
      { kind: "entries.set", table: "ports", ids: ["brindle:in:1"], set: { gainDb: { min: 9, max: 1 } } },
      "ends below its start",
    ],
    [{ kind: "entries.set", table: "nowhere", ids: ["x"], set: { name: "x" } }, "has no nowhere"],
    [{ kind: "entries.add", entries: { microphones: [{ id: "coil-1" }] } }, "already in this rig"],
    [{ kind: "entries.add", entries: { microphones: [{ id: "__proto__" }] } }, "already"],
    [{ kind: "settings.set", set: { schema: 9 } }, "has no field schema"],
    [{ kind: "ports.name", names: [{ portId: "nope", name: "x" }] }, "no longer there"],
  ])("refused: %j", (command, words) => expect(refusal(wholeMill, command)).toContain(words));
});

describe("any run of edits", () => {
  const TABLES = Object.keys(RIG.tables) as readonly RigTable[];
  const chosen = <T>(items: readonly T[], at: number): T | undefined => items[Math.floor(at * items.length)];
  const command = fc.tuple(
    fc.nat(6),
    fc.double({ min: 0, max: 0.999, noNaN: true }),
    fc.double({ min: 0, max: 0.999, noNaN: true }),
  );

  const toCommand = (rig: Rig, [kind, a, b]: readonly [number, number, number]): RigEdit => {
    const table = chosen<RigTable>(TABLES, a) ?? "ports";
    const part = chosen(entriesOf<{ id: string }>(rig[table] as never), b);
    const link = chosen(entriesOf(rig.links), a);
    const device = chosen(entriesOf(rig.devices), b);
    const port = chosen(entriesOf(rig.ports), b);
    const edits: readonly RigEdit[] = [
      { kind: "entries.remove", table, ids: (part ? [part.id] : []) as never },
      {
        kind: "entries.set",
        table: "ports",
        ids: port ? [port.id] : [],
        set: { name: `Port ${Math.round(a * 9)}`, neighbourId: port?.neighbourId ?? null },
      },
      { kind: "links.plug", linkId: link?.id ?? ("none" as LinkId), deviceId: a < 0.3 ? null : (device?.id ?? null) },
      addBlueprint(rig, chosen(BLUEPRINTS, a) ?? blueprintOf("duo")).edits[0] as RigEdit,
      {
        kind: "entries.set",
        table: "devices",
        ids: device ? [device.id] : [],
        set: { clock: a < 0.5 ? { kind: "leads" } : { kind: "follows", linkId: link?.id ?? null } },
      },
      { kind: "ports.name", names: port ? [{ portId: port.id, name: "Named" }] : [] },
      a < 0.1 ? { kind: "rig.strip" } : { kind: "document.rename", name: "Renamed" },
    ];
    return edits[kind] as RigEdit;
  };

  it("keeps the rules, and undone gives back the very rig", () => {
    const { perform, undo } = undoingEdits(rigEditing);
    const drawn = tally();
    fc.assert(
      fc.property(fc.constantFrom(...DEMO_RIGS), fc.array(command, { maxLength: 12 }), (start, picks) => {
        let [rig, history] = [start, EMPTY_HISTORY as Parameters<typeof perform>[1]];
        for (const pick of picks) {
          const step = perform(rig, history, { edits: [toCommand(rig, pick)] });
          if (!drawn.took(step.ok) || !step.ok) continue;
          [rig, history] = [step.doc, step.history];
          expect([brokenRig(rig), rigFaults(rig)]).toEqual([[], []]);
        }
        while (history.past.length) {
          const back = undo(rig, history);
          if (!back.ok) throw new Error(back.refusal.message);
          [rig, history] = [back.doc, back.history];
        }
        expect(rig).toEqual(start);
      }),
      { numRuns: runs(60, 600), seed: 20261125 },
    );
    expect(drawn.share()).toBeGreaterThan(0.5);
  });
});
