import { describe, expect, it } from "vitest";
import { wheelhouseCart, wholeMill } from "../demo/rigs";
import type { DeviceId, PortId } from "../model/ids";
import {
  byRateText,
  portsText,
  readByRate,
  readLevels,
  readNumber,
  readPorts,
  readRange,
  readSizes,
} from "../reading/rig-cells";
import { deviceUses, linesOnDevice, rackView } from "./rack";

const brindle = "brindle" as DeviceId;

describe("the rack", () => {
  const [first, second] = rackView(wholeMill);

  it("shows devices as they sit, with what each port is joined to", () => {
    expect(rackView(wholeMill).map((entry) => entry.device.name)).toEqual([
      "Brindle 16",
      "Brindle Eight",
      "Thistle Four",
      "Oxbow Pair",
      "Stair",
    ]);
    expect([
      first?.inputs[8]?.joined,
      first?.inputs[14]?.joined,
      first?.outputs[0]?.joined,
      first?.outputs[10]?.joined,
    ]).toEqual([
      "← Thistle Four 1",
      "← Stair 1; return Stair",
      "Office monitors (Office)",
      "→ Stair 1; Stair loudspeaker (Stair); send Stair",
    ]);
  });

  it("says in words how each is clocked and what its sockets carry", () => {
    expect([first?.clock, second?.clock]).toEqual(["leads the clock", "follows through Optical A"]);
    expect(first?.links.map((entry) => [entry.link.name, entry.device?.name ?? null, entry.carries])).toEqual([
      ["Optical A", "Brindle Eight", "8 channels, 4 from 88.2 kHz, 2 from 176.4 kHz"],
      ["Optical B", null, "8 channels, 4 from 88.2 kHz, 2 from 176.4 kHz"],
      ["Word clock", null, "clock only"],
    ]);
  });

  it("counts the lines that stand on a device, also through a preamp's wires", () => {
    const templates = [
      {
        name: "A",
        lines: [{ portId: "brindle:in:9" as PortId }, { portId: "brindle:in:1" as PortId }, { portId: null }],
      },
    ];
    expect(linesOnDevice(wheelhouseCart, "thistle" as DeviceId, templates).map(({ count }) => count)).toEqual([1]);
    expect(linesOnDevice(wheelhouseCart, brindle, templates).map(({ count }) => count)).toEqual([2]);
    expect(linesOnDevice(wheelhouseCart, "oxbow" as DeviceId, templates)).toEqual([]);
  });

  it("tells what a retired device takes along", () => {
    expect(deviceUses(wholeMill, brindle)).toEqual(
      expect.arrayContaining([
        "10 wires are taken out.",
        "Office monitors loses its outputs.",
        "The send and return Stair goes.",
        "Brindle Eight is unplugged from Optical A.",
        "Brindle Eight loses its clock.",
        "It leads the clock: another device must.",
      ]),
    );
    expect(deviceUses(wholeMill, "eight" as DeviceId)).toEqual([]);
  });
});

describe("cells of the rig", () => {
  it.each([
    ["0 to 62", { min: 0, max: 62 }],
    ["−12…40 dB", { min: -12, max: 40 }],
    ["6-60", { min: 6, max: 60 }],
    ["9 to 1", null],
    ["loud", null],
  ])("a gain range %j", (text, expected) => expect(readRange(text)).toEqual(expected));

  it.each([
    ["16", { single: 16, double: 16, quadruple: 16 }],
    ["16/20", { single: 16, double: 20, quadruple: 20 }],
    ["8/4/2", { single: 8, double: 4, quadruple: 2 }],
    ["8/4/2/1", null],
    ["8/x", null],
    ["", null],
  ])("figures by rate %j", (text, expected) => {
    expect(readByRate(text, { min: 0, max: 100, whole: true })).toEqual(expected);
    if (expected) expect(readByRate(byRateText(expected), { min: 0, max: 100 })).toEqual(expected);
  });

  it("numbers, sizes and levels", () => {
    expect([
      readNumber("−3,5 dB", { min: -10, max: 0 }),
      readNumber("", { min: 0, max: 1 }),
      readNumber("1.5", { min: 0, max: 9, whole: true }),
    ]).toEqual([-3.5, null, null]);
    expect([readSizes("256, 64 64"), readSizes("soon"), readSizes("")]).toEqual([[64, 256], null, []]);
    expect([readLevels("line and mic"), readLevels("instrument"), readLevels("loud"), readLevels("")]).toEqual([
      ["microphone", "line"],
      ["instrument"],
      null,
      null,
    ]);
  });

  it("ports by their labels, and back", () => {
    expect(readPorts(wholeMill, "3-4, 7", "out")).toEqual({
      ok: true,
      portIds: ["brindle:out:3", "brindle:out:4", "brindle:out:7"],
    });
    expect(readPorts(wholeMill, "E1-E2", "in")).toEqual({ ok: true, portIds: ["eight:in:1", "eight:in:2"] });
    expect(readPorts(wholeMill, "99", "out")).toEqual({ ok: false, missing: "99" });
    expect(portsText(wholeMill, ["brindle:out:3", "brindle:out:4", "brindle:out:7", "eight:in:2"] as PortId[])).toBe(
      "3-4, 7, E2",
    );
  });
});
