import { type KeyboardEvent, type MouseEvent, useState } from "react";
import type { Row } from "@/core/layout/rows";
import type { ChannelId, FolderId } from "@/core/model/ids";
import { trackOf } from "@/core/model/read-template";
import { type CellColumn, cellText, writeCell } from "@/core/planning/cells";
import type { Planned } from "@/core/planning/gesture";
import { type Cursor, doPlanned } from "../state/desk-store";
import { useDesk, useDeskStore, useDoing, useRig } from "../state/desk-context";
import type { Leave } from "./cell-editor";
import { COLUMN_IDS } from "./grid-columns";
import { type Act, focusGrid, newIds } from "./use-acts";

export interface Editing extends Cursor {
  readonly initial: string;
  readonly fresh: boolean;
}

/** Cells whose value goes to every selected row when one of them is edited. A name is each track's own. */
const SHARED: readonly CellColumn[] = ["microphone", "input", "phantom", "dye", "icon", "folder", "player", "note"];
const PAGE = 15;

const clamp = (value: number, most: number): number => Math.max(0, Math.min(most, value));

export const useGrid = (rows: readonly Row[], acts: readonly Act[]) => {
  const desk = useDeskStore();
  const rig = useRig();
  const cursor = useDesk((state) => state.cursor);
  const selected = useDesk((state) => state.selected);
  const { act, actPlanned } = useDoing();
  const [editing, setEditing] = useState<Editing | null>(null);
  const [anchor, setAnchor] = useState<number | null>(null);

  const indexOf = (rowId: string | undefined) => rows.findIndex((row) => row.id === rowId);
  const at = indexOf(cursor?.rowId);
  const row = rows[at];

  const select = (index: number, { column, keep = false }: { readonly column?: CellColumn; readonly keep?: boolean }): void => {
    const target = rows[index];
    if (!target) return;
    const from = keep ? (anchor ?? at) : index;
    const [low, high] = from < index ? [from, index] : [index, from];
    const range = rows.slice(Math.max(0, low), high + 1).flatMap((entry) => (entry.kind === "track" ? [entry.id] : []));
    setAnchor(keep ? from : index);
    desk.setState({ cursor: { rowId: target.id, column: column ?? cursor?.column ?? "name" }, selected: range });
  };

  const targets = (trackId: ChannelId, column: CellColumn): readonly ChannelId[] => {
    if (!SHARED.includes(column) || !selected.includes(trackId) || selected.length < 2) return [trackId];
    return rows.flatMap((entry) => (entry.kind === "track" && selected.includes(entry.id) ? [entry.id] : []));
  };

  const plan = (trackId: ChannelId, column: Exclude<CellColumn, "layout">, text: string): Planned => writeCell(desk.getState().doc, rig, { trackIds: targets(trackId, column), column, text, ids: newIds });

  const runAct = (id: string): void => {
    const found = acts.find((candidate) => candidate.id === id);
    if (found?.possible) found.run();
  };

  const setFolderOpen = (folderId: FolderId, open: boolean): void => {
    if (desk.getState().doc.folders[folderId]?.open !== open) act({ commands: [{ kind: "folders.set", folderIds: [folderId], set: { open } }] });
  };

  const togglePhantom = (trackId: ChannelId): void => {
    const track = trackOf(desk.getState().doc, trackId);
    if (track) actPlanned(plan(trackId, "phantom", cellText(desk.getState().doc, rig, { track, column: "phantom" }) === "yes" ? "no" : "yes"));
  };

  const begin = (target: Row, column: CellColumn, typed: string | null): void => {
    if (target.kind === "folder") return setEditing({ rowId: target.id, column: "name", initial: typed ?? target.folder.name, fresh: typed !== null });
    if (column === "layout") return runAct(target.track.input.kind === "pair" ? "split" : "pair");
    if (column === "phantom") return togglePhantom(target.id);
    const initial = typed ?? cellText(desk.getState().doc, rig, { track: target.track, column });
    setEditing({ rowId: target.id, column, initial, fresh: typed !== null });
  };

  const step = (rowStep: number, columnStep: number): void => {
    const column = COLUMN_IDS[clamp(COLUMN_IDS.indexOf(cursor?.column ?? "name") + columnStep, COLUMN_IDS.length - 1)];
    select(clamp(at + rowStep, rows.length - 1), column ? { column } : {});
  };

  const leave = (how: Leave, column: CellColumn): void => {
    if (how === "down") {
      const next = rows.findIndex((entry, index) => index > at && entry.kind === "track");
      if (next >= 0) select(next, { column });
    }
    if (how === "right") step(0, 1);
    if (how === "left") step(0, -1);
    focusGrid();
  };

  const commit = (text: string, how: Leave): string | null => {
    if (!editing) return null;
    const { rowId, column } = editing;
    const target = rows[indexOf(rowId)];
    if (!target || column === "layout") return null;
    const refusal =
      target.kind === "folder"
        ? doPlanned(desk, { ok: true, gesture: { commands: [{ kind: "folders.set", folderIds: [target.id], set: { name: text } }] } })
        : text === editing.initial && !editing.fresh
          ? null
          : doPlanned(desk, plan(target.id, column, text));
    if (refusal) return refusal;
    setEditing(null);
    if (how === "stay") focusGrid();
    else leave(selected.length > 1 && SHARED.includes(column) ? "stay" : how, column);
    return null;
  };

  const cancel = (): void => {
    setEditing(null);
    focusGrid();
  };

  const clear = (): void => {
    if (row?.kind !== "track" || !cursor || !["microphone", "input", "player", "folder", "note", "dye", "icon"].includes(cursor.column)) return;
    actPlanned(plan(row.id, cursor.column as Exclude<CellColumn, "layout">, ""));
  };

  const nextCell = (back: boolean): boolean => {
    const column = COLUMN_IDS.indexOf(cursor?.column ?? "name") + (back ? -1 : 1);
    if (COLUMN_IDS[column]) step(0, back ? -1 : 1);
    else if (rows[at + (back ? -1 : 1)]) select(at + (back ? -1 : 1), { column: back ? "note" : "icon" });
    else return false;
    return true;
  };

  const KEYS: Readonly<Record<string, (event: KeyboardEvent) => void>> = {
    ArrowDown: (event) => (event.shiftKey ? select(clamp(at + 1, rows.length - 1), { keep: true }) : step(1, 0)),
    ArrowUp: (event) => (event.shiftKey ? select(clamp(at - 1, rows.length - 1), { keep: true }) : step(-1, 0)),
    ArrowRight: () => (row?.kind === "folder" ? setFolderOpen(row.id, true) : step(0, 1)),
    ArrowLeft: () => (row?.kind === "folder" ? setFolderOpen(row.id, false) : step(0, -1)),
    PageDown: () => select(clamp(at + PAGE, rows.length - 1), {}),
    PageUp: () => select(clamp(at - PAGE, rows.length - 1), {}),
    Home: (event) => (event.ctrlKey ? select(0, {}) : select(at, { column: "icon" })),
    End: (event) => (event.ctrlKey ? select(rows.length - 1, {}) : select(at, { column: "note" })),
    Enter: () => row && cursor && begin(row, cursor.column, null),
    F2: () => row && cursor && begin(row, cursor.column, null),
    " ": () => (row?.kind === "folder" ? setFolderOpen(row.id, !row.folder.open) : row && cursor?.column === "phantom" && togglePhantom(row.id)),
    Delete: () => runAct("remove"),
    Backspace: clear,
    Escape: () => desk.setState({ cursor: null, selected: [] }),
  };

  const onKeyDown = (event: KeyboardEvent): void => {
    if (editing || event.altKey) return;
    const command = event.ctrlKey || event.metaKey;
    if (command && event.key.toLowerCase() === "a") {
      event.preventDefault();
      desk.setState({ cursor: cursor ?? (rows[0] ? { rowId: rows[0].id, column: "name" } : null), selected: rows.flatMap((entry) => (entry.kind === "track" ? [entry.id] : [])) });
      return;
    }
    if (event.key === "Tab") {
      if (cursor && nextCell(event.shiftKey)) event.preventDefault();
      return;
    }
    const key = KEYS[event.key];
    if (key && !(command && event.key === "Enter")) {
      event.preventDefault();
      key(event);
    } else if (!command && event.key.length === 1 && row && cursor && !["layout", "phantom"].includes(cursor.column)) {
      event.preventDefault();
      begin(row, cursor.column, event.key);
    }
  };

  const onCellClick = (index: number, column: CellColumn) => (event: MouseEvent) => {
    const target = rows[index];
    if (!target) return;
    if ((event.ctrlKey || event.metaKey) && target.kind === "track") {
      const next = selected.includes(target.id) ? selected.filter((id) => id !== target.id) : [...selected, target.id];
      setAnchor(index);
      desk.setState({ cursor: { rowId: target.id, column }, selected: next });
    } else select(index, { column, keep: event.shiftKey });
    if (!editing) focusGrid();
  };

  /** The first cell takes the cursor when the grid is entered without one. */
  const onFocus = (): void => {
    if (!cursor && rows.length) select(0, { column: "name" });
  };

  return { editing, cursor, selected, at, onKeyDown, onCellClick, onFocus, begin, commit, cancel, togglePhantom, setFolderOpen, targets };
};
