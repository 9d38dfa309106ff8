import { blueprintOf } from "../blueprints/blueprints";
import { type Bundle, feed, loop, microphone, portId, wires } from "../blueprints/kit";
import type { DeviceId, LinkId, PortId, ProcessorId, RigId } from "../model/ids";
import { emptyRig, type Rig } from "../model/rig";
import type { RigEdit } from "../planning/edits/rig-editing";
import { rigEditing } from "../planning/edits/rig-editing";

/** The shelf of Mossgate Mill; named by kind, never by maker. */
const SHELF = [
  microphone("large-a", "condenser", ["Large condenser A", 20, 1, 134]),
  microphone("large-b", "condenser", ["Large condenser B", 20, 1, 134]),
  microphone("small-pair", "condenser", ["Small condenser pair", 12, 2, 138]),
  microphone("ribbon-pair", "ribbon-passive", ["Passive ribbon pair", 1.6, 2, 135]),
  microphone("ribbon-active", "ribbon-active", ["Active ribbon", 9, 1, 130]),
  ...[1, 2, 3, 4, 5, 6].map((n) => microphone(`coil-${n}`, "moving-coil", [`Moving-coil ${n}`, 1.8, 1])),
  microphone("coil-low", "moving-coil", ["Low moving-coil", 1.2, 1]),
  microphone("boundary", "condenser", ["Boundary condenser", 14, 1, 136]),
  microphone("clip-1", "condenser", ["Clip-on condenser 1", 6, 1, 142]),
  microphone("clip-2", "condenser", ["Clip-on condenser 2", 6, 1, 142]),
  microphone("di-1", "di-passive", ["DI box passive 1", null, 1]),
  microphone("di-2", "di-passive", ["DI box passive 2", null, 1]),
  microphone("di-active", "di-active", ["DI box active", null, 1]),
];

const PROCESSORS = [
  { id: "plain-chain" as ProcessorId, name: "Plain channel", version: "2.1", kind: "equaliser and compressor" },
  { id: "mill-plate" as ProcessorId, name: "Mill plate", version: "1.4", kind: "reverb" },
  { id: "house-de-esser" as ProcessorId, name: "House de-esser", version: "1.2", kind: "de-esser" },
  { id: "long-echo" as ProcessorId, name: "Long echo", version: "1.0", kind: "delay" },
];

const outs = (device: string, ...numbers: readonly number[]): PortId[] =>
  numbers.map((number) => portId(device, "out", number));
const ins = (device: string, ...numbers: readonly number[]): PortId[] =>
  numbers.map((number) => portId(device, "in", number));

const seat = (id: string): Bundle => blueprintOf(id).make({ id, shortName: blueprintOf(id).shortName });
const stair = blueprintOf("chamber").make({ id: "stair", shortName: "S", name: "Stair" });

const add = (parts: object, before: string | null = null): RigEdit => ({
  kind: "entries.add",
  entries: parts as never,
  before,
});

/** Puts a rig together by the edits an engineer would make. Throws when one is refused: the rigs here are ours. */
const built = (id: string, name: string, edits: readonly RigEdit[]): Rig => {
  const made = rigEditing.applyAll(emptyRig(id as RigId, name), edits);
  if (!made.ok) throw new Error(`expected the rig ${name} to build, got: ${made.refusal.message}`);
  return made.doc;
};

const shelf = add({ microphones: SHELF, processors: PROCESSORS });

const MILL: readonly RigEdit[] = [
  add({
    wires: [
      ...wires(["thistle", 1], ["brindle", 9], 4),
      ...wires(["oxbow", 1], ["brindle", 13], 2),
      ...wires(["brindle", 11], ["stair", 1], 2),
      ...wires(["stair", 1], ["brindle", 15], 2),
    ],
    loops: [loop("stair-loop", "Stair", outs("brindle", 11, 12), ins("brindle", 15, 16))],
    feeds: [
      feed("office", "monitors", ["Office monitors", "Office"], outs("brindle", 1, 2)),
      ...[0, 1, 2, 3].map((n) =>
        feed(`headphones-${n + 1}`, "headphones", [`Headphones ${n + 1}`, ""], outs("brindle", 3 + 2 * n, 4 + 2 * n)),
      ),
      feed("stair-speaker", "room-loudspeaker", ["Stair loudspeaker", "Stair"], outs("brindle", 11, 12)),
    ],
  }),
  shelf,
];

const cart = [seat("brindle"), seat("thistle"), seat("oxbow"), stair].map((bundle) => add(bundle));

export const wheelhouseCart: Rig = built("wheelhouse-cart", "Wheelhouse cart", [...cart, ...MILL]);
export const wholeMill: Rig = built("whole-mill", "Whole mill", [
  ...cart,
  add(seat("eight"), "thistle"),
  { kind: "links.plug", linkId: "brindle:optical-a" as LinkId, deviceId: "eight" as DeviceId },
  ...MILL,
]);
export const duoRig: Rig = built("duo", "Duo", [
  add(seat("duo")),
  add({
    feeds: [
      feed("duo-monitors", "monitors", ["Monitors", ""], outs("duo", 1, 2)),
      feed("duo-headphones", "headphones", ["Headphones", "Nadia Okonjo-Reyes"], outs("duo", 3, 4)),
    ],
  }),
  shelf,
]);

export const DEMO_RIGS: readonly Rig[] = [wheelhouseCart, wholeMill, duoRig];
