import { plain } from "../../model/families";

export const MEANINGS = [
  "input",
  "track",
  "source",
  "microphone",
  "phantom",
  "pad",
  "polarity",
  "gain",
  "format",
  "player",
  "room",
  "folder",
  "colour",
  "icon",
  "position",
  "note",
  "ignore",
] as const;
export type Meaning = (typeof MEANINGS)[number];

export const MEANING_NAMES: Readonly<Record<Meaning, string>> = {
  input: "Input",
  track: "Track name",
  source: "Source",
  microphone: "Microphone or box",
  phantom: "Phantom",
  pad: "Pad",
  polarity: "Polarity",
  gain: "Gain in dB",
  format: "Mono or stereo",
  player: "Player",
  room: "Room",
  folder: "Folder",
  colour: "Colour",
  icon: "Icon",
  position: "Stand or position",
  note: "Note",
  ignore: "Leave out",
};

/** The usual words over a column, in English, German and French, without accents. */
const HEADINGS: Readonly<Record<Exclude<Meaning, "ignore">, readonly string[]>> = {
  input: [
    "input",
    "inputs",
    "in",
    "ch",
    "chan",
    "channel",
    "no",
    "nr",
    "number",
    "#",
    "input no",
    "input number",
    "channel number",
    "kanal",
    "eingang",
    "kanalnummer",
    "entree",
    "canal",
    "voie",
    "n",
  ],
  track: ["track", "track name", "spur", "spurname", "piste", "nom de piste"],
  source: ["source", "instrument", "name", "what", "sound source", "quelle", "bezeichnung", "signal", "stimme", "nom", "description"],
  microphone: [
    "microphone",
    "mic",
    "mike",
    "mics",
    "mic di",
    "mic or di",
    "microphone or box",
    "microphone di",
    "mikrofon",
    "mikro",
    "mikrofon di",
    "micro",
    "micros",
    "micro di",
    "di",
  ],
  phantom: [
    "phantom",
    "phantom power",
    "48v",
    "48 v",
    "+48",
    "+48v",
    "+48 v",
    "48",
    "p48",
    "phantomspeisung",
    "speisung",
    "alimentation fantome",
    "alim fantome",
    "alimentation",
    "fantome",
  ],
  pad: ["pad", "pads", "attenuator", "attenuation", "dampfung", "vordampfung", "attenuateur"],
  polarity: ["polarity", "phase", "polarity inverted", "polaritat", "polung", "polarite"],
  gain: ["gain", "gain db", "gain in db", "preamp gain", "mic gain", "verstarkung", "vorverstarkung", "gain preampli"],
  format: ["format", "mono stereo", "layout", "width", "stereo"],
  player: ["player", "musician", "performer", "who", "artist", "musiker", "musikerin", "spieler", "musicien", "interprete"],
  room: ["room", "raum", "aufnahmeraum", "salle", "piece"],
  folder: ["folder", "group", "family", "section", "ordner", "gruppe", "familie", "dossier", "groupe", "famille"],
  colour: ["colour", "color", "colour", "farbe", "couleur"],
  icon: ["icon", "symbol", "icone"],
  position: ["position", "stand", "placement", "stativ", "aufstellung", "pied"],
  note: ["note", "notes", "remark", "remarks", "comment", "comments", "bemerkung", "bemerkungen", "anmerkung", "notiz", "kommentar", "remarque", "remarques", "commentaire"],
};

const headingMeaning = (cell: string): Meaning | null => {
  const word = plain(cell);
  return MEANINGS.find((meaning) => meaning !== "ignore" && HEADINGS[meaning].includes(word)) ?? null;
};

/** Rows that may stand before the heading (a title, a date). */
const SEARCHED_ROWS = 15;

/** Which row is the heading: among the first rows the one in which most cells are known words, two at least; null when there is none. */
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

/** Without a heading: the column of numbers is the input, the next one the source, then microphone and note, as they usually stand. */
export const meaningsByContent = (rows: readonly (readonly string[])[]): Meaning[] => {
  const width = Math.max(0, ...rows.map((row) => row.length));
  const column = (at: number) => rows.map((row) => row[at] ?? "");
  const inputAt = Array.from({ length: width }, (_, at) => at).find((at) => share(column(at), (cell) => /^[a-z]?\d{1,3}(\s*[-/+&–]\s*[a-z]?\d{1,3})?$/i.test(cell)) >= 0.6) ?? -1;
  const rest: Meaning[] = ["source", "microphone", "note"];
  return Array.from({ length: width }, (_, at) => (at === inputAt ? "input" : (rest.shift() ?? "ignore")));
};
