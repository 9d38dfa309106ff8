import { entriesOf, type Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Template } from "../model/template";
import type { CheckContext } from "./finding";

interface Seen {
  readonly doc: Template;
  readonly rigs: readonly Rig[];
  readonly studio: Studio;
}

/** The rig that the template names, or another when it is not here. */
export const rigOf = ({ rigs, doc }: Pick<Seen, "rigs" | "doc">): Rig => {
  const rig = rigs.find((candidate) => candidate.id === doc.rigId) ?? rigs[0];
  if (!rig) throw new Error("expected a rig, got none");
  return rig;
};

/** What the checks look at, of a template among the rigs of its studio: the same in the window and on the server, so that both tell the same. */
export const contextOf = ({ doc, rigs, studio }: Seen): CheckContext => {
  const rig = rigOf({ doc, rigs });
  return { doc, rig, otherRigs: rigs.filter((other) => other !== rig), ownDyes: entriesOf(studio.dyes) };
};
