import type { Field, Fields } from "@/core/model/describe/fields";
import type { TableDescription } from "@/core/model/describe/table";
import { readNumber } from "@/core/reading/rig-cells";
import type { PartColumn } from "./part-table";

type Loose = Readonly<Record<string, unknown>>;
type Column = PartColumn<Loose>;

const YES_NO = [
  { value: "false", label: "no" },
  { value: "true", label: "yes" },
];

/** A number that is typed; nothing where the field may be without one. */
const numberColumn = (key: string, { range = { min: 0, max: 1 }, initial, cell, schema }: Field): Partial<Column> => ({
  text: (row) => (row[key] === null ? "" : String(row[key]).replace("-", "−")),
  editor: { kind: "number" },
  write: (text) => {
    if (initial === null && !text.trim()) return { [key]: null };
    const whole = (schema as { readonly type?: string }).type === "integer";
    const value = readNumber(text, { ...range, whole });
    return value === null
      ? `Type ${cell?.ask ?? "a number"}${initial === null ? ", or nothing" : ""}.`
      : { [key]: value };
  },
});

const choiceColumn = (key: string, { options = [], cell }: Field): Partial<Column> => ({
  text: (row) => String(row[key]),
  editor: {
    kind: "choice",
    options: () =>
      options.map((value) => ({ value: String(value), label: cell?.names?.(value as never) ?? String(value) })),
  },
  write: (text) => ({ [key]: options.find((value) => String(value) === text) }),
});

const textColumn = (key: string, field: Field, { one }: Pick<TableDescription, "one">): Partial<Column> => {
  const must = Number((field.schema as { readonly minLength?: number }).minLength ?? 0) > 0;
  return {
    text: (row) => String(row[key]),
    editor: { kind: "text", ...(field.cell?.empty ? { placeholder: field.cell.empty } : {}) },
    write: (text) =>
      must && !text.trim() ? `A ${one} needs ${field.word.replace(/^the /, "a ")}.` : { [key]: text.trim() },
  };
};

const columnOf = (key: string, field: Field, table: Pick<TableDescription, "one">): Partial<Column> => {
  switch (field.kind) {
    case "number":
    case "decibels":
      return numberColumn(key, field);
    case "choice":
      return choiceColumn(key, field);
    case "flag":
      return {
        text: (row) => String(row[key]),
        editor: { kind: "choice", options: () => YES_NO },
        write: (text) => ({ [key]: text === "true" }),
      };
    default:
      return textColumn(key, field, table);
  }
};

/**
 * The columns of a table of rig or studio, by what its description says of each field. `own`: what is said here of some
 * of them, since it looks around in the document or sets something else along. `which`: those that are shown, in this
 * order, where it is not that of the fields.
 */
export const describedColumns = <T>(
  table: Pick<TableDescription, "one" | "fields">,
  own: Readonly<Record<string, Partial<PartColumn<T>>>> = {},
  which: readonly string[] = Object.keys(table.fields),
): readonly PartColumn<T>[] =>
  which.flatMap((key) => {
    const field: Field | undefined = (table.fields as Fields)[key];
    const cell = field?.cell;
    if (!field || !cell) return [];
    const width = cell.width === undefined ? {} : { width: cell.width };
    return [{ id: key, header: cell.heading, ...width, ...columnOf(key, field, table), ...own[key] } as PartColumn<T>];
  });
