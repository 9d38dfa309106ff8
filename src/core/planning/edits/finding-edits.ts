import { refuse } from "../../commands/command";
import type { Planners } from "./edit";

export const findingEdits: Planners<"findings"> = {
  "findings.accept": {
    plan: (_doc, { findings }) =>
      findings.every((finding) => finding.reason.trim())
        ? [{ kind: "add", table: "accepted", entries: findings.map((finding) => ({ ...finding, reason: finding.reason.trim() })) }]
        : refuse("empty", findings[0]?.id ?? "", "Say why this is all right, so that the next person knows."),
    name: (_doc, { findings }) => `Accept ${findings.length === 1 ? "a finding" : `${findings.length} findings`}: ${findings[0]?.reason.trim()}`,
  },
  "findings.reopen": {
    plan: (doc, { findingIds }) => {
      const gone = findingIds.find((id) => !Object.hasOwn(doc.accepted, id));
      return gone === undefined ? [{ kind: "remove", table: "accepted", ids: findingIds }] : refuse("missing", gone, "This finding was not accepted, or is open again already.");
    },
    name: (_doc, { findingIds }) => `Reopen ${findingIds.length === 1 ? "a finding" : `${findingIds.length} findings`}`,
  },
};
