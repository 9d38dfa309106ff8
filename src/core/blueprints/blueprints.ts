import type { DeviceId, MidiPortId, MixerId } from "../model/ids";
import type { Device, DeviceKind } from "../model/tables/devices";
import type { MidiPort } from "../model/tables/midi-ports";
import type { Port } from "../model/tables/ports";
import { type Bundle, bank, link, ports, timing } from "./kit";

interface Seat {
  readonly id: string;
  readonly shortName: string;
  readonly name?: string;
}

/** A device as its invented maker builds it, to be put into a rig. */
export interface Blueprint {
  readonly id: string;
  readonly kind: DeviceKind;
  readonly name: string;
  readonly shortName: string;
  readonly says: string;
  readonly make: (seat: Seat) => Bundle;
}

const BUFFERS = [32, 64, 128, 256, 512, 1024];

const deviceOf = (
  kind: DeviceKind,
  name: string,
  seat: Seat,
  clock: Device["clock"],
): readonly [Omit<Device, "order">] => [
  { id: seat.id as DeviceId, kind, name: seat.name ?? name, shortName: seat.shortName, clock },
];

const midi = (device: string, direction: "in" | "out"): MidiPort => ({
  id: `${device}:midi-${direction}:1` as MidiPortId,
  deviceId: device as DeviceId,
  direction,
  number: 1,
  usage: "nothing",
  name: "",
  returnPortIds: [],
});

const microphoneInput = {
  connector: "xlr",
  levels: ["microphone", "line"],
  padDb: 20,
  gainDb: [0, 62],
  fullScaleDbu: 20,
  maxInputDbu: 20,
} as const;
/** What full scale of the gear of the house is in dBu. */
const HOUSE_DBU = 20;

const brindle16: Blueprint = {
  id: "brindle",
  kind: "interface",
  name: "Brindle 16",
  shortName: "",
  says: "Interface: 8 microphone and 8 line inputs, 12 outputs, 3 headphones, two optical pairs, word clock, its own mixer.",
  make: (seat) => {
    const device = seat.id;
    return {
      devices: deviceOf("interface", "Brindle 16", seat, { kind: "leads" }),
      ports: [
        ...ports({ device, direction: "in", from: 1, to: 4, ...microphoneInput, phantom: { bank: "1-4" } }),
        ...ports({ device, direction: "in", from: 5, to: 6, ...microphoneInput, phantom: { bank: "5-8" } }),
        ...ports({
          device,
          direction: "in",
          from: 7,
          to: 8,
          ...microphoneInput,
          connector: "combo",
          levels: ["microphone", "line", "instrument"],
          phantom: { bank: "5-8" },
        }),
        ...ports({ device, direction: "in", from: 9, to: 16, connector: "jack", levels: ["line"], fullScaleDbu: 20 }),
        ...ports({
          device,
          direction: "in",
          from: 1,
          to: 2,
          connector: "none",
          levels: ["line"],
          role: "loop-back",
          fullScaleDbu: HOUSE_DBU,
          names: (n) => `Loop-back ${n % 2 ? "L" : "R"}`,
        }),
        ...ports({ device, direction: "out", from: 1, to: 12, connector: "jack", levels: ["line"], fullScaleDbu: 20 }),
        ...ports({
          device,
          direction: "out",
          from: 13,
          to: 18,
          connector: "jack",
          levels: ["line"],
          role: "headphones",
          fullScaleDbu: 20,
          names: (n) => `Phones ${Math.floor((n - 11) / 2)} ${n % 2 ? "L" : "R"}`,
        }),
      ],
      banks: [bank(device, "1-4", "1–4"), bank(device, "5-8", "5–8")],
      links: [
        link(device, ["optical-a", "Optical A", "optical", 8]),
        link(device, ["optical-b", "Optical B", "optical", 8]),
        link(device, ["word-clock", "Word clock", "word-clock", 0]),
      ],
      timing: [timing(device, { adc: 0.3, dac: 0.32, margin: 16, buffers: BUFFERS })],
      mixers: [
        {
          id: `${device}:mixer` as MixerId,
          deviceId: device as DeviceId,
          inputIds: [],
          mixes: 6,
          mixLayout: "stereo",
          delayMs: 0.9,
          processing: ["reverb"],
          recorded: false,
        },
      ],
      midiPorts: [midi(device, "in"), midi(device, "out")],
    };
  },
};

