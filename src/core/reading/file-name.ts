import { blankOr, dropEnds } from "../units/ends";

/** Characters that the usual file systems do not take in a name. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are just what is looked for
const UNUSABLE_IN_FILES = /[\\/:*?"<>|\u0000-\u001f]/g;
const isEnd = blankOr(".");

/** Names that one or another system keeps for devices, with or without an ending. */
const RESERVED = /^(con|prn|aux|nul|com[1-9¹²³]|lpt[1-9¹²³])(\.|$)/i;

/** File systems take 255 bytes; date, take number and ending need about 55 of them. */
const MOST_BYTES = 200;

const sizeOf = (character: string): number => {
  const code = character.codePointAt(0) ?? 0;
  return code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
};

const bytesIn = (text: string): number => {
  let bytes = 0;
  for (const character of text) bytes += sizeOf(character);
  return bytes;
};

const cut = (name: string): string => {
  let [bytes, end] = [0, 0];
  for (const character of name) {
    bytes += sizeOf(character);
    if (bytes > MOST_BYTES) break;
    end += character.length;
  }
  return name.slice(0, end);
};

/**
 * A name made fit for files: what is not taken becomes a hyphen, no space or full stop at the ends, no reserved word,
 * 200 bytes at most. @example fileName("a/b.") // "a-b"
 */
export const fileName = (name: string): string => {
  const usable = dropEnds(name.replace(UNUSABLE_IN_FILES, "-"), isEnd);
  return dropEnds(cut(RESERVED.test(usable) ? usable.replace(/^[^.]*/, (word) => `${word} track`) : usable), isEnd);
};

/** Why a name can't be that of a file, to follow the name in a sentence; null when it can. */
export const nameFault = (name: string): string | null => {
  const bad = [...new Set(name.match(UNUSABLE_IN_FILES) ?? [])].map((c) => (c < " " ? "a line break" : c)).join(" ");
  if (bad) return `can't be a file name because of ${bad}`;
  if (RESERVED.test(name)) return "is a name that file systems keep for devices";
  if (bytesIn(name) > MOST_BYTES)
    return `is too long for a file name: ${bytesIn(name)} bytes, and ${MOST_BYTES} leave room for date and take`;
  return dropEnds(name, isEnd) === name ? null : "begins or ends with a space or a full stop, which file systems drop";
};
