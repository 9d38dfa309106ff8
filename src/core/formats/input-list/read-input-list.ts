import { plain } from "../../model/families";
import { balanceOf } from "./balance";
import { type Block, type Blocks, findBlocks, type LeftRow } from "./blocks";
import { type ColumnAround, type FoundColumns, findColumns } from "./columns";
import { FREE_MEANINGS } from "./free-item";
import { freeBlocks } from "./free-lines";
import { joinSides } from "./join-sides";
import {
  type Column,
  type InputList,
  type ListChoices,
  type ListRow,
  type Notes,
  type OutsideBlock,
  type ReadList,
  remark,
  type SourceRow,
} from "./list-types";
import { MEANING_NAMES, type Meaning } from "./meanings";
import {
  INPUT_QUESTION,
  inputQuestion,
  outsideQuestion,
  proposeQuestion,
  signQuestion,
  signQuestions,
  usualSign,
} from "./questions";
import { type Reading, readRows } from "./rows";
import { sideBySide } from "./side-by-side";
import { splitNumbered } from "./split-numbered";
import { type Cells, type PartedBy, splitTable } from "./split-table";

/** The most rows a list may have. Several hundred are usual for an orchestra with its players. */
export const MOST_ROWS = 4096;

const BY_WORDS: Readonly<Record<PartedBy, string>> = {
  comma: "cells parted by comma",
  semicolon: "cells parted by semicolon",
  tab: "cells parted by tab",
  bar: "cells parted by bar",
  gaps: "columns by their gaps",
  sheet: "cells of a spreadsheet",
  lines: "lines without columns",
};

/** Headings of a list of ours: its cells say just what they say. */
const OURS = ["Input", "Track", "Source", "Microphone", "Phantom", "Format", "Player", "Folder", "Colour", "Note"];
const isOurs = (heading: readonly string[] | null): boolean =>
  heading !== null && OURS.every((word, at) => heading[at] === word);

interface Read {
  readonly block: Block;
  readonly columns: FoundColumns;
  readonly meanings: readonly Meaning[];
}

/** A column that was chosen for the input takes its meaning from the one that had it. */
const withInput = (
  meanings: readonly Meaning[],
  { inputs }: FoundColumns,
  choices: ListChoices,
): readonly Meaning[] => {
  const answer = choices.answers?.[INPUT_QUESTION];
  const column = inputs.find((one) => String(one.column) === answer)?.column;
  if (column === undefined || choices.meanings) return meanings;
  return meanings.map((meaning, at) => (at === column ? "input" : meaning === "input" ? "ignore" : meaning));
};

const FREE_COLUMNS: FoundColumns = { meanings: FREE_MEANINGS, guessed: new Set(), inputs: [], box: null, prefix: null };

const readingOf = (
  blocks: readonly Block[],
  { by, choices, around }: { readonly by: PartedBy; readonly choices: ListChoices; readonly around: ColumnAround },
): readonly Read[] => {
  const read: Read[] = [];
  for (const block of blocks) {
    if (by === "lines") {
      read.push({ block, columns: FREE_COLUMNS, meanings: FREE_MEANINGS });
      continue;
    }
    const [first] = read;
    const alike = read.find(
      (one) => one.block.heading?.join("\n") === block.heading?.join("\n") && one.block.from === block.from,
    );
    const columns = alike?.columns ?? findColumns(block.heading, block.rows, around);
    const width = columns.meanings.length;
    const given = !first || block.from === first.block.from ? choices.meanings : undefined;
    const found = withInput(columns.meanings, columns, choices);
    const meanings = Array.from({ length: width }, (_, at) => given?.[at] ?? found[at] ?? "ignore");
    const unnamed = !meanings.includes("source") && !meanings.includes("track");
    read.push({
      block,
      columns,
      meanings: unnamed && first && !block.heading && block.from === first.block.from ? first.meanings : meanings,
    });
  }
  return read;
};

const LEFT_SAYS: Readonly<Record<LeftRow["why"], (row: number, text: string) => string>> = {
  title: (row, text) => `Row ${row} stands before the heading: “${text}”.`,
  greeting: (row, text) => `Row ${row} is no line of the list: “${text}”.`,
  note: (row, text) => `Row ${row} stands alone and is no line: “${text}”.`,
  total: (row, text) => `Row ${row} adds up the list and is no line: “${text}”.`,
  page: (row, text) => `Row ${row} is the foot of a page: “${text}”.`,
  "block title": (row, text) => `Row ${row}: what stands below “${text}” is no input.`,
  rule: (row) => `Row ${row} is a rule.`,
  "repeated heading": (row) => `Row ${row} repeats the heading.`,
};
const UNDERSTOOD: readonly LeftRow["why"][] = ["rule", "repeated heading", "page", "block title"];

