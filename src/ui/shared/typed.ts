import { type RefObject, startTransition, useEffect, useRef, useState } from "react";
import { tellLost } from "./notices";

interface TypedFor {
  /** The field, as a notice names it. */
  readonly label: string;
  /** What is kept now. */
  readonly value: string;
  /** What it is typed for: another one, and what was typed has lost its place. */
  readonly of: unknown;
  /** What is said then. */
  readonly gone: string;
}

export interface Typed {
  /** Null while nothing is typed. */
  readonly draft: string | null;
  /** Typed and neither kept nor put back: an undo means the typing. */
  readonly open: boolean;
  readonly setDraft: (text: string) => void;
  /**
   * Kept or put back. What was typed stays in sight until the screen has taken up the new value, but from now on an
   * undo means the edit.
   */
  readonly close: () => void;
}

/**
 * What is typed in a field that stands on a screen, until it is kept or put back. When what it was typed for goes away
 * under it, it is told.
 */
export const useTyped = ({ label, value, of, gone }: TypedFor): Typed => {
  const [typed, setTyped] = useState<{
    readonly of: unknown;
    readonly text: string;
    readonly closed?: boolean;
  } | null>(null);
  const waiting = useRef<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it was typed for is what it hangs on
  useEffect(
    () => () => {
      if (waiting.current !== null) tellLost(waiting.current, label, gone);
      waiting.current = null;
    },
    [of],
  );
  const shown = typed?.of === of ? typed : null;
  return {
    draft: shown?.text ?? null,
    open: shown !== null && !shown.closed,
    setDraft: (text) => {
      waiting.current = text !== value ? text : null;
      setTyped({ of, text });
    },
    close: () => {
      waiting.current = null;
      setTyped((was) => was && { ...was, closed: true });
      startTransition(() => setTyped(null));
    },
  };
};

interface OpenedFor {
  readonly label: string;
  readonly initial: string;
  readonly onGone: (text: string, label: string) => void;
}

/**
 * For a field that is opened over a cell and goes with it: what stands in it and is not done when it is no longer drawn
 * is handed on. The answer says that it is done.
 */
export const useOpened = (typed: string, { label, initial, onGone }: OpenedFor): RefObject<boolean> => {
  const done = useRef(false);
  const latest = useRef({ typed, onGone });
  latest.current = { typed, onGone };
  useEffect(
    () => () => {
      if (!done.current && latest.current.typed !== initial) latest.current.onGone(latest.current.typed, label);
    },
    [initial, label],
  );
  return done;
};
