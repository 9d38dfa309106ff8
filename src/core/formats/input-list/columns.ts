import { plain } from "../../model/families";
import { guessFamily } from "../../model/guess-family";
import { isDitto, isSign, readAnswer } from "../../reading/answers";
import { readPlaces } from "../../reading/places";
import { readColour, readLayout } from "../../reading/read-cells";
import type { BodyRow } from "./blocks";
import { headingWords } from "./heading-words";
import type { Meaning } from "./meanings";
import { isMicrophone, tellsMicrophone } from "./microphone-words";

/** What stands in a column, each a share of its filled cells, 0 to 1. */
interface Contents {
  readonly filled: number;
  readonly places: number;
  /** Numbers with two letters before them at most: no names. */
  readonly bare: number;
  /** Of places with a number: how many are larger than the one before. */
  readonly ascending: number;
  readonly microphones: number;
  /** Yes, no and signs. */
  readonly answers: number;
  readonly layouts: number;
  readonly colours: number;
  readonly people: number;
  readonly families: number;
  /** How many are unlike the others. */
  readonly distinct: number;
  /** Letters only, as boxes are called: "A", "Stage left". */
  readonly letters: number;
  /** Mean count of characters. */
  readonly long: number;
}

export interface ColumnAround {
  readonly people: ReadonlySet<string>;
}

const isPlace = (cell: string): boolean =>
  /\d/.test(cell) && cell.length <= 24 && (readPlaces(cell)?.labels.length ?? 0) > 0;

/** "Box A", "Stage left": where a line is plugged in, and nobody's name. */
const IS_BOX = /^(?:(?:stage ?)?box|sb|snake|sub|multi|rack|wall|core)\b/i;

const isPersonal = (cell: string, { people }: ColumnAround): boolean =>
  people.has(plain(cell)) ||
  (/^\p{Lu}[\p{Ll}’'-]+(?: \p{Lu}[\p{L}’'.-]*){1,2}$/u.test(cell) &&
    !IS_BOX.test(cell) &&
    guessFamily(cell.split(" ").at(-1) ?? "") === null);

const contentsOf = (cells: readonly string[], around: ColumnAround): Contents => {
  const filled = cells.filter((cell) => cell && !isDitto(cell));
  const share = (test: (cell: string) => boolean): number =>
    filled.length ? filled.filter(test).length / filled.length : 0;
  const numbers = filled.flatMap((cell) => (isPlace(cell) ? [Number(/\d+/.exec(cell)?.[0])] : []));
  const up = numbers.filter((number, at) => at > 0 && number > (numbers[at - 1] ?? 0)).length;
  return {
    filled: filled.length,
    places: share(isPlace),
    bare: share((cell) => /^\p{L}{0,2}\d{1,3}(?: ?[-–/+&] ?\d{1,3})?$/u.test(cell)),
    ascending: numbers.length > 1 ? up / (numbers.length - 1) : numbers.length,
    microphones: share((cell) => isMicrophone(cell) || (tellsMicrophone(cell) && cell.length < 40)),
    answers: share((cell) => cell.length <= 12 && (isSign(cell) || ["yes", "no", "asked"].includes(readAnswer(cell)))),
    layouts: share((cell) => /\p{L}/u.test(cell) && readLayout(cell) !== null),
    colours: share((cell) => !/^\d{3}$/.test(cell) && readColour(cell) !== null),
    people: share((cell) => isPersonal(cell, around)),
    families: share((cell) => cell.length < 60 && guessFamily(cell) !== null),
    distinct: filled.length ? new Set(filled.map((cell) => cell.toLowerCase())).size / filled.length : 0,
    letters: share((cell) => /^\p{L}[\p{L} ]{0,20}$/u.test(cell)),
    long: filled.length ? filled.reduce((sum, cell) => sum + cell.length, 0) / filled.length : 0,
  };
};

type Fit = (contents: Contents) => number;

const isText = ({ places, answers, long }: Contents): number => (1 - places) * (1 - answers) * Math.min(1, long / 3);

