import { plain } from "../../model/families";
import { guessFamily } from "../../model/guess-family";
import { type Block, type Blocks, type BodyRow, bareTitle, isGreeting, isProse, isSentence, type LeftRow } from "./blocks";
import { headingWords } from "./heading-words";
import type { Meaning } from "./meanings";
import { isMicrophone, nameAndMicrophone } from "./microphone-words";
import { isPlural, namedLines } from "./names";
import { isInputTitle, isOutputName, isPageFoot, isRule, isTotal, type Outside, outsideTitle } from "./outside-words";

/** What is picked from a line without columns, in the order of its cells. */
export const FREE_MEANINGS = [
  "input",
  "source",
  "microphone",
  "phantom",
  "format",
  "polarity",
  "pad",
  "player",
  "note",
] as const satisfies readonly Meaning[];

type FreeCells = Record<(typeof FREE_MEANINGS)[number], string>;

const NUMBER =
  /^(?:(?:ch|chan|channel|in|input|kanal|kan|eingang|voie|canal|line|nr|no)\.? ?(?=\d)|#)?(\p{L}{0,2}\d{1,3}(?: ?(?:-|–|\/|\+|&|to |bis |and |und |u\. )? ?\p{L}{0,2}\d{1,3}(?![\p{L}\d]))?(?: ?\((?:st|stereo)\.?\))?)(?: ?[.):=]{1,2} ?| ?[-–—] | )(?=[^\s\d.,;:)])/iu;

/** A line without its bullet, blanks drawn together, dotted leaders turned to dashes. */
const bare = (line: string): string =>
  line
    .replace(/\s+/g, " ")
    .replace(/^ ?[-*•–·►▪] ?(?=\S)/, "")
    .replace(/\.{3,}|…/g, " - ")
    .trim();

/** The number a line begins with and what follows; null when it has none. Letters count where a digit follows them. */
const numberOf = (text: string): { readonly number: string; readonly rest: string } | null => {
  const found = NUMBER.exec(text);
  return found ? { number: (found[1] ?? "").trim(), rest: text.slice(found[0].length).trim() } : null;
};

const STEREO = /(?:^|[\s([])(stereo|st|estéreo|estereo|stéréo)\.?(?=$|[\s)\],])/i;
const MONO = /(?:^|[\s([])(mono)(?=$|[\s)\],])/i;
const NO_PHANTOM =
  /\b(?:no|ohne|sans|sin|senza|kein|keine) ?(?:\+? ?48 ?v?|p48|phantom|fantôme|fantasma)(?![\p{L}\d])/iu;
const PHANTOM = /(?:\+ ?48 ?v?|\b48 ?v(?:olts?)?|\bp ?48|\bphantom(?: power)?|\bfantôme|\bfantasma)(?![\p{L}\d])/iu;
export const POLARITY =
  /(?:\b(?:flip|reverse|invert|turn)(?:ed)? (?:the )?(?:phase|polarity)|\b(?:phase|polarity|pol\.?|polung|polarität|polarité|polaridad|polarità|fase)[ -]?(?:flip(?:ped)?|inv(?:ert(?:ed|ito|ido)?)?\.?|rev(?:erse[d]?)?\.?|reverse|drehen|gedreht|inversée?|invertida|invertita|switch)?!?|[Øø∅⌀](?: ?(?:drehen|inv|rev|flip))?)(?![\p{L}])/iu;
export const PAD = /(?:\bpad(?: ?[-−–]? ?\d{1,2} ?db)?|[-−–] ?\d{2} ?db(?: pad)?)(?![\p{L}])/iu;
/** Brackets that belong to the name: they tell which of several it is. */
const PART_OF_NAME =
  /^(?:in|out|inside|outside|top|bottom|bot|btm|up|down|under|upper|lower|over|l|r|left|right|amp|mic|\d{1,2}|hi|lo|high|low|[a-d]|x ?\d{1,2}|\d{1,2} ?x|\d{1,2} ?(?:mics?|mikros?|micros?|microfoni|micrófonos?|lines?))$/i;
const PLAYED_BY = /^(?:by|played by|player:?|gespielt von|spielt|joué par|par|por|suona) (.{2,60})$/i;

interface Around {
  /** People of the studio, plain. */
  readonly people: ReadonlySet<string>;
}

/** Capitalised words only, one to three, none of them known: somebody's name, most likely. */
const isPerson = (text: string, { people }: Around): boolean => {
  if (people.has(plain(text))) return true;
  if (!/^\p{Lu}[\p{Ll}’'-]+(?: \p{Lu}[\p{L}’'.-]*){0,2}$/u.test(text)) return false;
  // First names can be words of ours ("Tom"); of several words the last decides.
  const last = text.split(" ").at(-1) ?? "";
  return guessFamily(last) === null && headingWords(last).told.length === 0 && (text !== last || guessFamily(text) === null);
};

