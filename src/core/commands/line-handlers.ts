import type { Draft } from "immer";
import type { LineId } from "../model/ids";
import { inputLineIds, lineName, tracksByLine } from "../model/read-template";
import { entriesOf } from "../model/rig";
import type { Template, TrackInput } from "../model/template";
import { dB, formatDb } from "../units/decibels";
import type { LineChange, LinePort } from "./command";
import { firstOf, refuse } from "./engine";
import { type Handlers, missingLines, type TemplateDraft } from "./handler";

/** What a planned gain may be, in dB: wider than any preamp, so that only slips are refused. */
const GAIN = { min: dB(-60), max: dB(120), holds: (value: number) => value >= -60 && value <= 120 };

/** "Fiddle" for one line, "4 lines" for several. */
export const countLines = (doc: Template, ids: readonly LineId[]): string => {
  const line = ids.length === 1 && ids[0] ? doc.lines[ids[0]] : undefined;
  return line ? lineName(line, tracksByLine(doc).get(line.id) ?? []) : `${ids.length} lines`;
};

export const patchLines = (draft: TemplateDraft, inputs: readonly LinePort[]): void => {
  for (const { lineId, portId, requestedInput } of inputs) {
    const line = draft.lines[lineId];
    if (line) Object.assign(line, { portId, requestedInput: portId ? null : requestedInput });
  }
};

/** The same input with one line in place of another. */
const withLine = (input: TrackInput, from: LineId, to: LineId): Draft<TrackInput> => {
  const swap = (id: LineId) => (id === from ? to : id);
  if (input.kind === "line") return { kind: "line", lineId: swap(input.lineId) };
  return input.kind === "pair" ? { kind: "pair", leftId: swap(input.leftId), rightId: swap(input.rightId) } : input;
};

const changeName = (who: string, set: LineChange): string => {
  if (set.phantom !== undefined) return `Phantom ${set.phantom ? "on" : "off"} for ${who}`;
  if (set.microphone !== undefined) return set.microphone ? `${set.microphone.name} for ${who}` : `Take the microphone off ${who}`;
  if (set.pad !== undefined) return `Pad ${set.pad ? "in" : "out"} for ${who}`;
  if (set.polarityInverted !== undefined) return `${set.polarityInverted ? "Turn over" : "Turn back"} the polarity of ${who}`;
  if (set.gainDb !== undefined) return set.gainDb === null ? `Take the gain off ${who}` : `Set the gain of ${who} to ${formatDb(set.gainDb)}`;
  if (set.room !== undefined) return set.room ? `Put ${who} in the ${set.room}` : `Take ${who} out of its room`;
  if (set.player !== undefined) return `Player of ${who}`;
  if (set.position !== undefined) return `Position of ${who}`;
  return `Source of ${who}`;
};

export const lineHandlers: Handlers<"lines"> = {
  "lines.set": {
    local: true,
    check: (doc, { lineIds }) => (lineIds.length ? missingLines(doc, lineIds) : refuse("empty", "", "No line was named. Select tracks that take an input.")),
    edit: (draft, { lineIds, set }) => {
      for (const id of lineIds) Object.assign(draft.lines[id] ?? {}, set);
    },
    name: (doc, { lineIds, set }) => changeName(countLines(doc, lineIds), set),
  },
  "lines.shift": {
    check: (doc, { lineIds, gainDb }) =>
      firstOf(
        () => missingLines(doc, lineIds),
        () => (lineIds.some((id) => doc.lines[id]?.gainDb !== null) ? null : refuse("empty", lineIds[0] ?? "", "None of these lines has a gain yet. Set one first, then shift.")),
        () => {
          const beyond = lineIds.map((id) => doc.lines[id]).find((line) => line && line.gainDb !== null && !GAIN.holds(line.gainDb + gainDb));
          return beyond ? refuse("unfit", beyond.id, `That would take ${countLines(doc, [beyond.id])} beyond ${formatDb(GAIN.min)} to ${formatDb(GAIN.max)}.`) : null;
        },
      ),
    edit: (draft, { lineIds, gainDb }) => {
      for (const id of lineIds) {
        const line = draft.lines[id];
        if (line && line.gainDb !== null) line.gainDb = dB(Math.round((line.gainDb + gainDb) * 100) / 100);
      }
    },
    name: (doc, { lineIds, gainDb }) => `Shift the gain of ${countLines(doc, lineIds)} by ${gainDb > 0 ? "+" : ""}${formatDb(gainDb)}`,
  },
  "lines.patch": {
    local: true,
    check: (doc, { inputs }) =>
      missingLines(
        doc,
        inputs.map((input) => input.lineId),
      ),
    edit: (draft, { inputs }) => patchLines(draft, inputs),
    name: (doc, { inputs }) => {
      const who = countLines(
        doc,
        inputs.map((input) => input.lineId),
      );
      return inputs.every((input) => input.portId === null) ? `Take ${who} off its input` : `Move ${who} to another input`;
    },
  },
  "lines.join": {
    check: (doc, { keepId, dropId }) =>
      firstOf(
        () => missingLines(doc, [keepId, dropId]),
        () => (keepId === dropId ? refuse("unfit", keepId, "A line can't be joined to itself.") : null),
        () => {
          const takers = entriesOf(doc.channels).filter((channel) => channel.kind === "track" && inputLineIds(channel.input).includes(dropId));
          const both = takers.find((channel) => channel.kind === "track" && inputLineIds(channel.input).includes(keepId));
          return both ? refuse("unfit", both.id, `${both.name} takes both lines as left and right, so they can't become one. Make it mono first.`) : null;
        },
      ),
    edit: (draft, { keepId, dropId, sharing }) => {
      for (const channel of entriesOf(draft.channels)) {
        if (channel.kind !== "track") continue;
        channel.input = withLine(channel.input, dropId, keepId);
        if (inputLineIds(channel.input).includes(keepId)) channel.sharing = sharing;
      }
      delete draft.lines[dropId];
    },
    name: (doc, { keepId, dropId, sharing }) =>
      `Let ${countLines(doc, [keepId])} and ${countLines(doc, [dropId])} take one line ${sharing === "by-turns" ? "by turns" : "at once"}`,
  },
};
