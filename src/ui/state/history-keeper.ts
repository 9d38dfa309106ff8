import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { EMPTY_HISTORY, type History } from "@/core/history/history";

/** So much of a history is kept, in letters: what is older than fits is left out. */
const MOST_LETTERS = 1_000_000;

const keyOf = (kind: string, id: string): string => `wandel:history:${kind}:${id}`;

interface KeptHistory extends History {
  readonly made: number;
  /** The newest revision that was known: a server that has less was set back, and its past is another. */
  readonly revision: number;
}

const isHistory = (value: unknown): value is KeptHistory =>
  typeof value === "object" &&
  value !== null &&
  ["past", "future"].every((part) => {
    const entries = (value as Readonly<Record<string, unknown>>)[part];
    return (
      Array.isArray(entries) &&
      entries.every(
        (entry) => typeof entry?.name === "string" && Array.isArray(entry?.commands) && Array.isArray(entry?.inverse),
      )
    );
  });

/** The newest entries that together are no longer than may be kept, in their order. */
const fitting = <T>(entries: readonly T[]): readonly T[] => {
  let letters = 0;
  let from = entries.length;
  while (from > 0) {
    letters += JSON.stringify(entries[from - 1]).length;
    if (letters > MOST_LETTERS) break;
    from--;
  }
  return entries.slice(from);
};

/** Keeps what this tab can undo and redo of a document, over reloads and ways to other screens. */
export const keepHistory = (kind: string, id: string, { past, future }: History, revision: number): void => {
  try {
    if (!past.length && !future.length) sessionStorage.removeItem(keyOf(kind, id));
    else
      sessionStorage.setItem(
        keyOf(kind, id),
        JSON.stringify({ made: GESTURE_VERSION, revision, past: fitting(past), future: fitting(future) }),
      );
  } catch {
    // Without a place to keep it, undo ends with the page, as it says there is nothing to undo.
  }
};

/** What this tab could undo and redo when it last showed a document; nothing where that is of another past or age. */
export const keptHistory = (kind: string, id: string, revision: number): History => {
  try {
    const value: unknown = JSON.parse(sessionStorage.getItem(keyOf(kind, id)) ?? "null");
    return isHistory(value) && value.made === GESTURE_VERSION && value.revision <= revision
      ? { past: value.past, future: value.future }
      : EMPTY_HISTORY;
  } catch {
    return EMPTY_HISTORY;
  }
};
