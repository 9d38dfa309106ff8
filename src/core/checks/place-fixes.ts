import { applyAll } from "../commands/apply";
import type { Command } from "../commands/command";
import { type InputJack, jackInWords } from "../model/read-rig";
import { lineName, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Line, Template } from "../model/template";
import { nextFreeInput, nextFreePair } from "../planning/free-inputs";
import { fitTo } from "../planning/refit";
import type { CheckContext, Fix } from "./finding";

export const nameOf = (doc: Template, line: Line): string => lineName(line, tracksByLine(doc).get(line.id) ?? []);

/** Both lines of the pair a line belongs to, left first; null for a mono line. */
const pairOf = (doc: Template, line: Line): readonly [Line, Line] | null => {
  const input = tracksByLine(doc).get(line.id)?.[0]?.input;
  const [left, right] = input?.kind === "pair" ? [doc.lines[input.leftId], doc.lines[input.rightId]] : [];
  return left && right ? [left, right] : null;
};

const put = (line: Line, jack: InputJack) => ({ lineId: line.id, portId: jack.port.id, wanted: null });

interface Move {
  /** The line, or the stereo track whose sides move together. */
  readonly who: string;
  readonly where: string;
  readonly command: Command;
}

/** Where a line (or the pair it is half of) could go on a rig; null when nothing free suits. */
export const moveToFree = (doc: Template, rig: Rig, line: Line): Move | null => {
  const pair = pairOf(doc, line);
  if (pair) {
    const jacks = nextFreePair(doc, rig, pair);
    return (
      jacks && {
        who: tracksByLine(doc).get(line.id)?.[0]?.name ?? nameOf(doc, line),
        where: `inputs ${jacks[0].label} and ${jacks[1].label}`,
        command: { kind: "lines.patch", inputs: [put(pair[0], jacks[0]), put(pair[1], jacks[1])] },
      }
    );
  }
  const jack = nextFreeInput(doc, rig, line);
  return jack && { who: nameOf(doc, line), where: jackInWords(jack), command: { kind: "lines.patch", inputs: [put(line, jack)] } };
};

const moveToOtherRig = ({ doc, rig, otherRigs }: CheckContext, line: Line): Fix | null => {
  for (const to of otherRigs) {
    const fit = fitTo(doc, { from: rig, to });
    const fitted = applyAll(doc, [fit]);
    if (!fitted.ok || fit.inputs.some((input) => input.portId === null && doc.lines[input.lineId]?.portId)) continue;
    const moved = fitted.doc.lines[line.id];
    const settled = moved?.portId && moved.portId !== line.portId;
    if (settled) return { label: `Fit to ${to.name}, which has that input`, commands: [fit] };
    const move = moved && moveToFree(fitted.doc, to, moved);
    if (move) return { label: `Fit to ${to.name}, with ${move.who} on ${move.where}`, commands: [fit, move.command] };
  }
  return null;
};

/** What can be done about a line that can't stay where it is: a free input of this rig, else another rig, and always off its input. */
export const placeFixes = (context: CheckContext, line: Line): readonly Fix[] => {
  const { doc, rig } = context;
  const who = nameOf(doc, line);
  const move = moveToFree(doc, rig, line);
  const elsewhere: Fix | null = move ? { label: `Move ${move.who} to ${move.where}`, commands: [move.command] } : moveToOtherRig(context, line);
  const off: Fix[] =
    line.portId || line.wanted
      ? [{ label: `Take ${who} off its input for now`, commands: [{ kind: "lines.patch", inputs: [{ lineId: line.id, portId: null, wanted: null }] }] }]
      : [];
  return [...(elsewhere ? [elsewhere] : []), ...off];
};
