import { existsAtRate, rigInputInWords, rigInputOf } from "../model/read-rig";
import type { Line } from "../model/tables/lines";
import { linkChannels } from "../model/tables/links";
import { formatRate } from "../units/hertz";
import { type Check, type CheckContext, type Finding, finding, overLines } from "./finding";
import { nameOf, placeFixes } from "./place-fixes";
import { PLACES } from "./reads";

/** Why the port of a line is not there; null when it is. */
const fault = ({ doc, rig }: CheckContext, line: Line): string | null => {
  const who = () => nameOf(doc, line);
  if (line.requestedInput) return `${who()} asks for input ${line.requestedInput}, and ${rig.name} has no such input.`;
  if (!line.portId) return null;
  const rigInput = rigInputOf(rig, line.portId);
  if (!rigInput) return `${who()} is on an input that ${rig.name} no longer has.`;
  if (existsAtRate(rig, rigInput, doc.format.sampleRateHz)) return null;
  const link = rigInput.carriedBy && rig.links[rigInput.carriedBy.linkId];
  const count = link ? linkChannels(link, doc.format.sampleRateHz) : 0;
  return `${who()} is on ${rigInputInWords(rigInput)}, which does not exist at ${formatRate(doc.format.sampleRateHz)}: ${link?.name ?? "its link"} carries ${count} channels at this rate.`;
};

const said = (context: CheckContext, line: Line): readonly Finding[] => {
  const message = fault(context, line);
  return message
    ? [
        finding("port-not-on-rig", {
          severity: "problem",
          message,
          places: [{ kind: "line", id: line.id, field: "input" }],
          fixes: placeFixes(context, line),
        }),
      ]
    : [];
};

export const portNotOnRig: Check = overLines({
  id: "port-not-on-rig",
  why: "An input the rig does not have, or not at this rate, records nothing.",
  ofLine: { reads: ["lines.source"], say: said },
  reads: [...PLACES, "cues.order", "cues.portIds", "lines.source"],
});
