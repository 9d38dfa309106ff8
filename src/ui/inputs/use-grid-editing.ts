import { useState } from "react";
import type { Row } from "@/core/layout/rows";
import type { ChannelId, FolderId } from "@/core/model/ids";
import { trackOf } from "@/core/model/read-template";
import { type CellColumn, cellText } from "@/core/planning/cells";
import { type Planned, planned } from "@/core/planning/gesture";
import { writeCell } from "@/core/planning/write-cell";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { type Cursor, doPlanned } from "../state/desk-store";
import type { Leave } from "./cell-editor";
import { type Act, focusGrid, newIds } from "./use-acts";
import { type GridSelection, trackIdsIn } from "./use-grid-selection";

export interface Editing extends Cursor {
  readonly initial: string;
  readonly fresh: boolean;
}

type Written = Exclude<CellColumn, "layout">;

/** Cells whose value goes to every selected row when one of them is edited. A name is each track's own. */
const SHARED: readonly CellColumn[] = ["microphone", "input", "phantom", "dye", "icon", "folder", "player", "note"];
const CLEARABLE: readonly CellColumn[] = ["microphone", "input", "player", "folder", "note", "dye", "icon"];

/** Editing in place: what is being typed where, and what becomes of it. */
export const useGridEditing = (rows: readonly Row[], acts: readonly Act[], { selected, row, cursor, at, select, stepCell }: GridSelection) => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  const [editing, setEditing] = useState<Editing | null>(null);

  const plan = (trackId: ChannelId, column: Written, text: string): Planned => {
    const together = SHARED.includes(column) && selected.length > 1 && selected.includes(trackId);
    const trackIds = together ? trackIdsIn(rows).filter((id) => selected.includes(id)) : [trackId];
    return writeCell(desk.getState().doc, rig, { trackIds, column, text, ids: newIds });
  };

  const runAct = (id: string): void => {
    const found = acts.find((candidate) => candidate.id === id);
    if (found?.possible) found.run();
  };

  const setFolderOpen = (folderId: FolderId, open: boolean): void => {
    if (desk.getState().doc.folders[folderId]?.open !== open) act({ commands: [{ kind: "folders.set", folderIds: [folderId], set: { open } }] });
  };

  const textOf = (trackId: ChannelId, column: CellColumn): string => {
    const { doc } = desk.getState();
    const track = trackOf(doc, trackId);
    return track ? cellText(doc, rig, { track, column }) : "";
  };

  const togglePhantom = (trackId: ChannelId): void => void actPlanned(plan(trackId, "phantom", textOf(trackId, "phantom") === "yes" ? "no" : "yes"));

  /** Begins to edit a cell; `typed` is the letter that began it, which takes the place of the old text. */
  const begin = (target: Row, column: CellColumn, typed: string | null): void => {
    const fresh = typed !== null;
    if (target.kind === "folder") setEditing({ rowId: target.id, column: "name", initial: typed ?? target.folder.name, fresh });
    else if (column === "layout") runAct(target.track.input.kind === "pair" ? "split" : "pair");
    else if (column === "phantom") togglePhantom(target.id);
    else setEditing({ rowId: target.id, column, initial: typed ?? textOf(target.id, column), fresh });
  };

  const write = ({ rowId, column, initial, fresh }: Editing, text: string): string | null => {
    const target = rows.find((candidate) => candidate.id === rowId);
    if (!target || column === "layout" || (text === initial && !fresh)) return null;
    return doPlanned(desk, target.kind === "folder" ? planned([{ kind: "folders.set", folderIds: [target.id], set: { name: text } }]) : plan(target.id, column, text));
  };

  const moveOn = (how: Leave, column: CellColumn): void => {
    const next = rows.findIndex((candidate, index) => index > at && candidate.kind === "track");
    if (how === "down" && next >= 0) select(next, { column });
    else if (how === "right") stepCell(1);
    else if (how === "left") stepCell(-1);
  };

  /** Answers why the text can't be taken; null when it was, and the cursor has moved on. */
  const commit = (text: string, how: Leave): string | null => {
    if (!editing) return null;
    const refusal = write(editing, text);
    if (refusal) return refusal;
    setEditing(null);
    const together = selected.length > 1 && SHARED.includes(editing.column);
    if (!together) moveOn(how, editing.column);
    focusGrid();
    return null;
  };

  const cancel = (): void => {
    setEditing(null);
    focusGrid();
  };

  const clearCell = (): void => {
    if (row?.kind === "track" && cursor && CLEARABLE.includes(cursor.column)) actPlanned(plan(row.id, cursor.column as Written, ""));
  };

  return { editing, begin, commit, cancel, clearCell, togglePhantom, setFolderOpen, runAct };
};

export type GridEditing = ReturnType<typeof useGridEditing>;
