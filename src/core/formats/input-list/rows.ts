import { plain } from "../../model/families";
import type { Line } from "../../model/tables/lines";
import { LIST_COLUMNS } from "../../queries/columns";
import { isDitto, isSign, readAnswer } from "../../reading/answers";
import { type Places, readPlaces } from "../../reading/places";
import { numberAtEnd } from "../../units/ends";
import type { Block, BodyRow } from "./blocks";
import type { FoundColumns } from "./columns";
import type { ListRow, Mark, Notes, Side } from "./list-types";
import { remark } from "./list-types";
import type { Meaning } from "./meanings";
import { isMicrophone } from "./microphone-words";
import { isPlural, type NamedLines, namedLines, numbered } from "./names";
import {
  type CellOf,
  cellReader,
  colourOfCell,
  folderPath,
  halves,
  iconOf,
  LINE_COLUMNS,
  microphoneAndPhantom,
  nameWithout,
  noteCuts,
  noteUnread,
  type RowContext,
  setByNote,
  sidesOfCell,
} from "./row-values";

export interface Reading {
  readonly columns: FoundColumns;
  readonly meanings: readonly Meaning[];
  readonly notes: Notes;
  readonly literal: boolean;
  readonly signOf: RowContext["signOf"];
  readonly signs: RowContext["signs"];
  readonly plural: "pair" | "each";
  /** By row of the file: cells that hold what stands above them, by their column. */
  readonly held: Map<number, ReadonlyMap<number, string>>;
  /** Names without an input stand for all that they count: where names are typed, and lines without columns. */
  readonly free: boolean;
}

/** A row as it is read, with whether its name was held from above. */
export interface HeldRow extends ListRow {
  readonly heldName: boolean;
}

/** Columns in which a value given once over blank cells holds below. */
const HOLDS: readonly Meaning[] = ["folder", "room"];
/** Columns in which a mark can repeat what stands above. */
const REPEATS: readonly Meaning[] = [
  "source",
  "track",
  "microphone",
  "player",
  "folder",
  "room",
  "position",
  "note",
  "colour",
  "phantom",
];

/** Whether a column gives its values once over blank cells: no value stands twice below itself. */
const isGivenOnce = (rows: readonly BodyRow[], column: number): boolean => {
  let before = "";
  let filled = 0;
  for (const { cells } of rows) {
    const cell = cells[column] ?? "";
    if (cell) filled++;
    if (cell && cell === before) return false;
    before = cell;
  }
  return filled > 0 && filled < rows.length && Boolean(rows[0]?.cells[column]);
};

interface Above {
  readonly meanings: readonly Meaning[];
  /** Columns whose value holds below. */
  readonly down: ReadonlySet<number>;
  readonly names: readonly number[];
  readonly cells: readonly string[];
}

/** A number with a microphone and no name is another of what stands above it. */
const isNameless = (cells: readonly string[], { meanings, names, cells: above }: Above): boolean =>
  names.length > 0 &&
  names.every((at) => !cells[at]) &&
  names.some((at) => above[at]) &&
  Boolean(cells[meanings.indexOf("input")] && cells[meanings.indexOf("microphone")]);

/** A row with what holds from above written into it. */
const heldRow = (row: BodyRow, above: Above): BodyRow & { readonly heldName: boolean } => {
  const cells = [...row.cells];
  const held = new Set(row.held);
  const take = (at: number): void => {
    cells[at] = above.cells[at] ?? "";
    held.add(at);
  };
  for (const [at, meaning] of above.meanings.entries()) {
    const cell = cells[at] ?? "";
    const repeats = cell !== "" && REPEATS.includes(meaning) && isDitto(cell);
    if (repeats || (!cell && above.down.has(at) && above.cells[at])) take(at);
  }
  if (isNameless(cells, above)) for (const at of above.names) take(at);
  return { ...row, cells, held, heldName: above.names.some((at) => held.has(at)) };
};

/** Rows with what holds from above written into them. */
const withHeld = (
  rows: readonly BodyRow[],
  { meanings, columns, literal }: Reading,
): readonly (BodyRow & { readonly heldName: boolean })[] => {
  if (literal) return rows.map((row) => ({ ...row, heldName: false }));
  const down = new Set(
    meanings.flatMap((meaning, at) => (HOLDS.includes(meaning) && isGivenOnce(rows, at) ? [at] : [])),
  );
  if (columns.prefix !== null) down.add(columns.prefix);
  const names = meanings.flatMap((meaning, at) => (meaning === "source" || meaning === "track" ? [at] : []));
  let cells: readonly string[] = [];
  return rows.map((row) => {
    const read = heldRow(row, { meanings, down, names, cells });
    cells = read.cells;
    return read;
  });
};

