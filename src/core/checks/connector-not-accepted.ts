import { rigInputInWords, rigInputOf } from "../model/read-rig";
import { linesOf, microphoneFacts } from "../model/read-template";
import type { Port } from "../model/tables/ports";
import { takesLevel } from "../queries/free-inputs";
import { type Check, finding } from "./finding";
import { nameOf } from "./place-fixes";
import { PLACES } from "./reads";

const NAMES: Readonly<Record<Port["connector"], string>> = {
  xlr: "XLR",
  jack: "jack",
  combo: "XLR and jack",
  optical: "optical",
  none: "none",
};

export const connectorNotAccepted: Check = {
  id: "connector-not-accepted",
  why: "A plug that does not go in needs an adapter, and the adapter must be there.",
  reads: [...PLACES, "cues.order", "cues.portIds", "lines.source"],
  check: ({ doc, rig }) =>
    linesOf(doc).flatMap((line) => {
      const rigInput = rigInputOf(rig, line.portId);
      const facts = microphoneFacts(rig, line.microphone);
      if (!rigInput || !facts || rigInput.loopBack || !takesLevel(rig, rigInput, line)) return [];
      // Microphones and DI boxes come on XLR. Line sources come on either, and leads for both lie in every drawer.
      if (facts.kind === "line-source" || rigInput.connector === "xlr" || rigInput.connector === "combo") return [];
      return [
        finding("connector-not-accepted", {
          severity: "hint",
          message: `${nameOf(doc, line)} comes on XLR, and ${rigInputInWords(rigInput)} takes ${NAMES[rigInput.connector]}. Have an adapter ready, or choose another input.`,
          places: [{ kind: "line", id: line.id, field: "input" }],
          fixes: [],
        }),
      ];
    }),
};
