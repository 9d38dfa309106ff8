import { fitTo } from "../planning/refit";
import { type Check, finding } from "./finding";
import { PLACES } from "./reads";

/** So many rigs are offered; all of them are in the menu of the format. */
const MOST_OFFERED = 4;

export const rigMissing: Check = {
  id: "rig-missing",
  why: "Without its rig nobody can say which inputs there are; judged on another one, everything would look right or wrong by chance.",
  withoutRig: true,
  reads: [...PLACES, "cues.order", "cues.portIds", "name"],
  check: ({ doc, rig, rigMissing: gone, otherRigs }) =>
    gone
      ? [
          finding("rig-missing", {
            severity: "problem",
            message: `The rig that ${doc.name} stands on is not here: it was deleted, or never came along. What depends on it can't be checked until the template is fitted to another one.`,
            places: [{ kind: "template", id: doc.id, field: "format" }],
            fixes: otherRigs
              .slice(0, MOST_OFFERED)
              .map((to) => ({ label: `Fit it to ${to.name}`, edits: [fitTo(doc, { from: rig, to })] })),
          }),
        ]
      : [],
};