const brindleEight: Blueprint = {
  id: "eight",
  kind: "expander",
  name: "Brindle Eight",
  shortName: "E",
  says: "Expander: 8 microphone inputs with their own phantom switches, one optical pair.",
  make: (seat) => ({
    devices: deviceOf("expander", "Brindle Eight", seat, { kind: "follows", linkId: null }),
    ports: ports({
      device: seat.id,
      direction: "in",
      from: 1,
      to: 8,
      connector: "xlr",
      levels: ["microphone"],
      phantom: "own",
      gainDb: [6, 60],
      fullScaleDbu: HOUSE_DBU,
      maxInputDbu: 14,
    }),
    timing: [timing(seat.id, { adc: 0.3, dac: null })],
  }),
};

const thistleFour: Blueprint = {
  id: "thistle",
  kind: "preamp",
  name: "Thistle Four",
  shortName: "T",
  says: "Outside preamp: 4 channels, phantom in pairs.",
  make: (seat) => {
    const device = seat.id;
    const short = (seat.name ?? "Thistle").split(" ")[0];
    return {
      devices: deviceOf("preamp", "Thistle Four", seat, { kind: "none" }),
      ports: [
        ...ports({
          device,
          direction: "in",
          from: 1,
          to: 2,
          connector: "xlr",
          levels: ["microphone"],
          phantom: { bank: "1-2" },
          gainDb: [12, 66],
          fullScaleDbu: HOUSE_DBU,
          maxInputDbu: 12,
        }),
        ...ports({
          device,
          direction: "in",
          from: 3,
          to: 4,
          connector: "xlr",
          levels: ["microphone"],
          phantom: { bank: "3-4" },
          gainDb: [12, 66],
          fullScaleDbu: HOUSE_DBU,
          maxInputDbu: 12,
        }),
        ...ports({
          device,
          direction: "out",
          from: 1,
          to: 4,
          connector: "jack",
          levels: ["line"],
          fullScaleDbu: HOUSE_DBU,
        }),
      ],
      banks: [bank(device, "1-2", `${short} 1–2`), bank(device, "3-4", `${short} 3–4`)],
    };
  },
};

const oxbowPair: Blueprint = {
  id: "oxbow",
  kind: "preamp",
  name: "Oxbow Pair",
  shortName: "O",
  says: "Outside preamp: 2 channels, valve, own phantom switches.",
  make: (seat) => ({
    devices: deviceOf("preamp", "Oxbow Pair", seat, { kind: "none" }),
    ports: [
      ...ports({
        device: seat.id,
        direction: "in",
        from: 1,
        to: 2,
        connector: "xlr",
        levels: ["microphone"],
        phantom: "own",
        gainDb: [20, 60],
        fullScaleDbu: HOUSE_DBU,
        maxInputDbu: 6,
      }),
      ...ports({
        device: seat.id,
        direction: "out",
        from: 1,
        to: 2,
        connector: "jack",
        levels: ["line"],
        fullScaleDbu: HOUSE_DBU,
      }),
    ],
  }),
};

const duo: Blueprint = {
  id: "duo",
  kind: "interface",
  name: "Duo",
  shortName: "",
  says: "Pocket interface: 2 inputs for everything, one phantom switch for both, 2 outputs, headphones.",
  make: (seat) => {
    const device = seat.id;
    return {
      devices: deviceOf("interface", "Duo", seat, { kind: "leads" }),
      ports: [
        ...ports({
          device,
          direction: "in",
          from: 1,
          to: 2,
          connector: "combo",
          levels: ["microphone", "line", "instrument"],
          phantom: { bank: "1-2" },
          gainDb: [0, 56],
          fullScaleDbu: 14,
          maxInputDbu: 14,
        }),
        ...ports({ device, direction: "out", from: 1, to: 2, connector: "jack", levels: ["line"], fullScaleDbu: 14 }),
        ...ports({
          device,
          direction: "out",
          from: 3,
          to: 4,
          connector: "jack",
          levels: ["line"],
          role: "headphones",
          fullScaleDbu: 14,
          names: (n) => `Phones ${n % 2 ? "L" : "R"}`,
        }),
      ],
      banks: [bank(device, "1-2", "1–2")],
      timing: [timing(device, { adc: 0.45, dac: 0.5, margin: 32, buffers: BUFFERS.slice(1) })],
    };
  },
};