const noteLeft = (left: readonly LeftRow[], notes: Notes): void => {
  for (const { row, why, text } of left)
    (UNDERSTOOD.includes(why) ? notes.understood : notes.leftOut).push(remark(LEFT_SAYS[why](row, text), row));
};

const columnsOf = ({ block, columns, meanings }: Read): readonly Column[] =>
  meanings.map((meaning, at) => ({
    heading: block.heading?.[at] || `Column ${at + 1}`,
    meaning,
    example: block.rows.find((row) => row.cells[at])?.cells[at] ?? "",
    guessed: columns.guessed.has(at) && meaning === columns.meanings[at],
  }));

const noteColumns = (
  read: Read,
  columns: readonly Column[],
  { notes, choices }: { notes: Notes; choices: ListChoices },
): void => {
  const asked = new Set(read.columns.inputs.map(({ column }) => column));
  for (const [at, { heading, meaning, example, guessed }] of columns.entries()) {
    if (meaning !== "ignore" && guessed && read.block.heading?.[at])
      notes.guessed.push(
        remark(`The column “${heading}” is taken for ${MEANING_NAMES[meaning]}, by what stands below it.`, null, at),
      );
    else if (meaning !== "ignore")
      notes.understood.push(remark(`The column “${heading}” is read as: ${MEANING_NAMES[meaning]}.`, null, at));
    else if (read.columns.box === at)
      notes.understood.push(remark(`The column “${heading}” marks what comes by a DI box.`, null, at));
    else if (read.columns.prefix === at)
      notes.understood.push(remark(`The column “${heading}” names the box that the inputs count within.`, null, at));
    else if (example && !choices.meanings && !asked.has(at))
      notes.leftOut.push(
        remark(`The column “${heading}” has no known meaning and is left out. Choose one if it matters.`, null, at),
      );
  }
};

const blocksOf = (cells: Cells, around: ColumnAround): Blocks => {
  if (isOurs(cells.rows[0] ?? null)) return oursOf(cells);
  if (cells.by === "lines")
    return freeBlocks(
      cells.rows.map(([line = ""]) => line),
      around,
    );
  const parts = sideBySide(cells).map((part) => findBlocks(splitNumbered(part.cells), part.from));
  return {
    blocks: parts.flatMap(({ blocks }) => blocks),
    left: parts.flatMap(({ left }) => left),
    groups: parts.flatMap(({ groups }) => groups),
  };
};

/** A list that we wrote: a heading, and a row for each track. */
const oursOf = ({ rows: [heading = [], ...rows] }: Cells): Blocks => ({
  blocks: [
    {
      kind: "inputs",
      title: "",
      heading,
      headingRows: [1],
      rows: rows.flatMap((cells, at) =>
        cells.some(Boolean) ? [{ row: at + 2, cells, group: null, held: new Set<number>() }] : [],
      ),
      from: 0,
    },
  ],
  left: [],
  groups: [],
});

const outsideOf = (blocks: readonly Block[], around: ColumnAround): readonly OutsideBlock[] =>
  blocks.flatMap((block): readonly OutsideBlock[] => {
    if (block.kind === "inputs") return [];
    const { meanings } = findColumns(block.heading, block.rows, around);
    const name = ["source", "track", "player"]
      .map((meaning) => meanings.indexOf(meaning as Meaning))
      .find((at) => at >= 0);
    const texts = block.rows.map(({ cells }) => {
      const texts = cells.filter((cell) => /\p{L}{2}/u.test(cell));
      return (name !== undefined && cells[name]) || texts[0] || cells.filter(Boolean).join(" ");
    });
    return [{ kind: block.kind, title: block.title, names: texts, rows: block.rows.map(({ row }) => row) }];
  });

const BECAME: Readonly<Record<LeftRow["why"], SourceRow["became"]>> = {
  title: "left out",
  greeting: "left out",
  note: "left out",
  total: "left out",
  page: "left out",
  rule: "left out",
  "block title": "outside",
  "repeated heading": "heading",
};

