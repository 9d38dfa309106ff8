import { layoutRows } from "@/core/layout/rows";
import type { ChannelId } from "@/core/model/ids";
import { linesOfTrack, trackOf } from "@/core/model/read-template";
import { pairCommand, stepCommand, unplug } from "@/core/planning/arrange";
import { type Block, fillAscending, fillDown } from "@/core/planning/block";
import { colourByFamily } from "@/core/planning/family";
import { inputsInRowOrder, rowsInInputOrder } from "@/core/planning/order";
import { ADD_TRACKS_FIELD, FILTER_FIELD, newIds } from "../grid/grid-focus";
import { type ActTools, actOf, type Chosen, type GridAct, SELECT_FIRST, ways } from "./act";
import { askFirst } from "./act-dialogs";
import { cant, type Doable } from "./act-model";

const focusField = (id: string) => (): void => document.getElementById(id)?.focus();

/** The block that a fill works on: what is selected, or the row above and the cursor's when it is but one. */
const fillBlock = ({ trackIds, order, range }: Chosen): Block => {
  const [only, ...more] = trackIds;
  const above = only && !more.length ? order[order.indexOf(only) - 1] : undefined;
  return { trackIds: above ? [above, ...trackIds] : trackIds, columns: range };
};

const nameList = (names: readonly string[]): string =>
  names.length > 4
    ? `${names.slice(0, 3).join(", ")} and ${names.length - 3} more`
    : [names.slice(0, -1).join(", "), names.at(-1)].filter(Boolean).join(" and ");

/** What removes tracks that are not seen says which before it does. */
const removing = ({ doc, plainMany, outOfView }: Chosen, doable: Doable): Doable => {
  if (!outOfView.length) return doable;
  const names = outOfView.map((id) => trackOf(doc, id)?.name || "a track without a name");
  return {
    ...doable,
    run: () =>
      askFirst({
        title: `Remove ${plainMany}`,
        says: `${names.length === 1 ? "One of them is" : `${names.length} of them are`} out of view: ${nameList(names)}. Undo brings them back.`,
        does: `Remove ${plainMany}`,
        onDo: doable.run,
      }),
  };
};

/** Acts on the selected tracks that ask nothing. */
export const arrangeActs = (chosen: Chosen, tools: ActTools): readonly GridAct[] => {
  const { doc, rig, studio, trackIds, many, plainMany } = chosen;
  const { command, plan, block } = ways(doc, tools);
  const made = actOf("selection");
  const [first] = trackIds;
  const only = trackIds.length === 1 ? first : undefined;
  const track = only ? trackOf(doc, only) : null;
  const filled = fillBlock(chosen);
  return [
    made(
      "pair",
      "Make one stereo track",
      command(pairCommand(doc, trackIds), { whyNot: "Select two mono tracks first." }),
    ),
    made(
      "split",
      "Make two mono tracks",
      command(only ? { kind: "tracks.split", trackId: only, newTrackId: newIds<ChannelId>("track") } : null, {
        whyNot: "Select one stereo track first.",
      }),
    ),
    made(
      "up",
      `Move ${many} up`,
      command(stepCommand(doc, trackIds, -1), {
        name: `Move ${plainMany} up`,
        whyNot: trackIds.length ? "It is the first of its folder already." : SELECT_FIRST,
      }),
    ),
    made(
      "down",
      `Move ${many} down`,
      command(stepCommand(doc, trackIds, 1), {
        name: `Move ${plainMany} down`,
        whyNot: trackIds.length ? "It is the last of its folder already." : SELECT_FIRST,
      }),
    ),
    made(
      "remove",
      `Remove ${many}`,
      removing(chosen, command(first ? { kind: "entries.remove", table: "channels", ids: trackIds } : null)),
    ),
    made("family", `Dye ${many} by family`, first ? plan(colourByFamily(doc, trackIds, studio)) : cant(SELECT_FIRST)),
    made(
      "fill-down",
      "Fill down",
      block(
        filled.trackIds.length > 1
          ? undefined
          : "Select two rows or more first: the first is what the others are filled with.",
        () => fillDown(doc, rig, { block: filled, ids: newIds }),
      ),
    ),
    made(
      "fill-ascending",
      "Fill ascending",
      block(
        filled.trackIds.length > 1
          ? undefined
          : "Select two rows or more first: the first is what the others are filled with.",
        () => fillAscending(doc, rig, { block: filled, ids: newIds }),
      ),
    ),
    made(
      "unplug",
      "Take it off its input",
      track && linesOfTrack(doc, track).some((line) => line.portId)
        ? plan(unplug(doc, track.id))
        : cant(only ? "It is on no input." : "Select one track first."),
    ),
  ];
};

/** Acts on the whole list. */
export const listActs = ({ doc, rig }: Chosen, tools: ActTools): readonly GridAct[] => {
  const { rows, setRows, desk } = tools;
  const startAdding = (): void => {
    desk.setState({ adding: true });
    focusField(ADD_TRACKS_FIELD)();
  };
  const { planLater } = ways(doc, tools);
  const made = actOf("list");
  const allTracks = () => layoutRows(doc, { unfold: true }).flatMap((row) => (row.kind === "track" ? [row.id] : []));
  return [
    made("add", "Add tracks", { run: startAdding }),
    made("filter", "Filter the rows", { run: focusField(FILTER_FIELD) }),
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
    made("fit-rows", rows === "fit" ? "Rows as high as usual" : "Fit all rows in view", {
      run: () => setRows(rows === "fit" ? "usual" : "fit"),
    }),
  ];
};
