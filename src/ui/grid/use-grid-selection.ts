import { useMemo, useState } from "react";
import type { Row } from "@/core/layout/rows";
import type { ChannelId } from "@/core/model/ids";
import type { CellColumn } from "@/core/queries/columns";
import { between, inList } from "../shared/grid-core";
import { useDesk, useDeskStore } from "../state/desk-context";
import { type Cursor, END_ROW } from "../state/desk-store";

export const trackIdsIn = (rows: readonly Row[]): readonly ChannelId[] =>
  rows.flatMap((row) => (row.kind === "track" ? [row.id] : []));

/** The columns from where a range began to where the cursor is, as they stand. */
export const columnsBetween = (
  columns: readonly CellColumn[],
  from: CellColumn | null,
  to: CellColumn,
): readonly CellColumn[] => {
  const [a, b] = [columns.indexOf(from ?? to), columns.indexOf(to)];
  return a < 0 || b < 0 ? [to] : between(columns, a, b);
};

interface Selecting {
  readonly column?: CellColumn;
  /** Keep where the range began, and reach to here. */
  readonly keep?: boolean;
}

/**
 * The cursor of the grid and the range that is selected with it. Below the last row stands an empty one, where typing
 * and pasting make tracks.
 */
export const useGridSelection = (rows: readonly Row[]) => {
  const desk = useDeskStore();
  const cursor = useDesk((state) => state.cursor);
  const selected = useDesk((state) => state.selected);
  const anchorColumn = useDesk((state) => state.anchorColumn);
  const columns = useDesk((state) => state.columns);
  /**
   * Where a range began, and the row it was reached to: when the cursor has come to another one since, by a jump or a
   * click elsewhere, it begins there.
   */
  const [anchor, setAnchor] = useState<{ readonly from: Cursor["rowId"]; readonly to: Cursor["rowId"] } | null>(null);
  const at = cursor?.rowId === END_ROW ? rows.length : rows.findIndex((row) => row.id === cursor?.rowId);
  const column = cursor && columns.includes(cursor.column) ? cursor.column : (columns[0] ?? "name");

  const select = (index: number, { column: to = column, keep = false }: Selecting = {}): void => {
    const target = rows[index];
    if (!target && index !== rows.length) return;
    const rowId: Cursor["rowId"] = target?.id ?? END_ROW;
    const began =
      anchor && anchor.to === cursor?.rowId ? rows.findIndex((candidate) => candidate.id === anchor.from) : -1;
    const from = keep ? (began >= 0 ? began : at) : index;
    setAnchor({ from: rows[from]?.id ?? END_ROW, to: rowId });
    desk.setState({
      cursor: { rowId, column: to },
      anchorColumn: keep ? (anchorColumn ?? column) : null,
      selected: trackIdsIn(between(rows, from, index)),
    });
  };

  const stepRow = (by: number, keep = false): void =>
    select(inList(at + by, keep ? rows.length : rows.length + 1), { keep });

  const stepColumn = (by: number, keep = false): void => {
    const to = columns[inList(columns.indexOf(column) + by, columns.length)];
    if (to) select(at, { column: to, keep });
  };

  /** The next or last cell, over the end of a row into its neighbour. False beyond the first and the last cell. */
  const stepCell = (by: 1 | -1): boolean => {
    const inRow = columns[columns.indexOf(column) + by];
    const [first, last] = [columns[0] ?? "name", columns.at(-1) ?? "note"];
    if (rows[at]?.kind !== "folder" && inRow) select(at, { column: inRow });
    else if (rows[at + by]) select(at + by, { column: by === 1 ? first : last });
    else return false;
    return true;
  };

  const selectAll = (): void => {
    const first = rows[0];
    desk.setState({
      cursor: cursor ?? (first ? { rowId: first.id, column: "name" } : null),
      selected: trackIdsIn(rows),
    });
  };

  /** The whole row, all columns: what a copy of rows takes. */
  const selectRows = (): void => {
    const row = rows[at];
    if (row?.kind === "track")
      desk.setState({ cursor: { rowId: row.id, column: columns.at(-1) ?? "note" }, anchorColumn: columns[0] ?? null });
  };

  const clear = (): void => desk.setState({ cursor: null, anchorColumn: null, selected: [] });

  /** Asked of the desk itself: what is drawn may be older than what was just set. */
  const hasCursor = (): boolean => desk.getState().cursor !== null;

  const toggleRow = (index: number, to: CellColumn): void => {
    const target = rows[index];
    if (target?.kind !== "track") return;
    setAnchor({ from: target.id, to: target.id });
    const ids = selected.includes(target.id) ? selected.filter((id) => id !== target.id) : [...selected, target.id];
    desk.setState({ cursor: { rowId: target.id, column: to }, anchorColumn: null, selected: ids });
  };

  const range = useMemo(() => columnsBetween(columns, anchorColumn, column), [columns, anchorColumn, column]);
  return {
    cursor,
    column,
    columns,
    range,
    selected,
    at,
    row: rows[at],
    select,
    stepRow,
    stepColumn,
    stepCell,
    selectAll,
    selectRows,
    clear,
    hasCursor,
    toggleRow,
  };
};

export type GridSelection = ReturnType<typeof useGridSelection>;
