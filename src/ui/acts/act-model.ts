import { useEffect } from "react";
import { tellRefusal } from "../shared/notices";

/**
 * Something that can be done on the screen that is open. The same list stands behind its keys, the palette, menus and
 * buttons; a key is written at its act and nowhere else.
 */
export interface Act {
  readonly id: string;
  readonly label: string;
  /** As it is shown; where it is Alt with a letter or an arrow, as it is listened for. */
  readonly key?: string;
  /** Why it can't be done just now, in a sentence. Absent where it can. */
  readonly whyNot?: string | undefined;
  /** Acts on what is selected stand in the menu of a row, or on a folder; the others are for the whole screen. */
  readonly scope?: "selection" | "list" | "folder";
  /** One of the few that stand on the screen as buttons. */
  readonly first?: true;
  readonly run: () => void;
}

/** Gathers what can be done, as of the moment it is asked. */
export type Acts<A extends Act = Act> = () => readonly A[];

export type Doable = Pick<Act, "whyNot" | "run">;

/** What can't be done, with what to do first. */
export const cant = (whyNot: string): Doable => ({ whyNot, run: () => {} });

export const canBeDone = ({ whyNot }: Act): boolean => whyNot === undefined;

/** Does an act, or tells why it can't be done. */
export const doAct = ({ whyNot, run, label }: Act): void => {
  if (whyNot === undefined) run();
  else tellRefusal(whyNot, label.replace(/…$/, ""));
};

/**
 * Does the first that can be done of those that are meant; where none can, tells why: of a folder where the cursor is
 * on one.
 */
export const doOneOf = (acts: readonly Act[]): void => {
  const one = acts.find(canBeDone) ?? acts.find(({ scope }) => scope === "folder") ?? acts[0];
  if (one) doAct(one);
};

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
  target instanceof HTMLElement && ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName);

/** Does acts by their keys, for as long as the screen is open. */
export const useActKeys = (gather: Acts): void =>
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent): void => {
      const chord = isTyping(event) ? null : chordOf(event);
      const meant = chord ? gather().filter(({ key }) => key === chord) : [];
      if (!meant.length) return;
      event.preventDefault();
      doOneOf(meant);
    };
    document.documentElement.addEventListener("keydown", onKeyDown);
    return () => document.documentElement.removeEventListener("keydown", onKeyDown);
  }, [gather]);
