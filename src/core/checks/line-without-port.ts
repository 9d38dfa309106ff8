import { tracksByLine } from "../model/read-template";
import { type Check, type Finding, finding } from "./finding";
import { overLines, perLine } from "./per-line";
import { moveToFree, nameOf } from "./place-fixes";
import { PLACES } from "./reads";

const said = perLine(({ doc, rig }, line): readonly Finding[] => {
  if (line.portId !== null || line.requestedInput !== null) return [];
  const move = moveToFree(doc, rig, line);
  return [
    finding("line-without-port", {
      severity: "hint",
      message: `${nameOf(doc, line)} has no input yet${move ? "" : `, and ${rig.name} has no free one that suits it`}. ${move ? "Give it one" : "Free one, or fit the template to another rig"} before the session.`,
      places: [{ kind: "line", id: line.id, field: "input" }],
      fixes: move ? [{ label: `Put ${move.who} on ${move.where}`, commands: move.commands }] : [],
    }),
  ];
});

export const lineWithoutPort: Check = {
  id: "line-without-port",
  why: "A source that is plugged in nowhere is not recorded.",
  reads: [...PLACES, "channels.parked", "lines.source"],
  // What is parked keeps all it has, and waits for its input until it is taken into use.
  check: (context) =>
    overLines(context, said).filter(({ places: [place] }) => place?.kind !== "line" || !(tracksByLine(context.doc).get(place.id) ?? []).every(({ parked }) => parked)),
};
