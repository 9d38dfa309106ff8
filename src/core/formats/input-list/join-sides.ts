import { areSides, sideStem } from "../../reading/sides";
import { type ListRow, type Notes, remark, type Side } from "./list-types";
import { numbered } from "./names";
import type { HeldRow } from "./rows";

const distinct = (texts: readonly string[]): readonly string[] =>
  texts.filter((text, at) => text && texts.indexOf(text) === at);

const pairOf = (left: HeldRow, right: HeldRow, name: string): HeldRow => {
  const named = (side: Side): Side => {
    const source = side.values.source ?? "";
    return { ...side, values: { ...side.values, source: sideStem(source) ?? source } };
  };
  const [first, second] = left.row <= right.row ? [left, right] : [right, left];
  return {
    ...first,
    from: [...first.from, ...second.from],
    name,
    sides: [named(left.sides[0]), named(right.sides[0])],
    folder: first.folder.length ? first.folder : second.folder,
    colour: first.colour ?? second.colour,
    note: distinct([first.note, second.note]).join("; "),
    marks: [...first.marks, ...second.marks],
  };
};

const isAlone = (row: HeldRow | undefined): row is HeldRow => row?.sides.length === 1;

/**
 * Two rows that are the sides of one source become one stereo row: neighbours in the list, same stem, one left and one
 * right. Rows whose name is given once over them are one source as well: two a pair, more so many lines.
 */
export const joinSides = (rows: readonly HeldRow[], notes: Notes): readonly ListRow[] =>
  joinHeld(joinNamed(rows, notes), notes);

const joinNamed = (rows: readonly HeldRow[], notes: Notes): readonly HeldRow[] => {
  const joined: HeldRow[] = [];
  for (const row of rows) {
    const before = joined.at(-1);
    const sides = isAlone(before) && isAlone(row) ? areSides(before.name, row.name) : null;
    if (!sides || !before) {
      joined.push(row);
      continue;
    }
    const [left, right] = sides.first === "left" ? [before, row] : [row, before];
    joined[joined.length - 1] = { ...pairOf(left, right, sides.stem), heldName: false };
    notes.understood.push(
      remark(
        `Rows ${before.row} and ${row.row}: ${before.name} and ${row.name} become one stereo track, ${sides.stem}.`,
        before.row,
      ),
    );
  }
  return joined;
};

const joinHeld = (rows: readonly HeldRow[], notes: Notes): readonly ListRow[] => {
  const found: ListRow[] = [];
  for (let at = 0; at < rows.length; ) {
    const first = rows[at];
    if (!first) break;
    let to = at + 1;
    while (to < rows.length && rows[to]?.heldName && rows[to]?.name === first.name && isAlone(rows[to])) to++;
    const run = rows.slice(at, to);
    at = to;
    if (run.length === 1 || !isAlone(first)) {
      found.push(...run);
      continue;
    }
    const [left, right] = run;
    const numbers = run.map(({ row }) => row);
    const says =
      run.length === 2
        ? `Rows ${numbers.join(" and ")}: ${first.name} is given once over two inputs, and is taken as one stereo pair.`
        : `Rows ${numbers[0]} to ${numbers.at(-1)}: ${first.name} is given once over ${run.length} inputs: a line each.`;
    notes.guessed.push(remark(says, first.row));
    const mark = { field: "format", outcome: "guessed", says } as const;
    if (run.length === 2 && left && right) {
      const pair = pairOf(left, right, first.name);
      found.push({ ...pair, marks: [...pair.marks, mark] });
      continue;
    }
    const names = numbered(first.name, run.length);
    found.push(
      ...run.map((row, n) => ({
        ...row,
        name: names[n] ?? row.name,
        sides: [{ ...row.sides[0], values: { ...row.sides[0].values, source: names[n] ?? row.name } }] as const,
        marks: [...row.marks, mark],
      })),
    );
  }
  return found;
};
