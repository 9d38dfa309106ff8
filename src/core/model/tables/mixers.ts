import { choice, closed, type EntryOf, flag, number, partOf, references, YES_NO } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { DeviceId, MixerId, PortId } from "../ids";
import { MOST } from "../limits";
import { list, named } from "../schema-parts";
import type { Device } from "./devices";
import { allGo } from "./ports";

const FIELDS = {
  deviceId: partOf<DeviceId>({ to: "devices", dangling: "belongs to no device", brings: true }, { word: "the device" }),
  /** Inputs it can bring to its mixes; empty: every one that reaches the interface. */
  inputIds: references<PortId>(
    { to: "ports", dangling: "takes an input that is not there", most: 512 },
    { word: "the inputs", cell: { heading: "Inputs it reaches", width: 130, empty: "all" } },
  ),
  mixes: number(
    { min: 1, max: 64, whole: true },
    {
      word: "the mixes",
      cell: { heading: "Mixes", width: 60, ask: "how many mixes it has, from 1 to 64" },
    },
  ),
  mixLayout: choice<"mono" | "stereo">(["mono", "stereo"], {
    word: "the mix layout",
    cell: { heading: "Each", width: 84 },
  }),
  delayMs: number(
    { min: 0, max: 100 },
    { word: "the delay", cell: { heading: "Delay ms", width: 76, ask: "a delay from 0 to 100 ms" } },
  ),
  /** What it holds, named by kind: "reverb", "compressor". */
  processing: closed<readonly string[]>(
    { schema: list(named(60), 32), initial: [], samples: [[], ["reverb"]] },
    { word: "the processing", cell: { heading: "Processing", empty: "none" } },
  ),
  /** Whether that processing is recorded, or only heard. */
  recorded: flag(YES_NO, { word: "what is recorded", cell: { heading: "Which is", width: 110 } }),
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
