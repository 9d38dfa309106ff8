import { type EntryOf, partOf } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { PortId, WireId } from "../ids";
import { MOST } from "../limits";
import { idOf } from "../schema-parts";
import type { Device } from "./devices";
import { allGo, type Port } from "./ports";

const ENDS = { to: "ports", dangling: "ends at a port that is not there" } as const;

const FIELDS = {
  fromPortId: partOf<PortId>(ENDS, { word: "where it comes from" }),
  toPortId: partOf<PortId>(ENDS, { word: "where it goes" }),
};

/** Cables from an output to an input. An input takes one. */
export const WIRES = described({
  one: "wire",
  many: "wires",
  most: MOST.parts,
  id: idOf(140),
  fields: FIELDS,
  unique: [
    {
      key: (wire: Wire) => wire.toPortId,
      says: (wire: Wire, around: Around) => {
        const to = around.entry("ports", wire.toPortId) as Port | undefined;
        return `two wires lead into input ${to?.number} of ${(around.entry("devices", to?.deviceId ?? "") as Device | undefined)?.name}`;
      },
    },
  ],
  rules: [
    (wire: Wire, around: Around) =>
      allGo(around, [wire.fromPortId], "out") && allGo(around, [wire.toPortId], "in")
        ? null
        : "a wire leads from an output to an input",
  ],
  called: () => "a wire",
});

export interface Wire extends EntryOf<typeof FIELDS> {
  readonly id: WireId;
}
