"use client";

import { useDroppable } from "@dnd-kit/core";
import { type MouseEvent, type RefObject, useEffect, useMemo, useRef } from "react";
import type { Finding } from "@/core/checks/finding";
import type { Row } from "@/core/layout/rows";
import type { CellColumn } from "@/core/queries/columns";
import { gridColumn } from "@/core/queries/columns";
import type { GridAct } from "../acts/act";
import type { Acts } from "../acts/act-model";
import { useDrawnRows } from "../shared/grid-core";
import { useInSight } from "../shared/use-in-sight";
import { useDesk, useRig } from "../state/desk-context";
import { END_ROW } from "../state/desk-store";
import { CellEditor } from "./cell-editor";
import { throughBank } from "./cell-view";
import classes from "./grid.module.css";
import { INPUT_GRID } from "./grid-focus";
import { cellStyle, GridHeader } from "./grid-header";
import { gridKeys } from "./grid-keys";
import { cellId, GridRow, type RowHandlers } from "./grid-row";
import { HEADER_HEIGHT } from "./metrics";
import { useClipboard } from "./use-clipboard";
import type { Columns } from "./use-columns";
import type { Drag } from "./use-drags";
import { useGridEditing } from "./use-grid-editing";
import { useGridSelection } from "./use-grid-selection";
import { useRangeDrag } from "./use-range-drag";

interface InputGridProps {
  readonly rows: readonly Row[];
  readonly acts: Acts<GridAct>;
  readonly findings: readonly Finding[];
  readonly columns: Columns;
  readonly rowHeight: number;
  /** How much of it can be seen, in pixels. */
  readonly width: number;
  readonly height: number;
  readonly drag: Drag | null;
  readonly scrollRef: RefObject<HTMLDivElement | null>;
  readonly onScroll: () => void;
  readonly onMenu: (at: { readonly x: number; readonly y: number }) => void;
}

const useGrid = (rows: readonly Row[], acts: Acts<GridAct>) => {
  const selection = useGridSelection(rows);
  const editing = useGridEditing(rows, acts, selection);
  const mouse = useRangeDrag(rows, selection, editing);
  useClipboard(editing);
  return { ...selection, ...editing, ...mouse, onKeyDown: gridKeys(selection, editing, rows.length) };
};

type Grid = ReturnType<typeof useGrid>;

/** The first finding of each cell, by row and then by column. */
const findingsByRow = (
  rows: readonly Row[],
  findings: readonly Finding[],
): ReadonlyMap<string, ReadonlyMap<string, Finding>> => {
  const rowOfLine = new Map<string, string>(
    rows.flatMap((row) => (row.kind === "track" ? row.lines.map((line) => [line.id, row.id] as const) : [])),
  );
  const byRow = new Map<string, Map<string, Finding>>();
  for (const finding of findings)
    for (const place of finding.places) {
      const row = place.kind === "line" ? rowOfLine.get(place.id) : place.id;
      if (!row) continue;
      const cells = byRow.get(row) ?? new Map<string, Finding>();
      if (!cells.has(place.field)) cells.set(place.field, finding);
      byRow.set(row, cells);
    }
  return byRow;
};

const placeOf = (index: number, column: CellColumn): string => `${index} ${column}`;

interface Handling extends Pick<InputGridProps, "rows" | "onMenu"> {
  readonly grid: Grid;
  readonly press: (place: string) => void;
}

/** Handlers that stay the same object while what they do follows the newest state. */
const useHandlers = (given: Handling): RowHandlers => {
  const latest = useRef(given);
  latest.current = given;
  return useMemo(
    (): RowHandlers => ({
      onCellDown: (index, column, event) => {
        latest.current.press(placeOf(index, column));
        latest.current.grid.onCellDown(index, column, event);
      },
      onCellEnter: (index, column, event) => latest.current.grid.onCellEnter(index, column, event),
      onEdit: (index, column) => latest.current.grid.begin(latest.current.rows[index], column, null),
      onFold: (index) => {
        const row = latest.current.rows[index];
        if (row?.kind === "folder") latest.current.grid.setFolderOpen(row.id, !row.folder.open);
      },
      onCommit: (text, leave) => latest.current.grid.commit(text, leave),
      onGone: (text, where) => latest.current.grid.gone(text, where),
      onCancel: (leave) => latest.current.grid.cancel(leave),
      onContextMenu: (index: number, column: CellColumn, event: MouseEvent) => {
        event.preventDefault();
        const { grid: now, rows: all, onMenu: open } = latest.current;
        const row = all[index];
        if (row && !(row.kind === "track" && now.selected.includes(row.id))) now.select(index, { column });
        open({ x: event.clientX, y: event.clientY });
      },
    }),
    [],
  );
};

interface EndRowProps {
  readonly grid: Grid;
  readonly index: number;
  readonly top: number;
  readonly height: number;
  readonly columns: Columns;
  readonly handlers: RowHandlers;
}

