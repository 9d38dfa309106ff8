import type { KeyboardEvent } from "react";
import type { GridEditing } from "./use-grid-editing";
import type { GridSelection } from "./use-grid-selection";

const PAGE = 15;

type Press = (event: KeyboardEvent) => void;

const movingKeys = (selection: GridSelection, editing: GridEditing, rowCount: number): Readonly<Record<string, Press>> => {
  const { row, at, select, stepRow, stepColumn } = selection;
  const sideways = (open: boolean) => (row?.kind === "folder" ? editing.setFolderOpen(row.id, open) : stepColumn(open ? 1 : -1));
  return {
    ArrowDown: (event) => stepRow(1, event.shiftKey),
    ArrowUp: (event) => stepRow(-1, event.shiftKey),
    ArrowRight: () => sideways(true),
    ArrowLeft: () => sideways(false),
    PageDown: (event) => stepRow(PAGE, event.shiftKey),
    PageUp: (event) => stepRow(-PAGE, event.shiftKey),
    Home: (event) => (event.ctrlKey ? select(0) : select(at, { column: "icon" })),
    End: (event) => (event.ctrlKey ? select(rowCount - 1) : select(at, { column: "note" })),
  };
};

const actingKeys = ({ row, cursor, clear }: GridSelection, editing: GridEditing): Readonly<Record<string, Press>> => {
  const edit = () => {
    if (row && cursor) editing.begin(row, cursor.column, null);
  };
  const space = () => {
    if (row?.kind === "folder") editing.setFolderOpen(row.id, !row.folder.open);
    else if (row && cursor?.column === "phantom") editing.togglePhantom(row.id);
  };
  return { Enter: edit, F2: edit, " ": space, Delete: () => editing.runAct("remove"), Backspace: editing.clearCell, Escape: clear };
};

/** A letter begins an edit where a text or a choice can be typed. */
const typing = ({ row, cursor }: GridSelection, editing: GridEditing, event: KeyboardEvent): void => {
  if (event.ctrlKey || event.metaKey || event.key.length !== 1 || !row || !cursor || ["layout", "phantom"].includes(cursor.column)) return;
  event.preventDefault();
  editing.begin(row, cursor.column, event.key);
};

/** What each key does in the grid. While a cell is edited its editor has the keys; those with Alt are acts. */
export const gridKeys = (selection: GridSelection, editing: GridEditing, rowCount: number) => {
  const keys = { ...movingKeys(selection, editing, rowCount), ...actingKeys(selection, editing) };
  return (event: KeyboardEvent): void => {
    if (editing.editing || event.altKey) return;
    const selectsAll = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a";
    const press = selectsAll ? selection.selectAll : keys[event.key];
    if (event.key === "Tab") {
      if (selection.cursor && selection.stepCell(event.shiftKey ? -1 : 1)) event.preventDefault();
    } else if (press) {
      event.preventDefault();
      press(event);
    } else typing(selection, editing, event);
  };
};
