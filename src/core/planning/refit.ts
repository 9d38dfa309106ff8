import { perDocument, perTwo } from "../model/per-document";
import { findRigInput, monitorOutputs, rigInputOf } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import type { Edit, LinePort } from "./edits/edit";

/** Where a line goes on another rig. Kept for as long as the line and both rigs live: one line changed does not ask anew for all others. */
const portOn = (line: Line, between: Between): LinePort => {
  const known = kept.get(line) ?? [];
  const found = known.find(({ from, to }) => from === between.from && to === between.to);
  if (found) return found.port;
  const port = placed(line, between);
  kept.set(line, [...known.slice(-MOST_KEPT), { ...between, port }]);
  return port;
};

interface Between {
  readonly from: Rig;
  readonly to: Rig;
}
/** So many rigs are kept for a line; as many as a studio has, and some more. */
const MOST_KEPT = 8;
const kept = new WeakMap<Line, readonly (Between & { readonly port: LinePort })[]>();

const placed = (line: Line, { from, to }: Between): LinePort => {
  const lineId = line.id;
  if (line.portId && rigInputOf(to, line.portId)) return { lineId, portId: line.portId, requestedInput: null };
  const word = line.requestedInput ?? rigInputOf(from, line.portId)?.label ?? null;
  const rigInput = word === null ? null : findRigInput(to, word);
  return rigInput ? { lineId, portId: rigInput.port.id, requestedInput: null } : { lineId, portId: null, requestedInput: word };
};

/**
 * The command that fits a template to another rig: a line keeps its port where the other rig has the very same one, else goes to the input
 * of the same label, else keeps only what it asked for. What is left over is for the checks to tell.
 */
export const fitTo = (doc: Pick<Template, "lines">, { from, to }: { readonly from: Rig; readonly to: Rig }): Extract<Edit, { kind: "template.fit" }> => ({
  kind: "template.fit",
  rigId: to.id,
  rigName: to.name,
  inputs: entriesOf(doc.lines).map((line) => portOn(line, { from, to })),
  mainOutputs: monitorOutputs(to),
});

/** The lines of a template as that would have them: those that stay where they are are the very same. */
export const fittedLines = perTwo((lines: Template["lines"], to: Rig) =>
  perDocument((from: Rig): Template["lines"] =>
    Object.fromEntries(
      entriesOf(lines).map((line) => {
        const { portId, requestedInput } = portOn(line, { from, to });
        return [line.id, portId === line.portId && requestedInput === line.requestedInput ? line : { ...line, portId, requestedInput }];
      }),
    ),
  ),
);
