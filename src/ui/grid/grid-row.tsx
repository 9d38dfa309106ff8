"use client";

import { useDraggable } from "@dnd-kit/core";
import { IconChevronDown, IconChevronRight, IconGripVertical } from "@tabler/icons-react";
import { type MouseEvent, memo, useMemo } from "react";
import type { Finding } from "@/core/checks/finding";
import type { Row } from "@/core/layout/rows";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import type { Template } from "@/core/model/template";
import { chainText } from "@/core/queries/chain-text";
import type { CellColumn } from "@/core/queries/columns";
import { gridColumn } from "@/core/queries/columns";
import { microphonesOffered } from "@/core/queries/microphones-offered";
import { outputChoices, sumsOf } from "@/core/queries/outputs";
import { sendsText } from "@/core/queries/sends";
import { counted } from "@/core/units/counted";
import { useDesk, useStudio } from "../state/desk-context";
import { dyeVar } from "../theme/tokens";
import { CellEditor, type Leave } from "./cell-editor";
import { CellView } from "./cell-view";
import classes from "./grid.module.css";
import { NUMBER_COLUMNS } from "./grid-columns";
import { cellStyle } from "./grid-header";
import type { ShownColumn } from "./use-columns";
import type { DropEdge } from "./use-drags";
import type { Editing } from "./use-grid-editing";

/**
 * What rows ask the grid to do. The same object for as long as the grid lives, so that a row is drawn anew only when
 * something of it changes.
 */
export interface RowHandlers {
  onCellDown(index: number, column: CellColumn, event: MouseEvent): void;
  onCellEnter(index: number, column: CellColumn, event: MouseEvent): void;
  onEdit(index: number, column: CellColumn): void;
  onFold(index: number): void;
  onCommit(text: string, leave: Leave): string | null;
  onCancel(leave?: "away"): void;
  /** The editor went away with its row, and this was typed in it. */
  onGone(text: string, where: string): void;
  onContextMenu(index: number, column: CellColumn, event: MouseEvent): void;
}

export const cellId = (rowId: string, column: string): string => `cell-${rowId}-${column}`;

const useSuggestions = (column: CellColumn | undefined, rig: Rig): readonly string[] => {
  const doc = useDesk((desk) => (column ? desk.doc : null));
  const studio = useStudio();
  return useMemo(() => {
    if (!doc) return [];
    if (column === "microphone") return microphonesOffered(doc, rig).map(({ name }) => name);
    if (column === "folder") return entriesOf(doc.folders).map((folder) => folder.name);
    if (column === "output") return outputChoices(doc, rig).map(({ label }) => label);
    if (column === "sends") return sumsOf(doc).map(({ name }) => `${name} −12`);
    if (column === "chain") return entriesOf(studio.chains).map(({ name }) => name);
    if (column === "colour") return entriesOf(studio.colours).map((own) => own.name);
    if (column === "room") return entriesOf(studio.rooms).map((room) => room.name);
    return column === "player"
      ? [
          ...entriesOf(studio.people).map((person) => person.name),
          ...entriesOf(doc.lines).flatMap((line) => line.player || []),
        ]
      : [];
  }, [column, doc, rig, studio]);
};

interface EditorProps {
  readonly editing: Editing;
  readonly label: string;
  readonly rig: Rig;
  readonly handlers: RowHandlers;
}

const Editor = ({ editing, label, rig, handlers }: EditorProps) => {
  const suggestions = useSuggestions(editing.column, rig);
  const lines = useDesk((desk) => (editing.column === "microphone" ? desk.doc.lines : null));
  const usedUp = useMemo(
    () =>
      new Set(
        lines ? microphonesOffered({ lines }, rig).flatMap(({ name, usedUp: used }) => (used ? [name] : [])) : [],
      ),
    [lines, rig],
  );
  return (
    <CellEditor
      column={editing.column}
      label={label}
      initial={editing.initial}
      fresh={editing.fresh}
      suggestions={suggestions}
      usedUp={usedUp}
      onCommit={handlers.onCommit}
      onCancel={handlers.onCancel}
      onGone={handlers.onGone}
    />
  );
};

