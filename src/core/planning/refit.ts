import { findRigInput, monitorOutputs, rigInputOf, rigInputsOf } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import type { Edit, LinePort } from "./edits/edit";

const portOn = (line: Line, { from, to }: { readonly from: Rig; readonly to: Rig }): LinePort => {
  const lineId = line.id;
  if (line.portId && rigInputsOf(to).some((rigInput) => rigInput.port.id === line.portId)) return { lineId, portId: line.portId, requestedInput: null };
  const word = line.requestedInput ?? rigInputOf(from, line.portId)?.label ?? null;
  const rigInput = word === null ? null : findRigInput(to, word);
  return rigInput ? { lineId, portId: rigInput.port.id, requestedInput: null } : { lineId, portId: null, requestedInput: word };
};

/**
 * The command that fits a template to another rig: a line keeps its port where the other rig has the very same one, else goes to the input
 * of the same label, else keeps only what it asked for. What is left over is for the checks to tell.
 */
export const fitTo = (doc: Template, { from, to }: { readonly from: Rig; readonly to: Rig }): Extract<Edit, { kind: "template.fit" }> => ({
  kind: "template.fit",
  rigId: to.id,
  rigName: to.name,
  inputs: entriesOf(doc.lines).map((line) => portOn(line, { from, to })),
  mainOutputs: monitorOutputs(to),
});
