import { useLayoutEffect, useRef, useState } from "react";
import type { Row } from "@/core/layout/rows";
import type { ChannelId, FolderId } from "@/core/model/ids";
import { trackOf } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/table";
import { type BlockPlan, clearCells, pasteBlock, writeCells } from "@/core/planning/block";
import { type Planned, planned } from "@/core/planning/gesture";
import { writeCell } from "@/core/planning/write-cell";
import { cellText } from "@/core/queries/cells";
import { type CellColumn, gridColumn } from "@/core/queries/columns";
import type { ActId, GridAct } from "../acts/act";
import type { Acts } from "../acts/act-model";
import { runAct as runActOf } from "../acts/use-acts";
import { tellLost, tellRefusal } from "../shared/notices";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { type Cursor, doPlanned, END_ROW } from "../state/desk-store";
import type { Leave } from "./cell-editor";
import { SWITCH_COLUMNS } from "./grid-columns";
import { focusGrid, newIds } from "./grid-focus";
import { offerCues } from "./offer-cues";
import { type GridSelection, trackIdsIn } from "./use-grid-selection";

export interface Editing extends Cursor {
  readonly initial: string;
  readonly fresh: boolean;
}

/** Where tracks made below the last row go: to the last row's folder. */
export const lastFolder = (rows: readonly Row[]): FolderId | null => {
  const last = rows.at(-1);
  return last?.kind === "track" ? last.track.folderId : (last?.id ?? null);
};

/** The cell that is edited. When its editor is gone the grid has the keys, unless they went elsewhere. */
const useEditor = () => {
  const [editing, setEditing] = useState<Editing | null>(null);
  const wants = useRef(false);
  // With the editor gone, not before: a focus that moves under it makes the browser reckon the page twice.
  useLayoutEffect(() => {
    if (!editing && wants.current) focusGrid();
    wants.current = false;
  }, [editing]);
  const leaveEditor = (how?: Leave): void => {
    wants.current = how !== "away";
    setEditing(null);
  };
  return { editing, setEditing, leaveEditor };
};

/** What writing into cells comes to: in one row, in all that are selected with it, below the last one. */
const useCellWrites = (rows: readonly Row[], { selected }: GridSelection) => {
  const desk = useDeskStore();
  const rig = useRig();
  const { actPlanned } = useDoing();
  const inOrder = (ids: readonly ChannelId[]): readonly ChannelId[] =>
    trackIdsIn(rows).filter((id) => ids.includes(id));
  const withSelected = (trackId: ChannelId): readonly ChannelId[] =>
    selected.length > 1 && selected.includes(trackId) ? inOrder(selected) : [trackId];

  /** A dye of the studio's own is typed by its name and kept by its id. */
  const ownColour = (text: string): string =>
    entriesOf(desk.getState().studio.colours).find((own) => own.name.toLowerCase() === text.trim().toLowerCase())?.id ??
    text;

  const plan = (trackIds: readonly ChannelId[], column: CellColumn, text: string): Planned =>
    writeCell(desk.getState().doc, rig, {
      trackIds,
      column,
      text: column === "colour" ? ownColour(text) : text,
      ids: newIds,
      studio: desk.getState().studio,
    });

  const textOf = (trackId: ChannelId, column: CellColumn): string => {
    const { doc } = desk.getState();
    const track = trackOf(doc, trackId);
    return track ? cellText(doc, rig, { track, column }) : "";
  };

  const switchText = (column: CellColumn, on: boolean): string =>
    gridColumn(column).field?.switched?.[on ? "on" : "off"] ?? "";
  const isOn = (trackId: ChannelId, column: CellColumn): boolean =>
    textOf(trackId, column) === switchText(column, true);

  /** Turns a switch of one row, and of all that are selected with it. */
  const toggle = (trackId: ChannelId, column: CellColumn): void =>
    void actPlanned(plan(withSelected(trackId), column, switchText(column, !isOn(trackId, column))));

  /** Sets a switch of every row that was passed over. */
  const paint = (trackIds: readonly ChannelId[], column: CellColumn, on: boolean): void =>
    void actPlanned(plan(inOrder(trackIds), column, switchText(column, on)));

  const addAtEnd = (column: CellColumn, text: string): string | null => {
    if (!text.trim()) return null;
    const { doc } = desk.getState();
    const made = pasteBlock(doc, rig, {
      cells: [[text]],
      trackIds: [],
      columns: [column],
      folderId: lastFolder(rows),
      ids: newIds,
      studio: desk.getState().studio,
    });
    const refusal = made.leftOut[0] ?? doPlanned(desk, made.planned);
    if (!refusal) offerCues(desk, doc);
    return refusal;
  };

  const write = ({ rowId, column, initial, fresh }: Editing, text: string, everywhere: boolean): string | null => {
    if (rowId === END_ROW) return addAtEnd(column, text);
    const target = rows.find((candidate) => candidate.id === rowId);
    if (!target || (text === initial && !fresh && !everywhere)) return null;
    if (target.kind === "folder")
      return doPlanned(
        desk,
        planned([{ kind: "entries.set", table: "folders", ids: [target.id], set: { name: text } }]),
      );
    return doPlanned(
      desk,
      plan(everywhere || !gridColumn(column).own ? withSelected(target.id) : [target.id], column, text),
    );
  };

  return { inOrder, textOf, isOn, toggle, paint, write };
};

