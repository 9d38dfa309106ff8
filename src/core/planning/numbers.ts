import type { ChannelId } from "../model/ids";
import { lineName } from "../model/line-name";
import { type RigInput, rigInputInWords, rigInputOf, rigInputsOf } from "../model/read-rig";
import { trackOf, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Template } from "../model/template";
import { readDecibels } from "../reading/read-cells";
import { counted } from "../units/counted";
import { formatDb } from "../units/decibels";
import type { Edit, LinePort } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

const linesOf = (doc: Template, trackIds: readonly ChannelId[]) => [
  ...new Set(trackIds.flatMap((id) => inputLineIds(trackOf(doc, id)?.input ?? { kind: "none" }))),
];

/**
 * Sets the planned gain of many lines to one value, or shifts it and keeps the differences: two different acts. The
 * text is a number of dB.
 */
export const changeGain = (
  doc: Template,
  trackIds: readonly ChannelId[],
  { how, text }: { readonly how: "set" | "shift"; readonly text: string },
): Planned => {
  const gain = readDecibels(text);
  const lineIds = linesOf(doc, trackIds);
  if (!gain?.db && gain?.db !== 0) return unplanned("Type a number of dB, such as 32, or −3 to shift down.");
  if (!lineIds.length) return unplanned("Select tracks that take an input first.");
  const command: Edit =
    how === "set"
      ? { kind: "entries.set", table: "lines", ids: lineIds, set: { gainDb: gain.db } }
      : { kind: "lines.shift", lineIds, gainDb: gain.db };
  const name =
    how === "set" ? `Set the gain of ${counted(trackIds.length, "track")} to ${formatDb(gain.db)}` : undefined;
  return planned([command], name);
};

/** Why a line can't come to the input that stands so many places on; null when it can. */
const unreachable = (
  rig: Rig,
  who: string,
  { from, to, by }: { readonly from: RigInput; readonly to: RigInput | undefined; readonly by: number },
): string | null => {
  if (!to)
    return `${who} is on input ${from.label}, and ${rig.name} has none ${Math.abs(by)} ${by > 0 ? "further on" : "before it"}.`;
  if (to.loopBack !== from.loopBack)
    return `${who} would come to ${rigInputInWords(to)}: ${to.loopBack ? "that brings other programs in, and nothing can be plugged into it" : "that is an input, and it is on a loop-back"}.`;
  return to.occupied ? `${who} would come to input ${to.label}, which carries the ${to.fedBy?.device.name}.` : null;
};

/**
 * Moves lines along the inputs as they sit, all by the same number of places. Nothing moves when one would fall off the
 * end or onto a return.
 */
export const shiftInputs = (
  doc: Template,
  rig: Rig,
  { trackIds, by }: { readonly trackIds: readonly ChannelId[]; readonly by: number },
): Planned => {
  const rigInputs = rigInputsOf(rig);
  const inputs: LinePort[] = [];
  if (!Number.isInteger(by) || by === 0) return unplanned("Type by how many inputs, such as 2 or −1.");
  for (const id of linesOf(doc, trackIds)) {
    const line = doc.lines[id];
    const rigInput = rigInputOf(rig, line?.portId ?? null);
    if (!line || !rigInput) continue;
    const to = rigInputs[rigInputs.indexOf(rigInput) + by];
    const who = lineName(line, tracksByLine(doc).get(id) ?? []);
    const trouble = unreachable(rig, who, { from: rigInput, to, by });
    if (trouble !== null || !to) return unplanned(trouble ?? "");
    inputs.push({ lineId: id, portId: to.port.id, requestedInput: null });
  }
  if (!inputs.length) return unplanned("None of these tracks is on an input.");
  return planned(
    [{ kind: "lines.patch", inputs }],
    `Shift the inputs of ${counted(trackIds.length, "track")} by ${by > 0 ? "+" : "−"}${Math.abs(by)}`,
  );
};
