import { like, type SQL } from "drizzle-orm";
import { templates } from "../db/schema";

/** So many words of a search are looked for. */
const MOST_WORDS = 12;

/** A search is words, each of which must be found. */
export const wordsOf = (query: string): readonly string[] =>
  query.trim().toLowerCase().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);

/** A word as it stands in a text, wherever: what means something to the database stands for itself. */
export const within = (word: string): string => `%${word.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;

/** That each word of a search is found in what a template or session is found by. */
export const searched = (query = ""): readonly SQL[] =>
  wordsOf(query).map((word) => like(templates.search, within(word)));
