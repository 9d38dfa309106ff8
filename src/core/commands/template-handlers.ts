import { MAIN_ID, SESSION_KIND_NAMES } from "../model/template";
import { formatRate } from "../units/hertz";
import { refuse } from "./engine";
import { type Handlers, missingLines } from "./handler";
import { patchLines } from "./line-handlers";

export const templateHandlers: Handlers<"template"> = {
  "template.rename": {
    check: (doc, { name }) => (name.trim() ? null : refuse("empty", doc.id, "A template needs a name. Type one, or press Esc to keep the old one.")),
    edit: (draft, { name }) => {
      draft.name = name.trim();
    },
    name: (_doc, { name }) => `Rename the template to ${name.trim()}`,
  },
  "template.set": {
    check: () => null,
    edit: (draft, { sessionKind, note, format }) => {
      if (sessionKind) draft.kind = sessionKind;
      if (note !== undefined) draft.note = note;
      Object.assign(draft.format, format);
    },
    name: (_doc, { sessionKind, note, format }) => {
      if (format?.sampleRateHz) return `Set the rate to ${formatRate(format.sampleRateHz)}`;
      if (format?.bitDepth) return `Set the depth to ${format.bitDepth} bit`;
      if (format) return "Change the format";
      if (sessionKind) return `Make it a template for ${SESSION_KIND_NAMES[sessionKind].toLowerCase()}`;
      return note === undefined ? "Change the template" : "Note on the template";
    },
  },
  "template.fit": {
    check: (doc, { inputs }) =>
      missingLines(
        doc,
        inputs.map((input) => input.lineId),
      ),
    edit: (draft, { rigId, inputs, mainOutputs }) => {
      draft.rigId = rigId;
      patchLines(draft, inputs);
      const main = draft.channels[MAIN_ID];
      if (main) main.output = mainOutputs.length ? { kind: "hardware", portIds: [...mainOutputs] } : { kind: "nowhere" };
    },
    name: (_doc, { rigName }) => `Fit to ${rigName}`,
  },
};
