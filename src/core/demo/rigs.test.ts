import { describe, expect, it } from "vitest";
import { existsAtRate, findRigInput, hardwareOutputs, rigInputCaption, rigInputsOf } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Port } from "../model/tables/ports";
import { DEMO_RIGS, duoRig, wheelhouseCart, wholeMill } from "./rigs";

const port = (rig: Rig, id: string): Port => {
  const found = rig.ports[id as keyof typeof rig.ports];
  if (!found) throw new Error(`expected the port ${id}, got none`);
  return found;
};

const runningOf = (rig: Rig) => rigInputsOf(rig).map((rigInput) => rigInput.port.running);

describe("the Brindle 16", () => {
  it("takes microphones on 1–8, instruments on 7–8 as well, and line level on 9–16", () => {
    const levels = (number: number) => port(wheelhouseCart, `brindle:in:${number}`).levels.join();
    expect([1, 6, 7, 8, 9, 16].map(levels)).toEqual([
      "microphone,line",
      "microphone,line",
      "microphone,line,instrument",
      "microphone,line,instrument",
      "line",
      "line",
    ]);
  });

  it("has gain from 0 to 62 dB with a pad of 20, and 0 dBFS at +20 dBu", () => {
    expect(port(wheelhouseCart, "brindle:in:3")).toMatchObject({
      gainDb: { min: 0, max: 62 },
      padDb: 20,
      fullScaleDbu: 20,
    });
  });

  it("switches phantom in two banks", () => {
    const bank = (number: number) => port(wheelhouseCart, `brindle:in:${number}`).phantom;
    expect([1, 4, 5, 8].map(bank)).toEqual([
      { kind: "bank", bankId: "brindle:bank:1-4" },
      { kind: "bank", bankId: "brindle:bank:1-4" },
      { kind: "bank", bankId: "brindle:bank:5-8" },
      { kind: "bank", bankId: "brindle:bank:5-8" },
    ]);
    expect(bank(9)).toEqual({ kind: "none" });
  });

  it("has twelve line outputs and three stereo headphone outputs", () => {
    expect(
      hardwareOutputs(wheelhouseCart)
        .map((output) => output.name)
        .slice(12),
    ).toEqual(["Phones 1 L", "Phones 1 R", "Phones 2 L", "Phones 2 R", "Phones 3 L", "Phones 3 R"]);
  });
});

describe("what is wired", () => {
  it("the Thistle to 9–12, the Oxbow to 13–14, the Stair back on 15–16", () => {
    const captions = [9, 12, 13, 14, 15, 16]
      .map((number) => findRigInput(wheelhouseCart, String(number)))
      .map((rigInput) => rigInput && rigInputCaption(rigInput));
    expect(captions).toEqual([
      "line ← Thistle 1",
      "line ← Thistle 4",
      "line ← Oxbow 1",
      "line ← Oxbow 2",
      "line ← Stair",
      "line ← Stair",
    ]);
  });

  it("outputs 11–12 to the loudspeaker of the Stair", () => {
    expect(
      entriesOf(wheelhouseCart.wires)
        .filter((wire) => wire.toPortId.startsWith("stair"))
        .map((wire) => wire.fromPortId),
    ).toEqual(["brindle:out:11", "brindle:out:12"]);
  });

  it("phantom of the Thistle in pairs, of the Oxbow by its own switches", () => {
    expect([9, 10, 11, 13].map((number) => findRigInput(wheelhouseCart, String(number))?.phantom)).toEqual([
      { kind: "bank", bankId: "thistle:bank:1-2" },
      { kind: "bank", bankId: "thistle:bank:1-2" },
      { kind: "bank", bankId: "thistle:bank:3-4" },
      { kind: "own" },
    ]);
  });
});

describe("the three rigs", () => {
  it("the computer counts 1–16 on the cart, 1–24 in the whole mill, 1–2 on the Duo; loop-backs come after the optical sockets", () => {
    const counted = (to: number) => Array.from({ length: to }, (_, n) => n + 1);
    expect([wheelhouseCart, wholeMill, duoRig].map(runningOf)).toEqual([
      [...counted(16), 33, 34],
      [...counted(16), 33, 34, ...counted(24).slice(16)],
      counted(2),
    ]);
  });

  it("a socket has the same id in every rig it stands in", () => {
    for (const rigInput of rigInputsOf(wheelhouseCart)) expect(wholeMill.ports).toHaveProperty([rigInput.port.id]);
  });

  it("every wire, bank, link and neighbour leads to something that is there", () => {
    for (const rig of DEMO_RIGS) {
      for (const { fromPortId, toPortId } of entriesOf(rig.wires))
        expect([rig.ports[fromPortId]?.direction, rig.ports[toPortId]?.direction]).toEqual(["out", "in"]);
      for (const { neighbourId, phantom, carriedBy, deviceId } of entriesOf(rig.ports)) {
        expect(rig.devices).toHaveProperty([deviceId]);
        if (neighbourId) expect(rig.ports).toHaveProperty([neighbourId]);
        if (phantom.kind === "bank") expect(rig.banks).toHaveProperty([phantom.bankId]);
        if (carriedBy) expect(rig.links).toHaveProperty([carriedBy.linkId]);
      }
    }
  });

  it("the Eight has all inputs at single rates, four at double, two at quadruple", () => {
    const there = ([48000, 96000, 192000] as const).map(
      (rate) =>
        rigInputsOf(wholeMill).filter(
          (rigInput) => rigInput.device.id === "eight" && existsAtRate(wholeMill, rigInput, rate),
        ).length,
    );
    expect(there).toEqual([8, 4, 2]);
  });

  it("one switch gives both inputs of the Duo their phantom", () => {
    expect(new Set(rigInputsOf(duoRig).map((rigInput) => JSON.stringify(rigInput.phantom))).size).toBe(1);
  });

  it("the shelf is named by kind, each once, with what it does to be plugged", () => {
    const shelf = entriesOf(wheelhouseCart.microphones);
    expect(new Set(shelf.map((microphone) => microphone.name)).size).toBe(shelf.length);
    expect(
      shelf.filter((microphone) => microphone.phantom === "endangered").map((microphone) => microphone.name),
    ).toEqual(["Passive ribbon pair"]);
  });
});
