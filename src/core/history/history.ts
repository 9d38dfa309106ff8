import { templateEngine } from "../commands/apply";
import type { Command } from "../commands/command";
import type { Engine, Patch, Refusal, RestoreCommand } from "../commands/engine";
import type { Template } from "../model/template";

interface Entry<C> {
  readonly name: string;
  readonly commands: readonly C[];
  readonly inverse: readonly Patch[];
}

/** What can be undone and redone, newest last. A value: every function answers with a new one. */
export interface HistoryOf<C> {
  readonly past: readonly Entry<C>[];
  readonly future: readonly Entry<C>[];
}

export type History = HistoryOf<Command>;

export const EMPTY_HISTORY: HistoryOf<never> = { past: [], future: [] };

/** How many gestures can be undone. */
const DEPTH = 500;

export type StepOf<D, C> =
  | { readonly ok: true; readonly doc: D; readonly history: HistoryOf<C>; readonly commands: readonly C[]; readonly name: string }
  | { readonly ok: false; readonly refusal: Refusal; readonly history: HistoryOf<C> };

export interface Undoing<D, C> {
  perform(doc: D, history: HistoryOf<C>, gesture: { readonly commands: readonly C[]; readonly name?: string }): StepOf<D, C>;
  undo(doc: D, history: HistoryOf<C>): StepOf<D, C>;
  redo(doc: D, history: HistoryOf<C>): StepOf<D, C>;
}

const nothing = (what: string): Refusal => ({ code: "empty", at: "", message: `There is nothing to ${what}.` });

/** Undo and redo for one kind of document. */
export const undoingOf = <D extends object, C extends { readonly kind: string }>(engine: Engine<D, C>): Undoing<D, C> => ({
  /** Does a gesture (one or more commands) and notes it. A gesture that changes nothing is not noted, and answers with no commands. */
  perform: (doc, history, gesture) => {
    const done = engine.applyAll(doc, gesture.commands);
    if (!done.ok) return { ...done, history };
    if (done.doc === doc || done.patches.length === 0) return { ok: true, doc, history, commands: [], name: "" };
    const name = gesture.name ?? done.name;
    const entry: Entry<C> = { name, commands: gesture.commands, inverse: done.inverse };
    return { ok: true, doc: done.doc, history: { past: [...history.past, entry].slice(-DEPTH), future: [] }, commands: gesture.commands, name };
  },
  /**
   * Takes back the last gesture by its inverse patches, as a command of its own, so that the taking back is saved like any edit.
   * When it can't be (another window removed the thing), the entry is dropped and the refusal says why.
   */
  undo: (doc, history) => {
    const entry = history.past.at(-1);
    if (!entry) return { ok: false, refusal: nothing("undo"), history };
    const past = history.past.slice(0, -1);
    const restore: RestoreCommand = { kind: "document.restore", undoes: entry.name, patches: entry.inverse };
    const commands = [restore as unknown as C];
    const done = engine.applyAll(doc, commands);
    if (!done.ok) return { ...done, history: { past, future: history.future } };
    return { ok: true, doc: done.doc, commands, name: `Undo: ${entry.name}`, history: { past, future: [...history.future, entry] } };
  },
  /** Does the last undone gesture again, by its own commands. */
  redo: (doc, history) => {
    const entry = history.future.at(-1);
    if (!entry) return { ok: false, refusal: nothing("redo"), history };
    const future = history.future.slice(0, -1);
    const done = engine.applyAll(doc, entry.commands);
    if (!done.ok) return { ...done, history: { past: history.past, future } };
    return { ok: true, doc: done.doc, commands: entry.commands, name: entry.name, history: { past: [...history.past, { ...entry, inverse: done.inverse }], future } };
  },
});

export const { perform, undo, redo } = undoingOf<Template, Command>(templateEngine);
