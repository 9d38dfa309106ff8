import { shallowEqual } from "@mantine/hooks";
import { IconChevronDown, IconChevronRight } from "@tabler/icons-react";
import { type CSSProperties, type KeyboardEvent, memo, type RefObject, useMemo, useRef, useState } from "react";
import type { CueHead, CueRow } from "@/core/layout/cue-matrix";
import type { ChannelId, CueId } from "@/core/model/ids";
import type { Template } from "@/core/model/template";
import { groupLevel } from "@/core/planning/cue-plans";
import { levelIn } from "@/core/queries/cues";
import { counted } from "@/core/units/counted";
import { type Decibels, formatGain } from "@/core/units/decibels";
import { useDrawnRows } from "../shared/grid-core";
import { keepFocus } from "../shared/keep-focus";
import { tellLost, tellRefusal } from "../shared/notices";
import { useKept, useSteady } from "../shared/steady";
import { useOpened } from "../shared/typed";
import { useInSight } from "../shared/use-in-sight";
import { useDeskStore } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import { type CellHandlers, CueCell, type Shown } from "./cue-cell";
import { Head } from "./cue-heads";
import { cueKey } from "./cue-keys";
import classes from "./cues.module.css";
import { CuesNav } from "./cues-nav";
import { type At, type CueCursor, HEADS } from "./use-cue-cursor";

export const MATRIX = "cue-matrix";
const ROW = 30;
/** The heads stand above the rows and stay there; as in the styles. */
const HEADS_HEIGHT = 106;
const GAP = 10;
const NAMES = 226;
/** On a phone the names give way to the levels. */
const [NARROW, NARROW_NAMES] = [560, 152];
const [NARROWEST, WIDEST] = [72, 172];
/** Narrower than this, and a head says less. */
const TIGHT = 128;

const cellId = (rowId: string, cueId: CueId): string => `cue-${rowId}-${cueId}`;

/** What a cell of a source or of a whole group shows. */
const shownAt = (doc: Template, row: CueRow, cueId: CueId): Shown | null => {
  if (row.kind === "source") {
    const level = levelIn(doc, { cueId, sourceId: row.id });
    return level && { levelDb: level.levelDb, on: level.on, tap: level.tap, pan: level.pan, various: false };
  }
  const group = groupLevel(doc, cueId, row.sourceIds);
  const first = row.sourceIds.flatMap((sourceId) => levelIn(doc, { cueId, sourceId }) ?? [])[0];
  return group && first ? { levelDb: group.levelDb, on: true, tap: first.tap, pan: 0, various: !group.alike } : null;
};

/** What stands in a cell, as it is typed. */
const textAt = (doc: Template, row: CueRow, cueId: CueId): string => {
  const shown = shownAt(doc, row, cueId);
  return !shown ? "" : shown.levelDb === null ? "−∞" : formatGain(shown.levelDb);
};

const NONE: ReadonlySet<string> = new Set();
const NOTHING: readonly string[] = [];

/** What rows know of a cue. */
interface Column {
  readonly cueId: CueId;
  readonly name: string;
  readonly ownIds: ReadonlySet<ChannelId>;
}

interface MatrixProps {
  readonly doc: Template;
  readonly rows: readonly CueRow[];
  readonly heads: readonly CueHead[];
  readonly cursor: CueCursor;
  readonly width: number;
  /** What the checks tell of each cue. */
  readonly told: ReadonlyMap<string, readonly string[]>;
  readonly onFold: (id: string) => void;
  readonly onType: (at: At, row: CueRow | null, text: string) => boolean;
  readonly onLevel: (row: CueRow, cueId: CueId, levelDb: Decibels | null) => void;
  readonly onSettings: () => void;
  readonly onTakeOut: () => void;
}

interface Editing extends At {
  readonly text: string;
  /** Typed over what stood there, as against opened to be changed. */
  readonly fresh: boolean;
}