interface Became {
  readonly cells: Cells;
  readonly blocks: Blocks;
  readonly rows: readonly ListRow[];
  readonly off: ReadonlySet<number>;
  readonly held: Reading["held"];
}

/** Each row of the file that has something in it, with what became of it. */
const sourceOf = ({ cells, blocks, rows, off, held }: Became): readonly SourceRow[] => {
  const says = new Map<number, Pick<SourceRow, "became" | "says">>();
  for (const { row, why } of blocks.left) says.set(row, { became: BECAME[why], says: why });
  for (const { row, name } of blocks.groups) says.set(row, { became: "group", says: `folder ${name}` });
  for (const block of blocks.blocks) {
    for (const row of block.headingRows) says.set(row, { became: "heading", says: "heading" });
    if (block.kind !== "inputs")
      for (const { row } of block.rows) if (!says.has(row)) says.set(row, { became: "outside", says: block.title });
  }
  for (const row of off) says.set(row, { became: "off", says: "switched off" });
  for (const { from } of rows) {
    const [first, ...others] = from;
    if (first !== undefined) says.set(first, { became: "track", says: "" });
    for (const row of others) says.set(row, { became: "joined", says: "joined above: one pair" });
  }
  return cells.rows.flatMap((row, at): readonly SourceRow[] => {
    if (!row.some(Boolean)) return [];
    const told = says.get(at + 1) ?? { became: "left out" as const, says: "nothing to record" };
    const above = held.get(at + 1);
    const whole = above ? row.map((cell, column) => above.get(column) ?? cell) : row;
    return [{ row: at + 1, cells: whole, held: [...(above?.keys() ?? [])], ...told }];
  });
};

const NO_NAMES =
  "No column says what is recorded. Name one Source, Instrument or Track in its heading row, or choose its meaning.";
const NO_ROWS = "There is a heading row and nothing below it. Add a row for each input and try again.";

/** The list without rows, for a person to say what its columns mean. */
const withoutRows = ({
  cells,
  blocks,
  columns,
  notes,
  off,
}: Omit<Became, "rows" | "held"> & { readonly columns: readonly Column[]; readonly notes: Notes }): InputList => ({
  columns,
  by: BY_WORDS[cells.by],
  rows: [],
  report: notes,
  questions: [],
  outside: [],
  source: sourceOf({ cells, blocks, rows: [], off, held: new Map() }),
  balance: balanceOf([], { read: 0, leftOut: 0 }),
});

const readAll = (cells: Cells, choices: ListChoices): ReadList => {
  const around = { people: new Set((choices.people ?? []).map(plain)) };
  const off = new Set(choices.off ?? []);
  const blocks = blocksOf(cells, around);
  const inputs = blocks.blocks.filter(({ kind }) => kind === "inputs");
  const notes: Notes = { understood: [], guessed: [], leftOut: [] };
  const lone = inputs.reduce((sum, block) => sum + block.rows.length, 0);
  if (lone === 0) return { ok: false, message: blocks.left.some(({ why }) => why === "note") ? NO_NAMES : NO_ROWS };
  const read = readingOf(
    inputs.map((block) => ({ ...block, rows: block.rows.filter(({ row }) => !off.has(row)) })),
    { by: cells.by, choices, around },
  );
  const [main] = read;
  if (!main) return { ok: false, message: NO_ROWS };
  const columns = cells.by === "lines" ? [] : columnsOf(main);
  if (cells.by === "lines")
    notes.guessed.push(remark("The list has no columns; number, name and the rest are taken from each line."));
  else if (!main.block.heading && !choices.meanings)
    notes.guessed.push(remark("There is no heading row; the columns are taken by what is in them."));
  noteLeft(blocks.left, notes);
  for (const { row, name } of blocks.groups)
    notes.guessed.push(remark(`Row ${row}: “${name}” stands alone and is taken as a folder.`, row, 0));
  noteColumns(main, columns, { notes, choices });
  if (read.every(({ meanings }) => !meanings.includes("source") && !meanings.includes("track")))
    return { ok: false, message: NO_NAMES, list: withoutRows({ cells, blocks, columns, notes, off }) };
  const signs: Reading["signs"] = [];
  const held: Reading["held"] = new Map();
  const signOf: Reading["signOf"] = (meaning, sign) =>
    (choices.answers?.[signQuestion(meaning, sign)] ?? usualSign(sign)) === "yes";
  const rows = read.flatMap(({ block, columns: found, meanings }) => {
    const literal = isOurs(block.heading);
    const reading: Reading = {
      columns: found,
      meanings,
      notes,
      literal,
      signOf,
      signs,
      held,
      plural: choices.plural ?? "pair",
      free: cells.by === "lines",
    };
    const own = readRows(block, reading);
    return literal ? own : joinSides(own, notes);
  });
  const outside = outsideOf(blocks.blocks, around);
  const source = sourceOf({ cells, blocks, rows, off, held });
  for (const { title, names } of outside)
    if (names.length)
      notes.leftOut.push(
        remark(
          `“${title}”: ${names.length} ${names.length === 1 ? "row is no input" : "rows are no inputs"} and left out.`,
        ),
      );
  if (rows.length === 0 && off.size === 0) return { ok: false, message: NO_ROWS };
  const marked = markSigns(rows, signs);
  const lines = rows.reduce((sum, row) => sum + row.sides.length, 0);
  notes.understood.unshift(remark(`${rows.length} tracks on ${lines} lines, ${BY_WORDS[cells.by]}.`));
  return {
    ok: true,
    list: {
      columns,
      by: BY_WORDS[cells.by],
      rows: marked,
      report: notes,
      questions: [
        proposeQuestion(rows, choices),
        inputQuestion(main.columns, choices),
        ...signQuestions(signs, choices),
        outsideQuestion(outside, choices),
      ].filter((question) => question !== null),
      outside,
      source,
      balance: balanceOf(rows, {
        read: new Set(rows.flatMap(({ from }) => from)).size,
        leftOut: source.filter(({ became }) => became === "left out" || became === "outside" || became === "off")
          .length,
      }),
    },
  };
};

