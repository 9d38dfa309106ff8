/** Whether a character is dropped at an end. */
type Drops = (character: string) => boolean;

/** A character that is white space or one of those named. */
export const blankOr =
  (characters: string): Drops =>
  (character) =>
    characters.includes(character) || character.trim() === "";

/**
 * A text without what is dropped at its end. One step a character from the end: a pattern that ends in "+$" looks from
 * every place of a text anew, and takes a minute for a long row of brackets.
 * @example dropEnd("Above (L))", blankOr("()")) // "Above (L"
 */
export const dropEnd = (text: string, drops: Drops): string => {
  let end = text.length;
  while (end > 0 && drops(text[end - 1] as string)) end--;
  return text.slice(0, end);
};

export const dropStart = (text: string, drops: Drops): string => {
  let start = 0;
  while (start < text.length && drops(text[start] as string)) start++;
  return text.slice(start);
};

export const dropEnds = (text: string, drops: Drops): string => dropEnd(dropStart(text, drops), drops);

const isDigit: Drops = (character) => character >= "0" && character <= "9";

/**
 * A text parted before the number it ends in; null when it ends in none. @example numberAtEnd("E5") // {before: "E",
 * number: "5"}
 */
export const numberAtEnd = (text: string): { readonly before: string; readonly number: string } | null => {
  const before = dropEnd(text, isDigit);
  return before.length === text.length ? null : { before, number: text.slice(before.length) };
};

/**
 * A text parted around the last number in it; null when there is none. @example lastNumber("Tom 2 (low)") // {before:
 * "Tom ", number: "2", after: " (low)"}
 */
export const lastNumber = (
  text: string,
): { readonly before: string; readonly number: string; readonly after: string } | null => {
  const upTo = dropEnd(text, (character) => !isDigit(character));
  const found = numberAtEnd(upTo);
  return found && { ...found, after: text.slice(upTo.length) };
};