const Editor = ({
  editing,
  label,
  onKeep,
  onLeave,
  onGone,
}: {
  readonly editing: Editing;
  readonly label: string;
  readonly onKeep: (text: string, down: number) => boolean;
  readonly onLeave: () => void;
  readonly onGone: (text: string, where: string) => void;
}) => {
  const [text, setText] = useState(editing.text);
  const left = useOpened(text, { label, initial: editing.text, onGone });
  return (
    <input
      className={classes.editor}
      aria-label={label}
      value={text}
      maxLength={40}
      // biome-ignore lint/a11y/noAutofocus: it was opened by a key or a click to be typed into
      autoFocus
      data-kept
      data-draft
      onFocus={(event) =>
        editing.fresh ? event.target.setSelectionRange(text.length, text.length) : event.target.select()
      }
      onChange={(event) => setText(event.currentTarget.value)}
      onBlur={() => {
        if (!left.current) left.current = onKeep(text, 0);
      }}
      onPointerDown={(event) => event.stopPropagation()}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") {
          event.preventDefault();
          left.current = true;
          left.current = onKeep(text, event.shiftKey ? -1 : 1);
        } else if (event.key === "Escape") {
          left.current = true;
          onLeave();
        }
      }}
    />
  );
};

/** What is being typed in which cell, and what becomes of it. */
const useMatrixEditing = (
  { doc, rows, cursor, onType }: Pick<MatrixProps, "doc" | "rows" | "cursor" | "onType">,
  grid: RefObject<HTMLElement | null>,
) => {
  const { cursor: at, go, step } = cursor;
  const [editing, setEditing] = useState<Editing | null>(null);
  const rowAt = rows.find(({ id }) => id === at?.rowId) ?? null;
  const desk = useDeskStore();
  /** An older state is only read. */
  const refused = (): boolean => {
    const { locked } = desk.getState();
    if (locked !== null) tellRefusal(locked);
    return locked !== null;
  };
  const begin = (text: string | null): void => {
    if (!at || !rowAt || refused()) return;
    setEditing({ ...at, text: text ?? textAt(doc, rowAt, at.cueId), fresh: text !== null });
  };
  const back = useSteady((): void => {
    setEditing(null);
    grid.current?.focus();
  });
  const keep = useSteady((text: string, down: number): boolean => {
    if (!editing) return true;
    const row = rows.find(({ id }) => id === editing.rowId) ?? null;
    if (!onType(editing, row, text)) return false;
    back();
    if (down) step(down, 0);
    return true;
  });
  /**
   * The editor is no longer drawn: scrolled far away, and what was typed is kept; or its cue or source was removed,
   * and it is told.
   */
  const gone = useSteady((text: string, where: string): void => {
    if (!editing) return;
    const row = rows.find(({ id }) => id === editing.rowId);
    if (!row || !doc.cues[editing.cueId]) tellLost(text, where, "it was removed, here or in another window.");
    else if (!onType(editing, row, text)) tellLost(text, where, "it is no level.");
    setEditing(null);
  });
  const edit = useSteady((rowId: string, cueId: CueId): void => {
    const row = rows.find(({ id }) => id === rowId);
    if (!row) return;
    go({ rowId, cueId });
    if (refused()) return;
    setEditing({ rowId, cueId, text: textAt(doc, row, cueId), fresh: false });
  });
  return { editing, begin, back, keep, gone, edit };
};

/** How wide the columns are in a window of this width. */
const widthsOf = (width: number, cues: number) => {
  const names = width < NARROW ? NARROW_NAMES : NAMES;
  const gap = cues > 8 ? 6 : GAP;
  const each = Math.max(NARROWEST, Math.min(WIDEST, Math.floor((width - names - 24) / Math.max(1, cues)) - gap));
  return {
    tight: each < TIGHT,
    style: { "--each": `${each}px`, "--gap": `${gap}px`, "--names": `${names}px` } as CSSProperties,
  };
};

