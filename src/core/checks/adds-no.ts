import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import type { Check, CheckContext } from "./finding";

/** Whether an edit can be done and leaves these rules no more to say than before: a fix must not put something else wrong. */
export const addsNo = (context: CheckContext, edits: readonly Edit[], rules: readonly Check[]): boolean => {
  const done = applyAll(context.doc, edits);
  const said = (of: CheckContext): number => rules.reduce((sum, rule) => sum + rule.check(of).length, 0);
  return done.ok && said({ ...context, doc: done.doc }) <= said(context);
};
