import type { ChannelId, CueId, IdSource } from "../model/ids";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Template } from "../model/template";
import { type CueCell, levelIn } from "../queries/cues";
import { counted } from "../units/counted";
import { formatGain } from "../units/decibels";
import { panText } from "../units/pan";
import type { BlockPlan } from "./block";
import { groupLevel, readCueLevel, setCueLevels, setGroupLevel } from "./cue-plans";
import type { Edit } from "./edits/edit";
import { planned, unplanned } from "./gesture";

/** A row of the matrix: one source, or a closed group of them. */
export interface LevelRow {
  readonly name: string;
  readonly sourceIds: readonly ChannelId[];
  readonly group: boolean;
}

const textOf = ({ levelDb, tap, pan, on }: Pick<CueLevel, "levelDb" | "tap" | "pan" | "on">): string =>
  [
    levelDb === null ? "−∞" : formatGain(levelDb),
    tap === "before" ? "b" : "a",
    ...(pan ? [panText(pan).replace(" ", "")] : []),
    ...(on ? [] : ["off"]),
  ].join(" ");

const cellTextOf = (doc: Template, row: LevelRow, cueId: CueId): string => {
  if (row.group) {
    const group = groupLevel(doc, cueId, row.sourceIds);
    return group ? formatGain(group.levelDb) : "";
  }
  const [sourceId] = row.sourceIds;
  const level = sourceId ? levelIn(doc, { cueId, sourceId }) : null;
  return level ? textOf(level) : "";
};

/**
 * A rectangle of the matrix as texts, as it goes to a spreadsheet and can be pasted again: "−6 b", "−12 a L30", "−6 b
 * off"; a group by its loudest.
 */
export const levelTexts = (
  doc: Template,
  rows: readonly LevelRow[],
  cueIds: readonly CueId[],
): readonly (readonly string[])[] => rows.map((row) => cueIds.map((cueId) => cellTextOf(doc, row, cueId)));

interface PasteLevels {
  /** The rows from the one that has the keys on, or all that are selected. */
  readonly rows: readonly LevelRow[];
  readonly cueIds: readonly CueId[];
  readonly texts: readonly (readonly string[])[];
  /** One text fills all that is selected; else the block lies from the first on. */
  readonly fills: boolean;
  readonly ids: IdSource;
}

/** Edits of many cells as few: what is put together, and what is taken out. The cells of a block do not overlap. */
const together = (edits: readonly Edit[]): readonly Edit[] => {
  const levels = edits.flatMap((edit) => (edit.kind === "cueLevels.put" ? edit.levels : []));
  const cells = edits.flatMap((edit) => (edit.kind === "cueLevels.remove" ? edit.cells : []));
  return [
    ...(cells.length ? [{ kind: "cueLevels.remove", cells } as const] : []),
    ...(levels.length ? [{ kind: "cueLevels.put", levels } as const] : []),
    ...edits.filter(({ kind }) => kind === "cueLevels.shift"),
  ];
};

const writeLevel = (
  doc: Template,
  {
    row,
    cueId,
    text,
    ids,
  }: { readonly row: LevelRow; readonly cueId: CueId; readonly text: string; readonly ids: IdSource },
): readonly Edit[] => {
  const made = row.group
    ? setGroupLevel(doc, { cueId, sourceIds: row.sourceIds, text, name: row.name, ids })
    : setCueLevels(doc, { cells: row.sourceIds.map((sourceId): CueCell => ({ cueId, sourceId })), text, ids });
  return made.ok ? made.gesture.edits : [];
};

/** The most rows and columns that are pasted at once. */
const MOST = { rows: 4096, columns: 256 };

/**
 * Puts texts into the matrix in one act: an empty one takes its cell out. What can't be read, or lies past the last row
 * or cue, is told and left as it was.
 */
export const pasteLevels = (doc: Template, { rows, cueIds, texts, fills, ids }: PasteLevels): BlockPlan => {
  const width = texts.reduce((widest, line) => Math.max(widest, line.length), 0);
  if (texts.length > MOST.rows || width > MOST.columns)
    return {
      planned: unplanned(
        `${counted(texts.length, "row")} of ${counted(width, "column")} are too many at once; up to ${MOST.rows} of ${MOST.columns} can be pasted.`,
      ),
      leftOut: [],
    };
  const [height, across] = fills ? [rows.length, cueIds.length] : [texts.length, width];
  // A row that ends early says nothing of the cells behind it.
  const textsAt = (at: number, m: number): readonly string[] =>
    [fills ? texts[0]?.[0] : texts[at]?.[m]].flatMap((text) => text ?? []);
  const cells = rows
    .slice(0, height)
    .flatMap((row, at) =>
      cueIds.slice(0, across).flatMap((cueId, m) => textsAt(at, m).map((text) => ({ row, cueId, text, ids }))),
    );
  const [read, unread] = [
    cells.filter(({ text }) => !text.trim() || readCueLevel(text)),
    cells.filter(({ text }) => text.trim() && !readCueLevel(text)),
  ];
  const edits = together(read.flatMap((cell) => writeLevel(doc, cell)));
  const leftOut = [
    ...unread.map(
      ({ row, cueId, text }) =>
        `${row.name || "A source without a name"} in ${doc.cues[cueId]?.name}: “${text.slice(0, 40)}” is no level.`,
    ),
    ...(texts.length > rows.length
      ? [`${counted(texts.length - rows.length, "row")} would lie past the last source.`]
      : []),
    ...(width > cueIds.length ? [`${counted(width - cueIds.length, "column")} would lie past the last cue.`] : []),
  ];
  if (!edits.length) return { planned: leftOut.length ? unplanned(leftOut.join(" ")) : planned([]), leftOut: [] };
  return { planned: planned(edits, `Paste ${counted(read.length, "level")} of cues`), leftOut };
};