const add = (cells: FreeCells, meaning: keyof FreeCells, text: string): void => {
  if (text) cells[meaning] = cells[meaning] ? `${cells[meaning]}, ${text}` : text;
};

/** Takes from a piece of a line what is said in set words; answers with what is left of it. */
const peel = (piece: string, cells: FreeCells): string => {
  let rest = piece;
  const take = (pattern: RegExp, meaning: keyof FreeCells, value: string): void => {
    const found = pattern.exec(rest);
    if (!found) return;
    rest = `${rest.slice(0, found.index)} ${rest.slice(found.index + found[0].length)}`.replace(/ {2,}/g, " ").trim();
    cells[meaning] = value;
  };
  take(NO_PHANTOM, "phantom", "no");
  take(PHANTOM, "phantom", cells.phantom || "yes");
  take(STEREO, "format", "stereo");
  take(MONO, "format", cells.format || "mono");
  return rest.replace(/^[-–+,&/\s]+(?=\p{L})|[\s,&+/]+$/gu, "").trim();
};

/** A piece behind the name: microphone, polarity, pad, who plays, or a note. */
const takePiece = (piece: string, cells: FreeCells, around: Around): void => {
  const rest = peel(piece, cells);
  if (!rest || /^[-–—.]+$/.test(rest)) return;
  if (POLARITY.test(rest)) cells.polarity = "yes";
  if (PAD.test(rest)) cells.pad = "yes";
  const said = rest.replace(POLARITY, "").replace(PAD, "").trim();
  if (!said) return;
  if (/^(?:stereo )?(?:pair|paar|paire|par|coppia)$/i.test(rest)) {
    cells.format = "stereo";
    return;
  }
  const by = PLAYED_BY.exec(rest)?.[1];
  if (isMicrophone(rest)) {
    // "Bass DI (act. DI)": what is said of the box goes before the box of the name.
    if (isMicrophone(cells.microphone) && plain(rest).includes(plain(cells.microphone))) cells.microphone = "";
    return add(cells, "microphone", rest);
  }
  if (by) return add(cells, "player", by);
  if (isPerson(rest, around)) return add(cells, "player", rest);
  const tail = nameAndMicrophone(rest);
  const front = frontMicrophone(rest);
  if (front && !cells.microphone) {
    add(cells, "microphone", front.microphone);
    return takePiece(front.rest, cells, around);
  }
  if (tail && tail.name !== rest && !cells.microphone) {
    add(cells, "microphone", tail.microphone);
    return takePiece(tail.name, cells, around);
  }
  add(cells, "note", rest);
};

/** A microphone at the beginning of a piece with something behind it: "dyn inside the shell". */
const frontMicrophone = (text: string): { readonly microphone: string; readonly rest: string } | null => {
  const parts = text.split(" ");
  for (let to = Math.min(parts.length - 1, 6); to > 0; to--) {
    const microphone = parts.slice(0, to).join(" ");
    if (isMicrophone(microphone)) return { microphone, rest: parts.slice(to).join(" ") };
  }
  return null;
};

/** A microphone in the middle of a line that lost its columns: what stands before it is the name. */
const middleMicrophone = (
  text: string,
): { readonly name: string; readonly microphone: string; readonly rest: string } | null => {
  const parts = text.split(" ");
  for (let from = 1; from < Math.min(parts.length, 8); from++) {
    const front = frontMicrophone(`${parts.slice(from).join(" ")} .`);
    if (!front || /^\d/.test(front.microphone)) continue;
    const rest = front.rest.replace(/ ?\.$/, "");
    const name = parts.slice(0, from).join(" ");
    const both = nameAndMicrophone(`${name} ${front.microphone}`);
    return { name: both?.name ?? name, microphone: both?.microphone ?? front.microphone, rest };
  }
  return null;
};

