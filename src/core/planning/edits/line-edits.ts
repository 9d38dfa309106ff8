import { type Command, refuse } from "../../commands/command";
import type { LineId } from "../../model/ids";
import { lineName } from "../../model/line-name";
import { isTrack, tracksByLine } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import { inputLineIds, type TrackInput } from "../../model/tables/channel-fields";
import { GAIN_DB } from "../../model/tables/lines";
import type { Template } from "../../model/template";
import { type Decibels, dB, formatDb } from "../../units/decibels";
import type { LinePort, Planners } from "./edit";
import { firstOf, missingLines } from "./refusals";

/** "Fiddle" for one line, "4 lines" for several. */
export const countLines = (doc: Template, ids: readonly LineId[]): string => {
  const line = ids.length === 1 && ids[0] ? doc.lines[ids[0]] : undefined;
  return line ? lineName(line, tracksByLine(doc).get(line.id) ?? []) : `${ids.length} lines`;
};

/** Plugs lines in; one that has a port asks for none. */
export const patchCommand = (inputs: readonly LinePort[]): Command => ({
  kind: "set",
  table: "lines",
  values: Object.fromEntries(
    inputs.map(({ lineId, portId, requestedInput }) => [
      lineId,
      { portId, requestedInput: portId ? null : requestedInput },
    ]),
  ),
});

/** The same input with one line in place of another. */
const withLine = (input: TrackInput, from: LineId, to: LineId): TrackInput => {
  const swap = (id: LineId) => (id === from ? to : id);
  if (input.kind === "line") return { kind: "line", lineId: swap(input.lineId) };
  return input.kind === "pair" ? { kind: "pair", leftId: swap(input.leftId), rightId: swap(input.rightId) } : input;
};

const shifted = (doc: Template, lineIds: readonly LineId[], by: Decibels): readonly (readonly [LineId, Decibels])[] =>
  lineIds.flatMap((id) => {
    const gain = doc.lines[id]?.gainDb ?? null;
    return gain === null ? [] : [[id, dB(Math.round((gain + by) * 100) / 100)] as const];
  });

export const lineEdits: Planners<"lines"> = {
  "lines.shift": {
    plan: (doc, { lineIds, gainDb }) => {
      const missing = missingLines(doc, lineIds);
      if (missing) return missing;
      const moved = shifted(doc, lineIds, gainDb);
      if (!moved.length)
        return refuse("empty", lineIds[0] ?? "", "None of these lines has a gain yet. Set one first, then shift.");
      const beyond = moved.find(([, gain]) => gain < GAIN_DB.min || gain > GAIN_DB.max)?.[0];
      if (beyond)
        return refuse(
          "unfit",
          beyond,
          `That would take ${countLines(doc, [beyond])} beyond ${formatDb(dB(GAIN_DB.min))} to ${formatDb(dB(GAIN_DB.max))}.`,
        );
      return [
        { kind: "set", table: "lines", values: Object.fromEntries(moved.map(([id, gain]) => [id, { gainDb: gain }])) },
      ];
    },
    name: (doc, { lineIds, gainDb }) =>
      `Shift the gain of ${countLines(doc, lineIds)} by ${gainDb > 0 ? "+" : ""}${formatDb(gainDb)}`,
  },
  "lines.patch": {
    plan: (doc, { inputs }) =>
      missingLines(
        doc,
        inputs.map((input) => input.lineId),
      ) ?? (inputs.length ? [patchCommand(inputs)] : []),
    name: (doc, { inputs }) => {
      const who = countLines(
        doc,
        inputs.map((input) => input.lineId),
      );
      return inputs.every((input) => input.portId === null)
        ? `Take ${who} off its input`
        : `Move ${who} to another input`;
    },
  },
  "lines.join": {
    plan: (doc, { keepId, dropId, sharing }) => {
      const tracks = entriesOf(doc.channels).filter(isTrack);
      const takers = tracks.filter((track) => inputLineIds(track.input).includes(dropId));
      const refusal = firstOf(
        () => missingLines(doc, [keepId, dropId]),
        () => (keepId === dropId ? refuse("unfit", keepId, "A line can't be joined to itself.") : null),
        () => {
          const both = takers.find((track) => inputLineIds(track.input).includes(keepId));
          return both
            ? refuse(
                "unfit",
                both.id,
                `${both.name} takes both lines as left and right, so they can't become one. Make it mono first.`,
              )
            : null;
        },
      );
      if (refusal) return refusal;
      const joined = tracks.filter((track) => takers.includes(track) || inputLineIds(track.input).includes(keepId));
      // The line that is dropped goes by itself once no track takes it.
      return [
        {
          kind: "set",
          table: "channels",
          values: Object.fromEntries(
            joined.map((track) => [track.id, { input: withLine(track.input, dropId, keepId), sharing }]),
          ),
        },
      ];
    },
    name: (doc, { keepId, dropId, sharing }) =>
      `Let ${countLines(doc, [keepId])} and ${countLines(doc, [dropId])} take one line ${sharing === "by-turns" ? "by turns" : "at once"}`,
  },
};
