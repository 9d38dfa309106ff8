import { rigOf } from "@/core/checks/context";
import { filterRows, type Row } from "@/core/layout/rows";
import type { ChannelId, FolderId } from "@/core/model/ids";
import type { Folder } from "@/core/model/tables/folders";
import type { Template } from "@/core/model/template";
import type { BlockPlan } from "@/core/planning/block";
import type { Edit } from "@/core/planning/edits/edit";
import { canDo } from "@/core/planning/edits/template-editing";
import type { Planned } from "@/core/planning/gesture";
import type { CellColumn } from "@/core/queries/columns";
import { counted } from "@/core/units/counted";
import { focusGrid } from "../grid/grid-focus";
import { columnsBetween } from "../grid/use-grid-selection";
import type { RowSetting } from "../grid/use-row-height";
import type { Doing } from "../state/desk-context";
import type { Cursor, Desk, DeskStore, RowsInView } from "../state/desk-store";
import { type Act, cant, type Doable } from "./act-model";
import { type Chord, keyOf, type Meaning } from "./chords";

/**
 * What the acts mean by their keys. Two acts share one where only one of them can be possible: on tracks or on a folder.
 */
const ACT_KEYS = {
  add: "add",
  filter: "filter",
  pair: "pair",
  split: "split",
  up: "up",
  down: "down",
  remove: "remove",
  duplicate: "duplicate",
  folder: "folder",
  "choose-family": "family",
  pattern: "pattern",
  gain: "gain",
  "shift-inputs": "shift-inputs",
  "rename-input": "rename-input",
  family: "dye",
  "fill-down": "fill-down",
  "fill-ascending": "fill-ascending",
  unplug: "take-out",
  "rows-in-input-order": "rows-in-input-order",
  "inputs-in-row-order": "inputs-in-row-order",
  "fit-rows": "fit",
  "fold-all": "fold-all",
  "folder-up": "up",
  "folder-down": "down",
  nest: "folder",
  unnest: "take-out",
  "folder-family": "family",
  dissolve: "remove",
} as const satisfies Readonly<Record<string, Meaning>>;

export type ActId = keyof typeof ACT_KEYS;

/** An act of the input list. */
export interface GridAct extends Act {
  readonly id: ActId;
  readonly key: Chord;
  readonly scope: NonNullable<Act["scope"]>;
}

export const actOf =
  (scope: GridAct["scope"]) =>
  (id: ActId, label: string, doable: Doable): GridAct => ({ id, scope, label, key: keyOf(ACT_KEYS[id]), ...doable });

/** What is selected, in the order of the grid, and the columns of the range. */
export interface Chosen extends Pick<Desk, "doc" | "studio"> {
  readonly rig: ReturnType<typeof rigOf>;
  readonly cursor: Cursor | null;
  readonly order: readonly ChannelId[];
  readonly trackIds: readonly ChannelId[];
  readonly range: readonly CellColumn[];
  readonly folder: Folder | undefined;
  /** The tracks that are selected, in words, as an act on them is called once it is done. */
  readonly plainMany: string;
  /** The same as it is said before, with how many of them are not seen just now. */
  readonly many: string;
  readonly outOfView: readonly ChannelId[];
}

/** The selected tracks that are listed above or below what is seen of the grid. */
export const unseen = (
  rows: readonly Row[],
  selected: ReadonlySet<string>,
  { from, to }: RowsInView,
): readonly ChannelId[] =>
  rows.flatMap((row, at) => (row.kind === "track" && selected.has(row.id) && (at < from || at > to) ? [row.id] : []));

export const unseenInWords = (all: number, unseenCount: number): string =>
  unseenCount === 0 ? "" : all === 1 ? ", out of view" : `, ${unseenCount} out of view`;

export const chosenOf = (desk: Desk): Chosen => {
  const { doc, studio, filter, selected, cursor, anchorColumn, columns } = desk;
  const rig = rigOf(desk);
  const listed = filterRows(doc, rig, filter);
  const order = listed.flatMap((row) => (row.kind === "track" ? [row.id] : []));
  const set = new Set(selected);
  const outOfView = unseen(listed, set, desk.view.getState());
  const trackIds = order.filter((id) => set.has(id));
  return {
    doc,
    studio,
    rig,
    cursor,
    order,
    trackIds,
    range: columnsBetween(columns, anchorColumn, cursor?.column ?? "name"),
    folder: cursor ? doc.folders[cursor.rowId as FolderId] : undefined,
    plainMany: trackIds.length === 1 ? "the track" : counted(trackIds.length, "track"),
    many: `${trackIds.length === 1 ? "the track" : counted(trackIds.length, "track")}${unseenInWords(trackIds.length, outOfView.length)}`,
    outOfView,
  };
};

export interface ActTools extends Doing {
  readonly desk: DeskStore;
  readonly rows: RowSetting;
  readonly setRows: (setting: RowSetting) => void;
}

/** What has to be done before an act on tracks can be done. */
export const SELECT_FIRST = "Select one or more tracks first.";

/** Ways to say how a thing is done; each answers why it can't be, where it can't. */
export const ways = (doc: Template, { act, actPlanned, actBlock }: Doing) => ({
  /** `whyNot`: what is to be done first where there is no edit to be made. */
  command: (
    command: Edit | null,
    { name, whyNot = SELECT_FIRST }: { readonly name?: string; readonly whyNot?: string } = {},
  ): Doable =>
    command
      ? {
          whyNot: canDo(doc, command)?.message,
          run: () => void (act(name ? { name, edits: [command] } : { edits: [command] }) && focusGrid()),
        }
      : cant(whyNot),
  plan: (plan: Planned): Doable => ({
    whyNot: plan.ok ? undefined : plan.message,
    run: () => void (actPlanned(plan) && focusGrid()),
  }),
  /** A plan that is too dear to be made only to see whether it can be. */
  planLater: (make: () => Planned): Doable => ({ run: () => void (actPlanned(make()) && focusGrid()) }),
  block: (whyNot: string | undefined, make: () => BlockPlan): Doable => ({
    whyNot,
    run: () => void (actBlock(make()) && focusGrid()),
  }),
});
