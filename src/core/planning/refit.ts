import type { Command, LinePort } from "../commands/command";
import { findJack, inputJacks, jackOf, monitorOutputs } from "../model/read-rig";
import { entriesOf, type Rig } from "../model/rig";
import type { Line, Template } from "../model/template";

const portOn = (line: Line, { from, to }: { readonly from: Rig; readonly to: Rig }): LinePort => {
  const lineId = line.id;
  if (line.portId && inputJacks(to).some((jack) => jack.port.id === line.portId)) return { lineId, portId: line.portId, wanted: null };
  const word = line.wanted ?? jackOf(from, line.portId)?.label ?? null;
  const jack = word === null ? null : findJack(to, word);
  return jack ? { lineId, portId: jack.port.id, wanted: null } : { lineId, portId: null, wanted: word };
};

/**
 * The command that fits a template to another rig: a line keeps its port where the other rig has the very same one, else goes to the input
 * of the same label, else keeps only what it asked for. What is left over is for the checks to tell.
 */
export const fitTo = (doc: Template, { from, to }: { readonly from: Rig; readonly to: Rig }): Extract<Command, { kind: "template.fit" }> => ({
  kind: "template.fit",
  rigId: to.id,
  rigName: to.name,
  inputs: entriesOf(doc.lines).map((line) => portOn(line, { from, to })),
  mainOutputs: monitorOutputs(to),
});
