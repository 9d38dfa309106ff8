import {
  type ColumnDef,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  tableFeatures,
} from "@tanstack/react-table";
import type { Row } from "@/core/layout/rows";
import { type CellColumn, GRID_COLUMNS } from "@/core/queries/columns";

export const gridFeatures = tableFeatures({ columnSizingFeature, columnResizingFeature, columnVisibilityFeature });

export const DEFAULT_COLUMNS: readonly CellColumn[] = GRID_COLUMNS.filter((column) => !column.hidden).map(
  (column) => column.id,
);

const ofKind = (...kinds: readonly string[]): readonly CellColumn[] =>
  GRID_COLUMNS.flatMap(({ id, field }) => (field && kinds.includes(field.kind) ? [id] : []));

/** Switches: a click turns them, a drag down the column paints them. */
export const SWITCH_COLUMNS = ofKind("flag");
/** Numbers stand at the right of their column. */
export const NUMBER_COLUMNS = ofKind("number", "decibels");

export const tableColumns: ColumnDef<typeof gridFeatures, Row, unknown>[] = GRID_COLUMNS.map(
  ({ id, heading, width }) => ({
    id,
    header: heading,
    size: width,
    minSize: 28,
    maxSize: 600,
  }),
);
