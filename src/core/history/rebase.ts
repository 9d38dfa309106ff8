import type { Command } from "../commands/command";
import type { Engine } from "../commands/engine";

/** A gesture that is not saved yet. `id` lets the store recognise one that arrived although its answer was lost. */
export interface Pending {
  readonly id: string;
  readonly name: string;
  readonly commands: readonly Command[];
}

export interface RebasedOf<D> {
  readonly doc: D;
  readonly kept: readonly Pending[];
  /** What can't be done on the newer document, and why. */
  readonly lost: readonly { readonly name: string; readonly why: string }[];
}

/** Does pending gestures again on a newer document, in order. One that can't be done is told, and the others go on. */
export const rebase = <D extends object>(engine: Engine<D>, newer: D, pending: readonly Pending[]): RebasedOf<D> => {
  let doc = newer;
  const kept: Pending[] = [];
  const lost: { name: string; why: string }[] = [];
  for (const gesture of pending) {
    const done = engine.applyAll(doc, gesture.commands);
    if (done.ok) {
      doc = done.doc;
      kept.push(gesture);
    } else lost.push({ name: gesture.name, why: done.refusal.message });
  }
  return { doc, kept, lost };
};