/** A row is taken by its grip: the mouse drags it; the keys for moving are in the list of keys. */
const Grip = memo(({ kind, id, name }: { readonly kind: Row["kind"]; readonly id: string; readonly name: string }) => {
  const { setNodeRef, listeners } = useDraggable({ id: `row:${id}`, data: { kind, id, name } });
  return (
    <span ref={setNodeRef} {...listeners} className={classes.grip} aria-hidden="true" title="Drag to move">
      <IconGripVertical size={13} stroke={1.6} />
    </span>
  );
});
Grip.displayName = "Grip";

interface GridRowProps {
  readonly row: Row;
  readonly index: number;
  readonly top: number;
  readonly height: number;
  readonly columns: readonly ShownColumn[];
  readonly doc: Template;
  readonly rig: Rig;
  /** The column of the cursor when it is in this row. */
  readonly active: CellColumn | null;
  readonly range: readonly CellColumn[] | null;
  readonly selected: boolean;
  readonly editing: Editing | null;
  readonly findings: ReadonlyMap<string, Finding> | undefined;
  readonly painted: { readonly column: CellColumn; readonly on: boolean } | null;
  readonly dropEdge: DropEdge | null;
  /** The bank through which 48 V reaches it although its own switch is off. */
  readonly bank: string | null;
  readonly handlers: RowHandlers;
}

const FolderCell = ({
  row,
  index,
  editing,
  rig,
  handlers,
  columns,
}: GridRowProps & { readonly row: Extract<Row, { kind: "folder" }> }) => {
  const { folder } = row;
  const Glyph = folder.open ? IconChevronDown : IconChevronRight;
  const own = editing?.rowId === row.id ? editing : null;
  return (
    <div
      role="gridcell"
      aria-colspan={columns.length}
      aria-colindex={1}
      id={cellId(row.id, "name")}
      className={classes.folderCell}
      onMouseDown={(event) => handlers.onCellDown(index, "name", event)}
      onMouseEnter={(event) => handlers.onCellEnter(index, "name", event)}
      onContextMenu={(event) => handlers.onContextMenu(index, "name", event)}
      onDoubleClick={() => handlers.onEdit(index, "name")}
    >
      <button
        type="button"
        tabIndex={-1}
        className={classes.fold}
        style={{ marginLeft: row.depth * 14 }}
        aria-label={`${folder.open ? "Fold" : "Unfold"} ${folder.name}`}
        onClick={() => handlers.onFold(index)}
        onDoubleClick={(event) => event.stopPropagation()}
      >
        <Glyph size={16} stroke={1.8} aria-hidden />
      </button>
      {own ? (
        <Editor editing={own} label={`Name of the folder ${folder.name}`} rig={rig} handlers={handlers} />
      ) : (
        <>
          <strong>{folder.name}</strong>
          <span className={`${classes.soft} narrow`}>{counted(row.trackCount, "track")}</span>
        </>
      )}
    </div>
  );
};

const TrackCell = ({
  row,
  index,
  shown,
  at,
  ...props
}: GridRowProps & {
  readonly row: Extract<Row, { kind: "track" }>;
  readonly shown: ShownColumn;
  readonly at: number;
}) => {
  const { doc, rig, active, range, editing, findings, painted, handlers } = props;
  const column = shown.id;
  const here = editing?.rowId === row.id && editing.column === column ? editing : null;
  const flag = (on: boolean | undefined) => on || undefined;
  return (
    <div
      id={cellId(row.id, column)}
      role="gridcell"
      aria-colindex={at + 1}
      className={`${classes.cell} ${classes[column] ?? ""} ${NUMBER_COLUMNS.includes(column) ? classes.numeric : ""}`}
      data-active={flag(active === column)}
      data-range={flag(range?.includes(column))}
      data-painted={flag(painted?.column === column)}
      data-editing={flag(here !== null)}
      style={cellStyle(shown)}
      onMouseDown={(event) => handlers.onCellDown(index, column, event)}
      onMouseEnter={(event) => handlers.onCellEnter(index, column, event)}
      onContextMenu={(event) => handlers.onContextMenu(index, column, event)}
      onDoubleClick={() => handlers.onEdit(index, column)}
    >
      {here ? (
        <Editor
          editing={here}
          label={`${gridColumn(column).heading} of ${row.track.name}`}
          rig={rig}
          handlers={handlers}
        />
      ) : (
        <CellView
          doc={doc}
          rig={rig}
          row={row}
          column={column}
          finding={findings?.get(column)}
          bank={props.bank}
          preview={painted?.column === column ? painted.on : null}
        />
      )}
    </div>
  );
};

