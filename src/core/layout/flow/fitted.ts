/** How wide a character of our sans is on the average, as a share of its size: for cutting, not for setting. */
const SHARE = 0.53;

/**
 * A text that fits so many pixels at a size, cut with an ellipsis where it would not. Never cut through a character.
 */
export const fitted = (text: string, width: number, size: number): string => {
  const most = Math.floor(width / (size * SHARE));
  const characters = [...text];
  return characters.length <= most
    ? text
    : `${characters
        .slice(0, Math.max(1, most - 1))
        .join("")
        .trimEnd()}…`;
};

/** A word in pieces of so many characters; nothing of an empty one. */
const broken = (word: string, most: number): readonly string[] => {
  const characters = [...word];
  return Array.from({ length: Math.ceil(characters.length / most) }, (_, at) =>
    characters.slice(at * most, (at + 1) * most).join(""),
  );
};

/**
 * A text in lines of so many pixels at a size, broken between words; one that is longer than a line is broken in it.
 * Nothing is left out.
 */
export const wrapped = (text: string, width: number, size: number): readonly string[] => {
  const most = Math.max(4, Math.floor(width / (size * SHARE)));
  const lines: string[] = [];
  for (const word of text.split(" ").flatMap((one) => broken(one, most))) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
};
