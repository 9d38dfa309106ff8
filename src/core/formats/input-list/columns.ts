import { plain } from "../../model/families";
import { LIST_COLUMNS, type ListMeaning } from "../../queries/columns";

export type Meaning = ListMeaning | "ignore";

/** What a column of a list can mean: what fields of lines and tracks are described as, or nothing that is read. */
export const MEANINGS: readonly Meaning[] = [...LIST_COLUMNS.map(({ meaning }) => meaning), "ignore"];

export const MEANING_NAMES = Object.fromEntries([
  ...LIST_COLUMNS.map(({ meaning, heading, says }) => [meaning, says ?? heading] as const),
  ["ignore", "Leave out"] as const,
]) as Readonly<Record<Meaning, string>>;

/** The usual words over a column, in English, German and French, without accents. */
const HEADINGS: ReadonlyMap<string, Meaning> = new Map(
  LIST_COLUMNS.flatMap(({ meaning, words }) => words.split(", ").map((word) => [word, meaning] as const)),
);

const headingMeaning = (cell: string): Meaning | null => HEADINGS.get(plain(cell)) ?? null;

/** Rows that may stand before the heading (a title, a date). */
const SEARCHED_ROWS = 15;

/**
 * Which row is the heading: among the first rows the one in which most cells are known words, two at least; null when
 * there is none.
 */
export const findHeading = (rows: readonly (readonly string[])[]): number | null => {
  const known = rows.slice(0, SEARCHED_ROWS).map((row) => row.filter((cell) => cell && headingMeaning(cell)).length);
  const most = Math.max(0, ...known);
  return most >= 2 ? known.indexOf(most) : null;
};

/** The meaning of each column by its heading; a meaning is given once, to the first column that claims it. */
export const meaningsByHeading = (heading: readonly string[]): Meaning[] => {
  const given = new Set<Meaning>();
  return heading.map((cell) => {
    const meaning = headingMeaning(cell);
    if (!meaning || given.has(meaning)) return "ignore";
    given.add(meaning);
    return meaning;
  });
};

const share = (cells: readonly string[], test: (cell: string) => boolean): number => {
  const filled = cells.filter(Boolean);
  return filled.length ? filled.filter(test).length / filled.length : 0;
};

/**
 * Without a heading: the column of numbers is the input, the next one the source, then microphone and note, as they
 * usually stand.
 */
export const meaningsByContent = (rows: readonly (readonly string[])[]): Meaning[] => {
  const width = Math.max(0, ...rows.map((row) => row.length));
  const column = (at: number) => rows.map((row) => row[at] ?? "");
  const inputAt =
    Array.from({ length: width }, (_, at) => at).find(
      (at) => share(column(at), (cell) => /^[a-z]?\d{1,3}(\s*[-/+&–]\s*[a-z]?\d{1,3})?$/i.test(cell)) >= 0.6,
    ) ?? -1;
  const rest: Meaning[] = ["source", "microphone", "note"];
  return Array.from({ length: width }, (_, at) => (at === inputAt ? "input" : (rest.shift() ?? "ignore")));
};