const sameFindings = (a: GridRowProps["findings"], b: GridRowProps["findings"]): boolean =>
  a === b ||
  (a?.size === b?.size && [...(a ?? [])].every(([field, finding]) => b?.get(field)?.message === finding.message));

/**
 * Whether two rows show the same. Tracks, lines and folders keep their identity while they are not edited, so that this
 * costs next to nothing.
 */
const sameRow = (a: GridRowProps, b: GridRowProps): boolean => {
  if (a.row.kind === "folder" || b.row.kind === "folder")
    return (
      a.row.kind === b.row.kind &&
      a.row.kind === "folder" &&
      b.row.kind === "folder" &&
      a.row.folder === b.row.folder &&
      a.row.trackCount === b.row.trackCount &&
      a.row.colour === b.row.colour &&
      a.row.depth === b.row.depth
    );
  const [from, to] = [a.row, b.row];
  const folder = (props: GridRowProps) =>
    props.row.kind === "track" && props.row.track.folderId ? props.doc.folders[props.row.track.folderId]?.name : "";
  const named = ({ row, doc }: GridRowProps) => {
    if (row.kind !== "track") return "";
    const { output, input } = row.track;
    const bus = output.kind === "channel" ? doc.channels[output.channelId]?.name : "";
    const recorded =
      input.kind === "bus"
        ? doc.channels[input.busId]?.name
        : input.kind === "instrument"
          ? doc.channels[input.instrumentId]?.name
          : "";
    return `${bus} ${recorded}`;
  };
  // What is sent and what is passed are entries of their own: the same lists for as long as none of them changes.
  const woven = ({ row, doc, columns }: GridRowProps) =>
    row.kind === "track"
      ? columns
          .map(({ id }) =>
            id === "sends" ? sendsText(doc, row.track.id) : id === "chain" ? chainText(doc, row.track.id) : "",
          )
          .join("\n")
      : "";
  const sameTables =
    a.doc.sends === b.doc.sends && a.doc.processors === b.doc.processors && a.doc.channels === b.doc.channels;
  return (
    from.track === to.track &&
    from.colour === to.colour &&
    from.depth === to.depth &&
    from.lines.length === to.lines.length &&
    from.lines.every((line, at) => line === to.lines[at]) &&
    folder(a) === folder(b) &&
    named(a) === named(b) &&
    (sameTables || woven(a) === woven(b))
  );
};

const sameProps = (a: GridRowProps, b: GridRowProps): boolean =>
  (Object.keys(b) as (keyof GridRowProps)[]).every(
    (key) => key === "doc" || key === "row" || key === "findings" || a[key] === b[key],
  ) &&
  sameFindings(a.findings, b.findings) &&
  sameRow(a, b);

/** One row of the grid; drawn anew only when something that it shows has changed. */
export const GridRow = memo((props: GridRowProps) => {
  const { row, index, top, height, selected, dropEdge, columns } = props;
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={selected}
      className={classes.row}
      data-kind={row.kind}
      data-drop={dropEdge ?? undefined}
      style={{
        height,
        transform: `translateY(${top}px)`,
        ["--spine" as never]: dyeVar(row.colour),
        ["--row" as never]: `${height}px`,
      }}
    >
      <Grip kind={row.kind} id={row.id} name={row.kind === "folder" ? row.folder.name : row.track.name} />
      {row.kind === "folder" ? (
        <FolderCell {...props} row={row} />
      ) : (
        columns.map((shown, at) => <TrackCell key={shown.id} {...props} row={row} shown={shown} at={at} />)
      )}
    </div>
  );
}, sameProps);
GridRow.displayName = "GridRow";
