import { choice, closed, type EntryOf, name, number, numberOrNull } from "../describe/fields";
import { described } from "../describe/table";
import type { MicrophoneId } from "../ids";
import { MOST } from "../limits";
import {
  MICROPHONE_KIND_NAMES,
  MICROPHONE_KINDS,
  type MicrophoneKind,
  PHANTOM_ATTITUDE_NAMES,
  PHANTOM_ATTITUDES,
  type PhantomAttitude,
} from "../microphone-kinds";
import { list, named } from "../schema-parts";

const FIELDS = {
  name: name(200, { word: "the name", cell: { heading: "Microphone or box" } }),
  kind: choice<MicrophoneKind>(MICROPHONE_KINDS, {
    word: "the kind",
    cell: { heading: "Kind", width: 130, names: (kind: MicrophoneKind) => MICROPHONE_KIND_NAMES[kind] },
  }),
  phantom: choice<PhantomAttitude>(PHANTOM_ATTITUDES, {
    word: "phantom",
    cell: { heading: "Phantom", width: 130, names: (attitude: PhantomAttitude) => PHANTOM_ATTITUDE_NAMES[attitude] },
  }),
  sensitivityMvPerPa: numberOrNull(
    { min: 0.001, max: 1000 },
    {
      word: "the sensitivity",
      cell: { heading: "mV/Pa", width: 70, ask: "the sensitivity in mV/Pa, from 0.001 to 1000" },
    },
  ),
  /** The loudest that it takes, in dB SPL; null where nobody has said. */
  maxSplDb: numberOrNull(
    { min: 60, max: 200 },
    {
      word: "the highest sound pressure",
      cell: { heading: "Up to dB SPL", width: 92, ask: "the highest sound pressure in dB SPL, from 60 to 200" },
    },
  ),
  /** Capsules it can carry, by name; empty when it has but one. */
  capsules: closed<readonly string[]>(
    { schema: list(named(60), 12), initial: [], samples: [[], ["cardioid", "omni"]] },
    { word: "the capsules", cell: { heading: "Capsules", width: 140, empty: "one" } },
  ),
  count: number(
    { min: 1, max: 999, whole: true },
    { word: "the number", cell: { heading: "How many", width: 78, ask: "how many there are, from 1 on" } },
  ),
};

/** Microphones and boxes on the shelf. */
export const MICROPHONES = described({
  one: "microphone",
  many: "microphones",
  most: MOST.parts,
  fields: FIELDS,
  order: { within: null },
  called: (microphone: Microphone) => microphone.name,
});

export interface Microphone extends EntryOf<typeof FIELDS> {
  readonly id: MicrophoneId;
  readonly order: string;
}
