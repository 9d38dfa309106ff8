import type { Column, Field, ListColumn } from "../model/describe/fields";
import { LAYOUT_COLUMN, WOVEN_COLUMNS } from "../model/tables/channel-fields";
import { CHANNELS } from "../model/tables/channels";
import { LINES } from "../model/tables/lines";

type IdIn<F> = {
  [K in keyof F]: F[K] extends { readonly column: { readonly id: infer I extends string } } ? I : never;
}[keyof F];
type MeaningIn<F> = {
  [K in keyof F]: F[K] extends { readonly list: { readonly meaning: infer M extends string } } ? M : never;
}[keyof F];
type TrackFields = typeof CHANNELS.fields & typeof CHANNELS.kinds.track;

/** Columns that show a field of the lines of a track, and those of the track itself. */
export type LineColumn = IdIn<typeof LINES.fields>;
export type TrackColumn = IdIn<TrackFields>;
/** What can be edited in a row of the input list. */
export type CellColumn =
  | LineColumn
  | TrackColumn
  | typeof LAYOUT_COLUMN.column.id
  | (typeof WOVEN_COLUMNS)[number]["column"]["id"];
/** What a column of an input list can mean. */
export type ListMeaning = MeaningIn<typeof LINES.fields> | MeaningIn<TrackFields> | typeof LAYOUT_COLUMN.list.meaning;

interface Described {
  readonly of: "line" | "track";
  /** The field that it shows; none where it shows something that follows from one. */
  readonly key: string | null;
  readonly field: Field | null;
}

export interface GridColumn extends Described, Omit<Column, "id"> {
  readonly id: CellColumn;
}

export interface MeaningColumn extends Described, ListColumn {
  readonly meaning: ListMeaning;
  /** The column of the grid that shows the same. */
  readonly column: CellColumn;
}

const fieldsOf = (
  of: Described["of"],
  fields: Readonly<Record<string, Field>>,
): readonly (Described & { readonly field: Field })[] =>
  Object.entries(fields).map(([key, field]) => ({ of, key, field }));

const placeOf = ({ inspected, seat }: GridColumn): number => inspected ?? 1000 + seat;

const ALL = [...fieldsOf("line", LINES.fields), ...fieldsOf("track", { ...CHANNELS.fields, ...CHANNELS.kinds.track })];

/** Columns of the input list from left to right, as the fields of lines and tracks describe them. */
export const GRID_COLUMNS: readonly GridColumn[] = [
  ...ALL.flatMap((of) => (of.field.column ? [{ ...of, ...of.field.column } as GridColumn] : [])),
  { of: "track" as const, key: null, field: null, ...LAYOUT_COLUMN.column } as GridColumn,
  ...WOVEN_COLUMNS.map(({ column }) => ({ of: "track" as const, key: null, field: null, ...column }) as GridColumn),
].sort((a, b) => a.seat - b.seat);

export const CELL_COLUMNS: readonly CellColumn[] = GRID_COLUMNS.map(({ id }) => id);

/**
 * Columns in the order in which the inspector has their fields: those that say where they stand, then the others as
 * they stand in the grid.
 */
export const INSPECTED_COLUMNS: readonly GridColumn[] = GRID_COLUMNS.filter(
  ({ field, inspected }) => field !== null || inspected !== undefined,
).sort((a, b) => placeOf(a) - placeOf(b));

/** What a field is called in the inspector. */
export const fieldLabel = ({ label, field, heading }: GridColumn): string => label ?? field?.list?.heading ?? heading;

const byId = new Map(GRID_COLUMNS.map((column) => [column.id, column]));

export const gridColumn = (id: CellColumn): GridColumn => {
  const found = byId.get(id);
  if (!found) throw new Error(`expected a column of the grid, got ${id}`);
  return found;
};

/** Whether a block of cells in a column can be filled in a way. */
export const canFill = (id: CellColumn, how: "copied" | "counted" | "emptied"): boolean =>
  gridColumn(id).fills?.includes(how) ?? false;

/**
 * Columns of input lists: first those that every list has, in their order, then the others as they stand in the grid.
 */
export const LIST_COLUMNS: readonly MeaningColumn[] = [
  ...ALL.flatMap((of) =>
    of.field.list && of.field.column ? [{ ...of, ...of.field.list, column: of.field.column.id } as MeaningColumn] : [],
  ),
  {
    of: "track" as const,
    key: null,
    field: null,
    ...LAYOUT_COLUMN.list,
    column: LAYOUT_COLUMN.column.id,
  } as MeaningColumn,
].sort((a, b) => (a.always ?? 1000 + gridColumn(a.column).seat) - (b.always ?? 1000 + gridColumn(b.column).seat));

export const listColumn = (meaning: ListMeaning): MeaningColumn => {
  const found = LIST_COLUMNS.find((column) => column.meaning === meaning);
  if (!found) throw new Error(`expected a column of input lists, got ${meaning}`);
  return found;
};
