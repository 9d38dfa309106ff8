import { Failure } from "./failure";

/** So many wait for one thing; more are told to come again. */
const MOST_WAITING = 200;

interface Line {
  last: Promise<unknown>;
  waiting: number;
}

const lines = new Map<string, Line>();

/**
 * Does one after the other what concerns the same thing, in the order in which it was asked for. What fails holds up
 * nobody.
 */
export const inTurn = async <T>(key: string, work: () => Promise<T>): Promise<T> => {
  const line = lines.get(key) ?? { last: Promise.resolve(), waiting: 0 };
  if (line.waiting >= MOST_WAITING)
    throw new Failure(
      503,
      "Much to do",
      "Many are editing this at once. Try again in a moment; nothing of yours was changed.",
    );
  lines.set(key, line);
  line.waiting += 1;
  const mine = line.last.then(work);
  line.last = mine.catch(() => {});
  try {
    return await mine;
  } finally {
    line.waiting -= 1;
    if (!line.waiting) lines.delete(key);
  }
};
