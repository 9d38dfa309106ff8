import type { Command, Patch, Refusal } from "../../commands/command";
import { type Engine, runAll } from "../../commands/engine";
import { Work } from "../../commands/work";
import type { PlannerOf } from "./planner";

interface Kinded {
  readonly kind: string;
}

export type PlannerTable<D, E extends Kinded> = {
  readonly [K in E["kind"]]: PlannerOf<D, Extract<E, { readonly kind: K }>>;
};

/** Commands that edits come to, with what a person would call them. */
export type PlannedEdits =
  | { readonly ok: true; readonly commands: readonly Command[]; readonly names: readonly string[] }
  | { readonly ok: false; readonly refusal: Refusal };

export type DoneEdits<D> =
  | {
      readonly ok: true;
      readonly doc: D;
      readonly commands: readonly Command[];
      readonly patches: readonly Patch[];
      readonly inverse: readonly Patch[];
      readonly name: string;
      readonly names: readonly string[];
    }
  | { readonly ok: false; readonly refusal: Refusal };

/** What people do to one kind of document, planned to the commands of its engine. */
export interface Editing<D, E extends Kinded> {
  readonly engine: Engine<D>;
  readonly kinds: readonly E["kind"][];
  plan(doc: D, edits: readonly E[]): PlannedEdits;
  /** Whether an edit could be done, by the very code that would plan it. */
  canDo(doc: D, edit: E): Refusal | null;
  name(doc: D, edit: E): string;
  /**
   * Does one edit, or several as one gesture: all or none. An edit that changes nothing answers with the same document.
   */
  apply(doc: D, edit: E): DoneEdits<D>;
  applyAll(doc: D, edits: readonly E[]): DoneEdits<D>;
}

/** So many edits of a gesture are named; the first of them names the gesture. */
const MOST_NAMES = 20;

const isRefusal = (plan: readonly Command[] | Refusal): plan is Refusal => !Array.isArray(plan);

/**
 * Planning for one kind of document from one planner for each kind of edit; a missing one does not compile. Later edits
 * are planned from what the earlier ones leave.
 */
export const editingOf = <D extends { readonly id: string }, E extends Kinded>(
  engine: Engine<D>,
  planners: PlannerTable<D, E>,
): Editing<D, E> => {
  const plannerOf = (edit: E): PlannerOf<D, E> => planners[edit.kind as E["kind"]] as unknown as PlannerOf<D, E>;

  const plan = (doc: D, edits: readonly E[]): PlannedEdits => {
    const work = new Work(engine.description, doc);
    const commands: Command[] = [];
    const names: string[] = [];
    const told = (refusal: Refusal, index: number): PlannedEdits => ({
      ok: false,
      refusal: edits.length > 1 ? { ...refusal, index } : refusal,
    });
    for (const [index, edit] of edits.entries()) {
      const now = index === 0 ? doc : work.snapshot();
      const wanted = plannerOf(edit).plan(now, edit);
      if (isRefusal(wanted)) return told(wanted, index);
      if (names.length < MOST_NAMES) names.push(plannerOf(edit).name(now, edit));
      for (const command of wanted) commands.push(command);
      const refusal = index < edits.length - 1 ? runAll(work, wanted) : null;
      if (refusal) return told(refusal, index);
    }
    return { ok: true, commands, names };
  };

  const applyAll = (doc: D, edits: readonly E[]): DoneEdits<D> => {
    const planned = plan(doc, edits);
    if (!planned.ok) return planned;
    const done = engine.applyAll(doc, planned.commands);
    if (!done.ok)
      return edits.length > 1
        ? done
        : { ok: false, refusal: { code: done.refusal.code, at: done.refusal.at, message: done.refusal.message } };
    return { ...done, commands: planned.commands, name: planned.names[0] ?? "", names: planned.names };
  };

  return {
    engine,
    kinds: Object.keys(planners) as E["kind"][],
    plan,
    canDo: (doc, edit) => {
      const wanted = plannerOf(edit).plan(doc, edit);
      return isRefusal(wanted) ? wanted : null;
    },
    name: (doc, edit) => plannerOf(edit).name(doc, edit),
    apply: (doc, edit) => applyAll(doc, [edit]),
    applyAll,
  };
};
