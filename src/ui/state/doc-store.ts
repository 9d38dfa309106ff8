import { nanoid } from "nanoid";
import type { StoreApi } from "zustand/vanilla";
import type { Newer } from "@/contracts/answers";
import type { Command } from "@/core/commands/command";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import { EMPTY_HISTORY, type History, type StepOf, undoingOf } from "@/core/history/history";
import { type Pending, rebase } from "@/core/history/rebase";
import { hashOf } from "@/core/model/hash";
import { MOST } from "@/core/model/limits";
import { gestureOneToTwo } from "@/core/planning/edits/gesture-1-to-2";
import { gestureCompleted } from "@/core/planning/edits/gesture-completed";
import type { Editing } from "@/core/planning/edits/plan-edits";
import { plainText, plainTexts } from "@/core/reading/plain-text";
import type { Kept } from "./pending-keeper";

export type SaveState =
  | { readonly kind: "saved" }
  | { readonly kind: "saving" }
  | { readonly kind: "away"; readonly why: string }
  /**
   * The server has not what this window builds on. Nothing is sent until a person says what to do; what was edited is
   * kept. `happened` says it to whoever does not see the document.
   */
  | {
      readonly kind: "parted";
      readonly why: string;
      readonly happened: string;
      readonly how: "gone" | "past" | "broken" | "renewed" | "refused";
    };

/** Something that was done to the document while this window watched. */
export interface LogEntry {
  readonly id: string;
  readonly name: string;
  readonly by: "here" | "elsewhere";
  /** Who did it elsewhere, if they told. */
  readonly who?: string;
}

type Kinded = { readonly kind: string };
interface Identified {
  readonly id: string;
}

/**
 * One document in this window: what the server has of it, what is on its way there, what is shown, and what can be
 * undone.
 */
export interface DocState<D extends Identified, E extends Kinded> {
  /** What people do to it, planned to the commands of its engine. */
  readonly editing: Editing<D, E>;
  /** What the server is known to have. */
  readonly base: { readonly doc: D; readonly revision: number; readonly savedAt: string };
  /** Gestures on their way to the server, oldest first. */
  readonly pending: readonly Pending[];
  /** Base and pending together: what is shown. */
  readonly doc: D;
  readonly history: History;
  readonly save: SaveState;
  /** What could not be done again after another window's change. */
  readonly lost: readonly { readonly name: string; readonly why: string }[];
  /**
   * The document was not what the server has, though nobody did wrong: it was taken anew from there. Told until it is
   * put away.
   */
  readonly mended: boolean;
  /** What this window saved, with the revision it became: to be done again should the server lose it. Newest last. */
  readonly kept: readonly (Pending & { readonly revision: number })[];
  /** Newest last. */
  readonly log: readonly LogEntry[];
  /** Why nothing can be done to it, where it is only read: what each edit is refused with. */
  readonly locked: string | null;
}

export interface Opening<D> {
  readonly document: D;
  readonly revision: number;
  readonly savedAt: string;
  readonly locked?: string | null;
}

export const openState = <D extends Identified, E extends Kinded>(
  editing: Editing<D, E>,
  { document, revision, savedAt, locked = null }: Opening<D>,
): DocState<D, E> => ({
  editing,
  base: { doc: document, revision, savedAt },
  pending: [],
  doc: document,
  history: EMPTY_HISTORY,
  save: { kind: "saved" },
  lost: [],
  mended: false,
  kept: [],
  log: [],
  locked,
});

/** A store of one document. What else a screen keeps beside it is not touched here. */
export type DocStore<D extends Identified, E extends Kinded> = Pick<
  StoreApi<DocState<D, E>>,
  "getState" | "subscribe"
> & {
  setState(change: Partial<DocState<D, E>> | ((state: DocState<D, E>) => Partial<DocState<D, E>>)): void;
};

/** How much of what was done is remembered for the list of it. */
const LOGGED = 200;
/** How many saved gestures are remembered, to be done again should they be lost; as many as can be undone. */
const KEPT = 500;

const noted = (log: readonly LogEntry[], ...entries: readonly LogEntry[]): readonly LogEntry[] =>
  [...log, ...entries].slice(-LOGGED);

const bytesOf = (commands: readonly unknown[]): number => new Blob([JSON.stringify(commands)]).size;

const take = <D extends Identified, E extends Kinded>(store: DocStore<D, E>, step: StepOf<D>): string | null => {
  if (!step.ok) {
    store.setState({ history: step.history });
    return step.refusal.message;
  }
  if (!step.commands.length) return null;
  if (bytesOf(step.commands) > MOST.gestureBytes)
    return `“${step.name}” is more than can be saved at once: ${Math.round(MOST.gestureBytes / 1024 / 1024)} MiB are the most. Nothing was changed; do it in parts.`;
  const gesture: Pending = { id: nanoid(12), name: step.name, commands: step.commands };
  store.setState((state) => ({
    doc: step.doc,
    history: step.history,
    pending: [...state.pending, gesture],
    log: noted(state.log, { id: gesture.id, name: gesture.name, by: "here" }),
  }));
  return null;
};

