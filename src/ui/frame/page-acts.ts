import { useEffect } from "react";
import { createStore } from "zustand/vanilla";

/** Something that can be done on the page that is open, as the palette offers it. */
export interface PageAct {
  readonly id: string;
  readonly label: string;
  /** As it is shown, and where it is Alt with a letter or an arrow, as it is listened for. */
  readonly key?: string;
  readonly run: () => void;
}

/** What the page that is open has to offer: gathered when the palette opens. */
export const pageActs = createStore<{ readonly gather: (() => readonly PageAct[]) | null }>(() => ({ gather: null }));

const ARROWS: Readonly<Record<string, string>> = { ArrowUp: "↑", ArrowDown: "↓" };

/**
 * A chord as acts show it; null where it is none of theirs. Letters are taken by where they lie, since Alt changes what
 * they write on some keyboards.
 */
export const chordOf = ({
  altKey,
  ctrlKey,
  metaKey,
  shiftKey,
  code,
}: Pick<KeyboardEvent, "altKey" | "ctrlKey" | "metaKey" | "shiftKey" | "code">): string | null => {
  const key = /^Key([A-Z])$/.exec(code)?.[1] ?? ARROWS[code];
  return altKey && !ctrlKey && !metaKey && key ? `Alt ${shiftKey ? "Shift " : ""}${key}` : null;
};

const isTyping = ({ target }: Event): boolean =>
  target instanceof HTMLElement && ["INPUT", "TEXTAREA"].includes(target.tagName);

/**
 * Offers the acts of a page in the palette, and does them by their keys, for as long as the page is open. A key is
 * written at its act and nowhere else.
 */
export const usePageActs = (gather: () => readonly PageAct[]): void =>
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent): void => {
      const chord = isTyping(event) ? null : chordOf(event);
      const act = chord && gather().find(({ key }) => key === chord);
      if (!act) return;
      event.preventDefault();
      act.run();
    };
    pageActs.setState({ gather });
    document.documentElement.addEventListener("keydown", onKeyDown);
    return () => {
      pageActs.setState({ gather: null });
      document.documentElement.removeEventListener("keydown", onKeyDown);
    };
  }, [gather]);
