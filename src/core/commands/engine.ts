import type { DocumentDescription } from "../model/describe/table";
import { type Command, type Patch, type Refusal, refuse, VERBS } from "./command";
import { calledBy } from "./naming";
import { stands } from "./standing";
import { dropUnheld, givePlaces, repair } from "./tidy";
import { run } from "./verbs";
import { Work } from "./work";

export type AppliedTo<D> =
  | { readonly ok: true; readonly doc: D; readonly patches: readonly Patch[]; readonly inverse: readonly Patch[] }
  | { readonly ok: false; readonly refusal: Refusal };

/** What edits one kind of document, by its description: templates, rigs and the studio each have one. */
export interface Engine<D> {
  readonly description: DocumentDescription;
  /** Whether this version of Wandel has such a command. */
  knows(command: Command): boolean;
  /** What a person would call a command by itself; a gesture has a name of its own. */
  commandName(doc: D, command: Command): string;
  apply(doc: D, command: Command): AppliedTo<D>;
  applyAll(doc: D, commands: readonly Command[]): AppliedTo<D>;
}

interface Options<D extends { readonly id: string }> {
  /** Counts anew what follows from the rest, after every gesture. */
  readonly derive?: (work: Work<D>) => void;
}

const UNKNOWN = refuse(
  "unfit",
  "",
  "This edit was made with another version of Wandel, and this one does not know it.",
);

const isKnown = ({ kind }: Command): boolean => VERBS.includes(kind);

/**
 * Does commands one after the other, without asking whether what they leave may stand. Which of several was refused is
 * told.
 */
export const runAll = <D extends { readonly id: string }>(
  work: Work<D>,
  commands: readonly Command[],
): Refusal | null => {
  for (const [index, command] of commands.entries()) {
    const refusal = isKnown(command) ? run(work as unknown as Work<{ readonly id: string }>, command) : UNKNOWN;
    if (refusal) return commands.length > 1 ? { ...refusal, index } : refusal;
  }
  return null;
};

/**
 * Makes the engine of a kind of document from its description. A gesture is done as a whole; then what referred to
 * something that went is mended, what nothing holds goes, and what is left is held to the description: there is no
 * other way into a document. Nothing is thrown and nothing half done.
 */
export const engineOf = <D extends { readonly id: string }>(
  description: DocumentDescription,
  { derive }: Options<D> = {},
): Engine<D> => {
  const conclude = (work: Work<D>, restores: boolean): Refusal | null => {
    const any = work as unknown as Work<{ readonly id: string }>;
    // What is taken back is taken as it was: it takes nothing along, and is refused where something builds on it by
    // now.
    const refusal = (restores ? null : repair(any)) ?? dropUnheld(any);
    if (refusal) return refusal;
    givePlaces(any);
    derive?.(work);
    return stands(any);
  };

  const applyAll = (doc: D, commands: readonly Command[]): AppliedTo<D> => {
    const work = new Work(description, doc);
    const failed = runAll(work, commands);
    if (failed) return { ok: false, refusal: failed };
    const [only] = commands;
    const restores = commands.some((command) => command.kind === "restore" && !command.carries);
    const refusal = work.touched.size || work.touchedHeader.length ? conclude(work, restores) : null;
    if (!refusal) return { ok: true, ...work.finish() };
    if (only?.kind !== "restore" || only.carries) return { ok: false, refusal };
    return {
      ok: false,
      refusal: refuse(
        "unfit",
        doc.id,
        `“${only.undoes}” can't be undone: something that came after it builds on it. Undo that first.`,
      ),
    };
  };

  return {
    description,
    knows: isKnown,
    commandName: calledBy(description),
    apply: (doc, command) => applyAll(doc, [command]),
    applyAll,
  };
};
