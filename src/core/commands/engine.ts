import { type Draft, enablePatches, produceWithPatches } from "immer";

enablePatches();

/** One change of one place in a document; `path` leads from the root. The same shape as immer's patches. */
export interface Patch {
  readonly op: "add" | "replace" | "remove";
  readonly path: readonly (string | number)[];
  readonly value?: unknown;
}

/** Takes back what a gesture did, by its inverse patches. Every kind of document knows this command. */
export interface RestoreCommand {
  readonly kind: "document.restore";
  readonly undoes: string;
  readonly patches: readonly Patch[];
}

export interface Refusal {
  readonly code: "missing" | "clash" | "empty" | "unfit";
  /** Id of the thing it is about. */
  readonly at: string;
  readonly message: string;
}

export const refuse = (code: Refusal["code"], at: string, message: string): Refusal => ({ code, at, message });

/** The first refusal of several checks; later ones are not evaluated once one refuses. */
export const firstOf = (...checks: readonly (() => Refusal | null)[]): Refusal | null => {
  for (const check of checks) {
    const refusal = check();
    if (refusal) return refusal;
  }
  return null;
};

export type AppliedTo<D> =
  | { readonly ok: true; readonly doc: D; readonly patches: readonly Patch[]; readonly inverse: readonly Patch[]; readonly name: string }
  | { readonly ok: false; readonly refusal: Refusal };

/** How one kind of command is done: whether it can be, what it does, and what a person would call it. */
export interface HandlerOf<D, C> {
  check(doc: D, command: C): Refusal | null;
  edit(draft: Draft<D>, command: C): void;
  name(doc: D, command: C): string;
}

interface Kinded {
  readonly kind: string;
}

export type HandlerTable<D, C extends Kinded> = { readonly [K in C["kind"]]: HandlerOf<D, Extract<C, { readonly kind: K }>> };

/** What edits one kind of document: templates, rigs and the studio each have one. */
export interface Engine<D, C extends Kinded> {
  readonly kinds: readonly C["kind"][];
  /** Whether a command could be done, by the very code that would do it. */
  canApply(doc: D, command: C): Refusal | null;
  commandName(doc: D, command: C): string;
  apply(doc: D, command: C): AppliedTo<D>;
  applyAll(doc: D, commands: readonly C[]): AppliedTo<D>;
}

const toPatch = (patch: { op: Patch["op"]; path: (string | number)[]; value?: unknown }): Patch =>
  patch.op === "remove" ? { op: patch.op, path: patch.path } : { op: patch.op, path: patch.path, value: patch.value };

/** Makes the engine of a kind of document from one handler for each kind of command; a missing one does not compile. */
export const engineOf = <D extends object, C extends Kinded>(handlers: HandlerTable<D, C>): Engine<D, C> => {
  const handlerOf = (command: C): HandlerOf<D, C> => handlers[command.kind as C["kind"]] as HandlerOf<D, C>;
  const canApply = (doc: D, command: C): Refusal | null => handlerOf(command).check(doc, command);
  const commandName = (doc: D, command: C): string => handlerOf(command).name(doc, command);
  const apply = (doc: D, command: C): AppliedTo<D> => {
    const refusal = canApply(doc, command);
    if (refusal) return { ok: false, refusal };
    const name = commandName(doc, command);
    const [next, patches, inverse] = produceWithPatches(doc, (draft) => void handlerOf(command).edit(draft, command));
    return { ok: true, doc: next, patches: patches.map(toPatch), inverse: inverse.map(toPatch), name };
  };
  const applyAll = (doc: D, commands: readonly C[]): AppliedTo<D> => {
    let current = doc;
    let first = "";
    const patches: Patch[] = [];
    const inverses: (readonly Patch[])[] = [];
    for (const command of commands) {
      const step = apply(current, command);
      if (!step.ok) return step;
      current = step.doc;
      first ||= step.name;
      patches.push(...step.patches);
      inverses.push(step.inverse);
    }
    return { ok: true, doc: current, patches, inverse: inverses.reverse().flat(), name: first };
  };
  return { kinds: Object.keys(handlers) as C["kind"][], canApply, commandName, apply, applyAll };
};
