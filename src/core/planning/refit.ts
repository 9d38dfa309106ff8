import type { CueId, PortId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import { findRigInput, monitorOutputs, rigInputOf } from "../model/read-rig";
import { linesOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Cue } from "../model/tables/cues";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { cueOutputs } from "../queries/cue-outputs";
import { cuesOf } from "../queries/cues";
import type { Edit, LinePort } from "./edits/edit";

/**
 * Where a line goes on another rig. Kept for as long as the line and both rigs live: one line changed does not ask anew
 * for all others.
 */
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
  return rigInput
    ? { lineId, portId: rigInput.port.id, requestedInput: null }
    : { lineId, portId: null, requestedInput: word };
};

/**
 * Where cues go out on another rig: those whose outputs it has as well stay, the others take its headphones in their
 * order; with none left they have no output.
 */
export const cuesOn = (
  doc: Pick<Template, "cues">,
  to: Rig,
): readonly { readonly cueId: CueId; readonly portIds: readonly PortId[] }[] => {
  const there = (cue: Cue): boolean =>
    cue.portIds.length > 0 && cue.portIds.every((id) => to.ports[id]?.direction === "out");
  const moving = cuesOf(doc).filter((cue) => !there(cue) && cue.portIds.length > 0);
  const staying = {
    cues: Object.fromEntries(cuesOf(doc).flatMap((cue) => (there(cue) ? [[cue.id, cue]] : []))),
  } as Pick<Template, "cues">;
  const free = moving.length
    ? cueOutputs(staying, to).filter(({ hearing, takenBy }) => hearing === "headphones" && !takenBy.length)
    : [];
  return moving.map(({ id }, at) => ({ cueId: id, portIds: free[at]?.portIds ?? [] }));
};

/**
 * The command that fits a template to another rig: a line keeps its port where the other rig has the very same one,
 * else goes to the input of the same label, else keeps only what it asked for; cues take the headphones there are. What
 * is left over is for the checks to tell.
 */
export const fitTo = (
  doc: Pick<Template, "lines" | "cues">,
  { from, to }: { readonly from: Rig; readonly to: Rig },
): Extract<Edit, { kind: "template.fit" }> => ({
  kind: "template.fit",
  rigId: to.id,
  rigName: to.name,
  inputs: entriesOf(doc.lines).map((line) => portOn(line, { from, to })),
  mainOutputs: monitorOutputs(to),
  cueOutputs: cuesOn(doc, to),
});

/** The lines of a template as that would have them: those that stay where they are are the very same. */
export const fittedLines = perTwo((lines: Template["lines"], to: Rig) =>
  perDocument((from: Rig): Template["lines"] =>
    Object.fromEntries(
      entriesOf(lines).map((line) => {
        const { portId, requestedInput } = portOn(line, { from, to });
        return [
          line.id,
          portId === line.portId && requestedInput === line.requestedInput ? line : { ...line, portId, requestedInput },
        ];
      }),
    ),
  ),
);

/**
 * The lines of a template as they would be on another rig, and the edit that brings them there; null when lines would
 * lose an input they have. Done once for all findings, and kept for as long as no line changes.
 */
export const onOtherRig = perTwo((lines: Template["lines"], to: Rig) =>
  perDocument((from: Rig) => {
    const fitted = fittedLines(lines, to)(from);
    const loses = linesOf({ lines: fitted }).some((line) => line.portId === null && lines[line.id]?.portId);
    if (loses) return null;
    const fit = fitTo({ lines, cues: {} }, { from, to });
    return {
      fit: perDocument((cues: Template["cues"]): typeof fit => ({ ...fit, cueOutputs: cuesOn({ cues }, to) })),
      lines: fitted,
    };
  }),
);

/** A template with those lines, to look at: nothing is done. */
export const lookingAs = perTwo((doc: Template, lines: Template["lines"]): Template => ({ ...doc, lines }));
