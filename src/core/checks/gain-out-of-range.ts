import { rigInputInWords, rigInputOf } from "../model/read-rig";
import { linesOf } from "../model/read-template";
import { dB, formatDb } from "../units/decibels";
import { type Check, finding } from "./finding";
import { nameOf } from "./place-fixes";
import { TRACKS } from "./reads";

export const gainOutOfRange: Check = {
  id: "gain-out-of-range",
  why: "A gain the preamp does not have can't be set on the evening.",
  reads: [...TRACKS, "channels.said", "lines.gainDb", "lines.portId", "lines.source"],
  check: ({ doc, rig }) =>
    linesOf(doc).flatMap((line) => {
      const rigInput = rigInputOf(rig, line.portId);
      const range = rigInput?.gainDb;
      if (!rigInput || !range || line.gainDb === null || (line.gainDb >= range.min && line.gainDb <= range.max))
        return [];
      const nearest = dB(Math.min(range.max, Math.max(range.min, line.gainDb)));
      return [
        finding("gain-out-of-range", {
          severity: "hint",
          message: `${nameOf(doc, line)} asks for ${formatDb(line.gainDb)}, and ${rigInputInWords(rigInput)} gives ${formatDb(range.min)} to ${formatDb(range.max)}.`,
          places: [{ kind: "line", id: line.id, field: "gain" }],
          fixes: [
            {
              label: `Set the gain to ${formatDb(nearest)}`,
              edits: [{ kind: "entries.set", table: "lines", ids: [line.id], set: { gainDb: nearest } }],
            },
          ],
        }),
      ];
    }),
};