/** How well what stands in a column fits each meaning, 0 to about 1. */
const FITS: Partial<Readonly<Record<Meaning, Fit>>> = {
  input: (c) => (c.places >= 0.6 ? 0.6 * c.places + 0.4 * c.ascending : 0),
  source: (c) =>
    isText(c) *
    (1 - c.microphones) *
    (0.35 * c.distinct + 0.65 * c.families) *
    (c.long > 40 ? 0.4 : 1) *
    (1 - c.people * 0.7),
  microphone: (c) => c.microphones,
  phantom: (c) => (c.microphones > 0.5 || c.places > 0.6 ? 0 : c.answers * 0.9),
  format: (c) => c.layouts * 0.95,
  player: (c) => c.people * 0.85,
  folder: (c) => isText(c) * (1 - c.distinct) * (0.5 + 0.5 * c.families) * (1 - c.microphones),
  colour: (c) => c.colours * 0.9,
  note: (c) => isText(c) * 0.3,
};

/** Of headings that can stand over the number of an input, the surer first. */
const INPUT_WORDS: readonly (readonly [RegExp, number])[] = [
  [/\b(?:input|inputs|in|inp|eingang|eing|entree|entrees|entrada|entradas|ingresso|ingressi)\b/, 0.5],
  [/\b(?:ch|chan|channel|channels|kanal|kan|canal|canale|canali|voie|voies)\b/, 0.4],
  [/\b(?:desk|console|pult|mixer)\b/, 0.35],
  [/\b(?:line|linie|ligne|linea)\b/, 0.3],
];
const inputWord = (heading: string): number => INPUT_WORDS.find(([pattern]) => pattern.test(plain(heading)))?.[1] ?? 0;

/** Points of meanings, never less than they had. */
const adding =
  (found: Map<Meaning, number>) =>
  (meaning: Meaning, points: number): void =>
    void found.set(meaning, Math.max(found.get(meaning) ?? 0, points));

/** A column called by a number's word with names in it is where the names are. */
const numberOrName = (found: Map<Meaning, number>, heading: string, contents: Contents): void => {
  const said = found.get("input");
  if (said === undefined) return;
  const { filled, places, families } = contents;
  const named = filled >= 2 && places < 0.3 && isText(contents) > 0.5 && families >= 0.3;
  found.set("input", said + inputWord(heading) - (named ? 3 : 0));
  if (named) adding(found)("source", 1.6);
};

const NO_NUMBERS: readonly Meaning[] = ["source", "microphone", "track", "player"];

/** What stands below a heading against what its words tell. */
const againstBelow = (found: Map<Meaning, number>, contents: Contents): void => {
  const add = adding(found);
  const { places, bare, microphones, families, people } = contents;
  if (places >= 0.7)
    for (const meaning of NO_NUMBERS.filter((one) => found.has(one)))
      found.set(meaning, bare >= 0.9 ? -1 : (found.get(meaning) ?? 0) - 1.5);
  if (places >= 0.7 && found.has("folder")) found.set("folder", -1);
  if (found.has("source") && microphones >= 0.7 && families < 0.3) add("microphone", 1.2);
  // "Name" with people in it beside an instrument.
  if (people >= 0.6 && found.has("player") && found.has("source")) add("player", 2.2);
};

/** What a heading adds to a meaning, from what its words tell; negative where it tells something else. */
const byHeading = (heading: string, contents: Contents): ReadonlyMap<Meaning, number> => {
  const found = new Map<Meaning, number>();
  const { whole, told } = headingWords(heading);
  const add = adding(found);
  for (const [at, { meaning, sure }] of told.entries()) add(meaning, sure ? 2 - at * 0.1 : 0.9 - at * 0.05);
  if (whole) add(whole, 3);
  numberOrName(found, heading, contents);
  if (contents.filled >= 2) againstBelow(found, contents);
  return found;
};

/** Meanings that only words in a heading give, since what stands below looks like others. */
const ONLY_SAID: readonly Meaning[] = ["polarity", "pad", "gain", "gainSet", "position", "room", "track", "icon"];

export interface InputChoice {
  readonly column: number;
  readonly heading: string;
  readonly example: string;
}

export interface FoundColumns {
  readonly meanings: readonly Meaning[];
  /** Columns whose meaning was taken from what stands below them, and not from a heading. */
  readonly guessed: ReadonlySet<number>;
  /** Columns that could be the number of the input, where more than one could. */
  readonly inputs: readonly InputChoice[];
  /** The column in which a mark means a box: its heading names it. */
  readonly box: number | null;
  /** The column of the stage box that the numbers count within; null where they need none. */
  readonly prefix: number | null;
}

