import { linesOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { inOrder } from "../model/table";
import type { Microphone } from "../model/tables/microphones";
import type { Template } from "../model/template";

export interface OfferedMicrophone {
  readonly name: string;
  /** None is left: as many lines have it as there are. */
  readonly usedUp: boolean;
}

/**
 * The shelf of a rig as it is offered to a line: what is free first, so that the next free one of a kind is the first
 * to be seen; behind it what is in use already.
 */
export const microphonesOffered = (doc: Pick<Template, "lines">, rig: Rig): readonly OfferedMicrophone[] => {
  const uses = new Map<string, number>();
  for (const { microphone } of linesOf(doc))
    if (microphone?.kind === "shelf") uses.set(microphone.microphoneId, (uses.get(microphone.microphoneId) ?? 0) + 1);
  const all = inOrder<Microphone>(rig.microphones).map(
    ({ id, name, count }): OfferedMicrophone => ({ name, usedUp: (uses.get(id) ?? 0) >= count }),
  );
  return [...all.filter(({ usedUp }) => !usedUp), ...all.filter(({ usedUp }) => usedUp)];
};
