/** A number with its noun, in the singular for one. @example counted(2, "track") // "2 tracks" */
export const counted = (count: number, noun: string, nouns = `${noun}s`): string =>
  `${count} ${count === 1 ? noun : nouns}`;

/** "Ilse, Juno and Pell". */
export const listed = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? "") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
