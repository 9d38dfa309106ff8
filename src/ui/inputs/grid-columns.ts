import { type ColumnDef, columnResizingFeature, columnSizingFeature, columnVisibilityFeature, tableFeatures } from "@tanstack/react-table";
import type { Row } from "@/core/layout/rows";
import type { CellColumn } from "@/core/planning/cells";

export const gridFeatures = tableFeatures({ columnSizingFeature, columnResizingFeature, columnVisibilityFeature });

interface GridColumn {
  readonly id: CellColumn;
  readonly header: string;
  readonly size: number;
  /** The heading is for screen readers only. */
  readonly quiet?: boolean;
  /** Not shown until it is asked for. */
  readonly hidden?: boolean;
}

/** Columns of the input list from left to right. The last one that is shown takes what room is left. */
export const GRID_COLUMNS: readonly GridColumn[] = [
  { id: "icon", header: "Icon", size: 32, quiet: true },
  { id: "colour", header: "Colour", size: 28, quiet: true },
  { id: "name", header: "Track", size: 140 },
  { id: "layout", header: "Mono or stereo", size: 32, quiet: true },
  { id: "source", header: "Source", size: 120, hidden: true },
  { id: "microphone", header: "Microphone or box", size: 144 },
  { id: "input", header: "Input", size: 58 },
  { id: "phantom", header: "Phantom", size: 60 },
  { id: "pad", header: "Pad", size: 44, hidden: true },
  { id: "polarity", header: "Polarity", size: 62, hidden: true },
  { id: "gain", header: "Gain dB", size: 62, hidden: true },
  { id: "folder", header: "Folder", size: 92 },
  { id: "player", header: "Player", size: 88 },
  { id: "room", header: "Room", size: 88, hidden: true },
  { id: "position", header: "Position", size: 110, hidden: true },
  { id: "note", header: "Note", size: 100 },
];

export const DEFAULT_COLUMNS: readonly CellColumn[] = GRID_COLUMNS.filter((column) => !column.hidden).map((column) => column.id);

/** Switches: a click turns them, a drag down the column paints them. */
export const SWITCH_COLUMNS: readonly CellColumn[] = ["phantom", "pad", "polarity"];
/** Numbers stand at the right of their column. */
export const NUMBER_COLUMNS: readonly CellColumn[] = ["gain"];

export const columnOf = (id: CellColumn): GridColumn => {
  const found = GRID_COLUMNS.find((column) => column.id === id);
  if (!found) throw new Error(`expected a column of the grid, got ${id}`);
  return found;
};

export const tableColumns: ColumnDef<typeof gridFeatures, Row, unknown>[] = GRID_COLUMNS.map(({ id, header, size }) => ({ id, header, size, minSize: 28, maxSize: 600 }));
