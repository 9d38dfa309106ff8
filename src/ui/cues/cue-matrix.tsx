import { IconChevronDown, IconChevronRight } from "@tabler/icons-react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type CSSProperties, type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import type { CueHead, CueRow } from "@/core/layout/cue-matrix";
import type { ChannelId, CueId } from "@/core/model/ids";
import type { Template } from "@/core/model/template";
import { groupLevel } from "@/core/planning/cue-plans";
import { levelIn } from "@/core/queries/cues";
import { counted } from "@/core/units/counted";
import { type Decibels, formatGain } from "@/core/units/decibels";
import { dyeVar } from "../theme/tokens";
import { CueCell, type Shown } from "./cue-cell";
import { Head } from "./cue-heads";
import classes from "./cues.module.css";
import { type At, type CueCursor, HEADS } from "./use-cue-cursor";

export const MATRIX = "cue-matrix";
const ROW = 30;
const GAP = 10;
const NAMES = 226;
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

interface MatrixProps {
  readonly doc: Template;
  readonly rows: readonly CueRow[];
  readonly heads: readonly CueHead[];
  readonly cursor: CueCursor;
  readonly width: number;
  readonly onFold: (id: string) => void;
  readonly onType: (at: At, row: CueRow | null, text: string) => boolean;
  readonly onLevel: (row: CueRow, cueId: CueId, levelDb: Decibels | null) => void;
  readonly onSettings: () => void;
  readonly onToggle: (field: "tap" | "on") => void;
  readonly onNudge: (byDb: number) => void;
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
}: {
  readonly editing: Editing;
  readonly label: string;
  readonly onKeep: (text: string, down: number) => void;
  readonly onLeave: () => void;
}) => {
  const [text, setText] = useState(editing.text);
  const left = useRef(false);
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
      onFocus={(event) => (editing.fresh ? event.target.setSelectionRange(text.length, text.length) : event.target.select())}
      onChange={(event) => setText(event.currentTarget.value)}
      onBlur={() => !left.current && onKeep(text, 0)}
      onPointerDown={(event) => event.stopPropagation()}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") {
          event.preventDefault();
          left.current = true;
          onKeep(text, event.shiftKey ? -1 : 1);
          left.current = false;
        } else if (event.key === "Escape") {
          left.current = true;
          onLeave();
        }
      }}
    />
  );
};