const chamber: Blueprint = {
  id: "chamber",
  kind: "outboard",
  name: "Echo chamber",
  shortName: "S",
  says: "A room with a loudspeaker and two microphones, out and back at line level.",
  make: (seat) => ({
    devices: deviceOf("outboard", "Echo chamber", seat, { kind: "none" }),
    ports: [
      ...ports({
        device: seat.id,
        direction: "in",
        from: 1,
        to: 2,
        connector: "jack",
        levels: ["line"],
        fullScaleDbu: HOUSE_DBU,
      }),
      ...ports({
        device: seat.id,
        direction: "out",
        from: 1,
        to: 2,
        connector: "jack",
        levels: ["line"],
        fullScaleDbu: HOUSE_DBU,
      }),
    ],
  }),
};

const lanternFour: Blueprint = {
  id: "lantern",
  kind: "headphone-amplifier",
  name: "Lantern Four",
  shortName: "L",
  says: "Headphone amplifier: four stereo inputs, each to a pair of headphones.",
  make: (seat) => ({
    devices: deviceOf("headphone-amplifier", "Lantern Four", seat, { kind: "none" }),
    ports: [
      ...ports({
        device: seat.id,
        direction: "in",
        from: 1,
        to: 8,
        connector: "jack",
        levels: ["line"],
        fullScaleDbu: HOUSE_DBU,
      }),
      ...ports({
        device: seat.id,
        direction: "out",
        from: 1,
        to: 8,
        connector: "jack",
        levels: ["line"],
        role: "headphones",
        fullScaleDbu: HOUSE_DBU,
      }),
    ],
  }),
};

export const BLUEPRINTS: readonly Blueprint[] = [
  brindle16,
  brindleEight,
  duo,
  thistleFour,
  oxbowPair,
  lanternFour,
  chamber,
];

export const blueprintOf = (id: string): Blueprint => {
  const found = BLUEPRINTS.find((blueprint) => blueprint.id === id);
  if (!found) throw new Error(`expected a blueprint, got ${id}`);
  return found;
};

export interface BareDevice {
  readonly kind: DeviceKind;
  readonly name: string;
  readonly inputs: number;
  readonly outputs: number;
  readonly inputLevels: Port["levels"];
  readonly phantom: "none" | "own" | "bank";
}

/** Full scale of a device of which nothing is known, in dBu: it can be set afterwards. */
const USUAL_DBU = 18;

/** A device from scratch: so many like inputs and outputs; everything about them can be set afterwards. */
export const bareDevice = ({ kind, name, inputs, outputs, inputLevels, phantom }: BareDevice, seat: Seat): Bundle => {
  const device = seat.id;
  const isMicrophone = inputLevels.includes("microphone");
  const digital = kind === "interface" || kind === "expander";
  const supply =
    phantom === "none" || !isMicrophone ? {} : { phantom: phantom === "own" ? ("own" as const) : { bank: "all" } };
  return {
    devices: deviceOf(
      kind,
      name,
      { ...seat, name },
      kind === "interface"
        ? { kind: "leads" }
        : kind === "expander"
          ? { kind: "follows", linkId: null }
          : { kind: "none" },
    ),
    ports: [
      ...(inputs
        ? ports({
            device,
            direction: "in",
            from: 1,
            to: inputs,
            connector: isMicrophone ? "xlr" : "jack",
            levels: inputLevels,
            fullScaleDbu: USUAL_DBU,
            ...supply,
          })
        : []),
      ...(outputs
        ? ports({
            device,
            direction: "out",
            from: 1,
            to: outputs,
            connector: "jack",
            levels: ["line"],
            fullScaleDbu: USUAL_DBU,
          })
        : []),
    ],
    ...("phantom" in supply && supply.phantom !== "own" ? { banks: [bank(device, "all", `${name} 1–${inputs}`)] } : {}),
    ...(digital
      ? {
          timing: [
            timing(device, {
              adc: 0.5,
              dac: kind === "interface" ? 0.5 : null,
              ...(kind === "interface" ? { margin: 32, buffers: BUFFERS.slice(1) } : {}),
            }),
          ],
        }
      : {}),
  };
};
