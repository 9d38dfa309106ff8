/** Characters that the usual file systems do not take in a name. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are just what is looked for
export const UNUSABLE_IN_FILES = /[\\/:*?"<>|\u0000-\u001f]/g;
const ENDS = /^[\s.]+|[\s.]+$/g;

/** A name made fit for files: what is not taken becomes a hyphen, no space or full stop at the ends. @example fileName("a/b.") // "a-b" */
export const fileName = (name: string): string => name.replace(UNUSABLE_IN_FILES, "-").replace(ENDS, "");