/** People across, sources down. One place has the keys; it is the grid itself that has the focus. */
export const CueMatrix = memo(
  ({ doc, rows, heads, cursor, width, told, onFold, onType, onLevel, onSettings, onTakeOut }: MatrixProps) => {
    const columns = useKept(heads.map(({ cue, ownIds }): Column => ({ cueId: cue.id, name: cue.name, ownIds })));
    const grid = useRef<HTMLDivElement>(null);
    const { editing, begin, back, keep, gone, edit } = useMatrixEditing({ doc, rows, cursor, onType }, grid);
    const { tight, style } = widthsOf(width, heads.length);
    const virtual = useDrawnRows({
      count: rows.length,
      place: grid,
      height: ROW,
      headings: HEADS_HEIGHT,
      beyond: 5,
      below: 8,
    });
    const { cursor: at, go, step, cueIds, rowIds } = cursor;
    const index = at ? rows.findIndex(({ id }) => id === at.rowId) : -1;
    const rowAt = index < 0 ? null : (rows[index] ?? null);
    const cell = at ? cellId(at.rowId, at.cueId) : undefined;
    const pressed = useInSight({
      cell,
      place: `${index} ${cell}`,
      size: `${width} × ${virtual.scrollRect?.height}`,
      draw: () => index >= 0 && virtual.scrollToIndex(index),
    });
    const chosen = useMemo(() => new Set<string>(cueIds), [cueIds]);

    const press = (event: KeyboardEvent): void => {
      if (event.target !== grid.current || !at) return;
      const act = cueKey(event, {
        step,
        open: () => (rowAt ? begin(null) : onSettings()),
        fold: () => rowAt?.kind === "group" && onFold(rowAt.id),
        takeOut: onTakeOut,
        type: (text) => rowAt && begin(text),
      });
      if (!act) return;
      event.preventDefault();
      act();
    };
    const down = useSteady((rowId: string, cueId: CueId, range: boolean): void => {
      pressed(`${rows.findIndex(({ id }) => id === rowId)} ${cellId(rowId, cueId)}`);
      go({ rowId, cueId }, { range });
    });
    const level = useSteady((rowId: string, cueId: CueId, levelDb: Decibels | null): void => {
      const row = rows.find(({ id }) => id === rowId);
      if (row) onLevel(row, cueId, levelDb);
    });
    const does = useMemo((): CellHandlers => ({ down, edit, level }), [down, edit, level]);
    const total = virtual.getTotalSize();
    return (
      <div
        ref={grid}
        id={MATRIX}
        role="grid"
        tabIndex={0}
        className={classes.matrix}
        aria-label="How loud everybody hears what"
        aria-rowcount={rows.length + 1}
        aria-colcount={heads.length + 1}
        aria-multiselectable="true"
        aria-activedescendant={cell}
        style={style}
        onMouseDown={keepFocus}
        onKeyDown={press}
      >
        <div role="row" aria-rowindex={1} className={classes.heads}>
          <div role="columnheader" aria-colindex={1} className={classes.corner}>
            <CuesNav />
            <span>
              <i>•</i> before the fader
            </span>
            <span>dB · outlined: the person's own sound</span>
          </div>
          {heads.map((head, n) => (
            <Head
              key={head.cue.id}
              id={cellId(HEADS, head.cue.id)}
              index={n}
              head={head}
              tight={tight}
              told={told.get(head.cue.id) ?? NOTHING}
              selected={chosen.has(head.cue.id) && rowIds.size === 0}
              active={at?.rowId === HEADS && at.cueId === head.cue.id}
              onDown={down}
              onOpen={onSettings}
            />
          ))}
        </div>
        <div className={classes.rows} style={{ height: total }}>
          {virtual.getVirtualItems().map(({ index: n, start }) => {
            const row = rows[n];
            return (
              row && (
                <MatrixRow
                  key={row.id}
                  {...{ doc, row, columns, start: start - HEADS_HEIGHT, index: n, onFold, does }}
                  activeCue={at?.rowId === row.id ? at.cueId : null}
                  chosen={rowIds.has(row.id) ? chosen : NONE}
                  editing={editing?.rowId === row.id ? editing : null}
                  onKeep={keep}
                  onLeave={back}
                  onGone={gone}
                />
              )
            );
          })}
        </div>
      </div>
    );
  },
);

CueMatrix.displayName = "CueMatrix";

interface OpenCellProps {
  readonly id: string;
  readonly label: string;
  readonly colIndex: number;
  readonly active: boolean;
  readonly selected: boolean;
  readonly rowId: string;
  readonly cueId: CueId;
  readonly does: CellHandlers;
}