/** What is done with the cells of a range: emptied, pasted over. */
const useBlocks = (
  rows: readonly Row[],
  selection: GridSelection,
  inOrder: (ids: readonly ChannelId[]) => readonly ChannelId[],
) => {
  const { selected, row, range } = selection;
  const desk = useDeskStore();
  const rig = useRig();
  const { actBlock } = useDoing();
  const block = () => ({
    trackIds: selected.length ? inOrder(selected) : row?.kind === "track" ? [row.id] : [],
    columns: range,
  });

  const clearRange = (): void => {
    if (block().trackIds.length) actBlock(clearCells(desk.getState().doc, rig, { block: block(), ids: newIds }));
  };

  /**
   * Lays cells from the clipboard from the cursor on; one cell goes into the whole range, rows beyond the last become
   * tracks.
   */
  const paste = (cells: readonly (readonly string[])[], columns: readonly CellColumn[] | null): BlockPlan => {
    const { doc } = desk.getState();
    const shown = selection.columns;
    const { trackIds } = block();
    const single = cells.length === 1 && cells[0]?.length === 1 ? cells[0][0] : undefined;
    if (single !== undefined && !columns && trackIds.length * range.length > 1) {
      const writes = trackIds.flatMap((trackId) => range.map((column) => ({ trackId, column, text: single })));
      return writeCells(doc, rig, {
        writes,
        ids: newIds,
        studio: desk.getState().studio,
        name: `Paste into ${writes.length} cells`,
      });
    }
    const tracks = trackIdsIn(rows);
    const start = trackIds[0] ? tracks.indexOf(trackIds[0]) : tracks.length;
    const from = Math.max(0, Math.min(...range.map((column) => shown.indexOf(column))));
    return pasteBlock(doc, rig, {
      cells,
      trackIds: tracks.slice(start, start + cells.length),
      columns: columns ?? shown.slice(from),
      folderId: lastFolder(rows),
      ids: newIds,
      studio: desk.getState().studio,
    });
  };

  return { block, clearRange, paste };
};

/** Editing in place: what is being typed where, and what becomes of it. */
export const useGridEditing = (rows: readonly Row[], acts: Acts<GridAct>, selection: GridSelection) => {
  const { selected, at, column: cursorColumn, select, stepCell } = selection;
  const desk = useDeskStore();
  const { act } = useDoing();
  const { inOrder, textOf, isOn, toggle, paint, write } = useCellWrites(rows, selection);
  const blocks = useBlocks(rows, selection, inOrder);
  const { editing, setEditing, leaveEditor } = useEditor();

  const runAct = (id: ActId): void => runActOf(acts, id);

  const setFolderOpen = (folderId: FolderId, open: boolean): void => {
    if (desk.getState().doc.folders[folderId]?.open !== open)
      act({ edits: [{ kind: "entries.set", table: "folders", ids: [folderId], set: { open } }] });
  };

  /** Begins to edit a cell; `typed` is the letter that began it, which takes the place of the old text. */
  const begin = (target: Row | undefined, column: CellColumn, typed: string | null): void => {
    const { locked } = desk.getState();
    if (locked === null) open(target, column, typed);
    else tellRefusal(locked);
  };

  const open = (target: Row | undefined, column: CellColumn, typed: string | null): void => {
    const fresh = typed !== null;
    if (!target)
      setEditing(
        SWITCH_COLUMNS.includes(column) || column === "layout"
          ? null
          : { rowId: END_ROW, column, initial: typed ?? "", fresh },
      );
    else if (target.kind === "folder")
      setEditing({ rowId: target.id, column: "name", initial: typed ?? target.folder.name, fresh });
    else if (column === "layout") runAct(target.track.input.kind === "pair" ? "split" : "pair");
    else if (SWITCH_COLUMNS.includes(column)) toggle(target.id, column);
    else setEditing({ rowId: target.id, column, initial: typed ?? textOf(target.id, column), fresh });
  };

  const moveOn = (how: Leave, column: CellColumn): void => {
    const next = rows.findIndex((candidate, index) => index > at && candidate.kind === "track");
    if (how === "down") select(next >= 0 ? next : rows.length + (at === rows.length ? 1 : 0), { column });
    else if (how === "right") stepCell(1);
    else if (how === "left") stepCell(-1);
  };

  /** Answers why the text can't be taken; null when it was, and the cursor has moved on. */
  const commit = (text: string, how: Leave): string | null => {
    if (!editing) return null;
    const everywhere = how === "everywhere";
    const refusal = write(editing, text, everywhere);
    if (refusal) return refusal;
    leaveEditor(how);
    const together = everywhere || (selected.length > 1 && !gridColumn(editing.column).own);
    if (editing.rowId === END_ROW) select(rows.length, { column: editing.column });
    else if (!together) moveOn(how, editing.column);
    return null;
  };

  const cancel = (how?: "away"): void => leaveEditor(how);

  /**
   * The editor is no longer drawn: its row was scrolled far away, and what was typed is kept; or it was removed, and
   * what was typed is told.
   */
  const gone = (text: string, where: string): void => {
    if (!editing) return;
    const there =
      editing.rowId === END_ROW ||
      trackOf(desk.getState().doc, editing.rowId as ChannelId) ||
      desk.getState().doc.folders[editing.rowId as FolderId];
    const refusal = there ? write(editing, text, false) : "the row was removed, here or in another window.";
    if (refusal) tellLost(text, where, refusal);
    leaveEditor("away");
  };

  return {
    editing,
    begin,
    commit,
    cancel,
    gone,
    toggle,
    paint,
    isOn,
    setFolderOpen,
    runAct,
    ...blocks,
    cursorColumn,
  };
};

export type GridEditing = ReturnType<typeof useGridEditing>;
