import type { RigId } from "../model/ids";
import { emptyRig, entriesOf, type Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Template } from "../model/template";
import type { CheckContext } from "./finding";

interface Seen {
  readonly doc: Template;
  readonly rigs: readonly Rig[];
  readonly studio: Studio;
}

/** Stand-ins by the id of the rig that is not here: the same one for as long as the window is open. */
const missing = new Map<RigId, Rig>();

const standIn = (id: RigId): Rig => {
  const known = missing.get(id) ?? emptyRig(id, "a rig that is not here");
  missing.set(id, known);
  return known;
};

/** The rig that the template names. When it is not here, one without devices: never another in its place. */
export const rigOf = ({ rigs, doc }: Pick<Seen, "rigs" | "doc">): Rig => rigs.find((candidate) => candidate.id === doc.rigId) ?? standIn(doc.rigId);

/** What the checks look at, of a template among the rigs of its studio: the same in the window and on the server, so that both tell the same. */
export const contextOf = ({ doc, rigs, studio }: Seen): CheckContext => {
  const rig = rigOf({ doc, rigs });
  return { doc, rig, rigMissing: !rigs.includes(rig), otherRigs: rigs.filter((other) => other !== rig), ownDyes: entriesOf(studio.dyes) };
};
