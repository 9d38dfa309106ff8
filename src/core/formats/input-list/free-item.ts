import { plain } from "../../model/families";
import { guessFamily } from "../../model/guess-family";
import { blankOr, dropEnd, dropStart } from "../../units/ends";
import { headingWords } from "./heading-words";
import type { Meaning } from "./meanings";
import { isMicrophone, nameAndMicrophone } from "./microphone-words";
import { namedLines } from "./names";

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
  /^(?:(?:ch|chan|channel|in|input|kanal|kan|eingang|voie|canal|canale|line|mic|mike|mikro|nr|no)\.? ?(?=\d)|#)?(\p{L}{0,2}\d{1,3}(?: ?(?:-|–|\/|\+|&|to |bis |and |und |u\. )? ?\p{L}{0,2}\d{1,3}(?![\p{L}\d]))?(?: ?\((?:st|stereo)\.?\))?)(?: ?[.):=]{1,2} ?| ?[-–—] | )(?=[^\s\d.,;:)])/iu;

/** A line without its bullet, blanks drawn together, dotted leaders turned to dashes. */
export const bareLine = (line: string): string =>
  line
    .replace(/\s+/g, " ")
    .replace(/^ ?[-*•–·►▪] ?(?=\S)/, "")
    .replace(/\.{3,}|…/g, " - ")
    .trim();

/** The number a line begins with and what follows; null when it has none. Letters count where a digit follows them. */
export const numberOf = (text: string): { readonly number: string; readonly rest: string } | null => {
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

export interface Around {
  /** People of the studio, plain. */
  readonly people: ReadonlySet<string>;
}

/** Capitalised words only, one to three, none of them known: somebody's name, most likely. */
const isPerson = (text: string, { people }: Around): boolean => {
  if (people.has(plain(text))) return true;
  if (!/^\p{Lu}[\p{Ll}’'-]+(?: \p{Lu}[\p{L}’'.-]*){0,2}$/u.test(text)) return false;
  // First names can be words of ours ("Tom"); of several words the last decides.
  const last = text.split(" ").at(-1) ?? "";
  return (
    guessFamily(last) === null && headingWords(last).told.length === 0 && (text !== last || guessFamily(text) === null)
  );
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
  const ended = dropEnd(rest, blankOr(",&+/"));
  const begun = dropStart(ended, blankOr("-–+,&/"));
  return (/^\p{L}/u.test(begun) ? begun : ended).trim();
};

/** A microphone that a piece says: what is said of a box goes before the box of the name ("Bass DI (act. DI)"). */
const takeMicrophone = (text: string, cells: FreeCells): void => {
  if (isMicrophone(cells.microphone) && plain(text).includes(plain(cells.microphone))) cells.microphone = "";
  add(cells, "microphone", text);
};

/** A piece with a microphone at its beginning or its end; answers what is left of it, null when it has none. */
const withoutMicrophone = (text: string, cells: FreeCells): string | null => {
  if (cells.microphone) return null;
  const front = frontMicrophone(text);
  const tail = front ? null : nameAndMicrophone(text);
  if (!front && (!tail || tail.name === text)) return null;
  add(cells, "microphone", front?.microphone ?? tail?.microphone ?? "");
  return front?.rest ?? tail?.name ?? "";
};

/** A piece behind the name: microphone, polarity, pad, who plays, or a note. */
const takePiece = (piece: string, cells: FreeCells, around: Around): void => {
  const rest = peel(piece, cells);
  if (POLARITY.test(rest)) cells.polarity = "yes";
  if (PAD.test(rest)) cells.pad = "yes";
  if (
    !rest
      .replace(POLARITY, "")
      .replace(PAD, "")
      .replace(/[-–—.]/g, "")
      .trim()
  )
    return;
  const by = PLAYED_BY.exec(rest)?.[1];
  const left = by || isMicrophone(rest) || isPerson(rest, around) ? null : withoutMicrophone(rest, cells);
  if (/^(?:stereo )?(?:pair|paar|paire|par|coppia)$/i.test(rest)) cells.format = "stereo";
  else if (isMicrophone(rest)) takeMicrophone(rest, cells);
  else if (by ?? isPerson(rest, around)) add(cells, "player", by ?? rest);
  else if (left !== null) takePiece(left, cells, around);
  else add(cells, "note", rest);
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
    PART_OF_NAME.test(inner.trim()) ? whole.replace(/[,;]/g, " ") : `, ${inner}, `,
  );
  for (const part of marked.split(/, ?|; ?| [-–—] |[-–—] (?=\p{L})| ?(?:→|->|=>|\|) ?|: (?=\S)|\t/u)) {
    const piece = part.trim();
    if (piece) pieces.push(piece);
  }
  return pieces;
};

const emptyCells = (): FreeCells => Object.fromEntries(FREE_MEANINGS.map((meaning) => [meaning, ""])) as FreeCells;

/** One line of a list without columns, or one thing of several in a line, as cells. */
export const readItem = (number: string, text: string, around: Around): FreeCells => {
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
  // In a line that lost its columns a lone x is a mark; what it marks is a switch, most likely 48 V.
  if (/\S x$/i.test(cells.microphone)) {
    cells.microphone = cells.microphone.slice(0, -2).trim();
    cells.phantom = cells.phantom || "x";
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
export const thingsIn = (text: string, around: Around): readonly string[] => {
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
