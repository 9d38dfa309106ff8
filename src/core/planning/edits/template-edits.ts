import { type Command, HEADER, refuse } from "../../commands/command";
import { fieldWords } from "../../commands/naming";
import { SESSION_KIND_NAMES } from "../../model/session-kinds";
import { MAIN_ID } from "../../model/tables/channels";
import { TEMPLATE } from "../../model/template";
import { formatRate } from "../../units/hertz";
import type { Planners } from "./edit";
import { patchCommand } from "./line-edits";
import { missingLines } from "./refusals";

const GROUPS = ["mix", "buffers", "levels", "disk"] as const;

export const templateEdits: Planners<"template"> = {
  "template.rename": {
    plan: (doc, { name }) =>
      name.trim()
        ? [{ kind: "set", table: HEADER, values: { [doc.id]: { name: name.trim() } } }]
        : refuse("empty", doc.id, "A template needs a name. Type one, or press Esc to keep the old one."),
    name: (_doc, { name }) => `Rename the template to ${name.trim()}`,
  },
  "template.set": {
    plan: (doc, { kind: _kind, sessionKind, ...set }) => [{ kind: "set", table: HEADER, values: { [doc.id]: { ...(sessionKind ? { kind: sessionKind } : {}), ...set } } }],
    name: (_doc, { sessionKind, note, format, ...groups }) => {
      if (groups.buffers?.recordingSamples) return `Record with a buffer of ${groups.buffers.recordingSamples} samples`;
      for (const group of GROUPS) if (groups[group]) return `Set ${fieldWords(TEMPLATE.header[group].fields, Object.keys(groups[group]))}`;
      if (format?.sampleRateHz) return `Set the rate to ${formatRate(format.sampleRateHz)}`;
      if (format?.bitDepth) return `Set the depth to ${format.bitDepth} bit`;
      if (format) return "Change the format";
      if (sessionKind) return `Make it a template for ${SESSION_KIND_NAMES[sessionKind].toLowerCase()}`;
      return note === undefined ? "Change the template" : "Note on the template";
    },
  },
  "template.fit": {
    plan: (doc, { rigId, inputs, mainOutputs, cueOutputs = [] }) => {
      const missing = missingLines(
        doc,
        inputs.map((input) => input.lineId),
      );
      if (missing) return missing;
      const output = mainOutputs.length ? { kind: "hardware", portIds: mainOutputs } : { kind: "nowhere" };
      const fitted: Command[] = [
        { kind: "set", table: HEADER, values: { [doc.id]: { rigId } } },
        { kind: "set", table: "channels", values: { [MAIN_ID]: { output } } },
        ...(cueOutputs.length ? [{ kind: "set", table: "cues", values: Object.fromEntries(cueOutputs.map(({ cueId, portIds }) => [cueId, { portIds }])) } as const] : []),
      ];
      return inputs.length ? [...fitted, patchCommand(inputs)] : fitted;
    },
    name: (_doc, { rigName }) => `Fit to ${rigName}`,
  },
};
