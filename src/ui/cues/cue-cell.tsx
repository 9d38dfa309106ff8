import { shallowEqual } from "@mantine/hooks";
import { type CSSProperties, memo, type PointerEvent as ReactPointerEvent, useState } from "react";
import type { CueId } from "@/core/model/ids";
import type { CueLevel } from "@/core/model/tables/cue-levels";
import { type Decibels, formatGain } from "@/core/units/decibels";
import { barOf, levelAt } from "./cue-scale";
import classes from "./cues.module.css";

export interface Shown {
  readonly levelDb: Decibels | null;
  readonly on: boolean;
  readonly tap: CueLevel["tap"];
  readonly pan: number;
  /** Of a group: not all of it is as loud. */
  readonly various: boolean;
}

/**
 * What cells ask the matrix to do. The same object for as long as it lives, so that a cell is drawn anew only when
 * something of it changes.
 */
export interface CellHandlers {
  down(rowId: string, cueId: CueId, range: boolean): void;
  edit(rowId: string, cueId: CueId): void;
  /** A level that was dragged to. */
  level(rowId: string, cueId: CueId, levelDb: Decibels | null): void;
}

interface CueCellProps {
  readonly id: string;
  readonly rowId: string;
  readonly cueId: CueId;
  readonly label: string;
  /** What stands there; null where the source is not in the cue. */
  readonly shown: Shown | null;
  readonly own: boolean;
  readonly selected: boolean;
  readonly active: boolean;
  readonly colIndex: number;
  readonly does: CellHandlers;
}

/** Whether a cell shows the same, whatever objects say so. It is asked of every cell at every edit. */
const sameCell = (was: CueCellProps, is: CueCellProps): boolean =>
  was.does === is.does &&
  was.id === is.id &&
  was.label === is.label &&
  was.own === is.own &&
  was.selected === is.selected &&
  was.active === is.active &&
  was.colIndex === is.colIndex &&
  (was.shown && is.shown ? shallowEqual(was.shown, is.shown) : was.shown === is.shown);

/** Room for the number, which no bar covers; the bar is drawn in cues.module.css. */
const NUMBER = 46;

const textOf = (shown: Shown | null): string =>
  !shown ? "–" : shown.levelDb === null ? "−∞" : formatGain(shown.levelDb);

/** What is read out: the level, whether it is before or after the fader, and whose sound it is. */
const readOut = (shown: Shown | null, own: boolean): string =>
  [
    !shown
      ? "not heard"
      : shown.levelDb === null
        ? "silent"
        : `${shown.various ? "up to " : ""}${formatGain(shown.levelDb)} dB`,
    ...(shown ? [`${shown.tap} the fader`] : []),
    ...(shown && !shown.on ? ["off"] : []),
    ...(shown && shown.pan !== 0 ? [`${Math.abs(shown.pan)} % ${shown.pan < 0 ? "left" : "right"}`] : []),
    ...(own ? ["own sound"] : []),
  ].join(", ");

/**
 * How loud something is in a cue: a bar as long as it is loud, dragged, and the level as a number. A dot: before the
 * fader. Outlined: own sound.
 */
export const CueCell = memo(
  ({ id, label, shown, own, selected, active, colIndex, rowId, cueId, does }: CueCellProps) => {
    const [dragged, setDragged] = useState<{ readonly levelDb: Decibels | null } | null>(null);
    const now =
      dragged && shown
        ? { ...shown, levelDb: dragged.levelDb }
        : dragged
          ? { levelDb: dragged.levelDb, on: true, tap: "before" as const, pan: 0, various: false }
          : shown;
    const press = (event: ReactPointerEvent<HTMLDivElement>): void => {
      if (event.button !== 0) return;
      does.down(rowId, cueId, event.shiftKey);
      if (event.shiftKey) return;
      const cell = event.currentTarget;
      const [from, box] = [event.clientX, cell.getBoundingClientRect()];
      let level: { readonly levelDb: Decibels | null } | null = null;
      const move = (moved: PointerEvent): void => {
        if (!level && Math.abs(moved.clientX - from) < 4) return;
        level = { levelDb: levelAt((moved.clientX - box.left) / (box.width - NUMBER)) };
        setDragged(level);
      };
      const stop = (): void => {
        cell.removeEventListener("pointermove", move);
        cell.removeEventListener("pointerup", up);
        cell.removeEventListener("pointercancel", stop);
        setDragged(null);
      };
      const up = (): void => {
        if (level) does.level(rowId, cueId, level.levelDb);
        stop();
      };
      // A pointer that is gone already can't be held.
      if (cell.hasPointerCapture !== undefined) cell.setPointerCapture(event.pointerId);
      cell.addEventListener("pointermove", move);
      cell.addEventListener("pointerup", up);
      cell.addEventListener("pointercancel", stop);
    };
    const bar = now && now.levelDb !== null ? barOf(now.levelDb) : null;
    return (
      <div
        id={id}
        role="gridcell"
        tabIndex={-1}
        aria-colindex={colIndex}
        aria-selected={selected}
        aria-label={`${label}: ${readOut(now, own)}`}
        className={classes.cell}
        data-own={own || undefined}
        data-selected={selected || undefined}
        data-active={active || undefined}
        data-heard={bar !== null || undefined}
        data-off={(now && !now.on) || undefined}
        style={bar === null ? undefined : ({ "--bar": bar } as CSSProperties)}
        onPointerDown={press}
        onDoubleClick={() => does.edit(rowId, cueId)}
      >
        <span className={classes.number}>
          {now?.various && <span className={classes.various}>≤</span>}
          {textOf(now)}
        </span>
        <span className={classes.tap}>{now?.tap === "before" && now.levelDb !== null ? "•" : ""}</span>
      </div>
    );
  },
  sameCell,
);
CueCell.displayName = "CueCell";
