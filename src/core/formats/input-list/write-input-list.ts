import { csvFormatRows } from "d3-dsv";
import { layoutRows } from "../../layout/rows";
import { rigInputOf } from "../../model/read-rig";
import { colourOf, linesOfTrack, microphoneName } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import type { Line, Template, Track } from "../../model/template";
import { formatGain } from "../../units/decibels";
import { guard } from "./guard";
import { guessedIcon } from "./plan-import";
import { FOLDER_SEPARATOR, PAIR_SEPARATOR } from "./read-input-list";

/** Columns that every list has. */
export const CSV_COLUMNS = ["Input", "Track", "Source", "Microphone", "Phantom", "Format", "Player", "Folder", "Colour", "Note"] as const;

const same = (values: readonly string[]): string => (values.every((value) => value === values[0]) ? (values[0] ?? "") : values.join(PAIR_SEPARATOR));

const labelOf = (rig: Rig, line: Line): string => rigInputOf(rig, line.portId)?.label ?? line.requestedInput ?? "";

/** "5", "5-6", "E5-6", "3+9": the inputs of a track as a list writes them. */
export const inputsInList = (rig: Rig, lines: readonly Line[]): string => {
  const labels = lines.map((line) => labelOf(rig, line));
  const [left = "", right] = labels;
  if (right === undefined || !left || !right) return labels.filter(Boolean).join("+");
  const [, prefix = "", number = ""] = /^(\D*)(\d+)$/.exec(left) ?? [];
  const next = `${prefix}${Number(number) + 1}`;
  return right === next ? `${left}-${Number(number) + 1}` : `${left}+${right}`;
};

const folderNames = (doc: Template, track: Track): readonly string[] => {
  const names: string[] = [];
  for (let folder = track.folderId ? doc.folders[track.folderId] : undefined; folder; folder = folder.parentId ? doc.folders[folder.parentId] : undefined)
    names.unshift(folder.name);
  return names;
};

const toCells = (doc: Template, rig: Rig, track: Track): readonly string[] => {
  const lines = linesOfTrack(doc, track);
  return [
    inputsInList(rig, lines),
    track.name,
    same(lines.map((line) => line.source)),
    same(lines.map((line) => microphoneName(rig, line.microphone))),
    same(lines.map((line) => (line.phantom ? "yes" : "no"))),
    track.input.kind === "pair" ? "stereo" : "mono",
    same(lines.map((line) => line.player)),
    folderNames(doc, track).join(FOLDER_SEPARATOR),
    colourOf(doc, track),
    track.note,
  ];
};

interface FurtherColumn {
  readonly heading: string;
  /** Whether a list without the column would be read back otherwise. */
  readonly needed: (doc: Template, track: Track) => boolean;
  readonly text: (doc: Template, track: Track) => string;
}

/** `usual` is what is read where there is no such column. */
const ofLines = (heading: string, usual: string, text: (line: Line) => string): FurtherColumn => ({
  heading,
  needed: (doc, track) => linesOfTrack(doc, track).some((line) => text(line) !== usual),
  text: (doc, track) => same(linesOfTrack(doc, track).map(text)),
});

/** Columns that stand behind the others where a template says something in them, so that nothing is lost on the way. */
const FURTHER: readonly FurtherColumn[] = [
  ofLines("Gain dB", "", (line) => (line.gainDb === null ? "" : formatGain(line.gainDb))),
  ofLines("Pad", "no", (line) => (line.pad ? "yes" : "no")),
  ofLines("Polarity", "normal", (line) => (line.polarityInverted ? "inverted" : "normal")),
  ofLines("Room", "", (line) => line.room),
  ofLines("Position", "", (line) => line.position),
  { heading: "Icon", needed: (doc, track) => track.icon !== guessedIcon(track.name, folderNames(doc, track)), text: (_doc, track) => track.icon ?? "" },
];

/**
 * The input list of a template as CSV (RFC 4180, UTF-8, no byte order mark), one row a track, in the order of the grid with every folder open:
 * the usual columns, and those of gain, pad, polarity, room, position and icon that the template needs.
 */
export const writeInputList = (doc: Template, rig: Rig): string => {
  const tracks = layoutRows(doc, { unfold: true }).flatMap((row) => (row.kind === "track" ? [row.track] : []));
  const further = FURTHER.filter((column) => tracks.some((track) => column.needed(doc, track)));
  const rows = tracks.map((track) => [...toCells(doc, rig, track), ...further.map((column) => column.text(doc, track))]);
  return `${csvFormatRows([[...CSV_COLUMNS, ...further.map((column) => column.heading)], ...rows.map((cells) => cells.map(guard))])}\n`;
};