/** People across, sources down. One place has the keys; it is the grid itself that has the focus. */
export const CueMatrix = ({ doc, rows, heads, cursor, width, onFold, onType, onLevel, onSettings, onToggle, onNudge, onTakeOut }: MatrixProps) => {
  const grid = useRef<HTMLDivElement>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const each = Math.max(NARROWEST, Math.min(WIDEST, Math.floor((width - NAMES - 24) / Math.max(1, heads.length)) - (heads.length > 8 ? 6 : GAP)));
  const gap = heads.length > 8 ? 6 : GAP;
  const tight = each < TIGHT;
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => grid.current, estimateSize: () => ROW, overscan: 12, scrollMargin: 0, scrollPaddingStart: 140 });
  const { cursor: at, go, step, cueIds, rowIds } = cursor;
  const index = at ? rows.findIndex(({ id }) => id === at.rowId) : -1;
  const rowAt = index < 0 ? null : (rows[index] ?? null);
  useEffect(() => {
    if (index >= 0) virtual.scrollToIndex(index);
  }, [index, virtual]);
  const chosen = useMemo(() => new Set<string>(cueIds), [cueIds]);

  const begin = (text: string | null): void => {
    if (!at || !rowAt) return;
    const shown = shownAt(doc, rowAt, at.cueId);
    setEditing({ ...at, text: text ?? (shown ? (shown.levelDb === null ? "−∞" : formatGain(shown.levelDb)) : ""), fresh: text !== null });
  };
  const back = (): void => {
    setEditing(null);
    grid.current?.focus();
  };
  const keep = (text: string, down: number): void => {
    if (!editing) return;
    const row = rows.find(({ id }) => id === editing.rowId) ?? null;
    if (!onType(editing, row, text)) return;
    back();
    if (down) step(down, 0);
  };
  const press = (event: KeyboardEvent): void => {
    if (event.target !== grid.current || !at) return;
    const { key, shiftKey: range } = event;
    if (event.ctrlKey || event.metaKey) return;
    const ways: Readonly<Record<string, readonly [number, number]>> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      Home: [0, -heads.length],
      End: [0, heads.length],
    };
    const does = (act: () => void): void => {
      event.preventDefault();
      act();
    };
    if (event.altKey) {
      if (key === "ArrowUp" || key === "ArrowDown") does(() => onNudge((key === "ArrowUp" ? 1 : -1) * (range ? 0.5 : 1)));
      return;
    }
    const way = ways[key];
    if (way) does(() => step(way[0], way[1], { range }));
    else if (key === "PageUp" || key === "PageDown") does(() => step(key === "PageUp" ? -10 : 10, 0, { range }));
    else if (key === "Enter" || key === "F2") does(() => (rowAt ? begin(null) : onSettings()));
    else if (key === " ") does(() => rowAt?.kind === "group" && onFold(rowAt.id));
    else if (key === "Delete" || key === "Backspace") does(onTakeOut);
    else if (key === "b" || key === "B") does(() => onToggle("tap"));
    else if (key === "o" || key === "O") does(() => onToggle("on"));
    else if (rowAt && /^[\d−∞+.,-]$/.test(key)) does(() => begin(key));
  };
  const style = { "--each": `${each}px`, "--gap": `${gap}px`, "--names": `${NAMES}px` } as CSSProperties;
  const total = virtual.getTotalSize();
  return (
    // biome-ignore lint/a11y/useSemanticElements: a grid whose cells are laid out and named one by one
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
      aria-activedescendant={at ? cellId(at.rowId, at.cueId) : undefined}
      style={style}
      onKeyDown={press}
    >
      <div role="row" aria-rowindex={1} className={classes.heads}>
        <div role="columnheader" aria-colindex={1} className={classes.corner}>
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
            selected={chosen.has(head.cue.id) && rowIds.size === 0}
            active={at?.rowId === HEADS && at.cueId === head.cue.id}
            onDown={(range) => go({ rowId: HEADS, cueId: head.cue.id }, { range })}
            onOpen={onSettings}
          />
        ))}
      </div>
      <div className={classes.rows} style={{ height: total }}>
        {virtual.getVirtualItems().map(({ index: n, start }) => {
          const row = rows[n];
          if (!row) return null;
          return (
            <div
              key={row.id}
              role="row"
              aria-rowindex={n + 2}
              className={classes.row}
              data-kind={row.kind}
              data-parked={(row.kind === "source" && row.parked) || undefined}
              style={{ transform: `translateY(${start}px)`, "--thread": row.colour ? dyeVar(row.colour) : "var(--soft)" } as CSSProperties}
            >
              <div role="rowheader" aria-colindex={1} className={classes.name} style={{ paddingLeft: 12 + row.depth * 14 + (row.kind === "source" ? 19 : 0) }}>
                {row.kind === "group" ? (
                  <button type="button" tabIndex={-1} className={classes.fold} aria-expanded={row.open} onClick={() => onFold(row.id)}>
                    {row.open ? <IconChevronDown size={15} aria-hidden /> : <IconChevronRight size={15} aria-hidden />}
                    <b>{row.name}</b>
                    <span>{row.open ? counted(row.sourceIds.length, "source") : "whole folder"}</span>
                  </button>
                ) : (
                  <span className={classes.source}>{row.name || "without a name"}</span>
                )}
              </div>
              {heads.map(({ cue, ownIds }, m) => {
                const place = { rowId: row.id as string, cueId: cue.id };
                const open = editing?.rowId === row.id && editing.cueId === cue.id ? editing : null;
                const own = row.kind === "source" ? ownIds.has(row.id) : !row.open && row.sourceIds.some((id: ChannelId) => ownIds.has(id));
                const label = `${row.name} in ${cue.name}`;
                // A group that is open says what is in it in its rows.
                const shown = row.kind === "group" && row.open ? null : shownAt(doc, row, cue.id);
                if (open) return <Editor key={cue.id} editing={open} label={label} onKeep={keep} onLeave={back} />;
                if (row.kind === "group" && row.open)
                  return (
                    <OpenCell
                      key={cue.id}
                      id={cellId(row.id, cue.id)}
                      label={label}
                      colIndex={m + 2}
                      active={at?.rowId === row.id && at.cueId === cue.id}
                      selected={chosen.has(cue.id) && rowIds.has(row.id)}
                      onDown={(range) => go(place, { range })}
                    />
                  );
                return (
                  <CueCell
                    key={cue.id}
                    id={cellId(row.id, cue.id)}
                    label={label}
                    shown={shown}
                    own={own}
                    colIndex={m + 2}
                    selected={chosen.has(cue.id) && rowIds.has(row.id)}
                    active={at?.rowId === row.id && at.cueId === cue.id}
                    onDown={(range) => go(place, { range })}
                    onEdit={() => {
                      go(place);
                      const now = shownAt(doc, row, cue.id);
                      setEditing({ ...place, text: now ? (now.levelDb === null ? "−∞" : formatGain(now.levelDb)) : "", fresh: false });
                    }}
                    onLevel={(levelDb) => onLevel(row, cue.id, levelDb)}
                  />
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
};

interface OpenCellProps {
  readonly id: string;
  readonly label: string;
  readonly colIndex: number;
  readonly active: boolean;
  readonly selected: boolean;
  readonly onDown: (range: boolean) => void;
}

/** The place of an open group: its sources say how loud they are. */
const OpenCell = ({ id, label, colIndex, active, selected, onDown }: OpenCellProps) => (
  // biome-ignore lint/a11y/useFocusableInteractive: the grid has the keys and names its active cell
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
    onPointerDown={(event) => event.button === 0 && onDown(event.shiftKey)}
  />
);
