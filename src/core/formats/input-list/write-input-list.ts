import { csvFormatRows } from "d3-dsv";
import { layoutRows } from "../../layout/rows";
import { rigInputOf } from "../../model/read-rig";
import { colourOf, foldersAround, linesOfTrack, microphoneName } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import type { Track } from "../../model/tables/channels";
import type { Line } from "../../model/tables/lines";
import type { Template } from "../../model/template";
import { LIST_COLUMNS, type ListMeaning, type MeaningColumn } from "../../queries/columns";
import { trackNames } from "../../queries/family-around";
import { fieldText } from "../../reading/field-text";
import { guard } from "./guard";
import { FOLDER_SEPARATOR, PAIR_SEPARATOR } from "./list-types";
import { guessedIcon } from "./plan-import";

const same = (values: readonly string[]): string =>
  values.every((value) => value === values[0]) ? (values[0] ?? "") : values.join(PAIR_SEPARATOR);

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

const folderNames = (doc: Template, track: Track): readonly string[] =>
  foldersAround(doc, track.folderId).map(({ name }) => name);

interface Cell {
  readonly doc: Template;
  readonly rig: Rig;
  readonly track: Track;
}

type Text = (cell: Cell) => string;

/** Columns whose text says more than a field. */
const SPECIAL: Partial<Readonly<Record<ListMeaning, Text>>> = {
  input: ({ doc, rig, track }) => inputsInList(rig, linesOfTrack(doc, track)),
  microphone: ({ doc, rig, track }) =>
    same(linesOfTrack(doc, track).map((line) => microphoneName(rig, line.microphone))),
  format: ({ track }) => (track.input.kind === "pair" ? "stereo" : "mono"),
  folder: ({ doc, track }) => folderNames(doc, track).join(FOLDER_SEPARATOR),
  colour: ({ doc, track }) => colourOf(doc, track),
};

const valueIn = (entry: Line | Track, key: string | null): unknown =>
  (entry as unknown as Readonly<Record<string, unknown>>)[key ?? ""];

/** The text of a column, by what the field that it shows is described as. */
const textOf = ({ meaning, of, key, field }: MeaningColumn): Text => {
  const special = SPECIAL[meaning];
  if (special) return special;
  if (!field) throw new Error(`expected a field for the column ${meaning}, got none`);
  return of === "line"
    ? ({ doc, track }) => same(linesOfTrack(doc, track).map((line) => fieldText(field, valueIn(line, key))))
    : ({ track }) => fieldText(field, valueIn(track, key));
};

/** The icon that a list without icons would be read back with. */
const readBackAs = (doc: Template, rig: Rig, track: Track): string => {
  const [line] = linesOfTrack(doc, track);
  const microphone = line ? microphoneName(rig, line.microphone) : "";
  return guessedIcon({ name: track.name, folder: folderNames(doc, track), microphone }, trackNames(doc.channels));
};

/** Whether a list without the column would be read back otherwise. */
const isNeeded = ({ meaning, of, key, field }: MeaningColumn, { doc, rig, track }: Cell): boolean => {
  if (meaning === "icon") return track.icon !== readBackAs(doc, rig, track);
  return of === "line" && linesOfTrack(doc, track).some((line) => valueIn(line, key) !== field?.initial);
};

/**
 * The input list of a template as CSV (RFC 4180, UTF-8, no byte order mark), one row a track, in the order of the grid
 * with every folder open:
 * the usual columns, and of the others those in which the template says something, so that nothing is lost on the way.
 */
export const writeInputList = (doc: Template, rig: Rig): string => {
  const cells = layoutRows(doc, { unfold: true }).flatMap((row) =>
    row.kind === "track" ? [{ doc, rig, track: row.track }] : [],
  );
  const columns = LIST_COLUMNS.filter(
    (column) => column.always !== undefined || cells.some((cell) => isNeeded(column, cell)),
  );
  const texts = columns.map(textOf);
  return `${csvFormatRows([columns.map((column) => column.heading), ...cells.map((cell) => texts.map((text) => guard(text(cell))))])}\n`;
};