/** The empty row below the last: typing or pasting here makes new tracks. */
const EndRow = ({ grid, index, top, height, columns, handlers }: EndRowProps) => {
  const here = grid.cursor?.rowId === END_ROW;
  const editing = grid.editing?.rowId === END_ROW ? grid.editing : null;
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={here}
      className={classes.row}
      data-kind="end"
      style={{
        height,
        transform: `translateY(${top}px)`,
        ["--spine" as never]: "transparent",
        ["--row" as never]: `${height}px`,
      }}
    >
      <span className={classes.grip} aria-hidden="true" />
      {columns.shown.map((shown, at) => (
        <div
          key={shown.id}
          id={cellId(END_ROW, shown.id)}
          role="gridcell"
          aria-colindex={at + 1}
          className={`${classes.cell} ${classes.soft}`}
          data-active={(here && grid.column === shown.id) || undefined}
          data-editing={editing?.column === shown.id || undefined}
          style={cellStyle(shown)}
          onMouseDown={(event) => handlers.onCellDown(index, shown.id, event)}
          onDoubleClick={() => handlers.onEdit(index, shown.id)}
        >
          {editing?.column === shown.id ? (
            <CellEditor
              column={shown.id}
              label={`${gridColumn(shown.id).heading} of a new track`}
              initial={editing.initial}
              fresh={editing.fresh}
              suggestions={[]}
              onCommit={handlers.onCommit}
              onCancel={handlers.onCancel}
              onGone={handlers.onGone}
            />
          ) : (
            shown.id === "name" && <span className={classes.text}>Type a name, or paste rows</span>
          )}
        </div>
      ))}
    </div>
  );
};

/** The input list as a grid: one row a track or folder, cells edited in place, only the rows in view drawn. */
export const InputGrid = ({
  rows,
  acts,
  findings,
  columns,
  rowHeight,
  width,
  height,
  drag,
  scrollRef,
  onScroll,
  onMenu,
}: InputGridProps) => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  const grid = useGrid(rows, acts);
  const { setNodeRef } = useDroppable({ id: "grid", data: { kind: "grid" } });
  const virtualizer = useDrawnRows({
    count: rows.length + 1,
    place: scrollRef,
    height: rowHeight,
    headings: HEADER_HEIGHT,
    beyond: 8,
    below: 8,
    later: true,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: all rows are measured anew when their height changes
  useEffect(() => virtualizer.measure(), [virtualizer, rowHeight]);
  const byRow = useMemo(() => findingsByRow(rows, findings), [rows, findings]);
  const selected = useMemo(() => new Set<string>(grid.selected), [grid.selected]);
  const { at, cursor, column, range, painting } = grid;
  const spans = grid.selected.length > 1 || range.length > 1;
  const press = useInSight({
    cell: cursor && at >= 0 ? cellId(cursor.rowId, column) : undefined,
    place: placeOf(at, column),
    chosen: cursor,
    size: `${width} × ${height}`,
    draw: () => virtualizer.scrollToIndex(at, { align: "auto" }),
  });
  const handlers = useHandlers({ rows, grid, onMenu, press });
  const view = useDesk((desk) => desk.view);
  // The first below the headings: what is under them is counted among those in range.
  const first = Math.floor((virtualizer.scrollOffset ?? 0) / rowHeight);
  const last = virtualizer.range?.endIndex ?? Number.POSITIVE_INFINITY;
  useEffect(() => view.setState({ from: first, to: last }), [view, first, last]);
  const activeCell =
    cursor && !grid.editing ? cellId(cursor.rowId, rows[at]?.kind === "folder" ? "name" : column) : undefined;
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
        aria-rowcount={rows.length + 2}
        aria-colcount={columns.shown.length}
        aria-activedescendant={activeCell}
        onKeyDown={grid.onKeyDown}
        onFocus={(event) =>
          event.target === event.currentTarget && !grid.hasCursor() && grid.select(0, { column: "name" })
        }
      >
        <GridHeader columns={columns} />
        <div ref={setNodeRef} role="rowgroup" style={{ height: virtualizer.getTotalSize(), position: "relative" }}>
          {virtualizer.getVirtualItems().map((item) => {
            const row = rows[item.index];
            if (!row)
              return (
                <EndRow
                  key="end"
                  grid={grid}
                  index={item.index}
                  top={item.start - HEADER_HEIGHT}
                  height={rowHeight}
                  columns={columns}
                  handlers={handlers}
                />
              );
            const isSelected = row.kind === "track" ? selected.has(row.id) : cursor?.rowId === row.id;
            return (
              <GridRow
                key={row.id}
                row={row}
                index={item.index}
                top={item.start - HEADER_HEIGHT}
                height={rowHeight}
                columns={columns.shown}
                doc={doc}
                rig={rig}
                active={cursor?.rowId === row.id ? column : null}
                range={spans && isSelected ? range : null}
                selected={isSelected}
                editing={grid.editing?.rowId === row.id ? grid.editing : null}
                findings={byRow.get(row.id)}
                painted={painting && row.kind === "track" && painting.ids.includes(row.id) ? painting : null}
                bank={row.kind === "track" ? throughBank({ doc, rig, row }) : null}
                dropEdge={drag?.over?.id === row.id ? drag.over.edge : null}
                handlers={handlers}
              />
            );
          })}
        </div>
      </div>
      <p id="grid-help" className="visually-hidden">
        Arrow keys move from cell to cell, Enter or typing edits, Tab goes to the next cell, Shift and arrows select a
        range. A question mark lists all keys. Escape clears the selection; Tab then leaves the grid.
      </p>
    </div>
  );
};
