import { entriesOf } from "../model/table";
import { type Check, finding } from "./finding";
import { moveToFree, nameOf } from "./place-fixes";

export const lineWithoutPort: Check = {
  id: "line-without-port",
  why: "A source that is plugged in nowhere is not recorded.",
  check: ({ doc, rig }) =>
    entriesOf(doc.lines)
      .filter((line) => line.portId === null && line.requestedInput === null)
      .map((line) => {
        const move = moveToFree(doc, rig, line);
        return finding("line-without-port", {
          severity: "hint",
          message: `${nameOf(doc, line)} has no input yet${move ? "" : `, and ${rig.name} has no free one that suits it`}. ${move ? "Give it one" : "Free one, or fit the template to another rig"} before the session.`,
          places: [{ kind: "line", id: line.id, field: "input" }],
          fixes: move ? [{ label: `Put ${move.who} on ${move.where}`, commands: move.commands }] : [],
        });
      }),
};
