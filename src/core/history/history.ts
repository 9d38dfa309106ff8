import type { Command, Patch, Refusal, RestoreCommand } from "../commands/command";
import type { Engine } from "../commands/engine";

interface Entry {
  readonly name: string;
  readonly commands: readonly Command[];
  readonly inverse: readonly Patch[];
}

/** What can be undone and redone, newest last. A value: every function answers with a new one. */
export interface History {
  readonly past: readonly Entry[];
  readonly future: readonly Entry[];
}

export const EMPTY_HISTORY: History = { past: [], future: [] };

/** How many gestures can be undone. */
const DEPTH = 500;

export type StepOf<D> =
  | {
      readonly ok: true;
      readonly doc: D;
      readonly history: History;
      readonly commands: readonly Command[];
      readonly name: string;
    }
  | { readonly ok: false; readonly refusal: Refusal; readonly history: History };

/** One act of a person: commands that are done, named and undone together. */
export interface NamedCommands {
  readonly commands: readonly Command[];
  readonly name: string;
}

interface Undoing<D> {
  perform(doc: D, history: History, gesture: NamedCommands): StepOf<D>;
  undo(doc: D, history: History): StepOf<D>;
  redo(doc: D, history: History): StepOf<D>;
}

const nothing = (what: string): Refusal => ({ code: "empty", at: "", message: `There is nothing to ${what}.` });

/** Undo and redo for one kind of document. */
export const undoingOf = <D extends object>(engine: Engine<D>): Undoing<D> => ({
  /** Does a gesture and notes it. A gesture that changes nothing is not noted, and answers with no commands. */
  perform: (doc, history, { name, commands }) => {
    const done = engine.applyAll(doc, commands);
    if (!done.ok) return { ...done, history };
    if (done.patches.length === 0) return { ok: true, doc, history, commands: [], name: "" };
    const entry: Entry = { name, commands, inverse: done.inverse };
    return {
      ok: true,
      doc: done.doc,
      history: { past: [...history.past, entry].slice(-DEPTH), future: [] },
      commands,
      name,
    };
  },
  /**
   * Takes back the last gesture by its inverse patches, as a command of its own, so that the taking back is saved like
   * any edit. When it can't be (another window removed the thing), the entry is dropped and the refusal says why.
   */
  undo: (doc, history) => {
    const entry = history.past.at(-1);
    if (!entry) return { ok: false, refusal: nothing("undo"), history };
    const past = history.past.slice(0, -1);
    const restore: RestoreCommand = { kind: "restore", undoes: entry.name.slice(0, 400), patches: entry.inverse };
    const done = engine.apply(doc, restore);
    if (!done.ok) return { ...done, history: { past, future: history.future } };
    return {
      ok: true,
      doc: done.doc,
      commands: [restore],
      name: `Undo: ${entry.name}`,
      history: { past, future: [...history.future, entry] },
    };
  },
  /** Does the last undone gesture again, by its own commands. */
  redo: (doc, history) => {
    const entry = history.future.at(-1);
    if (!entry) return { ok: false, refusal: nothing("redo"), history };
    const future = history.future.slice(0, -1);
    const done = engine.applyAll(doc, entry.commands);
    if (!done.ok) return { ...done, history: { past: history.past, future } };
    return {
      ok: true,
      doc: done.doc,
      commands: entry.commands,
      name: entry.name,
      history: { past: [...history.past, { ...entry, inverse: done.inverse }], future },
    };
  },
});
