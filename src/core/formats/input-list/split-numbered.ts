import type { Cells } from "./split-table";

/** A number and a name in one cell: "1 Kick in", "5–6: Overheads". */
const BOTH = /^(\p{L}{0,2}\d{1,3}(?: ?[-–/+&] ?\p{L}{0,2}\d{1,3})?)(?:[.):] ?| [-–] | )(?=\p{L})(.{1,200})$/u;

/** Most cells of a column must be so for it to be split. */
const SHARE = 0.7;

/**
 * A table whose first column holds numbers and names together, with the two apart. Names that begin with a number of
 * their own ("12 string") are few, and the numbers must go up.
 */
export const splitNumbered = (cells: Cells): Cells => {
  const found = cells.rows.map(([first = ""]) => BOTH.exec(first.replace(/\s+/g, " ")));
  const filled = cells.rows.filter((row) => row[0] && row.filter(Boolean).length > 1).length;
  const both = found.filter((one, at) => one && (cells.rows[at] ?? []).filter(Boolean).length > 0);
  if (both.length < 2 || both.length < filled * SHARE) return cells;
  const numbers = both.map((one) => Number(/\d+/.exec(one?.[1] ?? "")?.[0] ?? 0));
  if (!numbers.every((number, at) => at === 0 || number > (numbers[at - 1] ?? 0))) return cells;
  return {
    ...cells,
    held: new Set([...cells.held].map((key) => key.replace(/:(\d+)$/, (_, column) => `:${Number(column) + 1}`))),
    rows: cells.rows.map((row, at) => {
      const one = found[at];
      if (one) return [one[1] ?? "", one[2] ?? "", ...row.slice(1)];
      // A heading over both stands over the name; what stands alone stays alone.
      return row.length ? ["", ...row] : row;
    }),
  };
};
