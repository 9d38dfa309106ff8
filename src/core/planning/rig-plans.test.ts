import { describe, expect, it } from "vitest";
import { blueprintOf } from "../blueprints/blueprints";
import { brokenRig } from "../commands/rig-engine";
import { wheelhouseCart, wholeMill } from "../demo/rigs";
import type { DeviceId } from "../model/ids";
import { devicesOf, findRigInput, rigInputsOf } from "../model/read-rig";
import { emptyRig, type Rig } from "../model/rig";
import type { RigEdit } from "./edits/rig-editing";
import { rigEditing } from "./edits/rig-editing";
import { addBare, addBlueprint, addPort, stepDevice } from "./rig-plans";

const done = (rig: Rig, ...edits: readonly RigEdit[]): Rig => {
  const applied = rigEditing.applyAll(rig, edits);
  if (!applied.ok) throw new Error(applied.refusal.message);
  expect(brokenRig(applied.doc)).toEqual([]);
  return applied.doc;
};
const eight = "eight" as DeviceId;

describe("a port more", () => {
  it("is like the last of its direction, with the next number and a place in the count", () => {
    const rig = done(wheelhouseCart, addPort(wheelhouseCart, "brindle" as DeviceId, "in"));
    expect(rig.ports["brindle:in:17" as never]).toMatchObject({
      number: 17,
      levels: ["line"],
      name: "",
      neighbourId: null,
      running: 17,
    });
    expect(rigInputsOf(rig).find((rigInput) => rigInput.label === "LB1")?.port.running).toBe(34);
  });

  it("of a device that has none is a plain one", () => {
    const bare = done(
      emptyRig("r" as never, "R"),
      ...addBare(emptyRig("r" as never, "R"), {
        kind: "outboard",
        name: "Box",
        inputs: 0,
        outputs: 1,
        inputLevels: ["line"],
        phantom: "none",
      }).edits,
    );
    expect(done(bare, addPort(bare, "box" as DeviceId, "in")).ports["box:in:1" as never]).toMatchObject({
      connector: "jack",
      levels: ["line"],
      phantom: { kind: "none" },
    });
  });
});

describe("the place of a device in the rack", () => {
  const order = (rig: Rig) => devicesOf(rig).map((device) => device.id);

  it("changes with its neighbour, up and down, and not beyond the ends", () => {
    const up = stepDevice(wholeMill, eight, -1);
    expect(up && order(done(wholeMill, ...up)).slice(0, 2)).toEqual(["eight", "brindle"]);
    const down = stepDevice(wholeMill, eight, 1);
    expect(down && order(done(wholeMill, ...down)).slice(0, 3)).toEqual(["brindle", "thistle", "eight"]);
    expect([stepDevice(wholeMill, "brindle" as DeviceId, -1), stepDevice(wholeMill, "stair" as DeviceId, 1)]).toEqual([
      null,
      null,
    ]);
  });

  it("of two interfaces decides which is counted first", () => {
    const two = done(wheelhouseCart, ...addBlueprint(wheelhouseCart, blueprintOf("duo")).edits);
    let rig = two;
    for (let step = stepDevice(rig, "duo" as DeviceId, -1); step; step = stepDevice(rig, "duo" as DeviceId, -1))
      rig = done(rig, ...step);
    expect(order(rig)[0]).toBe("duo");
    expect([rig.ports["duo:in:1" as never], rig.ports["brindle:in:1" as never]]).toMatchObject([
      { running: 1 },
      { running: 3 },
    ]);
  });
});

describe("the words by which an input is meant", () => {
  it.each([
    ["7", "brindle:in:7"],
    ["17", "eight:in:1"],
    ["e3", "eight:in:3"],
    ["E 3", "eight:in:3"],
    ["LB2", "brindle:loop:2"],
    ["Brindle Eight 4", "eight:in:4"],
    ["brindle 5", "brindle:in:5"],
    ["Thistle 2", "brindle:in:10"],
    ["O1", "brindle:in:13"],
    ["A8", "eight:in:8"],
    ["Optical A 8", "eight:in:8"],
    ["99", undefined],
    ["Q1", undefined],
    ["", undefined],
    ["constructor", undefined],
  ])("%j", (word, portId) => expect(findRigInput(wholeMill, word)?.port.id).toBe(portId));
});
