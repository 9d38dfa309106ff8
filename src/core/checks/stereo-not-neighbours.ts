import { rigInputOf } from "../model/read-rig";
import { tracksOf } from "../model/read-template";
import type { Line } from "../model/tables/lines";
import { linesByPort, suits } from "../queries/free-inputs";
import { type Check, type CheckContext, type Fix, finding } from "./finding";
import { moveToFree } from "./place-fixes";
import { PLACES } from "./reads";

const swapFix = ({ doc, rig }: CheckContext, [left, right]: readonly [Line, Line]): Fix[] => {
  const [a, b] = [rigInputOf(rig, left.portId), rigInputOf(rig, right.portId)];
  // Where others are on the same inputs, changing sides would only move the clash.
  if (!a || !b || [a, b].some((rigInput) => linesByPort(doc).get(rigInput.port.id)?.length !== 1)) return [];
  if (!suits(doc, rig, { rigInput: b, line: left }) || !suits(doc, rig, { rigInput: a, line: right })) return [];
  const inputs = [
    { lineId: left.id, portId: b.port.id, requestedInput: null },
    { lineId: right.id, portId: a.port.id, requestedInput: null },
  ];
  return [{ label: `Put left on ${b.label} and right on ${a.label}`, edits: [{ kind: "lines.patch", inputs }] }];
};

export const stereoNotNeighbours: Check = {
  id: "stereo-not-neighbours",
  why: "A stereo track takes two neighbouring inputs, left before right; on others a session opens with half of it elsewhere.",
  reads: [...PLACES, "lines.source"],
  check: (context) =>
    tracksOf(context.doc).flatMap((track) => {
      const { doc, rig } = context;
      if (track.input.kind !== "pair") return [];
      const [left, right] = [doc.lines[track.input.leftId], doc.lines[track.input.rightId]];
      const [a, b] = [rigInputOf(rig, left?.portId ?? null), rigInputOf(rig, right?.portId ?? null)];
      if (!left || !right || !a || !b || a.port.id === b.port.id) return [];
      const neighbours = a.port.neighbourId === b.port.id;
      if (neighbours && a.port.number < b.port.number) return [];
      const move = moveToFree(doc, rig, left);
      const message = neighbours
        ? `${track.name} has its left on input ${a.label} and its right on ${b.label}: the sides are crossed.`
        : `${track.name} is stereo on inputs ${a.label} and ${b.label}, which are not neighbours.`;
      const fixes = neighbours
        ? swapFix(context, [left, right])
        : move
          ? [{ label: `Move ${track.name} to ${move.where}`, edits: move.edits }]
          : [];
      return [
        finding("stereo-not-neighbours", {
          severity: "problem",
          message,
          places: [{ kind: "track", id: track.id, field: "input" }],
          fixes,
        }),
      ];
    }),
};
