import { guessFamily } from "../../model/guess-family";
import {
  type Block,
  type Blocks,
  type BodyRow,
  bareTitle,
  isGreeting,
  isProse,
  isSentence,
  type LeftRow,
} from "./blocks";
import { type Around, bareLine, numberOf, readItem, thingsIn } from "./free-item";
import { headingWords } from "./heading-words";
import { isMicrophone } from "./microphone-words";
import { isPlural } from "./names";
import { isInputTitle, isOutputName, isPageFoot, isRule, isTotal, outsideTitle } from "./outside-words";

/** Things of one numbered line that bring numbers of their own: "1 Kick, 2 Snare, 3 Hat". */
const numberedThings = (text: string): readonly string[] =>
  text.split(/[,;] ?(?=\p{L}?\d{1,3}[.):]? \p{L}{2})/u).map((part) => part.trim());

interface Line {
  readonly row: number;
  readonly text: string;
  readonly number: ReturnType<typeof numberOf>;
}

/** Whether most lines begin with a number, and the numbers go up: then they are inputs. */
const areNumbered = (lines: readonly Line[]): boolean => {
  const numbered = lines.filter((line) => line.number);
  if (!numbered.length || numbered.length < lines.length * 0.4) return false;
  const values = numbered.map((line) => Number(/\d+/.exec(line.number?.number ?? "")?.[0] ?? 0));
  const up = values.filter((value, at) => at === 0 || value > (values[at - 1] ?? 0)).length;
  const [only] = numbered;
  if (only && numbered.length === 1 && /^\d{1,2}$/.test(only.number?.number ?? ""))
    return lines.length > 1 || !isPlural(only.number?.rest ?? "");
  if (numbered.length === 1) return true;
  return up >= numbered.length * 0.6;
};

const HEADING_WORDS = 3;
const isHeadingLine = (text: string): boolean => {
  const { told, known } = headingWords(text);
  return told.length >= HEADING_WORDS && known >= 0.7 && !/\d{1,2}(?!\d)(?<!48)/.test(text.replace(/48/g, ""));
};

/** The walk over the lines of a text: what was found, and the block that is open. */
interface Walk {
  readonly lines: readonly Line[];
  readonly numbered: boolean;
  readonly around: Around;
  readonly left: LeftRow[];
  readonly groups: { row: number; name: string }[];
  readonly blocks: Block[];
  kind: Block["kind"];
  title: string;
  rows: BodyRow[];
  group: string | null;
  /** Thanks and names come at the end: nothing without a number counts any more. */
  over: boolean;
}

const begun = ({ rows, blocks }: Walk): boolean => rows.length > 0 || blocks.length > 0;

const close = (walk: Walk, kind: Block["kind"], title: string): void => {
  const { rows } = walk;
  if (rows.length)
    walk.blocks.push({ kind: walk.kind, title: walk.title, heading: null, headingRows: [], rows, from: 0 });
  Object.assign(walk, { kind, title, rows: [], group: null });
};

const put = (walk: Walk, row: number, [number, text]: readonly [string, string]): void => {
  if (/\p{L}/u.test(text))
    walk.rows.push({
      row,
      cells: Object.values(readItem(number, text, walk.around)),
      group: walk.group,
      held: NONE_HELD,
    });
  else walk.left.push({ row, why: "note", text: `${number} ${text}`.trim() });
};

const leave = ({ left }: Walk, { row, text }: Line, why: LeftRow["why"]): void => void left.push({ row, why, text });

/** What takes a line; answers whether it did. */
type Rule = (walk: Walk, line: Line, at: number) => boolean;

const leaving =
  (why: LeftRow["why"], test: (line: Line) => boolean): Rule =>
  (walk, line) => {
    if (!test(line)) return false;
    leave(walk, line, why);
    return true;
  };

const outsideRule: Rule = (walk, line) => {
  const outside = line.number ? null : outsideTitle(bareTitle(line.text));
  if (!outside) return false;
  leave(walk, line, "block title");
  close(walk, outside, bareTitle(line.text));
  return true;
};

const inputsRule: Rule = (walk, line) => {
  if (line.number || !isInputTitle(bareTitle(line.text))) return false;
  leave(walk, line, "title");
  if (walk.kind !== "inputs") close(walk, "inputs", bareTitle(line.text));
  return true;
};

const headingRule: Rule = (walk, line) => {
  if (!isHeadingLine(line.text)) return false;
  leave(walk, line, begun(walk) ? "repeated heading" : "title");
  return true;
};

const numberedRule: Rule = (walk, { row, text, number }) => {
  if (!walk.numbered || !number) return false;
  walk.over = false;
  for (const part of numberedThings(text)) {
    const own = numberOf(part);
    put(walk, row, own ? [own.number, own.rest] : ["", part]);
  }
  return true;
};

const proseRule: Rule = (walk, line) => {
  const { text } = line;
  const listing = text.includes(",") && !isGreeting(text) && !isSentence(text);
  if (!isProse(text) || listing) return false;
  leave(walk, line, "greeting");
  if (isGreeting(text) && begun(walk)) walk.over = true;
  return true;
};

const overRule: Rule = (walk, line) => {
  if (walk.over) leave(walk, line, "greeting");
  return walk.over;
};

