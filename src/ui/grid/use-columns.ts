import { useLocalStorage } from "@mantine/hooks";
import { useTable } from "@tanstack/react-table";
import { useEffect, useMemo } from "react";
import type { Row } from "@/core/layout/rows";
import type { CellColumn } from "@/core/queries/columns";
import { GRID_COLUMNS } from "../../core/queries/columns";
import { useDeskStore } from "../state/desk-context";
import { DEFAULT_COLUMNS, gridFeatures, tableColumns } from "./grid-columns";

interface Kept {
  readonly visibility: Record<string, boolean>;
  readonly sizing: Record<string, number>;
}

const START: Kept = {
  visibility: Object.fromEntries(GRID_COLUMNS.map((column) => [column.id, !column.hidden])),
  sizing: {},
};

/** Whether a column is shown. One that came with a newer Wandel than the choice that is kept is as it is at first. */
const isVisible = ({ visibility }: Kept, id: CellColumn): boolean =>
  visibility[id] ?? !GRID_COLUMNS.find((column) => column.id === id)?.hidden;

const next = <T>(updater: T | ((old: T) => T), old: T): T =>
  typeof updater === "function" ? (updater as (old: T) => T)(old) : updater;

export interface ShownColumn {
  readonly id: CellColumn;
  /** Null: takes what room is left. */
  readonly width: number | null;
}

/** Which columns are shown and how wide: chosen once, kept in this browser for every template. */
export const useColumns = (rows: readonly Row[]) => {
  const desk = useDeskStore();
  const [kept, setKept] = useLocalStorage<Kept>({ key: "wandel:columns", defaultValue: START });
  const table = useTable({
    features: gridFeatures,
    columns: tableColumns,
    data: rows as Row[],
    getRowId: (row) => row.id,
    columnResizeMode: "onChange",
    state: { columnVisibility: kept.visibility, columnSizing: kept.sizing },
    onColumnVisibilityChange: (updater) => setKept((old) => ({ ...old, visibility: next(updater, old.visibility) })),
    onColumnSizingChange: (updater) => setKept((old) => ({ ...old, sizing: next(updater, old.sizing) })),
  });
  const shown = useMemo((): readonly ShownColumn[] => {
    const visible = GRID_COLUMNS.filter((column) => isVisible(kept, column.id));
    return visible.map((column, at) => ({
      id: column.id,
      width: at === visible.length - 1 ? null : (kept.sizing[column.id] ?? column.width),
    }));
  }, [kept]);
  useEffect(
    () => desk.setState({ columns: shown.length ? shown.map((column) => column.id) : DEFAULT_COLUMNS }),
    [desk, shown],
  );
  const setWidth = (id: CellColumn, width: number): void =>
    setKept((old) => ({ ...old, sizing: { ...old.sizing, [id]: Math.max(28, Math.min(600, Math.round(width))) } }));
  const toggle = (id: CellColumn): void =>
    setKept((old) => ({ ...old, visibility: { ...old.visibility, [id]: !isVisible(old, id) } }));
  const reset = (): void => setKept(START);
  return { table, shown, setWidth, toggle, reset };
};

export type Columns = ReturnType<typeof useColumns>;
