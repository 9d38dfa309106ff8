"use client";

import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { gridColumn } from "@/core/queries/columns";
import classes from "./grid.module.css";
import { NUMBER_COLUMNS } from "./grid-columns";
import { HEADER_HEIGHT } from "./metrics";
import type { Columns, ShownColumn } from "./use-columns";

export const cellStyle = ({ width }: ShownColumn) => ({ flex: width ? `0 0 ${width}px` : "1 1 90px" });

const STEP = 12;

/** The edge of a heading: dragged, or moved with the arrow keys once it has the focus. */
const Edge = ({ column, onWidth }: { readonly column: ShownColumn; readonly onWidth: (width: number) => void }) => {
  const start = useRef<{ readonly x: number; readonly width: number } | null>(null);
  const width = column.width ?? 0;
  const down = (event: PointerEvent<HTMLButtonElement>) => {
    start.current = { x: event.clientX, width };
    event.currentTarget.setPointerCapture(event.pointerId);
    event.stopPropagation();
  };
  const move = (event: PointerEvent) => {
    if (start.current) onWidth(start.current.width + event.clientX - start.current.x);
  };
  const press = (event: KeyboardEvent) => {
    const by = event.key === "ArrowRight" ? STEP : event.key === "ArrowLeft" ? -STEP : 0;
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    onWidth(width + by);
  };
  return (
    <button
      type="button"
      className={classes.edge}
      aria-label={`Width of ${gridColumn(column.id).heading}: ${width} pixels; arrow keys change it`}
      tabIndex={-1}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => {
        start.current = null;
      }}
      onKeyDown={press}
    />
  );
};

export const GridHeader = ({ columns }: { readonly columns: Columns }) => (
  <div role="row" className={classes.header} aria-rowindex={1} style={{ height: HEADER_HEIGHT }}>
    {columns.shown.map((shown, at) => {
      const { heading, quiet } = gridColumn(shown.id);
      return (
        <div
          key={shown.id}
          role="columnheader"
          aria-colindex={at + 1}
          aria-label={heading}
          className={`${classes.heading} ${NUMBER_COLUMNS.includes(shown.id) ? classes.numeric : ""}`}
          style={cellStyle(shown)}
        >
          {quiet ? <span className="visually-hidden">{heading}</span> : heading}
          {shown.width !== null && <Edge column={shown} onWidth={(width) => columns.setWidth(shown.id, width)} />}
        </div>
      );
    })}
  </div>
);