const FORMAT_YES: ReadonlySet<string> = new Set([
  "stereo",
  "st",
  "2",
  "pair",
  "ster",
  "estereo",
  "s",
  "paar",
  "paire",
  "l r",
  "lr",
]);
const FORMAT_NO: ReadonlySet<string> = new Set(["mono", "m", "1", ""]);

const layoutOf = (cell: string): "mono" | "stereo" | "" | null => {
  const word = plain(cell);
  if (!word && !isSign(cell)) return "";
  if (FORMAT_YES.has(word)) return "stereo";
  if (FORMAT_NO.has(word) && !isSign(cell)) return "mono";
  const answer = readAnswer(cell);
  return answer === "yes" || answer === "asked" ? "stereo" : answer === "no" ? "mono" : null;
};

interface Lines {
  /** What each track is called, and the inputs that it takes: two for a stereo one. */
  readonly tracks: readonly { readonly name: string; readonly inputs: readonly (string | null)[] }[];
}

interface Laying {
  readonly name: string;
  readonly places: Places;
  readonly layout: "mono" | "stereo" | "" | null;
  /** The number of the row below, as far as it has one. */
  readonly next: number | null;
  readonly reading: Reading;
  readonly marks: Mark[];
  readonly row: number;
}

const numberIn = (label: string | null | undefined): number | null => {
  const ending = label ? numberAtEnd(label) : null;
  return ending ? Number(ending.number) : null;
};

/** The labels that follow one, so many in all. */
const onFrom = (label: string, count: number): readonly string[] => {
  const ending = numberAtEnd(label);
  return Array.from({ length: count }, (_, at) => (ending ? `${ending.before}${Number(ending.number) + at}` : label));
};

const guess = ({ marks, row, reading }: Laying, field: Meaning, says: string): void => {
  const text = `Row ${row}: ${says}`;
  marks.push({ field, outcome: "guessed", says: text });
  reading.notes.guessed.push(remark(text, row, reading.meanings.indexOf(field)));
};

const each = (names: readonly string[], inputs: readonly (string | null)[]): Lines => ({
  tracks: names.map((name, at) => ({ name, inputs: [inputs[at] ?? null] })),
});

/** A stereo source on what its cell names: two inputs, or one and the next. */
const stereoOn = (name: string, laying: Laying): Lines => {
  const { labels } = laying.places;
  const [first, second] = labels;
  if (second !== undefined && first !== undefined) return { tracks: [{ name, inputs: [first, second] }] };
  if (first === undefined) return { tracks: [{ name, inputs: [null, null] }] };
  const [, next = first] = onFrom(first, 2);
  const counted = laying.next !== null && laying.next === (numberIn(first) ?? 0) + 2;
  if (!counted) guess(laying, "input", `stereo with one input; the right side is put on ${next}.`);
  return { tracks: [{ name, inputs: [first, next] }] };
};

/** Several names on what their cell names: an input for each, or those that follow the one. */
const severalOn = ({ names, kind }: NamedLines, laying: Laying): Lines | null => {
  const { labels } = laying.places;
  if (labels.length === names.length) return each(names, labels);
  const [first] = labels;
  if (first === undefined) return laying.reading.free || kind === "count" ? each(names, []) : null;
  const last = numberIn(first);
  const counted = laying.next !== null && last !== null && laying.next >= last + names.length;
  if (labels.length === 1 && (counted || kind === "count" || laying.reading.free)) {
    if (!(laying.next === (last ?? 0) + names.length))
      guess(laying, "input", `${names.length} lines with one input; they are put on ${first} and those that follow.`);
    return each(names, onFrom(first, names.length));
  }
  return null;
};

/** A single name on several inputs. */
const oneOn = (name: string, laying: Laying): Lines => {
  const { places, layout, reading } = laying;
  const { labels, kind } = places;
  if (kind === "run") return each(numbered(name, labels.length), labels);
  if (labels.length < 2) return { tracks: [{ name, inputs: [labels[0] ?? null] }] };
  const plural = isPlural(name) && !places.stereo && layout !== "stereo" && kind === "pair";
  if (layout === "mono" || (plural && reading.plural === "each")) {
    guess(laying, "format", `“${name}” on ${labels.join(" and ")} is taken as two lines.`);
    return each(numbered(name, 2), labels);
  }
  if (plural) guess(laying, "format", `“${name}” on ${labels.join(" and ")} is taken as one stereo pair.`);
  return { tracks: [{ name, inputs: labels }] };
};

