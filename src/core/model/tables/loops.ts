import { type EntryOf, name, references } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { LoopId, PortId } from "../ids";
import { MOST } from "../limits";
import { allGo } from "./ports";

const ENDS = { to: "ports", dangling: "does not go out and come back", most: 64, least: 1 } as const;

const FIELDS = {
  name: name(200, { word: "the name", cell: { heading: "Send and return" } }),
  sendPortIds: references<PortId>(ENDS, { word: "the send", cell: { heading: "Goes out on", width: 130 } }),
  returnPortIds: references<PortId>(ENDS, { word: "the return", cell: { heading: "Comes back on", width: 130 } }),
};

/** Hardware sends and their returns: out to a box or a room, and back in. */
export const LOOPS = described({
  one: "send and return",
  many: "sends and returns",
  most: MOST.parts,
  fields: FIELDS,
  rules: [
    (loop: HardwareLoop, around: Around) =>
      allGo(around, loop.sendPortIds, "out") && allGo(around, loop.returnPortIds, "in")
        ? null
        : `${loop.name} does not go out and come back`,
  ],
  called: (loop: HardwareLoop) => loop.name,
});

export interface HardwareLoop extends EntryOf<typeof FIELDS> {
  readonly id: LoopId;
}