interface Candidate {
  readonly column: number;
  readonly meaning: Meaning;
  readonly points: number;
  readonly told: number;
}

const candidateOf = (
  meaning: Meaning,
  {
    column,
    contents,
    told,
  }: { readonly column: number; readonly contents: Contents; readonly told: ReadonlyMap<Meaning, number> },
): Candidate | null => {
  const said = told.get(meaning) ?? 0;
  const most = Math.max(0, ...told.values());
  if (meaning === "ignore")
    return said >= 1.9 && said >= most ? { column, meaning, points: said + 1, told: said } : null;
  const fits = contents.filled ? (FITS[meaning]?.(contents) ?? 0) : 0;
  if (said < 0) return null;
  // A word that can mean several things needs what stands below it; a known heading is not overruled by that.
  const unsaid = said === 0 && (ONLY_SAID.includes(meaning) || most >= 1.5);
  if (unsaid || (said > 0 && said < 1 && fits < 0.3)) return null;
  return { column, meaning, points: said + fits, told: said };
};

const candidatesOf = (column: number, heading: string, contents: Contents): readonly Candidate[] => {
  const told = byHeading(heading, contents);
  const meanings = new Set<Meaning>([...told.keys(), ...(Object.keys(FITS) as Meaning[])]);
  return [...meanings].flatMap((meaning) => candidateOf(meaning, { column, contents, told }) ?? []);
};

/** Rows that are looked at to tell what a column holds: the first, and of a longer list some of the others. */
const FIRST_ROWS = 300;
const FURTHER_ROWS = 200;

const lookedAt = (rows: readonly BodyRow[]): readonly BodyRow[] => {
  const further = rows.slice(FIRST_ROWS);
  const step = Math.max(1, Math.ceil(further.length / FURTHER_ROWS));
  return [...rows.slice(0, FIRST_ROWS), ...further.filter((_, at) => at % step === 0)];
};

const LEAST = 0.55;

/** Whether what stands below is enough where no heading speaks for a meaning. */
const isEnough = ({ told, points, meaning, column }: Candidate, heading: readonly string[] | null): boolean => {
  if (told !== 0) return true;
  // Under an unknown heading marks and words could be anything.
  if (heading?.[column] && (meaning === "phantom" || meaning === "note")) return false;
  return points >= (meaning === "note" ? 0.1 : LEAST) || (meaning === "source" && !heading);
};

/** Each column with its likeliest meaning, each meaning once. */
const likeliest = (candidates: readonly Candidate[], heading: readonly string[] | null) => {
  const chosen = new Map<number, Candidate>();
  const given = new Set<Meaning>();
  for (const one of candidates.toSorted((a, b) => b.points - a.points || a.column - b.column)) {
    const taken = chosen.has(one.column) || (given.has(one.meaning) && one.meaning !== "ignore");
    if (taken || !isEnough(one, heading)) continue;
    chosen.set(one.column, one);
    given.add(one.meaning);
  }
  return { chosen, given };
};

/**
 * What each column means: by the words of its heading and by what stands below, weighed together; each meaning once,
 * the likeliest first. Linear in the cells.
 */
export const findColumns = (
  heading: readonly string[] | null,
  rows: readonly BodyRow[],
  around: ColumnAround,
): FoundColumns => {
  const width = Math.max(heading?.length ?? 0, ...rows.map((row) => row.cells.length));
  const cellsOf = (column: number): readonly string[] => rows.map((row) => row.cells[column] ?? "");
  const looked = lookedAt(rows);
  const contents = Array.from({ length: width }, (_, column) =>
    contentsOf(
      looked.map((row) => row.cells[column] ?? ""),
      around,
    ),
  );
  const candidates = contents.flatMap((one, column) => candidatesOf(column, heading?.[column] ?? "", one));
  const { chosen, given } = likeliest(candidates, heading);
  nameColumn(chosen, given, contents);
  const inputs = inputChoices({ heading, contents, chosen, cellsOf });
  const prefix = prefixColumn(heading, contents, chosen, cellsOf);
  // What the inputs count within is part of them, and nothing besides.
  if (prefix !== null) chosen.delete(prefix);
  return {
    meanings: Array.from({ length: width }, (_, column) => chosen.get(column)?.meaning ?? "ignore"),
    guessed: new Set(
      [...chosen.values()].flatMap(({ column, told, meaning }) => (told === 0 && meaning !== "ignore" ? [column] : [])),
    ),
    inputs: inputs.filter(({ column }) => column !== prefix).length > 1 ? inputs : [],
    box: boxColumn(heading, contents),
    prefix,
  };
};