/** "1L 1R": the two sides of a channel that counts as one, or inputs 1 and 2, as the number below tells. */
const withSides = (laying: Laying): Places => {
  const { places, next } = laying;
  if (places.kind !== "sides") return places;
  const bare = places.labels.map((label) => label.replace(/[LR]$/, ""));
  const [first = "", second = ""] = bare;
  if (first !== second) return { ...places, labels: bare, kind: "pair", stereo: true };
  const follows = next !== null && next === (numberIn(first) ?? 0) + 2;
  if (follows) return { ...places, labels: onFrom(first, 2), kind: "pair", stereo: true };
  if (next === null) {
    guess(laying, "input", `“${places.labels.join(" ")}” is read as inputs ${onFrom(first, 2).join(" and ")}.`);
    return { ...places, labels: onFrom(first, 2), kind: "pair", stereo: true };
  }
  guess(
    laying,
    "input",
    `“${places.labels.join(" ")}” is read as the two sides of ${first}; say which inputs they are.`,
  );
  return { ...places, kind: "pair", stereo: true };
};

const layLines = (given: Laying): Lines => {
  const laying = { ...given, places: withSides(given) };
  const { name, layout, places, reading } = laying;
  if (reading.literal)
    return layout === "stereo" && places.labels.length < 2
      ? stereoOn(name, laying)
      : { tracks: [{ name, inputs: places.labels.length ? places.labels.slice(0, 2) : [null] }] };
  const named = namedLines(name);
  if (named.kind === "stereo") return stereoOn(named.names[0] ?? name, laying);
  if (named.kind !== "one") {
    const several = severalOn(named, laying);
    if (several) return several;
    if (places.labels.length <= 1 && layout !== "stereo")
      guess(laying, "source", `“${name}” is kept as one track on one input.`);
  }
  if (layout === "stereo" && places.labels.length < 2) return stereoOn(name, laying);
  if (named.kind === "parts" && places.labels.length === 2) return each(named.names, places.labels);
  return oneOn(name, laying);
};

/** The microphones of several tracks of one row: "DI + dyn", "dyn / SDC"; the same for all where there is one. */
const microphonesFor = (cell: string, count: number): readonly string[] => {
  const parts = cell.split(/ ?[/+&] ?/);
  return count > 1 && parts.length === count && parts.every((part) => isMicrophone(part))
    ? parts
    : Array.from({ length: count }, () => cell);
};

interface OneRow {
  readonly row: BodyRow & { readonly heldName: boolean };
  readonly next: number | null;
}

const placesOf = (cell: CellOf, cells: readonly string[], reading: Reading, context: RowContext): Places => {
  const { prefix } = reading.columns;
  const text = cell("input");
  const box = prefix === null ? "" : (cells[prefix] ?? "");
  const boxed =
    box && /^\d/.test(text)
      ? `${box.replace(/^(?:stage ?)?box /i, "")} ${text}`.replace(/^(\p{L}{1,3}) (?=\d)/u, "$1")
      : text;
  const places = readPlaces(boxed);
  if (places) return places;
  noteUnread(
    "input",
    `Row ${context.row}: the input “${text}” can't be read; the line is kept without an input.`,
    context,
  );
  return { labels: [], kind: "none", stereo: false };
};

/** What a row says of its lines besides input and microphone, for the left and for the right. */
const valuesOf = (cell: CellOf, stereo: boolean, context: RowContext): ((at: number) => Partial<Line>) => {
  const read = LINE_COLUMNS.map((column) => {
    const text = column.meaning === "source" ? cell("source") || cell("track") : cell(column.meaning);
    return [column.key ?? "", sidesOfCell(column, text, { ...context, stereo })] as const;
  });
  return (at) => Object.fromEntries(read.map(([key, values]) => [key, values.length > at ? values[at] : values[0]]));
};

const UNREAD_KEPT: readonly Meaning[] = ["input", "phantom", "pad", "polarity", "gain", "gainSet"];

/** The note of a row, with what could not be read of its other cells. */
const noteOf = (cell: CellOf, marks: readonly Mark[]): string => {
  const kept = marks.flatMap(({ outcome, field }) =>
    outcome === "unread" && UNREAD_KEPT.includes(field) && cell(field)
      ? [`${LIST_COLUMNS.find(({ meaning }) => meaning === field)?.heading}: ${cell(field)}`]
      : [],
  );
  return [cell("note"), ...kept].filter(Boolean).join("; ").slice(0, 4000);
};

