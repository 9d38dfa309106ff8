import { type MouseEvent, useEffect, useRef, useState } from "react";
import type { Row } from "@/core/layout/rows";
import type { ChannelId } from "@/core/model/ids";
import type { CellColumn } from "@/core/queries/columns";
import { SWITCH_COLUMNS } from "./grid-columns";
import type { GridEditing } from "./use-grid-editing";
import type { GridSelection } from "./use-grid-selection";

/** A switch on its way down a column. */
export interface Painting {
  readonly column: CellColumn;
  readonly on: boolean;
  readonly ids: readonly ChannelId[];
}

const onSwitch = (event: MouseEvent): boolean =>
  event.target instanceof Element && event.target.closest("[data-switch]") !== null;
const inEditor = (event: MouseEvent): boolean =>
  event.target instanceof Element && event.target.closest("input, [role='listbox']") !== null;

/**
 * The mouse in the grid: a press sets the cursor, a drag spans a range, a drag that begins on a switch paints it down
 * the column.
 */
export const useRangeDrag = (rows: readonly Row[], selection: GridSelection, editing: GridEditing) => {
  const [painting, setPainting] = useState<Painting | null>(null);
  const dragging = useRef(false);
  /**
   * Where the button went down. The list may move under a mouse that stands still (the inspector opens beside it): that
   * is no drag.
   */
  const from = useRef({ x: 0, y: 0 });
  const latest = useRef({ painting, editing });
  latest.current = { painting, editing };

  useEffect(() => {
    const end = (): void => {
      dragging.current = false;
      const { painting: painted, editing: now } = latest.current;
      if (!painted) return;
      setPainting(null);
      const [only, ...more] = painted.ids;
      if (only && !more.length) now.toggle(only, painted.column);
      else now.paint(painted.ids, painted.column, painted.on);
    };
    document.addEventListener("mouseup", end);
    return () => document.removeEventListener("mouseup", end);
  }, []);

  const onCellDown = (index: number, column: CellColumn, event: MouseEvent): void => {
    if (event.button !== 0 || inEditor(event)) return;
    const row = rows[index];
    from.current = { x: event.clientX, y: event.clientY };
    if (event.ctrlKey || event.metaKey) {
      selection.toggleRow(index, column);
      return;
    }
    if (row?.kind === "track" && SWITCH_COLUMNS.includes(column) && onSwitch(event) && !event.shiftKey) {
      if (!(selection.selected.length > 1 && selection.selected.includes(row.id))) selection.select(index, { column });
      setPainting({ column, on: !editing.isOn(row.id, column), ids: [row.id] });
      return;
    }
    dragging.current = true;
    selection.select(index, { column, keep: event.shiftKey });
  };

  const onCellEnter = (index: number, column: CellColumn, event: MouseEvent): void => {
    if (event.buttons !== 1 || (event.clientX === from.current.x && event.clientY === from.current.y)) return;
    const row = rows[index];
    if (painting) {
      if (row?.kind === "track" && !painting.ids.includes(row.id))
        setPainting({ ...painting, ids: [...painting.ids, row.id] });
    } else if (dragging.current) selection.select(index, { column, keep: true });
  };

  return { painting, onCellDown, onCellEnter };
};
