import { rigInputOf } from "../model/read-rig";
import { linesOfTrack, microphoneName } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Track } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { fieldText } from "../reading/field-text";
import { chainText } from "./chain-text";
import { type CellColumn, type GridColumn, gridColumn } from "./columns";
import { outputText } from "./outputs";
import { sendsText } from "./sends";

/** What differs on the two sides of a pair is shown as both; the same is shown once. */
const joined = (values: readonly string[]): string => [...new Set(values)].join(" + ");

/** The inputs of a track, short: "7", "5–6", "E1", "3 + 9", "17?" for one that is asked for and not there. */
export const inputText = (doc: Template, rig: Rig, track: Track): string => {
  if (track.input.kind === "bus") return doc.channels[track.input.busId]?.name ?? "";
  if (track.input.kind === "instrument")
    return `${doc.channels[track.input.instrumentId]?.name ?? ""} ${track.input.output}`;
  const labels = linesOfTrack(doc, track).map(
    (line) => rigInputOf(rig, line.portId)?.label ?? (line.requestedInput ? `${line.requestedInput}?` : ""),
  );
  const [left, right] = labels;
  if (!left || !right) return labels.filter(Boolean).join(" + ");
  const [a, b] = linesOfTrack(doc, track).map((line) => rigInputOf(rig, line.portId));
  return a && b && a.port.neighbourId === b.port.id ? `${left}–${b.port.number}` : `${left} + ${right}`;
};

const shownIn = (entry: Line | Track, { key }: GridColumn): unknown =>
  (entry as unknown as Readonly<Record<string, unknown>>)[key ?? ""];

/** A column of the lines of a track: what they say, and a switch that is on for one of them is on. */
const linesText = (
  doc: Template,
  rig: Rig,
  { track, column }: { readonly track: Track; readonly column: GridColumn },
): string => {
  const { field, id } = column;
  const lines = linesOfTrack(doc, track);
  if (!field) return "";
  if (field.kind === "flag")
    return fieldText(
      field,
      lines.some((line) => shownIn(line, column) === true),
    );
  return joined(
    lines.map((line) =>
      id === "microphone" ? microphoneName(rig, line.microphone) : fieldText(field, shownIn(line, column)),
    ),
  );
};

/** A cell as text, as it is shown and as it can be typed again. */
export const cellText = (
  doc: Template,
  rig: Rig,
  { track, column }: { readonly track: Track; readonly column: CellColumn },
): string => {
  const described = gridColumn(column);
  if (described.of === "line") return linesText(doc, rig, { track, column: described });
  if (column === "layout") return track.input.kind === "pair" ? "stereo" : "mono";
  if (column === "input")
    return track.input.kind === "bus" || track.input.kind === "instrument"
      ? inputText(doc, rig, track)
      : inputText(doc, rig, track).replace("–", "-").replaceAll("?", "");
  if (column === "sends") return sendsText(doc, track.id);
  if (column === "chain") return chainText(doc, track.id);
  if (column === "output") return outputText(doc, rig, track.output);
  if (column === "folder") return (track.folderId && doc.folders[track.folderId]?.name) ?? "";
  return described.field ? fieldText(described.field, shownIn(track, described)) : "";
};
