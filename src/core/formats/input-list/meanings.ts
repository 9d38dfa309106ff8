import { LIST_COLUMNS, type ListMeaning } from "../../queries/columns";

export type Meaning = ListMeaning | "ignore";

/** What a column of a list can mean: what fields of lines and tracks are described as, or nothing that is read. */
export const MEANINGS: readonly Meaning[] = [...LIST_COLUMNS.map(({ meaning }) => meaning), "ignore"];

export const MEANING_NAMES = Object.fromEntries([
  ...LIST_COLUMNS.map(({ meaning, heading, says }) => [meaning, says ?? heading] as const),
  ["ignore", "Leave out"] as const,
]) as Readonly<Record<Meaning, string>>;
