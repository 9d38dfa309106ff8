import { nanoid } from "nanoid";
import { createStore, type StoreApi } from "zustand/vanilla";
import type { NewerRevision } from "@/contracts/answers";
import { applyAll, templateEngine } from "@/core/commands/apply";
import type { Command } from "@/core/commands/command";
import { EMPTY_HISTORY, type History, perform, redo, type StepOf, undo } from "@/core/history/history";
import { type PendingOf, rebase } from "@/core/history/rebase";
import type { ChannelId, FolderId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import type { Template } from "@/core/model/template";
import type { CellColumn } from "@/core/planning/cells";
import type { Gesture, Planned } from "@/core/planning/gesture";

type Pending = PendingOf<Command>;
type Step = StepOf<Template, Command>;

export type SaveState = { readonly kind: "saved" } | { readonly kind: "saving" } | { readonly kind: "away"; readonly why: string };

/** Where the cursor of the grid is. */
export interface Cursor {
  readonly rowId: ChannelId | FolderId;
  readonly column: CellColumn;
}

export interface Desk {
  /** What the server is known to have. */
  readonly base: { readonly doc: Template; readonly revision: number; readonly savedAt: string };
  /** Gestures on their way to the server, oldest first. */
  readonly pending: readonly Pending[];
  /** Base and pending together: what is shown. */
  readonly doc: Template;
  readonly rigs: readonly Rig[];
  readonly history: History;
  readonly save: SaveState;
  readonly cursor: Cursor | null;
  readonly selected: readonly ChannelId[];
  /** What could not be done again after another window's change. */
  readonly lost: readonly { readonly name: string; readonly why: string }[];
  readonly findingsOpen: boolean;
}

export type DeskStore = StoreApi<Desk>;

interface Opening {
  readonly document: Template;
  readonly revision: number;
  readonly savedAt: string;
  readonly rigs: readonly Rig[];
}

export const createDesk = ({ document, revision, savedAt, rigs }: Opening): DeskStore =>
  createStore<Desk>(() => ({
    base: { doc: document, revision, savedAt },
    pending: [],
    doc: document,
    rigs,
    history: EMPTY_HISTORY,
    save: { kind: "saved" },
    cursor: null,
    selected: [],
    lost: [],
    findingsOpen: false,
  }));

/** Selection and cursor stay only on what is still there. */
const stillThere = ({ cursor, selected }: Desk, doc: Template): Pick<Desk, "cursor" | "selected"> => ({
  cursor: cursor && (doc.channels[cursor.rowId as ChannelId] || doc.folders[cursor.rowId as FolderId]) ? cursor : null,
  selected: selected.every((id) => doc.channels[id]) ? selected : selected.filter((id) => doc.channels[id]),
});

const take = (desk: DeskStore, step: Step): string | null => {
  if (!step.ok) {
    desk.setState({ history: step.history });
    return step.refusal.message;
  }
  if (!step.commands.length) return null;
  const gesture: Pending = { id: nanoid(12), name: step.name, commands: step.commands };
  desk.setState((state) => ({ doc: step.doc, history: step.history, pending: [...state.pending, gesture], ...stillThere(state, step.doc) }));
  return null;
};

/** Does a gesture. Answers null, or why it can't be done. */
export const doGesture = (desk: DeskStore, gesture: Gesture): string | null => {
  const { doc, history } = desk.getState();
  return take(desk, perform(doc, history, gesture));
};

export const doPlanned = (desk: DeskStore, plan: Planned): string | null => (plan.ok ? doGesture(desk, plan.gesture) : plan.message);

export const undoLast = (desk: DeskStore): string | null => take(desk, undo(desk.getState().doc, desk.getState().history));
export const redoLast = (desk: DeskStore): string | null => take(desk, redo(desk.getState().doc, desk.getState().history));

/** The server has kept the oldest pending gesture. One that was already taken in with what is newer is not taken twice. */
export const settle = (desk: DeskStore, gestureId: string, saved: { readonly revision: number; readonly savedAt: string }): void => {
  const { base, pending } = desk.getState();
  const [first, ...rest] = pending;
  if (first?.id !== gestureId || saved.revision <= base.revision) return;
  const done = first && applyAll(base.doc, first.commands);
  desk.setState({ base: { doc: done?.ok ? done.doc : base.doc, ...saved }, pending: rest });
};

/** Drops a gesture the server refused and does the others again without it. */
export const drop = (desk: DeskStore, why: string): void => {
  const { base, pending, lost } = desk.getState();
  const [refused, ...rest] = pending;
  const again = rebase(templateEngine, base.doc, rest);
  const told = refused ? [{ name: refused.name, why }] : [];
  desk.setState((state) => ({ doc: again.doc, pending: again.kept, lost: [...lost, ...told, ...again.lost], ...stillThere(state, again.doc) }));
};

/**
 * Takes in what other windows saved: their revisions onto the base, then what is pending here onto that.
 * A pending gesture that turns out to be among them (its answer got lost) is not done twice.
 */
export const takeNewer = (desk: DeskStore, revisions: readonly NewerRevision[]): void => {
  const { base, pending, lost } = desk.getState();
  const newer = revisions.filter((revision) => revision.revision > base.revision);
  if (!newer.length) return;
  let doc = base.doc;
  for (const revision of newer) {
    const done = applyAll(doc, revision.commands);
    if (!done.ok) throw new Error(`expected saved revision ${revision.revision} to apply, got: ${done.refusal.message}`);
    doc = done.doc;
  }
  const last = newer.at(-1);
  const arrived = new Set(newer.map((revision) => revision.batch));
  const again = rebase(
    templateEngine,
    doc,
    pending.filter((gesture) => !arrived.has(gesture.id)),
  );
  const head = last ? { doc, revision: last.revision, savedAt: last.savedAt } : base;
  desk.setState((state) => ({ base: head, doc: again.doc, pending: again.kept, lost: [...lost, ...again.lost], ...stillThere(state, again.doc) }));
};
