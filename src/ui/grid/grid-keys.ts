import type { KeyboardEvent } from "react";
import { inList, type Way, wayOf } from "../shared/grid-core";
import { SWITCH_COLUMNS } from "./grid-columns";
import type { GridEditing } from "./use-grid-editing";
import type { GridSelection } from "./use-grid-selection";

const PAGE = 15;

type Press = (event: KeyboardEvent) => void;

/** Where a way leads in the list: sideways on a folder it is folded. */
const move = (
  { row, at, select, stepRow, stepColumn }: GridSelection,
  editing: GridEditing,
  { down, right, range }: Way,
  rowCount: number,
): void => {
  if (right && row?.kind === "folder" && Number.isFinite(right)) editing.setFolderOpen(row.id, right > 0);
  else if (right) stepColumn(right, range);
  else if (Number.isFinite(down)) stepRow(down, range);
  else select(inList(at + down, rowCount));
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

/** What a key does in the grid that begins no edit and is not Tab; undefined for none. */
const pressOf = (
  selection: GridSelection,
  editing: GridEditing,
  rowCount: number,
  event: KeyboardEvent,
): Press | undefined => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a") return selection.selectAll;
  const way = wayOf(event, PAGE);
  return way ? () => move(selection, editing, way, rowCount) : actingKeys(selection, editing)[event.key];
};

/** What each key does in the grid. While a cell is edited its editor has the keys; those with Alt are acts. */
export const gridKeys =
  (selection: GridSelection, editing: GridEditing, rowCount: number) =>
  (event: KeyboardEvent): void => {
    if (editing.editing || event.altKey) return;
    if (event.key === "Tab") {
      if (selection.cursor && selection.stepCell(event.shiftKey ? -1 : 1)) event.preventDefault();
      return;
    }
    const press = pressOf(selection, editing, rowCount, event);
    if (press) {
      event.preventDefault();
      press(event);
    } else typing(selection, editing, event);
  };
