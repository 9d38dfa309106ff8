import { type Level, levelOf } from "../model/microphone-kinds";
import { rigInputInWords, rigInputOf } from "../model/read-rig";
import { microphoneFacts, microphoneName } from "../model/read-template";
import type { Line } from "../model/tables/lines";
import { takesLevel } from "../queries/free-inputs";
import { type Check, type CheckContext, type Finding, finding, overLines } from "./finding";
import { nameOf, placeFixes } from "./place-fixes";
import { PLACES } from "./reads";

const WORDS: Record<Level, string> = {
  microphone: "microphone level",
  line: "line level",
  instrument: "instrument level",
};

const accepted = (levels: readonly Level[]): string =>
  `takes ${levels.map((level) => WORDS[level]).join(" and ")}${levels.length === 1 ? " only" : ""}`;

const said = (context: CheckContext, line: Line): readonly Finding[] => {
  const rigInput = rigInputOf(context.rig, line.portId);
  if (!rigInput || takesLevel(context.rig, rigInput, line)) return [];
  const facts = microphoneFacts(context.rig, line.microphone);
  const wrongLevel = facts && !rigInput.levels.includes(levelOf(facts.kind));
  const reasons = [
    ...(wrongLevel ? [accepted(rigInput.levels)] : []),
    ...(rigInput.loopBack ? ["carries what the computer plays"] : []),
    ...(rigInput.occupied ? [`carries the ${rigInput.fedBy?.device.name}`] : []),
  ];
  const what = line.microphone ? ` (${microphoneName(context.rig, line.microphone)})` : "";
  const message = `${nameOf(context.doc, line)}${what} is on ${rigInputInWords(rigInput)}, which ${reasons.join(" and ")}.`;
  return [
    finding("level-not-accepted", {
      severity: "problem",
      message,
      places: [{ kind: "line", id: line.id, field: "input" }],
      fixes: placeFixes(context, line),
    }),
  ];
};

export const levelNotAccepted: Check = overLines({
  id: "level-not-accepted",
  why: "A microphone on a line input is inaudible, and an input that carries a return has no room for a source.",
  ofLine: { reads: ["lines.source"], say: said },
  reads: [...PLACES, "cues.order", "cues.portIds", "lines.source"],
});
