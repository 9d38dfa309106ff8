"use client";

import { IconChevronDown, IconChevronRight } from "@tabler/icons-react";
import { useTable } from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useEffect, useMemo } from "react";
import type { Finding } from "@/core/checks/finding";
import type { Row } from "@/core/layout/rows";
import { entriesOf } from "@/core/model/rig";
import type { CellColumn } from "@/core/planning/cells";
import { counted } from "@/core/units/counted";
import { useDesk, useRig } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import { CellEditor } from "./cell-editor";
import { CellView } from "./cell-view";
import classes from "./grid.module.css";
import { GRID_COLUMNS, gridFeatures, tableColumns } from "./grid-columns";
import { gridKeys } from "./grid-keys";
import { HEADER_HEIGHT, ROW_HEIGHT } from "./metrics";
import { type Act, INPUT_GRID } from "./use-acts";
import { useGridEditing } from "./use-grid-editing";
import { useGridSelection } from "./use-grid-selection";

interface InputGridProps {
  readonly rows: readonly Row[];
  readonly acts: readonly Act[];
  readonly findings: readonly Finding[];
  readonly scrollRef: RefObject<HTMLDivElement | null>;
  readonly onScroll: () => void;
}

const useGrid = (rows: readonly Row[], acts: readonly Act[]) => {
  const selection = useGridSelection(rows);
  const editing = useGridEditing(rows, acts, selection);
  return { ...selection, ...editing, onKeyDown: gridKeys(selection, editing, rows.length) };
};

type Grid = ReturnType<typeof useGrid>;

/** The first finding of each cell, by row and column. */
const findingsByCell = (rows: readonly Row[], findings: readonly Finding[]): ReadonlyMap<string, Finding> => {
  const rowOfLine = new Map<string, string>(rows.flatMap((row) => (row.kind === "track" ? row.lines.map((line) => [line.id, row.id] as const) : [])));
  const map = new Map<string, Finding>();
  for (const finding of findings)
    for (const place of finding.places) {
      const row = place.kind === "line" ? rowOfLine.get(place.id) : place.id;
      const key = `${row} ${place.field}`;
      if (row && !map.has(key)) map.set(key, finding);
    }
  return map;
};

const cellId = (rowId: string, column: string): string => `cell-${rowId}-${column}`;

const useSuggestions = (column: CellColumn | undefined): readonly string[] => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  return useMemo(() => {
    if (column === "microphone") return entriesOf(rig.microphones).map((microphone) => microphone.name);
    if (column === "folder") return entriesOf(doc.folders).map((folder) => folder.name);
    return column === "player" ? entriesOf(doc.lines).flatMap((line) => line.player || []) : [];
  }, [column, doc, rig]);
};

const Header = ({ widths }: { readonly widths: readonly (number | null)[] }) => (
  <div role="row" className={classes.header} aria-rowindex={1} style={{ height: HEADER_HEIGHT }}>
    {GRID_COLUMNS.map((column, at) => (
      <div key={column.id} role="columnheader" aria-colindex={at + 1} className={classes.heading} style={{ flex: widths[at] ? `0 0 ${widths[at]}px` : "1 1 90px" }}>
        {column.quiet ? <span className="visually-hidden">{column.header}</span> : column.header}
      </div>
    ))}
  </div>
);

const FolderRow = ({ row, index, grid }: { readonly row: Extract<Row, { kind: "folder" }>; readonly index: number; readonly grid: Grid }) => {
  const { folder } = row;
  const editing = grid.editing?.rowId === row.id ? grid.editing : null;
  const Glyph = folder.open ? IconChevronDown : IconChevronRight;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the grid
    <div
      role="gridcell"
      aria-colspan={GRID_COLUMNS.length}
      aria-colindex={1}
      id={cellId(row.id, "name")}
      className={classes.folderCell}
      onClick={grid.onCellClick(index, "name")}
      onDoubleClick={() => grid.begin(row, "name", null)}
    >
      <button
        type="button"
        tabIndex={-1}
        className={classes.fold}
        style={{ marginLeft: row.depth * 14 }}
        aria-label={`${folder.open ? "Fold" : "Unfold"} ${folder.name}`}
        onClick={() => grid.setFolderOpen(row.id, !folder.open)}
      >
        <Glyph size={16} stroke={1.8} aria-hidden />
      </button>
      {editing ? (
        <CellEditor
          column="name"
          label={`Name of the folder ${folder.name}`}
          initial={editing.initial}
          fresh={editing.fresh}
          suggestions={[]}
          onCommit={grid.commit}
          onCancel={grid.cancel}
        />
      ) : (
        <>
          <strong>{folder.name}</strong>
          <span className={`${classes.soft} narrow`}>{counted(row.trackCount, "track")}</span>
        </>
      )}
    </div>
  );
};