/** What people do, as one gesture. Without a name it is called by the first of its edits. */
export interface EditsOf<E> {
  readonly name?: string;
  readonly edits: readonly E[];
}

/**
 * Does a gesture. Answers null, or why it can't be done. What was typed or pasted is made plain first, as the server
 * would.
 */
export const doIn = <D extends Identified, E extends Kinded>(
  store: DocStore<D, E>,
  gesture: EditsOf<E>,
): string | null => {
  const { editing, doc, history, locked } = store.getState();
  if (locked !== null) return locked;
  const { name, edits } = plainTexts(gesture);
  const planned = editing.plan(doc, edits);
  if (!planned.ok) return planned.refusal.message;
  return take(
    store,
    undoingOf(editing.engine).perform(doc, history, {
      name: name ?? planned.names[0] ?? "",
      commands: planned.commands,
    }),
  );
};

export const undoIn = <D extends Identified, E extends Kinded>(store: DocStore<D, E>): string | null => {
  const { editing, doc, history } = store.getState();
  return take(store, undoingOf(editing.engine).undo(doc, history));
};

export const redoIn = <D extends Identified, E extends Kinded>(store: DocStore<D, E>): string | null => {
  const { editing, doc, history } = store.getState();
  return take(store, undoingOf(editing.engine).redo(doc, history));
};

/** What came is written in gestures that this window does not know: Wandel was renewed since it was opened. */
export class OtherAge extends Error {}

/**
 * What was saved became something else here than there: both went another way from the same beginning, which must not
 * happen.
 */
export class Diverged extends Error {
  constructor(readonly savedId: string) {
    super("expected what was saved to become the same here as on the server, got another hash");
  }
}

/**
 * The server has kept the oldest pending gesture. One that the base has already (it was sent before a reload) is not
 * taken twice.
 */
export const answered = <D extends Identified, E extends Kinded>(
  store: DocStore<D, E>,
  gestureId: string,
  saved: { readonly revision: number; readonly savedAt: string; readonly hash?: string },
): void => {
  const { editing, base, pending } = store.getState();
  const [first, ...rest] = pending;
  if (first?.id !== gestureId) return;
  if (saved.revision <= base.revision) {
    const again = rebase(editing.engine, base.doc, rest);
    store.setState({ doc: again.doc, pending: again.kept });
    return;
  }
  const done = editing.engine.applyAll(base.doc, first.commands);
  if (!done.ok) throw new Error(`expected what was saved to apply here as well, got: ${done.refusal.message}`);
  if (saved.hash !== undefined && saved.hash !== hashOf(editing.engine.description, done.doc))
    throw new Diverged(first.id);
  store.setState(({ kept }) => ({
    base: { doc: done.doc, revision: saved.revision, savedAt: saved.savedAt },
    pending: rest,
    kept: [...kept, { ...first, revision: saved.revision }].slice(-KEPT),
  }));
};

/** Takes the server's document in place of one that came to differ from it, and does what is not saved yet on that. */
export const mend = <D extends Identified, E extends Kinded>(
  store: DocStore<D, E>,
  there: Opening<D>,
  savedId: string,
): void => {
  const { editing, pending, lost } = store.getState();
  const again = rebase(
    editing.engine,
    there.document,
    pending.filter(({ id }) => id !== savedId),
  );
  store.setState({
    base: { doc: there.document, revision: there.revision, savedAt: there.savedAt },
    doc: again.doc,
    pending: again.kept,
    lost: [...lost, ...again.lost],
    mended: true,
  });
};

/** Drops a gesture the server refused and does the others again without it. */
export const drop = <D extends Identified, E extends Kinded>(store: DocStore<D, E>, why: string): void => {
  const { editing, base, pending, lost } = store.getState();
  const [refused, ...rest] = pending;
  const again = rebase(editing.engine, base.doc, rest);
  const told = refused ? [{ name: refused.name, why }] : [];
  store.setState({ doc: again.doc, pending: again.kept, lost: [...lost, ...told, ...again.lost] });
};

/**
 * Takes in what other windows saved: their revisions onto the base, then what is pending here onto that. A pending
 * gesture that turns out to be among them (its answer got lost) is not done twice.
 */