/** Rows with a sign that is asked say so at its cell. */
const markSigns = (rows: readonly ListRow[], signs: Reading["signs"]): readonly ListRow[] => {
  if (!signs.length) return rows;
  const byRow = new Map<number, Reading["signs"][number][]>();
  for (const sign of signs) byRow.set(sign.row, [...(byRow.get(sign.row) ?? []), sign]);
  return rows.map((row) => {
    const own = row.from.flatMap((at) => byRow.get(at) ?? []);
    return own.length
      ? {
          ...row,
          marks: [
            ...row.marks,
            ...own.map(
              ({ meaning, sign }) =>
                ({
                  field: meaning,
                  outcome: "asked",
                  says: `“${sign}” is taken for ${usualSign(sign)}; say whether it is.`,
                }) as const,
            ),
          ],
        }
      : row;
  });
};

/** Reads the cells of a spreadsheet, or of a text that was split already. */
export const readCells = (cells: Cells, choices: ListChoices = {}): ReadList => {
  if (cells.rows.every((row) => row.every((cell) => !cell)))
    return {
      ok: false,
      message: "The file is empty. An input list has one row for each input: its number, what it is, the microphone.",
    };
  const filled = cells.rows.filter((row) => row.some(Boolean)).length;
  if (filled > MOST_ROWS + 32) return tooMany(filled);
  const read = readAll(cells, choices);
  return read.ok &&
    read.list.source.filter(({ became }) => became === "track" || became === "joined").length > MOST_ROWS
    ? tooMany(read.list.balance.rows)
    : read;
};

const tooMany = (count: number): ReadList => ({
  ok: false,
  message: `The list has ${count} rows; up to ${MOST_ROWS} are read. Split it, or send only the rows that are recorded.`,
});

/**
 * Reads an input list in stages: text, lines, blocks, columns, rows, values. `choices` say what a person has chosen of
 * it already. Everything guessed and everything left out is told. Never throws; what is no list at all is answered with
 * what to do.
 */
export const readInputList = (text: string, choices: ListChoices = {}): ReadList => {
  const cells = splitTable(text, MOST_ROWS);
  if ("excess" in cells) return { ok: false, message: cells.excess };
  const read = readCells(cells, choices);
  if (read.ok || choices.meanings || cells.by === "lines") return read;
  // What makes no table may be lines with commas in them.
  const lines = readTyped(text.replace(/^\uFEFF/, ""), choices);
  return lines.ok && lines.list.rows.filter(({ sides }) => sides[0].input !== null).length > 1 ? lines : read;
};

/** What somebody types into a field of names: each line a name, or several with commas between, and never a table. */
export const readTyped = (text: string, choices: ListChoices = {}): ReadList =>
  readCells({ by: "lines", rows: text.split(/\r\n?|\n/).map((line) => [line.trim()]), held: new Set() }, choices);
