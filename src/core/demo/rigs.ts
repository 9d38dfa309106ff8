import type { DeviceId, LinkId } from "../model/ids";
import type { Rig } from "../model/rig";
import { assemble, type Bundle, bank, device, microphone, ports, wires } from "./rig-kit";

const brindle: Bundle = {
  device: device("brindle", "interface", ["Brindle 16", "", 0]),
  ports: [
    ...ports({
      device: "brindle",
      direction: "in",
      from: 1,
      to: 4,
      connector: "xlr",
      levels: ["microphone", "line"],
      phantom: { bank: "1-4" },
      padDb: 20,
      gainDb: [0, 62],
      fullScaleDbu: 20,
      running: 1,
    }),
    ...ports({
      device: "brindle",
      direction: "in",
      from: 5,
      to: 6,
      connector: "xlr",
      levels: ["microphone", "line"],
      phantom: { bank: "5-8" },
      padDb: 20,
      gainDb: [0, 62],
      fullScaleDbu: 20,
      running: 5,
    }),
    ...ports({
      device: "brindle",
      direction: "in",
      from: 7,
      to: 8,
      connector: "combo",
      levels: ["microphone", "line", "instrument"],
      phantom: { bank: "5-8" },
      padDb: 20,
      gainDb: [0, 62],
      fullScaleDbu: 20,
      running: 7,
    }),
    ...ports({ device: "brindle", direction: "in", from: 9, to: 16, connector: "jack", levels: ["line"], fullScaleDbu: 20, running: 9 }),
    ...ports({ device: "brindle", direction: "out", from: 1, to: 12, connector: "jack", levels: ["line"], fullScaleDbu: 20, running: 1 }),
    ...ports({
      device: "brindle",
      direction: "out",
      from: 13,
      to: 18,
      connector: "jack",
      levels: ["line"],
      fullScaleDbu: 20,
      running: 13,
      names: (n) => `Phones ${Math.floor((n - 11) / 2)} ${n % 2 ? "L" : "R"}`,
    }),
  ],
  banks: [bank("brindle", "1-4", "1–4"), bank("brindle", "5-8", "5–8")],
  links: [],
  timing: [{ deviceId: "brindle" as DeviceId, adcMs: 0.3, dacMs: 0.32, marginInSamples: 16, marginOutSamples: 16, bufferSizesSamples: [32, 64, 128, 256, 512, 1024] }],
};

const opticalA = "brindle:optical-a" as LinkId;

const eight: Bundle = {
  device: device("eight", "expander", ["Brindle Eight", "E", 1]),
  ports: ports({ device: "eight", direction: "in", from: 1, to: 8, connector: "xlr", levels: ["microphone"], phantom: "own", gainDb: [6, 60], running: 17, link: opticalA }),
  banks: [],
  links: [
    { id: opticalA, name: "Optical A", kind: "optical", fromDeviceId: "eight" as DeviceId, toDeviceId: "brindle" as DeviceId, channels: { single: 8, double: 4, quadruple: 2 } },
  ],
  timing: [{ deviceId: "eight" as DeviceId, adcMs: 0.3, dacMs: null, marginInSamples: 0, marginOutSamples: 0, bufferSizesSamples: [] }],
};

const thistle: Bundle = {
  device: device("thistle", "preamp", ["Thistle Four", "T", 2]),
  ports: [
    ...ports({ device: "thistle", direction: "in", from: 1, to: 2, connector: "xlr", levels: ["microphone"], phantom: { bank: "1-2" }, gainDb: [12, 66] }),
    ...ports({ device: "thistle", direction: "in", from: 3, to: 4, connector: "xlr", levels: ["microphone"], phantom: { bank: "3-4" }, gainDb: [12, 66] }),
    ...ports({ device: "thistle", direction: "out", from: 1, to: 4, connector: "jack", levels: ["line"] }),
  ],
  banks: [bank("thistle", "1-2", "Thistle 1–2"), bank("thistle", "3-4", "Thistle 3–4")],
  links: [],
  timing: [],
};

