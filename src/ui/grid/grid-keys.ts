import type { KeyboardEvent } from "react";
import { SWITCH_COLUMNS } from "./grid-columns";
import type { GridEditing } from "./use-grid-editing";
import type { GridSelection } from "./use-grid-selection";

const PAGE = 15;

type Press = (event: KeyboardEvent) => void;

const movingKeys = (
  selection: GridSelection,
  editing: GridEditing,
  rowCount: number,
): Readonly<Record<string, Press>> => {
  const { row, at, columns, select, stepRow, stepColumn } = selection;
  const sideways = (by: 1 | -1) => (event: KeyboardEvent) =>
    row?.kind === "folder" ? editing.setFolderOpen(row.id, by === 1) : stepColumn(by, event.shiftKey);
  return {
    ArrowDown: (event) => stepRow(1, event.shiftKey),
    ArrowUp: (event) => stepRow(-1, event.shiftKey),
    ArrowRight: sideways(1),
    ArrowLeft: sideways(-1),
    PageDown: (event) => stepRow(PAGE, event.shiftKey),
    PageUp: (event) => stepRow(-PAGE, event.shiftKey),
    Home: (event) => (event.ctrlKey ? select(0) : select(at, { column: columns[0] ?? "name", keep: event.shiftKey })),
    End: (event) =>
      event.ctrlKey ? select(rowCount - 1) : select(at, { column: columns.at(-1) ?? "note", keep: event.shiftKey }),
  };
};

const actingKeys = (
  { row, cursor, column, selected, clear, selectRows }: GridSelection,
  editing: GridEditing,
): Readonly<Record<string, Press>> => {
  const edit = () => {
    if (cursor) editing.begin(row, column, null);
  };
  const space = (event: KeyboardEvent) => {
    if (event.shiftKey) selectRows();
    else if (row?.kind === "folder") editing.setFolderOpen(row.id, !row.folder.open);
    else if (row && SWITCH_COLUMNS.includes(column)) editing.toggle(row.id, column);
  };
  // What the inspector shows: the tracks that are selected, wherever the cursor is, and a folder only by itself.
  const remove = () => editing.runAct(row?.kind === "folder" && !selected.length ? "dissolve" : "remove");
  return { Enter: edit, F2: edit, " ": space, Delete: remove, Backspace: editing.clearRange, Escape: clear };
};

/** A letter begins an edit where a text or a choice can be typed. */
const typing = ({ row, cursor, column }: GridSelection, editing: GridEditing, event: KeyboardEvent): void => {
  if (
    event.ctrlKey ||
    event.metaKey ||
    event.key.length !== 1 ||
    !cursor ||
    column === "layout" ||
    SWITCH_COLUMNS.includes(column)
  )
    return;
  // Asks for the list of keys.
  if (event.key === "?") return;
  event.preventDefault();
  editing.begin(row, column, event.key);
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