/** The place of an open group: its sources say how loud they are. */
const OpenCell = ({ id, label, colIndex, active, selected, rowId, cueId, does }: OpenCellProps) => (
  <div
    id={id}
    role="gridcell"
    tabIndex={-1}
    aria-colindex={colIndex}
    aria-selected={selected}
    aria-label={`${label}: the whole group`}
    className={classes.openCell}
    data-active={active || undefined}
    data-selected={selected || undefined}
    onPointerDown={(event) => event.button === 0 && does.down(rowId, cueId, event.shiftKey)}
  />
);

interface RowProps {
  readonly doc: Template;
  readonly row: CueRow;
  readonly columns: readonly Column[];
  readonly start: number;
  readonly index: number;
  readonly activeCue: CueId | null;
  readonly chosen: ReadonlySet<string>;
  readonly editing: Editing | null;
  readonly onFold: (id: string) => void;
  readonly does: CellHandlers;
  readonly onKeep: (text: string, down: number) => boolean;
  readonly onLeave: () => void;
  readonly onGone: (text: string, where: string) => void;
}

/**
 * Whether what a row shows of the template is the same: then it is not drawn anew. It is asked of every row at every
 * edit.
 */
const saysTheSame = (was: Template, is: Template, row: CueRow, columns: readonly Column[]): boolean => {
  if (was.cueLevels === is.cueLevels || (row.kind === "group" && row.open)) return true;
  const sources = row.kind === "group" ? row.sourceIds : [row.id];
  return columns.every(({ cueId }) =>
    sources.every((sourceId) => levelIn(was, { cueId, sourceId }) === levelIn(is, { cueId, sourceId })),
  );
};

const sameRow = ({ doc: was, ...before }: RowProps, { doc: is, ...now }: RowProps): boolean =>
  shallowEqual(before, now) && saysTheSame(was, is, now.row, now.columns);

/** A source, or a group of them, in every cue. */
const MatrixRow = memo(
  ({
    doc,
    row,
    columns,
    start,
    index,
    activeCue,
    chosen,
    editing,
    onFold,
    does,
    onKeep,
    onLeave,
    onGone,
  }: RowProps) => (
    <div
      role="row"
      aria-rowindex={index + 2}
      className={classes.row}
      data-kind={row.kind}
      data-parked={(row.kind === "source" && row.parked) || undefined}
      style={{ top: start, "--thread": row.colour ? dyeVar(row.colour) : "var(--soft)" } as CSSProperties}
    >
      <div
        role="rowheader"
        aria-colindex={1}
        className={classes.name}
        style={{ paddingLeft: 12 + row.depth * 14 + (row.kind === "source" ? 19 : 0) }}
      >
        <RowName row={row} onFold={onFold} />
      </div>
      {columns.map(({ cueId, name, ownIds }, m) => {
        const label = `${row.name} in ${name}`;
        if (editing?.cueId === cueId)
          return (
            <Editor key={cueId} editing={editing} label={label} onKeep={onKeep} onLeave={onLeave} onGone={onGone} />
          );
        const common = {
          id: cellId(row.id, cueId),
          label,
          colIndex: m + 2,
          active: activeCue === cueId,
          selected: chosen.has(cueId),
          rowId: row.id,
          cueId,
          does,
        };
        // A group that is open says what is in it in its rows.
        if (row.kind === "group" && row.open) return <OpenCell key={cueId} {...common} />;
        return (
          <CueCell
            key={cueId}
            {...common}
            shown={shownAt(doc, row, cueId)}
            own={row.kind === "source" ? ownIds.has(row.id) : row.sourceIds.some((id: ChannelId) => ownIds.has(id))}
          />
        );
      })}
    </div>
  ),
  sameRow,
);
MatrixRow.displayName = "MatrixRow";

const RowName = ({ row, onFold }: { readonly row: CueRow; readonly onFold: (id: string) => void }) =>
  row.kind === "group" ? (
    <button
      type="button"
      tabIndex={-1}
      className={classes.fold}
      aria-expanded={row.open}
      onClick={() => onFold(row.id)}
    >
      {row.open ? <IconChevronDown size={15} aria-hidden /> : <IconChevronRight size={15} aria-hidden />}
      <b>{row.name}</b>
      <span>{row.open ? counted(row.sourceIds.length, "source") : "whole folder"}</span>
    </button>
  ) : (
    <span className={classes.source}>{row.name || "without a name"}</span>
  );
