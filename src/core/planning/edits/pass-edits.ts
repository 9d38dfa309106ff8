import { type Command, type Refusal, refuse } from "../../commands/command";
import type { PassId } from "../../model/ids";
import { entriesOf } from "../../model/table";
import type { Pass } from "../../model/tables/passes";
import type { Template } from "../../model/template";
import type { Planners } from "./edit";
import { toAll } from "./planner";
import { goneFrom } from "./refusals";

const missing = (doc: Template, ids: readonly PassId[]): Refusal | null =>
  ids.length ? goneFrom(doc.passes, ids, "pass") : refuse("empty", "", "No pass was named. Select one or more.");

/** No pass runs while another does: those that do are stopped. */
const stopping = (doc: Template): readonly Command[] => {
  const running = entriesOf<Pass>(doc.passes).filter((pass) => pass.running);
  return running.length
    ? [
        {
          kind: "set",
          table: "passes",
          values: toAll(
            running.map(({ id }) => id),
            { running: false },
          ),
        },
      ]
    : [];
};

export const passEdits: Planners<"passes"> = {
  "passes.run": {
    plan: (doc, { passId }) => {
      if (passId === null) return stopping(doc);
      const refusal = missing(doc, [passId]);
      if (refusal) return refusal;
      return doc.passes[passId]?.running
        ? []
        : [...stopping(doc), { kind: "set", table: "passes", values: { [passId]: { running: true } } }];
    },
    name: (doc, { passId }) => (passId === null ? "Stop the pass" : `Run ${doc.passes[passId]?.name ?? "a pass"}`),
  },
};
