import { applyAll } from "../commands/apply";
import type { Command, Patch, Refusal } from "../commands/command";
import type { Template } from "../model/template";

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

export type Step =
  | { readonly ok: true; readonly doc: Template; readonly history: History; readonly commands: readonly Command[]; readonly name: string }
  | { readonly ok: false; readonly refusal: Refusal; readonly history: History };

/** Does a gesture (one or more commands) and notes it. A gesture that changes nothing is not noted, and answers with no commands. */
export const perform = (doc: Template, history: History, gesture: { readonly commands: readonly Command[]; readonly name?: string }): Step => {
  const done = applyAll(doc, gesture.commands);
  if (!done.ok) return { ...done, history };
  if (done.doc === doc || done.patches.length === 0) return { ok: true, doc, history, commands: [], name: "" };
  const name = gesture.name ?? done.name;
  const entry: Entry = { name, commands: gesture.commands, inverse: done.inverse };
  return { ok: true, doc: done.doc, history: { past: [...history.past, entry].slice(-DEPTH), future: [] }, commands: gesture.commands, name };
};

const nothing = (what: string, history: History): Step => ({ ok: false, history, refusal: { code: "empty", at: "", message: `There is nothing to ${what}.` } });

/**
 * Takes back the last gesture by its inverse patches, as a command of its own, so that the taking back is saved like any edit.
 * When it can't be (another window removed the thing), the entry is dropped and the refusal says why.
 */
export const undo = (doc: Template, history: History): Step => {
  const entry = history.past.at(-1);
  if (!entry) return nothing("undo", history);
  const past = history.past.slice(0, -1);
  const commands: Command[] = [{ kind: "document.restore", undoes: entry.name, patches: entry.inverse }];
  const done = applyAll(doc, commands);
  if (!done.ok) return { ...done, history: { past, future: history.future } };
  return { ok: true, doc: done.doc, commands, name: `Undo: ${entry.name}`, history: { past, future: [...history.future, entry] } };
};

/** Does the last undone gesture again, by its own commands. */
export const redo = (doc: Template, history: History): Step => {
  const entry = history.future.at(-1);
  if (!entry) return nothing("redo", history);
  const future = history.future.slice(0, -1);
  const done = applyAll(doc, entry.commands);
  if (!done.ok) return { ...done, history: { past: history.past, future } };
  return { ok: true, doc: done.doc, commands: entry.commands, name: entry.name, history: { past: [...history.past, { ...entry, inverse: done.inverse }], future } };
};
