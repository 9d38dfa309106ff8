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
