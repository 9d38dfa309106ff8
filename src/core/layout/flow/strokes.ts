import { putInto } from "../../model/table";
import type { FlowThread } from "./picture";

/**
 * So many threads go into one stroke: few enough that a window which shows a part of a picture need not draw all of it.
 */
const MOST = 40;

const looksOf = ({ kind, colour, width, parked, off }: FlowThread): string =>
  [kind, colour, width, parked, off].join(" ");

/**
 * Threads that look alike and lie beside each other, drawn in one stroke: a browser goes through thousands of lines at
 * every step, and through a hundred in no time.
 */
export const strokesOf = (threads: readonly FlowThread[]): readonly FlowThread[] => {
  const alike = new Map<string, FlowThread[]>();
  for (const thread of threads) putInto(alike, looksOf(thread), thread);
  return [...alike.values()].flatMap((all) =>
    Array.from({ length: Math.ceil(all.length / MOST) }, (_, at) => all.slice(at * MOST, (at + 1) * MOST)).flatMap(
      ([first, ...others]) =>
        first
          ? [
              {
                ...first,
                path: [first, ...others].map(({ path }) => path).join(""),
                threadIds: [first, ...others].flatMap(({ threadIds }) => threadIds),
              },
            ]
          : [],
    ),
  );
};