/** A list needs names: where nothing tells them, the column with most unlike texts has them. */
const nameColumn = (
  chosen: Map<number, Candidate>,
  given: ReadonlySet<Meaning>,
  contents: readonly Contents[],
): void => {
  if (given.has("source") || given.has("track")) return;
  let best = -1;
  for (const [column, one] of contents.entries()) {
    const taken = chosen.get(column);
    if (taken && (taken.told > 0 || !["note", "folder", "player"].includes(taken.meaning))) continue;
    if (
      isText(one) * one.distinct * one.filled >
      (best < 0
        ? 0.5
        : isText(contents[best] as Contents) * (contents[best]?.distinct ?? 0) * (contents[best]?.filled ?? 0))
    )
      best = column;
  }
  if (best >= 0) chosen.set(best, { column: best, meaning: "source", points: 0, told: 0 });
};

interface Choosing {
  readonly heading: readonly string[] | null;
  readonly contents: readonly Contents[];
  readonly chosen: ReadonlyMap<number, Candidate>;
  readonly cellsOf: (column: number) => readonly string[];
}

const inputChoices = ({ heading, contents, chosen, cellsOf }: Choosing): readonly InputChoice[] => {
  const taken = [...chosen.values()].find(({ meaning }) => meaning === "input");
  if (!taken) return [];
  const others = contents.flatMap((one, column) => {
    if (column === taken.column) return [];
    const said = headingWords(heading?.[column] ?? "");
    const could = said.told.some(({ meaning }) => meaning === "input") || (!heading && one.places >= 0.8);
    const meaning = chosen.get(column)?.meaning;
    if (!could || one.places < 0.6 || (meaning && meaning !== "ignore" && meaning !== "note")) return [];
    const [a, b] = [cellsOf(taken.column), cellsOf(column)];
    return one.filled >= 2 && a.some((cell, at) => cell && b[at] && cell !== b[at]) ? [column] : [];
  });
  const choice = (column: number): InputChoice => ({
    column,
    heading: heading?.[column] || `Column ${column + 1}`,
    example: exampleOf(cellsOf(column).filter(Boolean)),
  });
  return others.length ? [choice(taken.column), ...others.map(choice)] : [];
};

const exampleOf = (cells: readonly string[]): string =>
  cells.length > 1 ? `${cells[0]} to ${cells.at(-1)}` : (cells[0] ?? "");

const boxColumn = (heading: readonly string[] | null, contents: readonly Contents[]): number | null => {
  const at = contents.findIndex(
    (one, column) =>
      one.filled > 0 &&
      one.answers >= 0.8 &&
      one.microphones < 0.5 &&
      /^(?:di|d\.i\.?|di box|di-box|line in|line)$/i.test(heading?.[column] ?? ""),
  );
  return at < 0 ? null : at;
};

const prefixColumn = (
  heading: readonly string[] | null,
  contents: readonly Contents[],
  chosen: ReadonlyMap<number, Candidate>,
  cellsOf: (column: number) => readonly string[],
): number | null => {
  const input = [...chosen.values()].find(({ meaning }) => meaning === "input")?.column;
  if (input === undefined) return null;
  const numbers = cellsOf(input).filter(Boolean);
  if (new Set(numbers).size === numbers.length) return null;
  const at = contents.findIndex(
    (one, column) =>
      column !== input &&
      one.filled > 0 &&
      (one.letters >= 0.8 || one.places >= 0.8) &&
      (heading
        ? /\b(?:box|stagebox|stage box|snake|boite|boitier|core|multi|caja|ciabatta)\b/.test(
            plain(heading[column] ?? ""),
          )
        : cellsOf(column).every((cell) => !cell || IS_BOX.test(cell))),
  );
  return at < 0 ? null : at;
};
