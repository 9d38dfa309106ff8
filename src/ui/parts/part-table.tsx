"use client";

import { ActionIcon, Checkbox } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import { type ClipboardEvent, Fragment, type KeyboardEvent, type ReactNode, useEffect, useId, useState } from "react";
import { dropEnd } from "@/core/units/ends";
import type { Moving } from "../frame/page-acts";
import { useTyped } from "../shared/typed";
import classes from "./part-table.module.css";

export interface Choice {
  readonly value: string;
  readonly label: string;
}

/** What can be typed or chosen in a column; without one it is only shown. */
export type PartEditor<T> =
  | { readonly kind: "text"; readonly placeholder?: string; readonly suggestions?: readonly string[] }
  | { readonly kind: "number"; readonly placeholder?: string }
  | { readonly kind: "choice"; readonly options: (row: T) => readonly Choice[] }
  | { readonly kind: "colour" };

export interface PartColumn<T> {
  readonly id: string;
  readonly header: string;
  readonly width?: number;
  /** What stands in the cell, and can be typed again. */
  readonly text: (row: T) => string;
  readonly shown?: (row: T) => ReactNode;
  readonly editor?: PartEditor<T>;
  /** Rows in which it is only shown all the same. */
  readonly still?: (row: T) => boolean;
  /** What a typed text changes, or why it can't be taken. */
  readonly write?: (text: string, row: T) => Readonly<Record<string, unknown>> | string;
  /** A control in its heading, beneath the words. */
  readonly head?: ReactNode;
  /** What is not sure of a cell, for a person; null where all is well. */
  readonly mark?: (row: T) => string | null;
  /** Several lines pasted into a cell go down the column. Answers whether they were taken. */
  readonly onLines?: (lines: readonly string[], row: T) => boolean;
}

interface PartTableProps<T extends { readonly id: string }> {
  readonly label: string;
  readonly rows: readonly T[];
  readonly columns: readonly PartColumn<T>[];
  readonly nameOf: (row: T) => string;
  readonly onSet: (ids: readonly string[], set: Readonly<Record<string, unknown>>) => boolean;
  readonly onRefused: (message: string) => void;
  readonly onRemove?: (ids: readonly string[]) => void;
  /** Rows can be chosen together, and an edit of one goes to all of them. */
  readonly selectable?: boolean;
  readonly empty: string;
  /** What stands over a row and those that follow it, for a group of them; null where none begins. */
  readonly over?: (row: T) => ReactNode;
  /** How a row is drawn: off, or as part of another. */
  readonly lookOf?: (row: T) => "off" | "joined" | undefined;
  /** As wide as its columns together, and scrolled sideways where there is no room. */
  readonly wide?: boolean;
}

interface CellProps<T extends { readonly id: string }> {
  readonly row: T;
  readonly column: PartColumn<T>;
  readonly label: string;
  readonly onWrite: (text: string) => boolean;
}

/** The same field in the row above or below. */
const step = (from: HTMLElement, by: 1 | -1): void => {
  const at = from.dataset.column;
  const beside = (row: Element | null | undefined) =>
    by === 1 ? row?.nextElementSibling : row?.previousElementSibling;
  // Headings of groups and rows without the field are passed over.
  for (let row = beside(from.closest("tr")); row; row = beside(row)) {
    const next = row.querySelector<HTMLElement>(`[data-column="${at}"]`);
    next?.focus();
    if (next) return;
  }
};

