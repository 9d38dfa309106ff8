import { type Command, HEADER } from "../../commands/command";
import { MAIN_ID } from "../../model/tables/channel-fields";
import type { Planners } from "./edit";
import { patchCommand } from "./line-edits";
import { missingLines } from "./refusals";

export const templateEdits: Planners<"template"> = {
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
        ...(cueOutputs.length
          ? [
              {
                kind: "set",
                table: "cues",
                values: Object.fromEntries(cueOutputs.map(({ cueId, portIds }) => [cueId, { portIds }])),
              } as const,
            ]
          : []),
      ];
      return inputs.length ? [...fitted, patchCommand(inputs)] : fitted;
    },
    name: (_doc, { rigName }) => `Fit to ${rigName}`,
  },
};
