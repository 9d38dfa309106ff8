import { seekApart } from "@/core/reading/sought";

/** What is offered under a field while one types, and how it is told that the text itself is meant. */
export interface Offered {
  /** What the field offers, best first; the last one may say that the text as it stands is meant. */
  readonly data: readonly string[];
  /** What choosing one of them means. */
  readonly meant: (chosen: string) => string;
  /** The text is one of those that are known, whatever its case. */
  readonly exact: string | null;
}

interface Offering {
  readonly text: string;
  /** Nothing was typed yet: everything is offered. */
  readonly untouched: boolean;
  readonly known: readonly string[];
  /** How a text that is not known is offered, as "New folder “Horns”"; absent where only what is known can be meant. */
  readonly asNew?: (text: string) => string;
}

const MOST = 40;

/**
 * Known things that begin with the text, then those that have it in them; behind them the text itself, by saying so;
 * and last those that are only called so by another word of the trade.
 */
export const offer = ({ text, untouched, known, asNew }: Offering): Offered => {
  const all = [...new Set(known)];
  const sought = text.trim().toLowerCase();
  const exact = all.find((entry) => entry.toLowerCase() === sought) ?? null;
  if (untouched || !sought) return { data: all.slice(0, MOST), meant: (chosen) => chosen, exact };
  const { named, also } = seekApart(
    text,
    all.map((label) => ({ label })),
  );
  const asItIs = exact === null && asNew ? [asNew(text.trim())] : [];
  return {
    data: [
      ...named.slice(0, MOST).map(({ label }) => label),
      ...asItIs,
      ...also.slice(0, MOST).map(({ label }) => label),
    ],
    meant: (chosen) => (chosen === asItIs[0] ? text.trim() : chosen),
    exact,
  };
};
