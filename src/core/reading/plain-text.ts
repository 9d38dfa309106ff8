// biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are just what is looked for
const CONTROLS = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/g;
const HALF_PAIRS = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/**
 * Text that every part can keep, show and write to a file: without control characters, but for tabs and line breaks,
 * and with half of a surrogate pair (Unicode 15, 3.8) replaced by U+FFFD. The database refuses both.
 * @example plainText("Sna\u0000re") // "Snare"
 */
export const plainText = (text: string): string => text.replace(CONTROLS, "").replace(HALF_PAIRS, "\ufffd");

/**
 * Every text in a value of JSON made plain, names of fields too. What has nothing to be made plain is answered as it
 * is, not copied.
 */
export const plainTexts = <T>(value: T): T => plained(value) as T;

const plained = (value: unknown): unknown => {
  if (typeof value === "string") return plainText(value);
  if (Array.isArray(value)) {
    const made = value.map(plained);
    return made.some((item, at) => item !== value[at]) ? made : value;
  }
  if (typeof value !== "object" || value === null) return value;
  const made = Object.entries(value).map(([key, item]) => [plainText(key), plained(item)] as const);
  const same = Object.entries(value).every(([key, item], at) => made[at]?.[0] === key && made[at]?.[1] === item);
  return same ? value : Object.fromEntries(made);
};
