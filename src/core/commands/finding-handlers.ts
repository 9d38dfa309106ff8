import { refuse } from "./engine";
import type { Handlers } from "./handler";

export const findingHandlers: Handlers<"findings"> = {
  "findings.accept": {
    check: (_doc, { findings }) =>
      findings.every((finding) => finding.reason.trim()) ? null : refuse("empty", findings[0]?.id ?? "", "Say why this is all right, so that the next person knows."),
    edit: (draft, { findings }) => {
      for (const finding of findings) draft.accepted[finding.id] = { ...finding, reason: finding.reason.trim() };
    },
    name: (_doc, { findings }) => `Accept ${findings.length === 1 ? "a finding" : `${findings.length} findings`}: ${findings[0]?.reason.trim()}`,
  },
  "findings.reopen": {
    check: (doc, { findingIds }) => {
      const gone = findingIds.find((id) => !Object.hasOwn(doc.accepted, id));
      return gone === undefined ? null : refuse("missing", gone, "This finding was not accepted, or is open again already.");
    },
    edit: (draft, { findingIds }) => {
      for (const id of findingIds) delete draft.accepted[id];
    },
    name: (_doc, { findingIds }) => `Reopen ${findingIds.length === 1 ? "a finding" : `${findingIds.length} findings`}`,
  },
};
