import { layoutRows } from "@/core/layout/rows";
import type { ChannelId } from "@/core/model/ids";
import { linesOfTrack, trackOf } from "@/core/model/read-template";
import { pairCommand, stepCommand, unplug } from "@/core/planning/arrange";
import { type Block, fillAscending, fillDown } from "@/core/planning/block";
import { dyeByFamily } from "@/core/planning/family";
import { inputsInRowOrder, rowsInInputOrder } from "@/core/planning/order";
import { ADD_TRACKS_FIELD, FILTER_FIELD, newIds } from "../grid-focus";
import { type Act, type ActTools, actOf, type Chosen, NOT_POSSIBLE, ways } from "./act";

const focusField = (id: string) => (): void => document.getElementById(id)?.focus();

/** The block that a fill works on: what is selected, or the row above and the cursor's when it is but one. */
const fillBlock = ({ trackIds, order, range }: Chosen): Block => {
  const [only, ...more] = trackIds;
  const above = only && !more.length ? order[order.indexOf(only) - 1] : undefined;
  return { trackIds: above ? [above, ...trackIds] : trackIds, columns: range };
};

/** Acts on the selected tracks that ask nothing. */
export const arrangeActs = (chosen: Chosen, tools: ActTools): readonly Act[] => {
  const { doc, rig, studio, trackIds, many } = chosen;
  const { command, plan, block } = ways(doc, tools);
  const made = actOf("selection");
  const [first] = trackIds;
  const only = trackIds.length === 1 ? first : undefined;
  const track = only ? trackOf(doc, only) : null;
  const filled = fillBlock(chosen);
  return [
    made("pair", "Make one stereo track", command(pairCommand(doc, trackIds))),
    made("split", "Make two mono tracks", command(only ? { kind: "tracks.split", trackId: only, newTrackId: newIds<ChannelId>("track") } : null)),
    made("up", `Move ${many} up`, command(stepCommand(doc, trackIds, -1), `Move ${many} up`)),
    made("down", `Move ${many} down`, command(stepCommand(doc, trackIds, 1), `Move ${many} down`)),
    made("remove", `Remove ${many}`, command(first ? { kind: "tracks.remove", trackIds } : null)),
    made("family", `Dye ${many} by family`, first ? plan(dyeByFamily(doc, trackIds, studio.families)) : NOT_POSSIBLE),
    made(
      "fill-down",
      "Fill down",
      block(filled.trackIds.length > 1, () => fillDown(doc, rig, { block: filled, ids: newIds })),
    ),
    made(
      "fill-ascending",
      "Fill ascending",
      block(filled.trackIds.length > 1, () => fillAscending(doc, rig, { block: filled, ids: newIds })),
    ),
    made("unplug", "Take it off its input", track && linesOfTrack(doc, track).some((line) => line.portId) ? plan(unplug(doc, track.id)) : NOT_POSSIBLE),
  ];
};

/** Acts on the whole list. */
export const listActs = ({ doc, rig }: Chosen, tools: ActTools): readonly Act[] => {
  const { rows, setRows } = tools;
  const { planLater } = ways(doc, tools);
  const made = actOf("list");
  const allTracks = () => layoutRows(doc, { unfold: true }).flatMap((row) => (row.kind === "track" ? [row.id] : []));
  return [
    made("add", "Add tracks", { possible: true, run: focusField(ADD_TRACKS_FIELD) }),
    made("filter", "Filter the rows", { possible: true, run: focusField(FILTER_FIELD) }),
    made(
      "rows-in-input-order",
      "Put rows in input order",
      planLater(() => rowsInInputOrder(doc, rig)),
    ),
    made(
      "inputs-in-row-order",
      "Put inputs in row order",
      planLater(() => inputsInRowOrder(doc, rig, allTracks())),
    ),
    made("fit-rows", rows === "fit" ? "Rows as high as usual" : "Fit all rows in view", { possible: true, run: () => setRows(rows === "fit" ? "usual" : "fit") }),
  ];
};
