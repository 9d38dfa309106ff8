import { judging } from "@/core/checks";
import { changeOf, type EvaluationChange } from "@/core/checks/evaluation-change";
import type { CheckContext } from "@/core/checks/finding";
import type { Evaluation } from "@/core/checks/judgement";
import { type Difference, withDifference } from "@/core/commands/difference";

/** A state to be judged: whole at first and when rigs or the studio changed, else what differs from the one before. */
export type Asked = { readonly number: number } & (
  | { readonly context: CheckContext }
  | { readonly change: Difference }
);

/** What the checks say of a state: whole, or what changed since the one before. */
export type Judged = { readonly number: number } & (
  | { readonly evaluation: Evaluation }
  | { readonly change: EvaluationChange }
);

/**
 * Keeps what it was told last, so that an edit costs what it changed, and not the document, on the way there and back.
 */
export const judge = (): ((asked: Asked) => Judged) => {
  const evaluate = judging();
  let context: CheckContext | null = null;
  let last: Evaluation | null = null;
  return (asked) => {
    if ("context" in asked) context = asked.context;
    else if (context) context = { ...context, doc: withDifference(context.doc, asked.change) };
    else throw new Error("expected a whole state first, got a change of none");
    const evaluation = evaluate(context);
    const change = last && !("context" in asked) ? changeOf(last, evaluation) : null;
    last = evaluation;
    return change ? { number: asked.number, change } : { number: asked.number, evaluation };
  };
};
