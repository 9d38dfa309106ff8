import type { ChannelId, LineId } from "../model/ids";
import { perTwo } from "../model/per-document";
import { tracksByLine } from "../model/read-template";
import { putInto } from "../model/table";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { passesOf } from "./cues";

const passesByLine = perTwo(
  (passes: Template["passes"], channels: Template["channels"]): ReadonlyMap<LineId, ReadonlySet<number>> | null => {
    const all = passesOf({ passes });
    if (!all.length) return null;
    const ofTrack = new Map<ChannelId, number[]>();
    for (const [at, { trackIds }] of all.entries()) for (const id of trackIds) putInto(ofTrack, id, at);
    return new Map(
      [...tracksByLine({ channels })].map(([line, tracks]) => [
        line,
        new Set(tracks.flatMap(({ id }) => ofTrack.get(id) ?? [])),
      ]),
    );
  },
);

/**
 * Whether two lines are ever recorded at the same time: where passes are planned, only if one of them arms both.
 * Inputs, microphones and players may change between passes.
 */
export const recordedTogether = (
  doc: Pick<Template, "channels" | "passes">,
  a: Pick<Line, "id">,
  b: Pick<Line, "id">,
): boolean => {
  const passes = passesByLine(doc.passes, doc.channels);
  if (!passes) return true;
  const [first, second] = [passes.get(a.id), passes.get(b.id)];
  return first !== undefined && second !== undefined && [...first].some((at) => second.has(at));
};

/** The most of some lines that are recorded at the same time, of which one always stays: those that clash. */
export const clashing = (
  doc: Pick<Template, "channels" | "passes">,
  lines: readonly Line[],
): readonly (readonly Line[])[] => {
  const passes = passesByLine(doc.passes, doc.channels);
  if (!passes) return [lines];
  const groups = new Map<number, Line[]>();
  for (const line of lines) for (const at of passes.get(line.id) ?? []) putInto(groups, at, line);
  return [...groups.values()].filter((group) => group.length > 1);
};
