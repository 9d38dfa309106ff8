import type { CheckContext } from "@/core/checks/finding";
import { entriesOf, type Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";

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

/** What the checks look at, of what is shown now. */
export const contextOf = ({ doc, rigs, studio }: Seen): CheckContext => {
  const rig = rigOf({ doc, rigs });
  return { doc, rig, otherRigs: rigs.filter((other) => other !== rig), ownDyes: entriesOf(studio.dyes) };
};
