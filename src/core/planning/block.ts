import { guessFamily } from "../model/guess-family";
import type { ChannelId, FolderId, IdSource, LineId } from "../model/ids";
import { findRigInput, pairOf, rigInputOf } from "../model/read-rig";
import { linesOfTrack, trackOf, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { TrackInput } from "../model/tables/channel-fields";
import { type Line, newLine } from "../model/tables/lines";
import type { Template } from "../model/template";
import { cellText } from "../queries/cells";
import { type CellColumn, canFill, gridColumn } from "../queries/columns";
import { familyAround } from "../queries/family-around";
import { sumNamed } from "../queries/outputs";
import { readInputs } from "../reading/read-cells";
import { counted } from "../units/counted";
import { lastNumber } from "../units/ends";
import type { Edit, LineChange, NewTrack } from "./edits/edit";
import { applyAll } from "./edits/template-editing";
import { type Planned, planned, unplanned } from "./gesture";
import { writeCell } from "./write-cell";

/** A rectangle of the grid: tracks as they stand, by columns as they stand. */
export interface Block {
  readonly trackIds: readonly ChannelId[];
  readonly columns: readonly CellColumn[];
}

interface CellWrite {
  readonly trackId: ChannelId;
  readonly column: CellColumn;
  readonly text: string;
}

export interface BlockPlan {
  readonly planned: Planned;
  /** Cells that could not be taken as they were written, for a person; the rest goes ahead. */
  readonly leftOut: readonly string[];
}

const textOf = (doc: Template, rig: Rig, trackId: ChannelId, column: CellColumn): string => {
  const track = trackOf(doc, trackId);
  return track ? cellText(doc, rig, { track, column }) : "";
};

/** A block as texts, row by row, as it goes to a spreadsheet and can be pasted again. */
export const blockTexts = (doc: Template, rig: Rig, { trackIds, columns }: Block): readonly (readonly string[])[] =>
  trackIds.map((trackId) => columns.map((column) => textOf(doc, rig, trackId, column)));

const lineOf = (doc: Template, trackId: ChannelId, at: number): Line | undefined => {
  const track = trackOf(doc, trackId);
  return track ? linesOfTrack(doc, track)[at] : undefined;
};

/**
 * Puts a track on the inputs that a cell names; one the rig lacks is kept as asked for, two make a mono track stereo.
 * Null when the cell is no input.
 */
const placeOn = (
  doc: Template,
  rig: Rig,
  { trackId, text, ids }: { readonly trackId: ChannelId; readonly text: string; readonly ids: IdSource },
): readonly Edit[] | null => {
  const labels = readInputs(text);
  if (!labels) return null;
  const there = [lineOf(doc, trackId, 0), lineOf(doc, trackId, 1)];
  const first = labels[0] === undefined ? null : findRigInput(rig, labels[0]);
  const known =
    labels.length === 1 && there[1] && first ? pairOf(rig, first) : labels.map((label) => findRigInput(rig, label));
  const lines = Array.from(
    { length: Math.max(labels.length, there[1] ? 2 : 1) },
    (_, at) => there[at] ?? newLine({ ...there[0], id: ids<LineId>("line"), portId: null, requestedInput: null }),
  );
  const [left, right] = lines;
  if (!left) return [];
  const input: TrackInput = right
    ? { kind: "pair", leftId: left.id, rightId: right.id }
    : { kind: "line", lineId: left.id };
  const brought = lines.filter((line) => !doc.lines[line.id]);
  const inputs = lines.map((line, at) => ({
    lineId: line.id,
    portId: known[at]?.port.id ?? null,
    requestedInput: known[at] ? null : (labels[at] ?? null),
  }));
  return [
    ...(brought.length ? [{ kind: "tracks.take", trackId, input, lines: brought } as const] : []),
    { kind: "lines.patch", inputs },
  ];
};

/**
 * Columns in which every row has a value of its own: what is written into one says nothing of another. In all others
 * the same text is written once for all its rows.
 */
const ONE_BY_ONE: readonly CellColumn[] = ["name", "input"];

/**
 * Writes that are planned together: one row, or all rows of a column that get the same text and are as stereo as each
 * other.
 */
interface Together {
  readonly column: CellColumn;
  readonly text: string;
  readonly trackIds: readonly ChannelId[];
}

const together = (doc: Template, rig: Rig, column: CellColumn, writes: readonly CellWrite[]): readonly Together[] => {
  const groups = new Map<string, { column: CellColumn; text: string; trackIds: ChannelId[] }>();
  for (const { trackId, text } of writes) {
    if (textOf(doc, rig, trackId, column) === text) continue;
    const key = ONE_BY_ONE.includes(column) ? trackId : `${trackOf(doc, trackId)?.input.kind === "pair"} ${text}`;
    const group = groups.get(key);
    if (group) group.trackIds.push(trackId);
    else groups.set(key, { column, text, trackIds: [trackId] });
  }
  return [...groups.values()];
};

/** What writing needs: ids, and the studio, which says how families are dyed and which chains are kept. */
interface Writing {
  readonly ids: IdSource;
  readonly studio?: Studio;
}

const editsFor = (
  doc: Template,
  rig: Rig,
  { column, text, trackIds }: Together,
  { ids, studio }: Writing,
): readonly Edit[] | string => {
  const [only] = trackIds;
  const bus = column === "input" ? sumNamed(doc, text) : undefined;
  if (column === "input" && only && !bus)
    return placeOn(doc, rig, { trackId: only, text, ids }) ?? `“${text.trim()}” is no input.`;
  const plan = writeCell(doc, rig, { trackIds, column, text, ids, ...(studio ? { studio } : {}) });
  return plan.ok ? plan.gesture.edits : plan.message;
};

interface Written {
  readonly doc: Template;
  readonly edits: readonly Edit[];
  readonly leftOut: readonly string[];
}

/**
 * Plans what can be planned against the same document and does it at once; only when that is refused, one after the
 * other, so that the others go on.
 */
const writeTogether = (doc: Template, rig: Rig, groups: readonly Together[], writing: Writing): Written => {
  const tell = ({ trackIds }: Together, why: string) =>
    trackIds.map((id) => `${trackOf(doc, id)?.name || "A track"}: ${why}`);
  const plans = groups.map((group) => ({ group, wanted: editsFor(doc, rig, group, writing) }));
  const leftOut = plans.flatMap(({ group, wanted }) => (typeof wanted === "string" ? tell(group, wanted) : []));
  const ready = plans.flatMap(({ group, wanted }) => (typeof wanted === "string" ? [] : [{ group, wanted }]));
  const edits = ready.flatMap(({ wanted }) => wanted);
  const whole = applyAll(doc, edits);
  if (whole.ok) return { doc: whole.doc, edits, leftOut };
  let current = doc;
  const kept: Edit[] = [];
  for (const { group, wanted } of ready) {
    const done = applyAll(current, wanted);
    if (done.ok) {
      current = done.doc;
      kept.push(...wanted);
    } else leftOut.push(...tell(group, done.refusal.message));
  }
  return { doc: current, edits: kept, leftOut };
};

/**
 * Writes a block of cells as one gesture, column by column. A cell that can't be taken is left as it was and told; the
 * others go on. Linear in the cells.
 */
export const writeCells = (
  doc: Template,
  rig: Rig,
  {
    writes,
    name,
    before = [],
    ...writing
  }: Writing & { readonly writes: readonly CellWrite[]; readonly name: string; readonly before?: readonly Edit[] },
): BlockPlan => {
  const edits: Edit[] = [...before];
  const leftOut: string[] = [];
  const begun = applyAll(doc, before);
  if (!begun.ok) return { planned: unplanned(begun.refusal.message), leftOut };
  let current = begun.doc;
  const columns = new Map<CellColumn, CellWrite[]>();
  for (const write of writes) {
    const cells = columns.get(write.column);
    if (cells) cells.push(write);
    else columns.set(write.column, [write]);
  }
  for (const [column, cells] of columns) {
    const written = writeTogether(current, rig, together(current, rig, column, cells), writing);
    current = written.doc;
    for (const command of written.edits) edits.push(command);
    leftOut.push(...written.leftOut);
  }
  return {
    planned: edits.length
      ? planned(edits, name)
      : unplanned(leftOut[0] ?? "Nothing in it is different from what is there."),
    leftOut,
  };
};

/**
 * Gives the lines of tracks what those of one track have: left to left and right to right, as it is, and not by way of
 * a text that says less.
 */
const copyLines = (doc: Template, from: ChannelId, { trackIds, columns }: Block): readonly Edit[] => {
  const copied = columns.map(gridColumn).filter(({ of }) => of === "line");
  const [left, right] = [lineOf(doc, from, 0), lineOf(doc, from, 1)];
  if (!left || !copied.length) return [];
  const setFrom = (line: Line): LineChange =>
    Object.fromEntries(copied.map(({ key }) => [key, line[key as keyof Line]]));
  const own = new Set([left.id, right?.id]);
  const side = (at: 0 | 1) => trackIds.flatMap((id) => lineOf(doc, id, at)?.id ?? []).filter((id) => !own.has(id));
  const sets = [
    { lineIds: side(0), set: setFrom(left) },
    { lineIds: side(1), set: setFrom(right ?? left) },
  ];
  return sets.flatMap(({ lineIds, set }): Edit[] =>
    lineIds.length ? [{ kind: "entries.set", table: "lines", ids: [...new Set(lineIds)], set }] : [],
  );
};

/**
 * Gives every row of a block what its first row has. Inputs and names are each track's own: they are filled in
 * ascending order instead.
 */
export const fillDown = (
  doc: Template,
  rig: Rig,
  { block, ids }: { readonly block: Block; readonly ids: IdSource },
): BlockPlan => {
  const [first, ...rest] = block.trackIds;
  if (!first || !rest.length)
    return { planned: unplanned("Select two rows or more: the first one is copied down."), leftOut: [] };
  const columns = block.columns.filter((column) => canFill(column, "copied"));
  if (!columns.length)
    return { planned: unplanned("Two tracks can't have one input. Fill ascending instead."), leftOut: [] };
  return copyDown(doc, rig, { first, rest, columns, ids });
};

interface CopyDown {
  readonly first: ChannelId;
  readonly rest: readonly ChannelId[];
  readonly columns: readonly CellColumn[];
  readonly ids: IdSource;
}

const copyDown = (doc: Template, rig: Rig, { first, rest, columns, ids }: CopyDown): BlockPlan => {
  const name = `Fill ${counted(rest.length, "row")} down`;
  // Tracks that take nothing have no lines to copy to: they get them by what is written, as when a cell is typed in.
  const withLines = rest.filter((id) => lineOf(doc, id, 0));
  const bare = rest.filter((id) => !lineOf(doc, id, 0));
  const texts = (trackIds: readonly ChannelId[], of: readonly CellColumn[]) =>
    trackIds.flatMap((trackId) => of.map((column) => ({ trackId, column, text: textOf(doc, rig, first, column) })));
  const writes = [
    ...texts(
      rest,
      columns.filter((column) => gridColumn(column).of !== "line"),
    ),
    ...texts(
      bare,
      columns.filter((column) => gridColumn(column).of === "line"),
    ),
  ];
  // The layout is changed first, so that a right side is there to be copied to.
  const layouts = writes.filter((write) => write.column === "layout");
  const made = layouts.length ? writeCells(doc, rig, { writes: layouts, ids, name }) : null;
  const then = made?.planned.ok ? applyAll(doc, made.planned.gesture.edits) : null;
  const laid = then?.ok ? then.doc : doc;
  const before = [
    ...(made?.planned.ok ? made.planned.gesture.edits : []),
    ...copyLines(laid, first, { trackIds: withLines, columns }),
  ];
  return writeCells(doc, rig, { writes: writes.filter((write) => write.column !== "layout"), ids, name, before });
};

/**
 * The same text counted on: the last number in it grows, or one is put behind it. @example countOn("Moving-coil 1", 2)
 * // "Moving-coil 3"
 */
export const countOn = (text: string, by: number): string => {
  const found = lastNumber(text);
  if (!found) return text ? `${text} ${by + 1}` : "";
  const { before, number, after } = found;
  return `${before}${String(Number(number) + by).padStart(number.startsWith("0") ? number.length : 0, "0")}${after}`;
};

/** Counts on from the first row of a block: inputs as they sit on the rig, numbers in names by one a row. */
export const fillAscending = (
  doc: Template,
  rig: Rig,
  { block, ids }: { readonly block: Block; readonly ids: IdSource },
): BlockPlan => {
  const [first, ...rest] = block.trackIds;
  if (!first || !rest.length)
    return { planned: unplanned("Select two rows or more: they count on from the first."), leftOut: [] };
  const name = `Fill ${counted(rest.length, "row")} ascending`;
  const columns = block.columns.filter((column) => canFill(column, "counted"));
  const writes = rest.flatMap((trackId, at) =>
    columns.map((column) => ({ trackId, column, text: countOn(textOf(doc, rig, first, column), at + 1) })),
  );
  if (!block.columns.includes("input"))
    return writes.length ? writeCells(doc, rig, { writes, ids, name }) : fillDown(doc, rig, { block, ids });
  const label = rigInputOf(rig, lineOf(doc, first, 0)?.portId ?? null)?.label;
  if (!label) return { planned: unplanned("The first row has no input to count on from."), leftOut: [] };
  const inputs = writeCell(doc, rig, { trackIds: block.trackIds, column: "input", text: label, ids });
  return inputs.ok
    ? writeCells(doc, rig, { writes, ids, name, before: inputs.gesture.edits })
    : { planned: inputs, leftOut: [] };
};

/** Empties the cells of a block. Names, layouts and switches stay: they have no empty state. */
export const clearCells = (
  doc: Template,
  rig: Rig,
  { block, ids }: { readonly block: Block; readonly ids: IdSource },
): BlockPlan => {
  const columns = block.columns.filter((column) => canFill(column, "emptied"));
  const writes = block.trackIds.flatMap((trackId) => columns.map((column) => ({ trackId, column, text: "" })));
  return writeCells(doc, rig, { writes, ids, name: `Clear ${counted(writes.length, "cell")}` });
};

interface Paste extends Block {
  readonly cells: readonly (readonly string[])[];
  /** Where tracks for the rows beyond the last one go. */
  readonly folderId: FolderId | null;
  readonly ids: IdSource;
  readonly studio?: Studio;
}

/** The most rows that can be pasted at once. */
const MOST_ROWS = 4096;

const freshTrack = (
  doc: Template,
  cells: readonly string[],
  { columns, folderId, ids, studio }: Paste,
): { readonly track: NewTrack; readonly line: Line } => {
  const line = newLine({ id: ids<LineId>("line") });
  const name = cells[columns.indexOf("name")]?.trim() || cells[columns.indexOf("source")]?.trim() || "New track";
  const family = studio ? guessFamily(name, familyAround(doc, studio)) : null;
  const style = family ? studio?.families[family] : undefined;
  const dyed = folderId !== null && doc.folders[folderId]?.colour;
  return {
    line,
    track: {
      id: ids<ChannelId>("track"),
      name,
      note: "",
      colour: dyed ? null : (style?.colour ?? null),
      icon: style?.icon ?? null,
      input: { kind: "line", lineId: line.id },
      sharing: null,
    },
  };
};

/** What a paste is called once it is done: by what it made, or by what it was pasted into. */
const pasteInWords = (doc: Template, targets: readonly ChannelId[], fresh: readonly { track: { name: string } }[]) => {
  const [first] = targets;
  if (fresh.length === targets.length)
    return fresh.length === 1 ? `Add track ${fresh[0]?.track.name}`.trim() : `Add ${counted(fresh.length, "track")}`;
  if (fresh.length) return `Paste ${counted(targets.length, "row")}`;
  const name = first && targets.length === 1 ? doc.channels[first]?.name : undefined;
  return `Paste into ${name || counted(targets.length, "track")}`;
};

/**
 * Lays a block from the clipboard over the grid: onto `trackIds` as they stand, into `columns` as they stand. Rows
 * beyond the last track become new tracks. A single cell goes into every row of the block. Inputs the rig lacks are
 * kept as asked for.
 */
export const pasteBlock = (doc: Template, rig: Rig, paste: Paste): BlockPlan => {
  const { cells, trackIds, columns, folderId, ids, studio } = paste;
  if (!cells.length) return { planned: unplanned("There is nothing to paste: copy cells first."), leftOut: [] };
  if (cells.length > MOST_ROWS)
    return {
      planned: unplanned(`${cells.length} rows are too many at once; up to ${MOST_ROWS} can be pasted.`),
      leftOut: [],
    };
  const fresh = cells.slice(trackIds.length).map((row) => freshTrack(doc, row, paste));
  const before: Edit[] = fresh.length
    ? [
        {
          kind: "tracks.add",
          tracks: fresh.map((made) => made.track),
          lines: fresh.map((made) => made.line),
          folderId,
          before: null,
        },
      ]
    : [];
  const targets = [...trackIds, ...fresh.map((made) => made.track.id)];
  const writes = cells.flatMap((row, at) =>
    columns.flatMap((column, index): CellWrite[] => {
      const text = row[index];
      const trackId = targets[at];
      // A name can't be emptied, and a fresh track has nothing that an empty cell could clear.
      if (
        text === undefined ||
        !trackId ||
        (!text.trim() && (column === "name" || column === "layout" || at >= trackIds.length))
      )
        return [];
      return [{ trackId, column, text: text.trim() }];
    }),
  );
  // Stereo goes before inputs, so that two inputs find two lines.
  const ordered = [
    ...writes.filter((write) => write.column === "layout"),
    ...writes.filter((write) => write.column !== "layout"),
  ];
  return writeCells(doc, rig, {
    writes: ordered,
    ids,
    ...(studio ? { studio } : {}),
    before,
    name: pasteInWords(doc, targets.slice(0, cells.length), fresh),
  });
};

/** The names that are taken, folded, so that a copy finds one of its own. */
export const namesTaken = (doc: Template): Set<string> =>
  new Set(tracksOf(doc).map((track) => track.name.trim().toLowerCase()));
