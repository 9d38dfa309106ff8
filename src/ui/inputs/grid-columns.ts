import { type ColumnDef, columnSizingFeature, tableFeatures } from "@tanstack/react-table";
import type { Row } from "@/core/layout/rows";
import type { CellColumn } from "@/core/planning/cells";

export const gridFeatures = tableFeatures({ columnSizingFeature });

interface GridColumn {
  readonly id: CellColumn;
  readonly header: string;
  readonly size: number;
  /** The heading is for screen readers only. */
  readonly quiet?: boolean;
}

/** Columns of the input list from left to right. The last one takes what room is left. */
export const GRID_COLUMNS: readonly GridColumn[] = [
  { id: "icon", header: "Icon", size: 32, quiet: true },
  { id: "dye", header: "Colour", size: 28, quiet: true },
  { id: "name", header: "Track", size: 140 },
  { id: "layout", header: "Mono or stereo", size: 32, quiet: true },
  { id: "microphone", header: "Microphone or box", size: 144 },
  { id: "input", header: "Input", size: 58 },
  { id: "phantom", header: "Phantom", size: 60 },
  { id: "folder", header: "Folder", size: 92 },
  { id: "player", header: "Player", size: 88 },
  { id: "note", header: "Note", size: 100 },
];

export const COLUMN_IDS: readonly CellColumn[] = GRID_COLUMNS.map((column) => column.id);

export const tableColumns: ColumnDef<typeof gridFeatures, Row, unknown>[] = GRID_COLUMNS.map(({ id, header, size }) => ({ id, header, size }));