const readRow = ({ row: body, next }: OneRow, reading: Reading): readonly HeldRow[] => {
  const { meanings, literal } = reading;
  const context: RowContext = { ...reading, row: body.row, marks: [] };
  const read = cellReader(body.cells, meanings);
  const both = literal ? { microphone: read("microphone"), phantom: false } : microphoneAndPhantom(read("microphone"));
  const boxed =
    reading.columns.box !== null && !both.microphone && readAnswer(body.cells[reading.columns.box] ?? "") !== "no";
  const cell: CellOf = (meaning) => (meaning === "microphone" ? (boxed ? "DI" : both.microphone) : read(meaning));
  noteCuts(body.cells, context);
  const layout = layoutOf(cell("format"));
  if (layout === null)
    noteUnread("format", `Row ${body.row}: “${cell("format")}” is neither mono nor stereo.`, context);
  const places = placesOf(cell, body.cells, reading, context);
  const { name, phantom, inverted } = nameWithout(cell("track") || cell("source"), context);
  const { tracks } = layLines({ name, places, layout, next, reading, marks: context.marks, row: body.row });
  const stereo = tracks.some(({ inputs }) => inputs.length === 2);
  const values = valuesOf(cell, stereo, context);
  const note = cell("note");
  const microphones = literal || stereo ? null : microphonesFor(cell("microphone"), tracks.length);
  const shared = {
    folder: folderPath(cell("folder") || body.group || "", context),
    colour: colourOfCell(cell, context),
    icon: iconOf(cell, context),
  };
  const said48 = both.phantom || phantom;
  const saysPhantom = said48 || (reading.free ? cell("phantom") !== "" : meanings.includes("phantom"));
  const side = (input: string | null, at: number, track: number): Side => {
    const own = literal ? values(at) : setByNote(note, values(at), track || at ? { ...context, marks: [] } : context);
    const said = cell("track") ? {} : { source: tracks[track]?.name ?? "" };
    const sided = stereo ? halves(cell("microphone"))[at as 0 | 1] : cell("microphone");
    return {
      input,
      microphone: microphones ? (microphones[track] ?? "") : sided,
      saysPhantom,
      values: {
        ...own,
        ...(literal ? {} : said),
        ...(said48 ? { phantom: true } : {}),
        ...(inverted ? { polarityInverted: true } : {}),
      },
    };
  };
  return tracks.map((track, at): HeldRow => {
    const [left = null, right] = track.inputs;
    return {
      row: body.row,
      from: [body.row],
      name: track.name,
      sides: right === undefined ? [side(left, 0, at)] : [side(left, 0, at), side(right, 1, at)],
      ...shared,
      note: noteOf(cell, context.marks),
      marks: context.marks,
      heldName: body.heldName,
    };
  });
};

const NO_NAME = /^(?:[-–—_.?/]+|n\/?a|nc|n\/c|leer|vide|empty|libre|libero|not used|unused|frei)$/i;

/** Whether what was read of a row says something to record: a name, or a microphone at least. */
const isSaid = (read: readonly HeldRow[], { literal }: Reading): boolean => {
  const name = read[0]?.name ?? "";
  if (name) return literal || !NO_NAME.test(name);
  return read.some(({ sides }) => sides.some((side) => side.microphone));
};

/** Rows of a block of inputs, as they are read; what says nothing to record is left out and told. */
export const readRows = (block: Block, reading: Reading): readonly HeldRow[] => {
  const rows = withHeld(block.rows, reading);
  const input = reading.meanings.indexOf("input");
  const numbers = rows.map(({ cells }) => numberIn(readPlaces(cells[input] ?? "")?.labels[0]));
  for (const { row, held, cells } of rows)
    if (held.size)
      reading.held.set(row, new Map([...held].map((column) => [block.from + column, cells[column] ?? ""])));
  return rows.flatMap((row, at): readonly HeldRow[] => {
    const read = readRow({ row, next: numbers[at + 1] ?? null }, reading);
    if (isSaid(read, reading)) return read;
    const cells = row.cells.filter(Boolean).join(" · ");
    reading.notes.leftOut.push(remark(`Row ${row.row}: nothing in it says what is recorded: “${cells}”.`, row.row));
    return [];
  });
};
