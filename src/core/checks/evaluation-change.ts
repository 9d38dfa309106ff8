import type { Finding, Fix } from "./finding";
import type { Evaluation } from "./judgement";

/** What is new or another in a list of findings, by the place where it stands now, and what is gone. */
interface ListChange {
  readonly gone: readonly string[];
  readonly put: readonly { readonly at: number; readonly finding: Finding }[];
}

/** What changed from one evaluation to the next; null where it is easier told whole. */
export interface EvaluationChange {
  readonly open: ListChange;
  readonly accepted: Evaluation["accepted"] | null;
}

/**
 * Whether two findings say the same. What is offered is compared by being the very same, and not looked into: fitting
 * to another rig names every line, and the checks keep what they offer for as long as nothing that they hang on changes.
 */
const same = (a: Finding, b: Finding | undefined): boolean =>
  b !== undefined &&
  (a === b ||
    (a.message === b.message &&
      a.severity === b.severity &&
      JSON.stringify(a.places) === JSON.stringify(b.places) &&
      a.fixes.length === b.fixes.length &&
      a.fixes.every((fix, at) => sameFix(fix, b.fixes[at]))));

/** A fix of a few words is looked into; a long one is the same only if it is the very same. */
const sameFix = (a: Fix, b: Fix | undefined): boolean =>
  a === b ||
  (b !== undefined &&
    a.label === b.label &&
    a.edits.every(({ kind }) => kind !== "template.fit") &&
    JSON.stringify(a.edits) === JSON.stringify(b.edits));

/** What is left of a list when a change is done to it: in a list, what stays keeps its order. */
const changed = (before: readonly Finding[], { gone, put }: ListChange): readonly Finding[] => {
  const out = new Set([...gone, ...put.map(({ finding }) => finding.id)]);
  const stay = before.filter(({ id }) => !out.has(id));
  const list: Finding[] = [];
  let next = 0;
  for (const { at, finding } of put) {
    while (list.length < at && next < stay.length) list.push(stay[next++] as Finding);
    list.push(finding);
  }
  while (next < stay.length) list.push(stay[next++] as Finding);
  return list;
};

const sameAccepted = (a: Evaluation["accepted"], b: Evaluation["accepted"]): boolean =>
  a.length === b.length &&
  a.every(({ finding, reason }, at) => reason === b[at]?.reason && same(finding, b[at]?.finding));

/**
 * What changed in a list when each place speaks of the same as before: most edits are so. Null when one does not, or
 * speaks twice of the same.
 */
const placeByPlace = (before: readonly Finding[], after: readonly Finding[]): ListChange | null => {
  if (before.length !== after.length) return null;
  const put: { at: number; finding: Finding }[] = [];
  for (const [at, finding] of after.entries()) {
    const was = before[at];
    if (finding === was) continue;
    if (finding.id !== was?.id) return null;
    if (!same(finding, was)) put.push({ at, finding });
  }
  const ids = new Set(put.map(({ finding }) => finding.id));
  const once = ids.size === 0 || after.filter(({ id }) => ids.has(id)).length === ids.size;
  return once ? { gone: [], put } : null;
};

/**
 * What changed between two evaluations. Null when some have one id or stand in another order: then the newer one must
 * be told whole. Linear in the findings.
 */
export const changeOf = (before: Evaluation, after: Evaluation): EvaluationChange | null => {
  const accepted = sameAccepted(before.accepted, after.accepted) ? null : after.accepted;
  const alike = placeByPlace(before.open, after.open);
  if (alike) return { open: alike, accepted };
  const known = new Map(before.open.map((finding) => [finding.id, finding]));
  const ids = new Set(after.open.map(({ id }) => id));
  if (known.size < before.open.length || ids.size < after.open.length) return null;
  const put = after.open.flatMap((finding, at) => (same(finding, known.get(finding.id)) ? [] : [{ at, finding }]));
  const open = { gone: before.open.flatMap(({ id }) => (ids.has(id) ? [] : [id])), put };
  const list = changed(before.open, open);
  if (list.length !== after.open.length || list.some(({ id }, at) => id !== after.open[at]?.id)) return null;
  return { open, accepted };
};

/** An evaluation with a change to it done. What did not change is the very same as before. */
export const withChange = (before: Evaluation, { open, accepted }: EvaluationChange): Evaluation => ({
  open: changed(before.open, open),
  accepted: accepted ?? before.accepted,
});
