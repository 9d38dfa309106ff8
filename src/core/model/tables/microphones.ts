import { choice, closed, type EntryOf, name, number, numberOrNull } from "../describe/fields";
import { described } from "../describe/table";
import type { MicrophoneId } from "../ids";
import { MOST } from "../limits";
import { MICROPHONE_KINDS, type MicrophoneKind, PHANTOM_ATTITUDES, type PhantomAttitude } from "../microphone-kinds";
import { list, named } from "../schema-parts";

const FIELDS = {
  name: name(200, { word: "the name" }),
  kind: choice<MicrophoneKind>(MICROPHONE_KINDS, { word: "the kind" }),
  phantom: choice<PhantomAttitude>(PHANTOM_ATTITUDES, { word: "phantom" }),
  sensitivityMvPerPa: numberOrNull({ min: 0.001, max: 1000 }, { word: "the sensitivity" }),
  /** The loudest that it takes, in dB SPL; null where nobody has said. */
  maxSplDb: numberOrNull({ min: 60, max: 200 }, { word: "the highest sound pressure" }),
  /** Capsules it can carry, by name; empty when it has but one. */
  capsules: closed<readonly string[]>(
    { schema: list(named(60), 12), initial: [], samples: [[], ["cardioid", "omni"]] },
    { word: "the capsules" },
  ),
  count: number({ min: 1, max: 999, whole: true }, { word: "the number" }),
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
