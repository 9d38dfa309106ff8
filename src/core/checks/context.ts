import type { RigId } from "../model/ids";
import { emptyRig, type Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import type { Template } from "../model/template";
import type { CheckContext } from "./finding";

interface Seen {
  readonly doc: Template;
  readonly rigs: readonly Rig[];
  readonly studio: Studio;
}

/** The last stand-in for a rig that is not here: the same one for as long as it is asked for. */
let last: Rig | null = null;

const standIn = (id: RigId): Rig => {
  if (last?.id !== id) last = emptyRig(id, "a rig that is not here");
  return last;
};

/** The rig that the template names. When it is not here, one without devices: never another in its place. */
export const rigOf = ({ rigs, doc }: Pick<Seen, "rigs" | "doc">): Rig =>
  rigs.find((candidate) => candidate.id === doc.rigId) ?? standIn(doc.rigId);

/**
 * What the checks look at, of a template among the rigs of its studio: the same in the window and on the server, so
 * that both tell the same.
 */
export const contextOf = ({ doc, rigs, studio }: Seen): CheckContext => {
  const rig = rigOf({ doc, rigs });
  return {
    doc,
    rig,
    rigMissing: !rigs.includes(rig),
    otherRigs: rigs.filter((other) => other !== rig),
    ownColours: entriesOf(studio.colours),
    studio,
  };
};