/** The pieces of a line: what commas, dashes, arrows and brackets part; brackets that belong to a name stay with it. */
const piecesOf = (text: string): readonly string[] => {
  const pieces: string[] = [];
  const marked = text.replace(/[([]([^()[\]]{0,200})[)\]]/g, (whole, inner: string) =>
    PART_OF_NAME.test(inner.trim()) ? whole.replace(/[,;]/g, " ") : `\u0001${inner}\u0001`,
  );
  for (const part of marked.split(/\u0001|, ?|; ?| [-–—] |[-–—] (?=\p{L})| ?(?:→|->|=>|\|) ?|: (?=\S)|\t/u)) {
    const piece = part.trim();
    if (piece) pieces.push(piece);
  }
  return pieces;
};

const emptyCells = (): FreeCells => Object.fromEntries(FREE_MEANINGS.map((meaning) => [meaning, ""])) as FreeCells;

/** One line of a list without columns, or one thing of several in a line, as cells. */
const readItem = (number: string, text: string, around: Around): FreeCells => {
  const cells = emptyCells();
  cells.input = number;
  const [first = "", ...more] = piecesOf(text);
  let name = peel(first, cells);
  if (POLARITY.test(name) && name.replace(POLARITY, "").trim()) {
    cells.polarity = "yes";
    name = name.replace(POLARITY, "").replace(/ {2,}/g, " ").trim();
  }
  const pad = PAD.exec(name);
  if (pad && pad.index > 1) {
    cells.pad = "yes";
    name = name.replace(PAD, "").trim();
  }
  const several = namedLines(name).kind === "parts";
  const tail = several ? null : (nameAndMicrophone(name) ?? middleMicrophone(name));
  if (tail) {
    name = tail.name;
    cells.microphone = tail.microphone;
    if ("rest" in tail) takePiece(String(tail.rest), cells, around);
  }
  cells.source = name || first;
  for (const piece of more) takePiece(piece, cells, around);
  if (!cells.source && cells.microphone) cells.source = cells.microphone;
  return cells;
};

/** Whether a piece says something of what stands before it, and is no thing of its own. */
const saysMore = (piece: string, around: Around): boolean => {
  const cells = emptyCells();
  const rest = peel(piece.replace(/^[([]|[)\]]$/g, ""), cells);
  return (
    !rest ||
    isMicrophone(rest) ||
    /^\d{1,2}$/.test(rest) ||
    around.people.has(plain(rest)) ||
    (POLARITY.test(rest) && !rest.replace(POLARITY, "").trim()) ||
    (PAD.test(rest) && !rest.replace(PAD, "").trim())
  );
};

/** The things that a line without a number names, parted by commas: "Kick in, Kick out, Sn T/B". */
const thingsIn = (text: string, around: Around): readonly string[] => {
  const parts = text.split(/[,;](?![^(]{0,100}\))/).map((part) => part.trim());
  const things: string[] = [];
  for (const part of parts) {
    if (!part) continue;
    const last = things.length - 1;
    if (last >= 0 && saysMore(part, around))
      things[last] = /^\d{1,2}$/.test(part) ? `${things[last]}/${part}` : `${things[last]}, ${part}`;
    else things.push(part);
  }
  return things;
};

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
  return numbered.length === 1 || up >= numbered.length * 0.6;
};

const HEADING_WORDS = 3;
const isHeadingLine = (text: string): boolean => {
  const { told, known } = headingWords(text);
  return told.length >= HEADING_WORDS && known >= 0.7 && !/\d{1,2}(?!\d)(?<!48)/.test(text.replace(/48/g, ""));
};

/**
 * The blocks of a text without columns: each line a number, a name and a tail, or several names with commas between.
 * What greets, ends or titles the list is left out and told. Linear in the text.
 */
