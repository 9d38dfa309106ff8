import { plain } from "../model/families";

/** What a cell that answers yes or no says. `asked`: it says something, and a person must say what. */
export type Answer = "yes" | "no" | "asked" | "unread";

const set = (text: string): ReadonlySet<string> => new Set(text.split(" "));

const YES = set(
  "yes y x xx 1 true on 48v 48 +48 +48v p48 ja j an ein oui o si s vero verdadero wahr vrai phantom ph phant pp ok needed required req nötig notig needs inserito activo active aktiv attivo actif acceso encendido v gedreht invertiert inverted invert reversed inv rev inverse inversee invertido invertito flip flipped 180 in pad",
);
const NO = set(
  "no n 0 false off nein aus non none not never nicht kein keine falso falsch faux sin senza sans ohne na n/a nil spento apagado normal out nope",
);
/** Signs that mean yes wherever they are drawn, and those that mean no. */
const YES_SIGNS = set("✓ ✔ √ ☑ ✅ × ⨯ x ✓️ ✔️ ☒");
const NO_SIGNS = set("- – — − ✗ ✘ ❌ ☐ ○ ◯ ∅ 🚫 ⛔");

/** What says that 48 V is somebody else's: the microphone has a supply of its own, or works on a battery. */
const OWN_SUPPLY = /\b(psu|own supply|battery|batterie|batt|netzteil|bateria|batteria|pile|external|extern)\b/;

/**
 * Yes or no, in five languages and the usual signs. An empty cell is no; a sign that is not known as one of the two is
 * never taken for no in silence: it is asked.
 */
export const readAnswer = (cell: string): Answer => {
  const text = cell.trim();
  if (!text || NO_SIGNS.has(text) || /^[-–—−.]+$/.test(text)) return "no";
  if (YES_SIGNS.has(text)) return "yes";
  const word = plain(text);
  if (!word) return /^[?¿]+$/.test(text) ? "unread" : "asked";
  if (/[?¿]\s*$/.test(text)) return "unread";
  if (NO.has(word)) return "no";
  if (YES.has(word) || /^\+? ?48 ?(v|volt|volts)?$/.test(word) || /^p ?48$/.test(word)) return "yes";
  if (/\b(no|ohne|sans|sin|senza|kein) ?(48|p48|phantom|48v|fantome|fantasma)/.test(word)) return "no";
  if (/\b(48 ?v|p48|\+48|phantom|48 volts?)\b/.test(word)) return "yes";
  if (OWN_SUPPLY.test(word)) return "no";
  const first = word.split(" ")[0] ?? "";
  if (text.length <= 40 && word.includes(" ") && YES.has(first) && first.length > 1) return "yes";
  if (text.length <= 40 && word.includes(" ") && NO.has(first)) return "no";
  return "unread";
};

/** Whether a cell is a sign rather than a word: what can be meant the same through a column, and asked once. */
export const isSign = (cell: string): boolean => {
  const text = cell.trim();
  return text.length > 0 && text.length <= 3 && !/[\p{L}\p{N}]/u.test(text);
};

/** "The same as above": the marks and words by which a list repeats what stands over a cell. */
export const isDitto = (cell: string): boolean =>
  /^(?:["”“″〃]{1,2}|''|,,|do\.?|dito|ditto|idem|id\.|s\.\s?o\.|same|wie oben|"\s+")$/i.test(cell.trim());