export const takeNewer = <D extends Identified, E extends Kinded>(
  store: DocStore<D, E>,
  revisions: readonly Newer[],
): void => {
  const { editing, base, pending, lost, log } = store.getState();
  const newer = revisions.filter((revision) => revision.revision > base.revision);
  const last = newer.at(-1);
  if (!last) return;
  if (newer.some(({ commands }) => commands.some((command) => !editing.engine.knows(command)))) throw new OtherAge();
  let doc = base.doc;
  for (const revision of newer) {
    const done = editing.engine.applyAll(doc, revision.commands);
    if (!done.ok)
      throw new Error(`expected saved revision ${revision.revision} to apply, got: ${done.refusal.message}`);
    doc = done.doc;
  }
  const arrived = new Set(newer.map((revision) => revision.batch));
  const own = new Set(log.map((entry) => entry.id));
  const foreign = newer.filter((revision) => !revision.batch || !own.has(revision.batch));
  const again = rebase(
    editing.engine,
    doc,
    pending.filter((gesture) => !arrived.has(gesture.id)),
  );
  store.setState({
    base: { doc, revision: last.revision, savedAt: last.savedAt },
    doc: again.doc,
    pending: again.kept,
    lost: [...lost, ...again.lost],
    log: noted(
      log,
      ...foreign.map((revision) => ({
        id: `revision-${revision.revision}`,
        name: revision.names.join("; "),
        by: "elsewhere" as const,
        who: revision.by,
      })),
    ),
  });
};

/**
 * Begins anew from what the server has, which is not what this window built on: everything this window did that is not
 * in there is done again on it. `present` has the ids of gestures that are. What can't be done on it is told.
 */
export const beginAnew = <D extends Identified, E extends Kinded>(
  store: DocStore<D, E>,
  there: Opening<D>,
  present: ReadonlySet<string>,
): void => {
  const { editing, pending, kept, lost } = store.getState();
  const missing = kept.filter((gesture) => !present.has(gesture.id));
  const again = rebase(
    editing.engine,
    there.document,
    [...missing.map(({ revision: _revision, ...gesture }) => gesture), ...pending].filter(
      (gesture, at, all) => all.findIndex((other) => other.id === gesture.id) === at,
    ),
  );
  store.setState({
    base: { doc: there.document, revision: there.revision, savedAt: there.savedAt },
    doc: again.doc,
    pending: again.kept,
    kept: [],
    lost: [...lost, ...again.lost],
    history: EMPTY_HISTORY,
    save: { kind: again.kept.length ? "saving" : "saved" },
  });
};

/**
 * Takes up gestures that another page of this browser left unsaved: after a reload, or a crash. Those of an older
 * Wandel are read anew first.
 */
export const adopt = <D extends Identified, E extends Kinded>(store: DocStore<D, E>, left: readonly Kept[]): void => {
  const { editing, doc, pending, lost, log } = store.getState();
  const there = new Set(pending.map((gesture) => gesture.id));
  let current = doc;
  const kept: Pending[] = [];
  const gone: { name: string; why: string }[] = [];
  for (const gesture of left) {
    if (there.has(gesture.id)) continue;
    const name = plainText(String(gesture.name));
    const done = doneAgain(editing, current, gesture);
    if (typeof done === "string") gone.push({ name, why: done });
    else {
      current = done.doc;
      kept.push({ id: gesture.id, name, commands: done.commands });
    }
  }
  store.setState({
    doc: current,
    pending: [...pending, ...kept],
    lost: [...lost, ...gone],
    log: noted(log, ...kept.map((gesture) => ({ id: gesture.id, name: gesture.name, by: "here" as const }))),
  });
};

/**
 * A kept gesture done on the document as it is now, or why it can't be. Others write to what a browser keeps as well:
 * of what is damaged nothing can be said.
 */
const doneAgain = <D extends Identified, E extends Kinded>(
  editing: Editing<D, E>,
  current: D,
  gesture: Kept,
): { readonly doc: D; readonly commands: readonly Command[] } | string => {
  try {
    const commands = broughtUp(editing, current, plainTexts(gesture));
    if (typeof commands === "string") return commands;
    const done = editing.engine.applyAll(current, commands);
    return done.ok ? { doc: done.doc, commands } : done.refusal.message;
  } catch (error) {
    console.warn(error);
    return "what this browser kept of it is damaged.";
  }
};

/** The commands of a kept gesture as this Wandel has them, or why they can't be had. */
const broughtUp = <D extends Identified, E extends Kinded>(
  editing: Editing<D, E>,
  doc: D,
  { made = 1, commands }: Kept,
): readonly Command[] | string => {
  if (made === GESTURE_VERSION) return commands as readonly Command[];
  if (made > GESTURE_VERSION) return "it was made with a newer Wandel than this one.";
  const spoken = made === 1 ? gestureOneToTwo(editing, doc, commands) : (commands as readonly Command[]);
  return typeof spoken === "string" ? spoken : gestureCompleted(editing.engine.description.tables, spoken);
};