export const freeBlocks = (texts: readonly string[], around: Around): Blocks => {
  const lines = texts.flatMap((text, at): readonly Line[] => {
    const one = bare(text);
    return one ? [{ row: at + 1, text: one, number: numberOf(one) }] : [];
  });
  const numbered = areNumbered(lines);
  const left: LeftRow[] = [];
  const groups: { row: number; name: string }[] = [];
  const blocks: Block[] = [];
  let kind: Block["kind"] = "inputs";
  let title = "";
  let rows: BodyRow[] = [];
  let group: string | null = null;
  let over = false;
  const begun = (): boolean => rows.length > 0 || blocks.length > 0;
  const close = (next: Block["kind"], called: string): void => {
    if (rows.length) blocks.push({ kind, title, heading: null, headingRows: [], rows, from: 0 });
    [kind, title, rows, group] = [next, called, [], null];
  };
  const put = (row: number, number: string, text: string): void => {
    if (/\p{L}/u.test(text))
      rows.push({ row, cells: Object.values(readItem(number, text, around)), group, held: NONE_HELD });
    else left.push({ row, why: "note", text: `${number} ${text}`.trim() });
  };
  const leave = (line: Line, why: LeftRow["why"]): void => void left.push({ row: line.row, why, text: line.text });
  for (const [at, line] of lines.entries()) {
    const { text, row } = line;
    const titled = bareTitle(text);
    const outside: Outside | null = line.number ? null : outsideTitle(titled);
    const named = /^([^:]{2,40}): (.{2,})$/.exec(text);
    if (isRule([text])) leave(line, "rule");
    else if (outside) {
      leave(line, "block title");
      close(outside, titled);
    } else if (!line.number && isInputTitle(titled)) {
      leave(line, "title");
      if (kind !== "inputs") close("inputs", titled);
    } else if (isTotal(text)) leave(line, "total");
    else if (isPageFoot(text)) leave(line, "page");
    else if (isHeadingLine(text)) leave(line, begun() ? "repeated heading" : "title");
    else if (numbered && line.number) {
      over = false;
      for (const part of numberedThings(text)) {
        const own = numberOf(part);
        if (own) put(row, own.number, own.rest);
        else put(row, "", part);
      }
    } else if (isProse(text) && !(text.includes(",") && !isGreeting(text) && !isSentence(text))) {
      leave(line, "greeting");
      if (isGreeting(text) && begun()) over = true;
    } else if (over) leave(line, "greeting");
    else if (
      /:$/.test(text) ||
      (isGroupLine(text) && lines[at + 1] !== undefined && (numbered ? lines[at + 1]?.number : true))
    ) {
      if (kind !== "inputs" && guessFamily(titled)) close("inputs", "");
      if (!begun() && !guessFamily(titled) && !/:$/.test(text)) leave(line, "title");
      else if (!begun() && /:$/.test(text) && titled.split(" ").length > 2 && !guessFamily(titled))
        leave(line, "greeting");
      else {
        group = titled;
        groups.push({ row, name: titled });
      }
    } else if (kind !== "inputs") put(row, "", text);
    else if (numbered) leave(line, begun() ? "note" : "title");
    else if (named && (guessFamily(named[1] ?? "") || named[2]?.includes(","))) {
      const was: string | null = group;
      if (outsideTitle(named[1] ?? "")) close(outsideTitle(named[1] ?? "") ?? "other", named[1] ?? "");
      else group = named[1] ?? null;
      putThings(thingsIn(named[2] ?? "", around), { row, within: named[1] ?? "", put });
      group = was;
    } else putThings(thingsIn(text, around), { row, within: "", put });
  }
  close("inputs", "");
  return { blocks: blocks.flatMap(listenedLast), left, groups };
};

/** "2 toms" among things without numbers says how many; where all bring numbers that go up, they are inputs. */
const putThings = (
  things: readonly string[],
  { row, within, put }: { readonly row: number; readonly within: string; readonly put: (row: number, number: string, text: string) => void },
): void => {
  const own = things.map(numberOf);
  const values = own.map((one) => Number(/\d+/.exec(one?.number ?? "")?.[0] ?? 0));
  const inputs = own.every((one, at) => one && (at === 0 || (values[at] ?? 0) > (values[at - 1] ?? 0)));
  for (const [at, thing] of things.entries()) {
    const number = own[at];
    if (number && inputs && !(things.length === 1 && isPlural(number.rest))) put(row, number.number, number.rest);
    else if (number && /^\d{1,2}$/.test(number.number)) put(row, "", Number(number.number) > 1 ? `${number.number}x ${number.rest}` : number.rest);
    // "Bass: DI" is the DI of the bass.
    else put(row, "", within && isMicrophone(thing) ? `${within} ${thing}` : thing);
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
