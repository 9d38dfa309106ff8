import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import type { Check, CheckContext } from "./finding";

/**
 * Whether an edit can be done and leaves these rules nothing to say that they did not say before: a fix must not put
 * something else wrong.
 */
export const addsNo = (context: CheckContext, edits: readonly Edit[], rules: readonly Check[]): boolean => {
  const done = applyAll(context.doc, edits);
  if (!done.ok) return false;
  const said = (of: CheckContext): readonly string[] => rules.flatMap((rule) => rule.check(of).map(({ id }) => id));
  const before = new Set(said(context));
  return said({ ...context, doc: done.doc }).every((id) => before.has(id));
};