const oxbow: Bundle = {
  device: device("oxbow", "preamp", ["Oxbow Pair", "O", 3]),
  ports: [
    ...ports({ device: "oxbow", direction: "in", from: 1, to: 2, connector: "xlr", levels: ["microphone"], phantom: "own", gainDb: [20, 60] }),
    ...ports({ device: "oxbow", direction: "out", from: 1, to: 2, connector: "jack", levels: ["line"] }),
  ],
  banks: [],
  links: [],
  timing: [],
};

const stair: Bundle = {
  device: device("stair", "outboard", ["Stair", "S", 4]),
  ports: [
    ...ports({ device: "stair", direction: "in", from: 1, to: 2, connector: "jack", levels: ["line"] }),
    ...ports({ device: "stair", direction: "out", from: 1, to: 2, connector: "jack", levels: ["line"] }),
  ],
  banks: [],
  links: [],
  timing: [],
};

const duo: Bundle = {
  device: device("duo", "interface", ["Duo", "", 0]),
  ports: [
    ...ports({
      device: "duo",
      direction: "in",
      from: 1,
      to: 2,
      connector: "combo",
      levels: ["microphone", "line", "instrument"],
      phantom: { bank: "1-2" },
      gainDb: [0, 56],
      fullScaleDbu: 14,
      running: 1,
    }),
    ...ports({ device: "duo", direction: "out", from: 1, to: 2, connector: "jack", levels: ["line"], fullScaleDbu: 14, running: 1 }),
    ...ports({ device: "duo", direction: "out", from: 3, to: 4, connector: "jack", levels: ["line"], fullScaleDbu: 14, running: 3, names: (n) => `Phones ${n % 2 ? "L" : "R"}` }),
  ],
  banks: [bank("duo", "1-2", "1–2")],
  links: [],
  timing: [{ deviceId: "duo" as DeviceId, adcMs: 0.45, dacMs: 0.5, marginInSamples: 32, marginOutSamples: 32, bufferSizesSamples: [64, 128, 256, 512, 1024] }],
};

/** The shelf of Mossgate Mill; named by kind, never by maker. */
const SHELF = [
  microphone("large-a", "condenser", ["Large condenser A", 20, 1]),
  microphone("large-b", "condenser", ["Large condenser B", 20, 1]),
  microphone("small-pair", "condenser", ["Small condenser pair", 12, 2]),
  microphone("ribbon-pair", "ribbon-passive", ["Passive ribbon pair", 1.6, 2]),
  microphone("ribbon-active", "ribbon-active", ["Active ribbon", 9, 1]),
  ...[1, 2, 3, 4, 5, 6].map((n) => microphone(`coil-${n}`, "moving-coil", [`Moving-coil ${n}`, 1.8, 1])),
  microphone("coil-low", "moving-coil", ["Low moving-coil", 1.2, 1]),
  microphone("boundary", "condenser", ["Boundary condenser", 14, 1]),
  microphone("clip-1", "condenser", ["Clip-on condenser 1", 6, 1]),
  microphone("clip-2", "condenser", ["Clip-on condenser 2", 6, 1]),
  microphone("di-1", "di-passive", ["DI box passive 1", null, 1]),
  microphone("di-2", "di-passive", ["DI box passive 2", null, 1]),
  microphone("di-active", "di-active", ["DI box active", null, 1]),
];

const cartWires = [
  ...wires(["thistle", 1], ["brindle", 9], 4),
  ...wires(["oxbow", 1], ["brindle", 13], 2),
  ...wires(["brindle", 11], ["stair", 1], 2),
  ...wires(["stair", 1], ["brindle", 15], 2),
];

export const wheelhouseCart: Rig = assemble({ id: "wheelhouse-cart", name: "Wheelhouse cart", bundles: [brindle, thistle, oxbow, stair], wires: cartWires, shelf: SHELF });
export const wholeMill: Rig = assemble({ id: "whole-mill", name: "Whole mill", bundles: [brindle, eight, thistle, oxbow, stair], wires: cartWires, shelf: SHELF });
export const duoRig: Rig = assemble({ id: "duo", name: "Duo", bundles: [duo], wires: [], shelf: SHELF });

export const DEMO_RIGS: readonly Rig[] = [wheelhouseCart, wholeMill, duoRig];
