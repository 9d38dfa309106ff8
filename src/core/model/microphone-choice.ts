import type { MicrophoneId } from "./ids";
import { MICROPHONE_KINDS, type MicrophoneKind } from "./microphone-kinds";
import { byKind, id, orNull, text } from "./schema-parts";

/** From the shelf of the rig, or only named: a list often says "condenser" and no more. */
export type MicrophoneChoice =
  | { readonly kind: "shelf"; readonly microphoneId: MicrophoneId; readonly name: string }
  | { readonly kind: "named"; readonly name: string; readonly type: MicrophoneKind | null };

export const MICROPHONE_CHOICE = orNull(
  byKind({
    shelf: { microphoneId: id, name: text(200) },
    named: { name: text(200), type: orNull({ enum: MICROPHONE_KINDS }) },
  }),
);

export const MICROPHONE_SAMPLES: readonly (MicrophoneChoice | null)[] = [
  null,
  { kind: "named", name: "condenser", type: "condenser" },
  { kind: "named", name: "something", type: null },
  { kind: "shelf", microphoneId: "passive-ribbon-pair" as MicrophoneId, name: "Passive ribbon pair" },
];
