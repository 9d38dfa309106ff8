import type { ImportPreview, PreviewRow } from "@/contracts/answers";
import type { Mark, SourceRow } from "@/core/formats/input-list/list-types";

/** A row of the preview: a row of the file with one of the tracks that it became, or with why it became none. */
export interface ReadingRow {
  readonly id: string;
  readonly source: SourceRow | null;
  /** Null where the row became no track of its own. */
  readonly result: PreviewRow | null;
  /** What became of it, where it is no track. */
  readonly says: string;
}

const SHOWN: ReadonlySet<SourceRow["became"]> = new Set(["track", "joined", "off"]);

/** Rows of the file with what they became, in the order of the file. `all`: with what was left out as well. */
export const readingRows = (
  { source, rows }: Pick<ImportPreview, "source" | "rows">,
  all: boolean,
): readonly ReadingRow[] => {
  const byRow = new Map<number, PreviewRow[]>();
  for (const row of rows) byRow.set(row.row, [...(byRow.get(row.row) ?? []), row]);
  // Where nothing is understood, all of it is shown, for a person to say what it means.
  const every = all || rows.length === 0;
  return source.flatMap((line): readonly ReadingRow[] => {
    const own = byRow.get(line.row) ?? [];
    if (own.length) return own.map((result, at) => ({ id: result.key, source: at ? null : line, result, says: "" }));
    if (!every && !SHOWN.has(line.became)) return [];
    return [{ id: `row ${line.row}`, source: line, result: null, says: line.says }];
  });
};

/** What is not sure of a field of a result, for a person; null where all is well. */
export const markOf = (row: PreviewRow | null, fields: readonly Mark["field"][]): string | null => {
  const found = row?.marks.filter(({ field }) => fields.includes(field)) ?? [];
  return found.length ? found.map(({ says }) => says).join(" ") : null;
};

/** Of how many rows something is not sure. */
export const unsureRows = (rows: readonly PreviewRow[]): number =>
  rows.filter(({ marks, trouble }) => marks.length > 0 || trouble).length;
