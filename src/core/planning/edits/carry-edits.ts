import { refuse } from "../../commands/command";
import type { Planners } from "./edit";

/** Differences that are carried over from another document, all of them as one gesture. */
export const carryEdits: Planners<"changes"> = {
  "changes.carry": {
    plan: (doc, { name, patches }) =>
      patches.length
        ? [{ kind: "restore", undoes: name.slice(0, 400), carries: true, patches }]
        : refuse("empty", doc.id, "Nothing is chosen. Choose what is to be carried."),
    name: (_doc, { name }) => name,
  },
};
