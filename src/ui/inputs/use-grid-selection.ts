import { type MouseEvent, useState } from "react";
import type { Row } from "@/core/layout/rows";
import type { ChannelId } from "@/core/model/ids";
import type { CellColumn } from "@/core/planning/cells";
import { useDesk, useDeskStore } from "../state/desk-context";
import { COLUMN_IDS } from "./grid-columns";
import { focusGrid } from "./use-acts";

const clamp = (value: number, most: number): number => Math.max(0, Math.min(most, value));

export const trackIdsIn = (rows: readonly Row[]): readonly ChannelId[] => rows.flatMap((row) => (row.kind === "track" ? [row.id] : []));

/** The cursor of the grid and the rows that are selected with it. */
export const useGridSelection = (rows: readonly Row[]) => {
  const desk = useDeskStore();
  const cursor = useDesk((state) => state.cursor);
  const selected = useDesk((state) => state.selected);
  const [anchor, setAnchor] = useState<number | null>(null);
  const at = rows.findIndex((row) => row.id === cursor?.rowId);

  const select = (index: number, { column, keep = false }: { readonly column?: CellColumn; readonly keep?: boolean } = {}): void => {
    const target = rows[index];
    if (!target) return;
    const from = keep ? (anchor ?? at) : index;
    const [low, high] = from < index ? [from, index] : [index, from];
    setAnchor(keep ? from : index);
    desk.setState({ cursor: { rowId: target.id, column: column ?? cursor?.column ?? "name" }, selected: trackIdsIn(rows.slice(Math.max(0, low), high + 1)) });
  };

  const stepRow = (by: number, keep = false): void => select(clamp(at + by, rows.length - 1), { keep });

  const stepColumn = (by: number): void => {
    const column = COLUMN_IDS[clamp(COLUMN_IDS.indexOf(cursor?.column ?? "name") + by, COLUMN_IDS.length - 1)];
    select(at, column ? { column } : {});
  };

  /** The next or last cell, over the end of a row into its neighbour. False beyond the first and the last cell. */
  const stepCell = (by: 1 | -1): boolean => {
    const inRow = COLUMN_IDS[COLUMN_IDS.indexOf(cursor?.column ?? "name") + by];
    if (rows[at]?.kind === "track" && inRow) select(at, { column: inRow });
    else if (rows[at + by]) select(at + by, { column: by === 1 ? "icon" : "note" });
    else return false;
    return true;
  };

  const selectAll = (): void => {
    const first = rows[0];
    desk.setState({ cursor: cursor ?? (first ? { rowId: first.id, column: "name" } : null), selected: trackIdsIn(rows) });
  };

  const clear = (): void => desk.setState({ cursor: null, selected: [] });

  const onCellClick = (index: number, column: CellColumn) => (event: MouseEvent) => {
    const target = rows[index];
    if (!target) return;
    if ((event.ctrlKey || event.metaKey) && target.kind === "track") {
      setAnchor(index);
      desk.setState({ cursor: { rowId: target.id, column }, selected: selected.includes(target.id) ? selected.filter((id) => id !== target.id) : [...selected, target.id] });
    } else select(index, { column, keep: event.shiftKey });
    if (!(event.target instanceof HTMLInputElement)) focusGrid();
  };

  return { cursor, selected, at, row: rows[at], select, stepRow, stepColumn, stepCell, selectAll, clear, onCellClick };
};

export type GridSelection = ReturnType<typeof useGridSelection>;