const TextCell = <T extends { readonly id: string }>({ row, column, label, onWrite }: CellProps<T>) => {
  const value = column.text(row);
  const { draft, open, setDraft, close } = useTyped({
    label,
    value,
    of: row.id,
    gone: "the row was removed, here or in another window.",
  });
  const listId = useId();
  const editor = column.editor;
  const keep = (): void => {
    if (draft !== null && open && draft !== value) onWrite(draft);
    close();
  };
  const press = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === "Escape") close();
    if (event.key === "Enter" || event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      const field = event.currentTarget;
      step(field, event.key === "ArrowUp" ? -1 : 1);
      // In the last row it stays; else leaving it has kept it already.
      if (event.key === "Enter" && document.activeElement === field) keep();
    }
  };
  const paste = (event: ClipboardEvent<HTMLInputElement>): void => {
    const lines = dropEnd(
      event.clipboardData.getData("text/plain").replace(/\r\n?/g, "\n"),
      (character) => character === "\n",
    ).split("\n");
    if (lines.length < 2 || !column.onLines?.(lines, row)) return;
    event.preventDefault();
    close();
  };
  const suggestions = editor?.kind === "text" ? editor.suggestions : undefined;
  return (
    <>
      <input
        className={classes.field}
        data-column={column.id}
        aria-label={label}
        aria-invalid={Boolean(column.mark?.(row)) || undefined}
        title={column.mark?.(row) ?? undefined}
        type={editor?.kind === "colour" ? "color" : "text"}
        inputMode={editor?.kind === "number" ? "decimal" : undefined}
        placeholder={editor && "placeholder" in editor ? editor.placeholder : undefined}
        list={suggestions ? listId : undefined}
        data-kept
        data-draft={(open && draft !== value) || undefined}
        value={draft ?? value}
        maxLength={400}
        onFocus={(event) => event.target.type !== "color" && event.target.select()}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={keep}
        onKeyDown={press}
        onPaste={paste}
      />
      {suggestions && (
        <datalist id={listId}>
          {suggestions.map((suggestion) => (
            <option key={suggestion} value={suggestion} />
          ))}
        </datalist>
      )}
    </>
  );
};

