import { tracksByLine } from "../model/read-template";
import type { Line } from "../model/tables/lines";
import { type Check, type CheckContext, type Finding, finding, overLines } from "./finding";
import { moveToFree, nameOf } from "./place-fixes";
import { PLACES } from "./reads";

const said = ({ doc, rig }: CheckContext, line: Line): readonly Finding[] => {
  // What is parked keeps all it has, and waits for its input until it is taken into use.
  if (
    line.portId !== null ||
    line.requestedInput !== null ||
    (tracksByLine(doc).get(line.id) ?? []).every(({ parked }) => parked)
  )
    return [];
  const move = moveToFree(doc, rig, line);
  return [
    finding("line-without-port", {
      severity: "hint",
      message: `${nameOf(doc, line)} has no input yet${move ? "" : `, and ${rig.name} has no free one that suits it`}. ${move ? "Give it one" : "Free one, or fit the template to another rig"} before the session.`,
      places: [{ kind: "line", id: line.id, field: "input" }],
      fixes: move ? [{ label: `Put ${move.who} on ${move.where}`, edits: move.edits }] : [],
    }),
  ];
};

export const lineWithoutPort: Check = overLines({
  id: "line-without-port",
  why: "A source that is plugged in nowhere is not recorded.",
  reads: [...PLACES, "channels.parked", "lines.source"],
  ofLine: { reads: ["lines.source"], say: said },
});