interface TrackCellsProps {
  readonly row: Extract<Row, { kind: "track" }>;
  readonly index: number;
  readonly grid: Grid;
  readonly widths: readonly (number | null)[];
  readonly findings: ReadonlyMap<string, Finding>;
}

const TrackCells = ({ row, index, grid, widths, findings }: TrackCellsProps) => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  const editing = grid.editing?.rowId === row.id ? grid.editing : null;
  const suggestions = useSuggestions(editing?.column);
  return GRID_COLUMNS.map((column, at) => {
    const active = grid.cursor?.rowId === row.id && grid.cursor.column === column.id;
    return (
      // biome-ignore lint/a11y/useKeyWithClickEvents: keys are handled by the grid
      <div
        key={column.id}
        id={cellId(row.id, column.id)}
        role="gridcell"
        aria-colindex={at + 1}
        className={`${classes.cell} ${classes[column.id] ?? ""}`}
        data-active={active || undefined}
        style={{ flex: widths[at] ? `0 0 ${widths[at]}px` : "1 1 90px" }}
        onClick={grid.onCellClick(index, column.id)}
        onDoubleClick={() => grid.begin(row, column.id, null)}
      >
        {editing?.column === column.id ? (
          <CellEditor
            column={column.id}
            label={`${column.header} of ${row.track.name}`}
            initial={editing.initial}
            fresh={editing.fresh}
            suggestions={suggestions}
            onCommit={grid.commit}
            onCancel={grid.cancel}
          />
        ) : (
          <CellView doc={doc} rig={rig} row={row} column={column.id} finding={findings.get(`${row.id} ${column.id}`)} onPhantom={() => grid.togglePhantom(row.id)} />
        )}
      </div>
    );
  });
};

/** The input list as a grid: one row a track or folder, cells edited in place, only the rows in view drawn. */
export const InputGrid = ({ rows, acts, findings, scrollRef, onScroll }: InputGridProps) => {
  const grid = useGrid(rows, acts);
  const table = useTable({ features: gridFeatures, columns: tableColumns, data: rows as Row[], getRowId: (row) => row.id });
  const virtualizer = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scrollRef.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 14,
    scrollPaddingStart: HEADER_HEIGHT,
    scrollPaddingEnd: 8,
  });
  const columns = table.getAllLeafColumns();
  const widths = columns.map((column, at) => (at === columns.length - 1 ? null : column.getSize()));
  const byCell = useMemo(() => findingsByCell(rows, findings), [rows, findings]);
  const { at, cursor, selected } = grid;
  useEffect(() => {
    if (at < 0 || !cursor) return;
    virtualizer.scrollToIndex(at, { align: "auto" });
    document.getElementById(cellId(cursor.rowId, cursor.column))?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [at, cursor, virtualizer]);
  return (
    <div className={classes.scroll} ref={scrollRef} onScroll={onScroll}>
      <div
        id={INPUT_GRID}
        role="grid"
        className={`${classes.grid} narrow`}
        tabIndex={0}
        aria-label="Input list"
        aria-describedby="grid-help"
        aria-multiselectable="true"
        aria-rowcount={rows.length + 1}
        aria-colcount={GRID_COLUMNS.length}
        aria-activedescendant={cursor && !grid.editing ? cellId(cursor.rowId, rows[at]?.kind === "folder" ? "name" : cursor.column) : undefined}
        onKeyDown={grid.onKeyDown}
        onFocus={(event) => event.target === event.currentTarget && !cursor && grid.select(0, { column: "name" })}
      >
        <Header widths={widths} />
        <div role="rowgroup" style={{ height: virtualizer.getTotalSize(), position: "relative" }}>
          {virtualizer.getVirtualItems().map((item) => {
            const row = rows[item.index];
            if (!row) return null;
            const isSelected = row.kind === "track" ? selected.includes(row.id) : cursor?.rowId === row.id;
            return (
              <div
                key={row.id}
                role="row"
                aria-rowindex={item.index + 2}
                aria-selected={isSelected}
                className={classes.row}
                data-kind={row.kind}
                style={{ height: ROW_HEIGHT, transform: `translateY(${item.start}px)`, ["--spine" as never]: dyeVar(row.dye) }}
              >
                {row.kind === "folder" ? (
                  <FolderRow row={row} index={item.index} grid={grid} />
                ) : (
                  <TrackCells row={row} index={item.index} grid={grid} widths={widths} findings={byCell} />
                )}
              </div>
            );
          })}
        </div>
      </div>
      <p id="grid-help" className="visually-hidden">
        Arrow keys move from cell to cell, Enter or typing edits, Tab goes to the next cell, Shift and arrows select rows. Escape clears the selection; Tab then leaves the grid.
      </p>
    </div>
  );
};
