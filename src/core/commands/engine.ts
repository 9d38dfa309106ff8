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
  /** Looks at nothing but what the command names, in `check` and `edit`: many of them can be done together. */
  readonly local?: true;
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
  /** Whether this version of Wandel has such a command. */
  knows(command: C): boolean;
  /** Whether a command could be done, by the very code that would do it. */
  canApply(doc: D, command: C): Refusal | null;
  commandName(doc: D, command: C): string;
  apply(doc: D, command: C): AppliedTo<D>;
  applyAll(doc: D, commands: readonly C[]): AppliedTo<D>;
}

const toPatch = (patch: { op: Patch["op"]; path: (string | number)[]; value?: unknown }): Patch =>
  patch.op === "remove" ? { op: patch.op, path: patch.path } : { op: patch.op, path: patch.path, value: patch.value };

/** So many commands of a gesture are named; the first of them names the gesture. */
const MOST_NAMES = 20;

/** Whether what a whole gesture left may stand. */
export type Standing<D> = (before: D, after: D, patches: readonly Patch[]) => Refusal | null;

/**
 * Makes the engine of a kind of document from one handler for each kind of command; a missing one does not compile.
 * A gesture is done as a whole and then held to `stands`, whatever its handlers thought of: there is no other way into a document.
 */
export const engineOf = <D extends object, C extends Kinded>(handlers: HandlerTable<D, C>, stands: Standing<D>): Engine<D, C> => {
  const handlerOf = (command: C): HandlerOf<D, C> => handlers[command.kind as C["kind"]] as HandlerOf<D, C>;
  const knows = ({ kind }: C): boolean => Object.hasOwn(handlers, kind);
  const canApply = (doc: D, command: C): Refusal | null =>
    knows(command) ? handlerOf(command).check(doc, command) : refuse("unfit", "", "This edit was made with another version of Wandel, and this one does not know it.");
  const commandName = (doc: D, command: C): string => handlerOf(command).name(doc, command);
  const isLocal = (command: C): boolean => knows(command) && handlerOf(command).local === true;

  /** Does the commands from one on, as many of them together as look only at what they name: each by itself would cost a copy of the tables it touches. */
  const doSome = (doc: D, commands: readonly C[], from: number) => {
    let refusal: Refusal | null = null;
    let at = from;
    const [next, patches, inverse] = produceWithPatches(doc, (draft) => {
      do {
        const command = commands[at] as C;
        refusal = canApply((at === from ? doc : draft) as D, command);
        if (refusal) return;
        handlerOf(command).edit(draft, command);
        at += 1;
      } while (at < commands.length && isLocal(commands[at - 1] as C) && isLocal(commands[at] as C));
    });
    return { refusal: refusal as Refusal | null, at, next, patches: patches.map(toPatch), inverse: inverse.map(toPatch) };
  };

  const applyAll = (doc: D, commands: readonly C[]): AppliedTo<D> => {
    let current = doc;
    const names: string[] = [];
    const patches: Patch[][] = [];
    const inverses: Patch[][] = [];
    for (let from = 0; from < commands.length; ) {
      const before = current;
      const some = doSome(before, commands, from);
      if (some.refusal) return { ok: false, refusal: commands.length > 1 ? { ...some.refusal, index: some.at } : some.refusal };
      for (const command of commands.slice(from, Math.min(some.at, from + MOST_NAMES - names.length))) names.push(commandName(before, command));
      patches.push(some.patches);
      inverses.push(some.inverse);
      current = some.next;
      from = some.at;
    }
    // Taking back holds itself to the same, with words of its own.
    const all = patches.flat();
    const refusal = current === doc || commands.every(({ kind }) => kind === "document.restore") ? null : stands(doc, current, all);
    if (refusal) return { ok: false, refusal };
    return { ok: true, doc: current, patches: all, inverse: inverses.reverse().flat(), name: names[0] ?? "", names };
  };
  return { kinds: Object.keys(handlers) as C["kind"][], knows, canApply, commandName, apply: (doc, command) => applyAll(doc, [command]), applyAll };
};
