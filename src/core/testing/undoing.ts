import { type History, type StepOf, undoingOf } from "../history/history";
import type { Editing } from "../planning/edits/plan-edits";
import { templateEditing } from "../planning/edits/template-editing";

interface Edits<E> {
  readonly name?: string;
  readonly edits: readonly E[];
}

/** Plans edits and does them as one gesture that is noted, as a window does. */
export const undoingEdits = <D extends { readonly id: string }, E extends { readonly kind: string }>(
  editing: Editing<D, E>,
) => {
  const undoing = undoingOf(editing.engine);
  return {
    ...undoing,
    perform: (doc: D, history: History, { name, edits }: Edits<E>): StepOf<D> => {
      const planned = editing.plan(doc, edits);
      return planned.ok
        ? undoing.perform(doc, history, { name: name ?? planned.names[0] ?? "", commands: planned.commands })
        : { ok: false, refusal: planned.refusal, history };
    },
  };
};

export const { perform, undo, redo } = undoingEdits(templateEditing);