const Cell = <T extends { readonly id: string }>(props: CellProps<T>) => {
  const { row, column, label, onWrite } = props;
  if (!column.editor || column.still?.(row))
    return <span className={classes.shown}>{column.shown?.(row) ?? column.text(row)}</span>;
  if (column.editor.kind !== "choice") return <TextCell {...props} />;
  return (
    <select
      className={classes.field}
      data-column={column.id}
      aria-label={label}
      aria-invalid={Boolean(column.mark?.(row)) || undefined}
      title={column.mark?.(row) ?? undefined}
      value={column.text(row)}
      onChange={(event) => onWrite(event.target.value)}
    >
      {column.editor.options(row).map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
};

type Columns<T extends { readonly id: string }> = Pick<
  PartTableProps<T>,
  "label" | "rows" | "columns" | "onRemove" | "selectable"
>;

const Head = <T extends { readonly id: string }>({
  label,
  rows,
  columns,
  onRemove,
  selectable,
  chosen,
  setChosen,
}: Columns<T> & {
  readonly chosen: ReadonlySet<string>;
  readonly setChosen: (chosen: ReadonlySet<string>) => void;
}) => {
  const all = chosen.size === rows.length;
  return (
    <thead>
      <tr>
        {selectable && (
          <th className={classes.narrow} scope="col">
            <Checkbox
              size="xs"
              aria-label={`Choose all of ${label}`}
              checked={all}
              indeterminate={!all && chosen.size > 0}
              onChange={() => setChosen(new Set(all ? [] : rows.map((row) => row.id)))}
            />
          </th>
        )}
        {columns.map((column) => (
          <th key={column.id} scope="col" style={column.width ? { width: column.width } : undefined}>
            {column.header}
            {column.head}
          </th>
        ))}
        {onRemove && (
          <th className={classes.narrow} scope="col">
            <span className="visually-hidden">Remove</span>
          </th>
        )}
      </tr>
    </thead>
  );
};

interface RowProps<T extends { readonly id: string }>
  extends Pick<PartTableProps<T>, "columns" | "nameOf" | "onRemove" | "selectable" | "lookOf"> {
  readonly row: T;
  readonly chosen: ReadonlySet<string>;
  readonly onToggle: () => void;
  readonly write: (row: T, column: PartColumn<T>) => (text: string) => boolean;
}

const Row = <T extends { readonly id: string }>({
  row,
  columns,
  nameOf,
  onRemove,
  selectable,
  lookOf,
  chosen,
  onToggle,
  write,
}: RowProps<T>) => (
  <tr
    data-chosen={chosen.has(row.id) || undefined}
    data-look={lookOf?.(row)}
    onKeyDown={pressRow(onRemove && (() => onRemove(chosen.has(row.id) ? [...chosen] : [row.id])))}
  >
    {selectable && (
      <td className={classes.narrow}>
        <Checkbox size="xs" aria-label={`Choose ${nameOf(row)}`} checked={chosen.has(row.id)} onChange={onToggle} />
      </td>
    )}
    {columns.map((column) => (
      <td
        key={column.id}
        data-marked={Boolean(column.mark?.(row)) || undefined}
        style={column.width ? { maxWidth: column.width } : undefined}
      >
        <Cell row={row} column={column} label={`${column.header} of ${nameOf(row)}`} onWrite={write(row, column)} />
      </td>
    ))}
    {onRemove && (
      <td className={classes.narrow}>
        <ActionIcon
          variant="subtle"
          color="gray"
          size="sm"
          aria-label={`Remove ${nameOf(row)}`}
          onClick={() => onRemove(chosen.has(row.id) ? [...chosen] : [row.id])}
        >
          <IconTrash size={15} stroke={1.6} color="var(--soft)" />
        </ActionIcon>
      </td>
    )}
  </tr>
);

/** What keys do in a table of parts, for the list of keys. */
export const TABLE_KEYS: Moving = [
  ["Tab, Shift Tab", "Next and last field"],
  ["↑ ↓, Enter", "The same field of the row above or below"],
  ["Esc", "Put back what stood there"],
  ["F2", "In a field: to its end; beside one: to the first field of the row"],
  ["Delete", "Beside a field: remove the row"],
];

/** F2 and Delete in a row, where they are no typing. */
const pressRow =
  (remove: (() => void) | undefined) =>
  (event: KeyboardEvent<HTMLTableRowElement>): void => {
    const { target, currentTarget } = event;
    if (event.altKey || event.ctrlKey || event.metaKey || !["F2", "Delete"].includes(event.key)) return;
    const field = target instanceof HTMLInputElement && target.type === "text" ? target : null;
    if (event.key === "F2") {
      event.preventDefault();
      if (field) field.setSelectionRange(field.value.length, field.value.length);
      else currentTarget.querySelector<HTMLInputElement>("input[type=text]")?.focus();
    } else if (!field && remove) {
      event.preventDefault();
      remove();
    }
  };

/**
 * Parts of a document as a table, edited where they stand. Enter goes down the column, so that names can be typed in
 * one run.
 */
export const PartTable = <T extends { readonly id: string }>({
  label,
  rows,
  columns,
  nameOf,
  onSet,
  onRefused,
  onRemove,
  selectable = false,
  empty,
  over,
  lookOf,
  wide = false,
}: PartTableProps<T>) => {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    const ids = new Set(rows.map((row) => row.id));
    setChosen((old) => ([...old].every((id) => ids.has(id)) ? old : new Set([...old].filter((id) => ids.has(id)))));
  }, [rows]);
  if (!rows.length) return <p className={classes.empty}>{empty}</p>;
  const write = (row: T, column: PartColumn<T>) => (text: string) => {
    const set = column.write?.(text, row);
    if (!set) return false;
    if (typeof set === "string") {
      onRefused(set);
      return false;
    }
    const together = chosen.has(row.id) && chosen.size > 1 && column.id !== "name";
    return onSet(together ? rows.filter((other) => chosen.has(other.id)).map((other) => other.id) : [row.id], set);
  };
  const toggle = (id: string): void =>
    setChosen((old) => new Set(old.has(id) ? [...old].filter((other) => other !== id) : [...old, id]));
  return (
    <div className={classes.scroll}>
      <table className={classes.table} data-wide={wide || undefined} aria-label={label}>
        <Head {...{ label, rows, columns, onRemove, selectable, chosen, setChosen }} />
        <tbody>
          {rows.map((row) => (
            <Fragment key={row.id}>
              {over?.(row)}
              <Row
                {...{ row, columns, nameOf, onRemove, selectable, lookOf, chosen, write }}
                onToggle={() => toggle(row.id)}
              />
            </Fragment>
          ))}
        </tbody>
      </table>
    </div>
  );
};