const groupRule: Rule = (walk, line, at) => {
  const { text, row } = line;
  const next = walk.lines[at + 1];
  const follows = next !== undefined && (!walk.numbered || next.number !== null);
  if (!text.endsWith(":") && !(isGroupLine(text) && follows)) return false;
  const name = bareTitle(text);
  const family = guessFamily(name);
  if (walk.kind !== "inputs" && family) close(walk, "inputs", "");
  if (!begun(walk) && !family && !text.endsWith(":")) leave(walk, line, "title");
  else if (!begun(walk) && !family && name.split(" ").length > 2) leave(walk, line, "greeting");
  else {
    walk.group = name;
    walk.groups.push({ row, name });
  }
  return true;
};

const NAMED = /^([^:]{2,40}): (.{2,})$/;

/** "Drums: kick, snare": things with the name of their group before them. */
const namedRule: Rule = (walk, { row, text }) => {
  const [, name = "", list = ""] = NAMED.exec(text) ?? [];
  if (!name || !(guessFamily(name) || list.includes(","))) return false;
  const was = walk.group;
  const outside = outsideTitle(name);
  if (outside) close(walk, outside, name);
  else walk.group = name;
  putThings(walk, thingsIn(list, walk.around), { row, within: name });
  walk.group = was;
  return true;
};

/** The first that takes a line keeps it. */
const RULES: readonly Rule[] = [
  leaving("rule", ({ text }) => isRule([text])),
  outsideRule,
  inputsRule,
  leaving("total", ({ text }) => isTotal(text)),
  leaving("page", ({ text }) => isPageFoot(text)),
  headingRule,
  numberedRule,
  proseRule,
  overRule,
  groupRule,
  (walk, { row, text }) => {
    if (walk.kind !== "inputs") put(walk, row, ["", text]);
    return walk.kind !== "inputs";
  },
  (walk, line) => {
    if (walk.numbered) leave(walk, line, begun(walk) ? "note" : "title");
    return walk.numbered;
  },
  namedRule,
  (walk, { row, text }) => {
    putThings(walk, thingsIn(text, walk.around), { row, within: "" });
    return true;
  },
];

/**
 * The blocks of a text without columns: each line a number, a name and a tail, or several names with commas between.
 * What greets, ends or titles the list is left out and told. Linear in the text.
 */
export const freeBlocks = (texts: readonly string[], around: Around): Blocks => {
  const lines = texts.flatMap((text, at): readonly Line[] => {
    const one = bareLine(text);
    return one ? [{ row: at + 1, text: one, number: numberOf(one) }] : [];
  });
  const walk: Walk = {
    lines,
    numbered: areNumbered(lines),
    around,
    left: [],
    groups: [],
    blocks: [],
    kind: "inputs",
    title: "",
    rows: [],
    group: null,
    over: false,
  };
  for (const [at, line] of lines.entries()) RULES.some((rule) => rule(walk, line, at));
  close(walk, "inputs", "");
  return { blocks: walk.blocks.flatMap(listenedLast), left: walk.left, groups: walk.groups };
};

/** "2 toms" among things without numbers says how many; where all bring numbers that go up, they are inputs. */
const putThings = (
  walk: Walk,
  things: readonly string[],
  { row, within }: { readonly row: number; readonly within: string },
): void => {
  const own = things.map(numberOf);
  const values = own.map((one) => Number(/\d+/.exec(one?.number ?? "")?.[0] ?? 0));
  const inputs = own.every((one, at) => one && (at === 0 || (values[at] ?? 0) > (values[at - 1] ?? 0)));
  for (const [at, thing] of things.entries()) {
    const number = own[at];
    const counts = things.length === 1 && number !== null && number !== undefined && isPlural(number.rest);
    if (number && inputs && !(counts && /^\d+$/.test(number.number))) put(walk, row, [number.number, number.rest]);
    else if (number && /^\d{1,2}$/.test(number.number))
      put(walk, row, ["", Number(number.number) > 1 ? `${number.number}x ${number.rest}` : number.rest]);
    // "Bass: DI" is the DI of the bass.
    else put(walk, row, ["", within && isMicrophone(thing) ? `${within} ${thing}` : thing]);
  }
};

const NONE_HELD: ReadonlySet<number> = new Set();

/** "DRUMS", "Drums": a line that is only the name of a group. */
const isGroupLine = (text: string): boolean =>
  /^[^\d,;()]{2,30}$/.test(text) &&
  text.split(" ").length <= 3 &&
  ((text === text.toUpperCase() && text.length > 3) || /^[=\-–—*#>[]/.test(text));

/** Rows at the end that are called as outputs are, and count from one again. */
const listenedLast = (block: Block): readonly Block[] => {
  if (block.kind !== "inputs") return [block];
  let first = block.rows.length;
  while (first > 0 && isOutputName(block.rows[first - 1]?.cells[1] ?? "")) first--;
  const rest = block.rows.slice(first);
  const before = Number(block.rows[first - 1]?.cells[0]?.match(/\d+/)?.[0] ?? 0);
  const begins = Number(rest[0]?.cells[0]?.match(/\d+/)?.[0] ?? 0);
  if (!rest.length || first === 0 || (begins > before && rest[0]?.cells[0])) return [block];
  return [
    { ...block, rows: block.rows.slice(0, first) },
    { ...block, kind: "outputs", title: "Outputs", rows: rest },
  ];
};
