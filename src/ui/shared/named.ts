/** What is called by more characters is cut off. */
const LONG = 120;
/** So many are named in passing; of the others it is said how many they are. */
const NAMED = 3;

export const short = (name: string): string => (name.length > LONG ? `${name.slice(0, LONG)}…` : name);

/** Some things by name, as one says them in passing: the first few, and how many more there are. */
export const named = (names: readonly string[]): string =>
  `${names.slice(0, NAMED).map(short).join(" · ")}${names.length > NAMED ? ` · and ${names.length - NAMED} more` : ""}`;
