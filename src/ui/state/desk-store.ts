import { createStore, type StoreApi } from "zustand/vanilla";
import type { Evaluation } from "@/core/checks/judgement";
import type { ChannelId, FolderId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";
import type { Edit } from "@/core/planning/edits/edit";
import { templateEditing } from "@/core/planning/edits/template-editing";
import type { Gesture, Planned } from "@/core/planning/gesture";
import { CELL_COLUMNS, type CellColumn } from "@/core/queries/columns";
import { type DocState, doIn, type Opening, openState, redoIn, undoIn } from "./doc-store";

/** The row below the last one, where typing or pasting makes new tracks. */
export const END_ROW = "end-of-list";

/** Where the cursor of the grid is. */
export interface Cursor {
  readonly rowId: ChannelId | FolderId | typeof END_ROW;
  readonly column: CellColumn;
}

/** A template in this window, with the rigs and the studio it is seen against and what is selected. */
export interface Desk extends DocState<Template, Edit> {
  readonly rigs: readonly Rig[];
  readonly studio: Studio;
  readonly cursor: Cursor | null;
  /** The column where a range began; with the cursor's column it spans the range. Null: only the cursor's. */
  readonly anchorColumn: CellColumn | null;
  readonly selected: readonly ChannelId[];
  readonly filter: string;
  /** Columns of the grid that are shown, as they stand. */
  readonly columns: readonly CellColumn[];
  /** What the checks say: of what is shown, or of what was shown a moment ago; NOT_JUDGED until they have looked. */
  readonly evaluation: Evaluation;
  readonly findingsOpen: boolean;
  /** The revision that is read, where it is not the template as it is now. */
  readonly reading: Reading | null;
  /** Tracks are being added by writing them, in the place of the list. */
  readonly adding: boolean;
  /**
   * Which rows of the grid are seen, by their place among those that are listed: a store of its own, since it changes
   * with every step of the wheel.
   */
  readonly view: StoreApi<RowsInView>;
}

/** An older state that is read. */
export interface Reading {
  readonly revision: number;
  readonly head: number;
  /** The name it was kept under. */
  readonly version: string | null;
}

export interface RowsInView {
  readonly from: number;
  /** The last one. */
  readonly to: number;
}

export type DeskStore = StoreApi<Desk>;

export interface DeskOpening extends Opening<Template> {
  readonly rigs: readonly Rig[];
  readonly studio: Studio;
  readonly reading?: Reading | null;
}

/** Before the checks have looked for the first time: nothing is known, neither good nor bad. */
export const NOT_JUDGED: Evaluation = { open: [], accepted: [] };

/** Selection and cursor stay only on what is still there. */
const stillThere = ({ cursor, selected, doc }: Desk): Pick<Desk, "cursor" | "selected"> => ({
  cursor:
    cursor &&
    (cursor.rowId === END_ROW || doc.channels[cursor.rowId as ChannelId] || doc.folders[cursor.rowId as FolderId])
      ? cursor
      : null,
  selected: selected.every((id) => doc.channels[id]) ? selected : selected.filter((id) => doc.channels[id]),
});

const LOCKED = "This is an older state, and only read. Bring it back, or make a template of it, to change it.";

export const createDesk = ({ rigs, studio, reading = null, ...opening }: DeskOpening): DeskStore => {
  const desk = createStore<Desk>(() => ({
    ...openState<Template, Edit>(templateEditing, { ...opening, locked: reading ? LOCKED : null }),
    rigs,
    studio,
    cursor: null,
    anchorColumn: null,
    selected: [],
    filter: "",
    columns: CELL_COLUMNS,
    evaluation: NOT_JUDGED,
    findingsOpen: false,
    reading,
    adding: false,
    view: createStore<RowsInView>(() => ({ from: 0, to: Number.POSITIVE_INFINITY })),
  }));
  desk.subscribe((state, before) => {
    if (state.doc === before.doc) return;
    const there = stillThere(state);
    if (there.cursor !== state.cursor || there.selected !== state.selected) desk.setState(there);
  });
  return desk;
};

/** Does a gesture. Answers null, or why it can't be done. */
export const doGesture = (desk: DeskStore, gesture: Gesture): string | null => doIn(desk, gesture);
export const doPlanned = (desk: DeskStore, plan: Planned): string | null =>
  plan.ok ? doGesture(desk, plan.gesture) : plan.message;
export const undoLast = (desk: DeskStore): string | null => undoIn(desk);
export const redoLast = (desk: DeskStore): string | null => redoIn(desk);
