import { rigInputOf } from "../model/read-rig";
import { linesOfTrack, microphoneName } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Template, Track } from "../model/template";
import { formatGain } from "../units/decibels";

/** What can be edited in a row of the input list, as the columns stand from left to right. */
export const CELL_COLUMNS = [
  "icon",
  "colour",
  "name",
  "layout",
  "source",
  "microphone",
  "input",
  "phantom",
  "pad",
  "polarity",
  "gain",
  "folder",
  "player",
  "room",
  "position",
  "note",
] as const;
export type CellColumn = (typeof CELL_COLUMNS)[number];

/** What differs on the two sides of a pair is shown as both; the same is shown once. */
const joined = (values: readonly string[]): string => [...new Set(values)].join(" + ");

/** The inputs of a track, short: "7", "5–6", "E1", "3 + 9", "17?" for one that is asked for and not there. */
export const inputText = (doc: Template, rig: Rig, track: Track): string => {
  const labels = linesOfTrack(doc, track).map((line) => rigInputOf(rig, line.portId)?.label ?? (line.requestedInput ? `${line.requestedInput}?` : ""));
  const [left, right] = labels;
  if (!left || !right) return labels.filter(Boolean).join(" + ");
  const [a, b] = linesOfTrack(doc, track).map((line) => rigInputOf(rig, line.portId));
  return a && b && a.port.neighbourId === b.port.id ? `${left}–${b.port.number}` : `${left} + ${right}`;
};

/** A cell as text, as it is shown and as it can be typed again. */
export const cellText = (doc: Template, rig: Rig, { track, column }: { readonly track: Track; readonly column: CellColumn }): string => {
  const lines = linesOfTrack(doc, track);
  switch (column) {
    case "icon":
      return track.icon ?? "";
    case "colour":
      return track.colour ?? "";
    case "name":
      return track.name;
    case "layout":
      return track.input.kind === "pair" ? "stereo" : "mono";
    case "source":
      return joined(lines.map((line) => line.source));
    case "pad":
      return lines.some((line) => line.pad) ? "yes" : "no";
    case "polarity":
      return lines.some((line) => line.polarityInverted) ? "inverted" : "normal";
    case "gain":
      return joined(lines.map((line) => (line.gainDb === null ? "" : formatGain(line.gainDb))));
    case "room":
      return joined(lines.map((line) => line.room));
    case "position":
      return joined(lines.map((line) => line.position));
    case "microphone":
      return joined(lines.map((line) => microphoneName(rig, line.microphone)));
    case "input":
      return inputText(doc, rig, track).replace("–", "-").replaceAll("?", "");
    case "phantom":
      return lines.some((line) => line.phantom) ? "yes" : "no";
    case "player":
      return joined(lines.map((line) => line.player));
    case "folder":
      return (track.folderId && doc.folders[track.folderId]?.name) ?? "";
    case "note":
      return track.note;
    default:
      return column satisfies never;
  }
};
