import { useEffect } from "react";
import { tellRefusal } from "../shared/notices";
import { takesText } from "../shared/takes-text";
import { CHORDS, type Chord, EVERYWHERE, keyOf, type Meaning } from "./chords";

/**
 * Something that can be done on the screen that is open. The same list stands behind its keys, the palette, menus and
 * buttons; a key is written at its act and nowhere else.
 */
export interface Act {
  readonly id: string;
  readonly label: string;
  /** On a button that keeps its place whatever is selected: without the name of what it is done to. */
  readonly short?: string;
  /** As it is shown and as it is listened for. */
  readonly key?: Chord;
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

const NAMED: Readonly<Record<string, string>> = {
  ArrowUp: "↑",
  ArrowDown: "↓",
  Comma: ",",
  Period: ".",
  Enter: "Enter",
};
/** Keys that mean something by themselves, where nothing is typed. */
const PLAIN: ReadonlySet<string> = new Set(["F2", "Delete", "?", "N", "R"]);

type Pressed = Pick<KeyboardEvent, "altKey" | "ctrlKey" | "metaKey" | "shiftKey" | "code" | "key">;

/**
 * A chord as acts show it; null where it is none of theirs. Letters with Alt are taken by where they lie, since Alt
 * changes what they write on some keyboards; keys without it by what they write.
 */
export const chordOf = ({ altKey, ctrlKey, metaKey, shiftKey, code, key: written }: Pressed): string | null => {
  if (ctrlKey || metaKey) return null;
  const letter = /^Key([A-Z])$/.exec(code)?.[1] ?? NAMED[code];
  if (altKey) return letter ? `Alt ${shiftKey ? "Shift " : ""}${letter}` : null;
  const plain = written.length === 1 ? written.toUpperCase() : written;
  return PLAIN.has(plain) && !(shiftKey && /^[A-Z]/.test(plain)) ? plain : null;
};

/** Of these it is told on every screen where they do nothing. */
const TOLD: ReadonlySet<string> = new Set(["F2", "Delete"]);

/** A dialog or a list over the screen has the keys. */
const isCovered = (): boolean => document.querySelector("[aria-modal=true], [role=menu]") !== null;

/** On a Mac, Alt with a letter writes a sign. */
const altWrites = (): boolean => /mac/i.test(navigator.platform);

/** What a chord means elsewhere, where this screen has nothing for it. */
const meantElsewhere = (chord: string): string | undefined =>
  EVERYWHERE.has(chord) ? undefined : Object.values(CHORDS).find(({ key }) => key === chord)?.means;

/** Keeps what is typed in a field before an act is done by a key, and gives the keys back to it unless they moved on. */
const withKept = (does: () => void): void => {
  const field = document.activeElement;
  if (!takesText(field)) {
    does();
    return;
  }
  field.blur();
  does();
  setTimeout(() => {
    if (field.isConnected && document.activeElement === document.body && !isCovered()) field.focus();
  });
};

/**
 * Does acts by their keys, for as long as the screen is open: also from within a field where the key can't be typing.
 * A key that means nothing here says what it means.
 */
export const useActKeys = (gather: Acts): void =>
  useEffect(() => {
    const done = (event: KeyboardEvent, chord: string): void => {
      const meant = gather().filter(({ key }) => key === chord);
      const elsewhere = meant.length ? undefined : meantElsewhere(chord);
      if (!meant.length && !(elsewhere && (event.altKey || TOLD.has(chord)))) return;
      event.preventDefault();
      if (meant.length) withKept(() => doOneOf(meant));
      else tellRefusal(`${chord} is “${elsewhere}”, which this screen does not have. Press ? for its keys.`);
    };
    /** With Alt, before anything on the page has it. */
    const withAlt = (event: KeyboardEvent): void => {
      const chord = event.altKey && !isCovered() && !(takesText(event.target) && altWrites()) ? chordOf(event) : null;
      if (chord) done(event, chord);
    };
    /** Without, where nothing on the page has taken it. */
    const plain = (event: KeyboardEvent): void => {
      if (event.altKey || event.defaultPrevented || takesText(event.target) || isCovered()) return;
      const chord = chordOf(event);
      if (chord) done(event, chord);
    };
    document.documentElement.addEventListener("keydown", withAlt);
    window.addEventListener("keydown", plain);
    return () => {
      document.documentElement.removeEventListener("keydown", withAlt);
      window.removeEventListener("keydown", plain);
    };
  }, [gather]);

/** Does the one act of a frame by its key, beside those of the screen that lies in it. */
export const useChord = (meaning: Meaning, does: () => void): void =>
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (isCovered() || chordOf(event) !== keyOf(meaning) || (takesText(event.target) && altWrites())) return;
      event.preventDefault();
      withKept(does);
    };
    document.documentElement.addEventListener("keydown", press);
    return () => document.documentElement.removeEventListener("keydown", press);
  }, [meaning, does]);
