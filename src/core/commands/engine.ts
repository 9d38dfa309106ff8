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
  /** Which command of several it was; none when it is about what all of them leave. */
  readonly index?: number;
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
  | { readonly ok: true; readonly doc: D; readonly patches: readonly Patch[]; readonly inverse: readonly Patch[]; readonly name: string; readonly names: readonly string[] }
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

/** Whether what a whole gesture left may stand. */
export type Standing<D> = (before: D, after: D, patches: readonly Patch[]) => Refusal | null;

/**
 * Makes the engine of a kind of document from one handler for each kind of command; a missing one does not compile.
 * A gesture is done as a whole and then held to `stands`, whatever its handlers thought of: there is no other way into a document.
 */
export const engineOf = <D extends object, C extends Kinded>(handlers: HandlerTable<D, C>, stands: Standing<D>): Engine<D, C> => {
  const handlerOf = (command: C): HandlerOf<D, C> => handlers[command.kind as C["kind"]] as HandlerOf<D, C>;
  const canApply = (doc: D, command: C): Refusal | null => handlerOf(command).check(doc, command);
  const commandName = (doc: D, command: C): string => handlerOf(command).name(doc, command);
  const applyAll = (doc: D, commands: readonly C[]): AppliedTo<D> => {
    let current = doc;
    const names: string[] = [];
    const patches: Patch[] = [];
    const inverses: (readonly Patch[])[] = [];
    for (const [index, command] of commands.entries()) {
      const refusal = canApply(current, command);
      if (refusal) return { ok: false, refusal: commands.length > 1 ? { ...refusal, index } : refusal };
      names.push(commandName(current, command));
      const [next, done, inverse] = produceWithPatches(current, (draft) => void handlerOf(command).edit(draft, command));
      current = next;
      for (const patch of done) patches.push(toPatch(patch));
      inverses.push(inverse.map(toPatch));
    }
    // Taking back holds itself to the same, with words of its own.
    const refusal = current === doc || commands.every(({ kind }) => kind === "document.restore") ? null : stands(doc, current, patches);
    if (refusal) return { ok: false, refusal };
    return { ok: true, doc: current, patches, inverse: inverses.reverse().flat(), name: names[0] ?? "", names };
  };
  return { kinds: Object.keys(handlers) as C["kind"][], canApply, commandName, apply: (doc, command) => applyAll(doc, [command]), applyAll };
};
