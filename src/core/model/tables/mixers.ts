import { choice, closed, type EntryOf, flag, number, partOf, references, YES_NO } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { DeviceId, MixerId, PortId } from "../ids";
import { MOST } from "../limits";
import { list, named } from "../schema-parts";
import type { Device } from "./devices";
import { allGo } from "./ports";

const FIELDS = {
  deviceId: partOf<DeviceId>({ to: "devices", astray: "belongs to no device", brings: true }, { word: "the device" }),
  /** Inputs it can bring to its mixes; empty: every one that reaches the interface. */
  inputIds: references<PortId>(
    { to: "ports", astray: "takes an input that is not there", most: 512 },
    { word: "the inputs" },
  ),
  mixes: number({ min: 1, max: 64, whole: true }, { word: "the mixes" }),
  mixLayout: choice<"mono" | "stereo">(["mono", "stereo"], { word: "the mix layout" }),
  delayMs: number({ min: 0, max: 100 }, { word: "the delay" }),
  /** What it holds, named by kind: "reverb", "compressor". */
  processing: closed<readonly string[]>(
    { schema: list(named(60), 32), initial: [], samples: [[], ["reverb"]] },
    { word: "the processing" },
  ),
  /** Whether that processing is recorded, or only heard. */
  recorded: flag(YES_NO, { word: "what is recorded" }),
};

/** The mixers inside interfaces. Direct monitoring is a path through one. */
export const MIXERS = described({
  one: "mixer",
  many: "mixers",
  most: MOST.parts,
  fields: FIELDS,
  rules: [
    (mixer: InterfaceMixer, around: Around) =>
      allGo(around, mixer.inputIds, "in") ? null : "a mixer takes an input that is not there",
  ],
  called: (mixer: InterfaceMixer, around: Around) =>
    `the mixer of ${(around.entry("devices", mixer.deviceId) as Device | undefined)?.name ?? "a device"}`,
});

export interface InterfaceMixer extends EntryOf<typeof FIELDS> {
  readonly id: MixerId;
}
