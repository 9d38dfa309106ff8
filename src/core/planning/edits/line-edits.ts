import { type Command, refuse } from "../../commands/command";
import type { LineId } from "../../model/ids";
import { isTrack, lineName, tracksByLine } from "../../model/read-template";
import { entriesOf } from "../../model/table";
import { inputLineIds, type TrackInput } from "../../model/tables/channels";
import { GAIN_DB, LINES } from "../../model/tables/lines";
import type { Template } from "../../model/template";
import { type Decibels, dB, formatDb } from "../../units/decibels";
import { type LineChange, type LinePort, type Planners, toAll } from "./edit";
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
  values: Object.fromEntries(inputs.map(({ lineId, portId, requestedInput }) => [lineId, { portId, requestedInput: portId ? null : requestedInput }])),
});

/** The same input with one line in place of another. */
const withLine = (input: TrackInput, from: LineId, to: LineId): TrackInput => {
  const swap = (id: LineId) => (id === from ? to : id);
  if (input.kind === "line") return { kind: "line", lineId: swap(input.lineId) };
  return input.kind === "pair" ? { kind: "pair", leftId: swap(input.leftId), rightId: swap(input.rightId) } : input;
};

/** What an edit of a field is called, where its word alone would not say it. */
const SAID: { readonly [K in keyof LineChange]: (who: string, value: NonNullable<LineChange[K]> | null) => string } = {
  phantom: (who, on) => `Phantom ${on ? "on" : "off"} for ${who}`,
  microphone: (who, microphone) => (microphone ? `${microphone.name} for ${who}` : `Take the microphone off ${who}`),
  pad: (who, on) => `Pad ${on ? "in" : "out"} for ${who}`,
  polarityInverted: (who, inverted) => `${inverted ? "Turn over" : "Turn back"} the polarity of ${who}`,
  gainDb: (who, gainDb) => (gainDb === null ? `Take the gain off ${who}` : `Set the gain of ${who} to ${formatDb(gainDb)}`),
  room: (who, room) => (room ? `Put ${who} in the ${room}` : `Take ${who} out of its room`),
};

const changeName = (who: string, set: LineChange): string => {
  const said = Object.keys(SAID).find((field) => set[field as keyof LineChange] !== undefined) as keyof LineChange | undefined;
  if (said) return (SAID[said] as (who: string, value: unknown) => string)(who, set[said]);
  const [field = "source"] = Object.keys(set) as readonly (keyof LineChange)[];
  const word = (LINES.fields[field]?.word ?? field).replace(/^the /, "");
  return `${word.charAt(0).toUpperCase()}${word.slice(1)} of ${who}`;
};

const shifted = (doc: Template, lineIds: readonly LineId[], by: Decibels): readonly (readonly [LineId, Decibels])[] =>
  lineIds.flatMap((id) => {
    const gain = doc.lines[id]?.gainDb ?? null;
    return gain === null ? [] : [[id, dB(Math.round((gain + by) * 100) / 100)] as const];
  });

export const lineEdits: Planners<"lines"> = {
  "lines.set": {
    plan: (doc, { lineIds, set }) =>
      lineIds.length
        ? (missingLines(doc, lineIds) ?? [{ kind: "set", table: "lines", values: toAll(lineIds, set) }])
        : refuse("empty", "", "No line was named. Select tracks that take an input."),
    name: (doc, { lineIds, set }) => changeName(countLines(doc, lineIds), set),
  },
  "lines.shift": {
    plan: (doc, { lineIds, gainDb }) => {
      const missing = missingLines(doc, lineIds);
      if (missing) return missing;
      const moved = shifted(doc, lineIds, gainDb);
      if (!moved.length) return refuse("empty", lineIds[0] ?? "", "None of these lines has a gain yet. Set one first, then shift.");
      const beyond = moved.find(([, gain]) => gain < GAIN_DB.min || gain > GAIN_DB.max)?.[0];
      if (beyond) return refuse("unfit", beyond, `That would take ${countLines(doc, [beyond])} beyond ${formatDb(dB(GAIN_DB.min))} to ${formatDb(dB(GAIN_DB.max))}.`);
      return [{ kind: "set", table: "lines", values: Object.fromEntries(moved.map(([id, gain]) => [id, { gainDb: gain }])) }];
    },
    name: (doc, { lineIds, gainDb }) => `Shift the gain of ${countLines(doc, lineIds)} by ${gainDb > 0 ? "+" : ""}${formatDb(gainDb)}`,
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
      return inputs.every((input) => input.portId === null) ? `Take ${who} off its input` : `Move ${who} to another input`;
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
          return both ? refuse("unfit", both.id, `${both.name} takes both lines as left and right, so they can't become one. Make it mono first.`) : null;
        },
      );
      if (refusal) return refusal;
      const joined = tracks.filter((track) => takers.includes(track) || inputLineIds(track.input).includes(keepId));
      // The line that is dropped goes by itself once no track takes it.
      return [{ kind: "set", table: "channels", values: Object.fromEntries(joined.map((track) => [track.id, { input: withLine(track.input, dropId, keepId), sharing }])) }];
    },
    name: (doc, { keepId, dropId, sharing }) =>
      `Let ${countLines(doc, [keepId])} and ${countLines(doc, [dropId])} take one line ${sharing === "by-turns" ? "by turns" : "at once"}`,
  },
};
