"use client";

import { modals } from "@mantine/modals";
import { useMemo } from "react";
import { canApply } from "@/core/commands/apply";
import type { Command } from "@/core/commands/command";
import { filterRows, layoutRows } from "@/core/layout/rows";
import type { ChannelId, FolderId } from "@/core/model/ids";
import { jackOf } from "@/core/model/read-rig";
import { linesOfTrack, trackOf } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/rig";
import { pairCommand, stepCommand, stepFolder, unplug } from "@/core/planning/arrange";
import { type Block, type BlockPlan, fillAscending, fillDown } from "@/core/planning/block";
import { duplicateTracks } from "@/core/planning/duplicate";
import { dyeByFamily, setFamily, setFolderFamily } from "@/core/planning/family";
import type { Planned } from "@/core/planning/gesture";
import { nameByPattern } from "@/core/planning/name-pattern";
import { changeGain, shiftInputs } from "@/core/planning/numbers";
import { inputsInRowOrder, rowsInInputOrder } from "@/core/planning/order";
import { writeCell } from "@/core/planning/write-cell";
import { counted } from "@/core/units/counted";
import { tellRefusal } from "../shared/notices";
import { useDesk, useDeskStore, useDoing, useRig, useStudio } from "../state/desk-context";
import { doInRig } from "../state/rig-edits";
import { askDuplicate, askFamily, askNumbers, askText } from "./act-dialogs";
import { FolderDialog } from "./folder-dialog";
import { ADD_TRACKS_FIELD, FILTER_FIELD, focusGrid, newIds } from "./grid-focus";
import { columnsBetween } from "./use-grid-selection";
import { useRowSetting } from "./use-row-height";

/** Something that can be done to what is selected: the same list stands behind keys, palette, menus and buttons. */
export interface Act {
  readonly id: string;
  readonly label: string;
  /** As it is shown. */
  readonly key?: string;
  /** As the key listener knows it. */
  readonly hotkey?: string;
  readonly possible: boolean;
  /** Acts on what is selected stand in the menu of a row; the others are for the whole list. */
  readonly scope: "selection" | "list" | "folder";
  readonly run: () => void;
}

const focusField = (id: string) => (): void => document.getElementById(id)?.focus();

/** What is selected, in the order of the grid, and the columns of the range. */
const useSelected = () => {
  const doc = useDesk((desk) => desk.doc);
  const filter = useDesk((desk) => desk.filter);
  const selected = useDesk((desk) => desk.selected);
  const cursor = useDesk((desk) => desk.cursor);
  const anchorColumn = useDesk((desk) => desk.anchorColumn);
  const columns = useDesk((desk) => desk.columns);
  const rig = useRig();
  return useMemo(() => {
    const order = filterRows(doc, rig, filter).flatMap((row) => (row.kind === "track" ? [row.id] : []));
    const chosen = new Set(selected);
    const trackIds = order.filter((id) => chosen.has(id));
    const range = columnsBetween(columns, anchorColumn, cursor?.column ?? "name");
    const folder = cursor ? doc.folders[cursor.rowId as FolderId] : undefined;
    return { doc, rig, cursor, order, trackIds, range, folder };
  }, [doc, rig, filter, selected, cursor, anchorColumn, columns]);
};

type Chosen = ReturnType<typeof useSelected>;

/** The block that a fill works on: what is selected, or the row above and the cursor's when it is but one. */
const fillBlock = ({ trackIds, order, range }: Chosen): Block => {
  const [only, ...more] = trackIds;
  const above = only && !more.length ? order[order.indexOf(only) - 1] : undefined;
  return { trackIds: above ? [above, ...trackIds] : trackIds, columns: range };
};

interface Tools {
  readonly does: (command: Command | null, name?: string) => Pick<Act, "possible" | "run">;
  readonly plans: (plan: Planned) => Pick<Act, "possible" | "run">;
  readonly blocks: (make: () => BlockPlan) => () => void;
}

const useTools = (doc: Chosen["doc"]): Tools => {
  const { act, actPlanned, actBlock } = useDoing();
  return useMemo(
    () => ({
      does: (command, name) => ({
        possible: command !== null && canApply(doc, command) === null,
        run: () => {
          if (command && act(name ? { name, commands: [command] } : { commands: [command] })) focusGrid();
        },
      }),
      plans: (plan) => ({ possible: plan.ok, run: () => void (actPlanned(plan) && focusGrid()) }),
      blocks: (make) => () => void (actBlock(make()) && focusGrid()),
    }),
    [doc, act, actPlanned, actBlock],
  );
};

const arrangeActs = (chosen: Chosen, { does }: Tools, many: string): readonly Act[] => {
  const { doc, trackIds } = chosen;
  const pair = pairCommand(doc, trackIds);
  const [only] = trackIds;
  const split: Command | null = trackIds.length === 1 && only ? { kind: "tracks.split", trackId: only, newTrackId: newIds<ChannelId>("track") } : null;
  const remove: Command = { kind: "tracks.remove", trackIds };
  return [
    { id: "pair", scope: "selection", label: "Make one stereo track", key: "Alt P", hotkey: "alt+P", ...does(pair) },
    { id: "split", scope: "selection", label: "Make two mono tracks", key: "Alt O", hotkey: "alt+O", ...does(split) },
    { id: "up", scope: "selection", label: `Move ${many} up`, key: "Alt ↑", hotkey: "alt+ArrowUp", ...does(stepCommand(doc, trackIds, -1), `Move ${many} up`) },
    { id: "down", scope: "selection", label: `Move ${many} down`, key: "Alt ↓", hotkey: "alt+ArrowDown", ...does(stepCommand(doc, trackIds, 1), `Move ${many} down`) },
    { id: "remove", scope: "selection", label: `Remove ${many}`, key: "Delete", ...does(trackIds.length ? remove : null) },
  ];
};

const useDialogActs = (chosen: Chosen, many: string): readonly Act[] => {
  const { doc, rig, trackIds } = chosen;
  const desk = useDeskStore();
  const studio = useStudio();
  const { actPlanned } = useDoing();
  return useMemo(() => {
    const possible = trackIds.length > 0;
    const names = entriesOf(doc.folders).map((entry) => entry.name);
    const toFolder = (name: string) => actPlanned(writeCell(doc, rig, { trackIds, column: "folder", text: name, ids: newIds }));
    const duplicate = () =>
      askDuplicate(`Duplicate ${many}`, (input) => {
        const made = duplicateTracks(desk.getState().doc, rig, { trackIds, input, ids: newIds });
        if (!actPlanned(made.planned)) return false;
        const first = made.trackIds[0];
        if (first) desk.setState({ cursor: { rowId: first, column: "name" }, anchorColumn: null, selected: made.trackIds });
        return true;
      });
    const [only] = trackIds;
    const track = trackIds.length === 1 && only ? trackOf(doc, only) : null;
    const jack = track ? jackOf(rig, linesOfTrack(doc, track)[0]?.portId ?? null) : null;
    const renameInput = () =>
      askText({
        title: `Rename input ${jack?.label}`,
        label: "Name",
        description: `Shown in every template on ${rig.name}, in the jack field and on the patching sheet. Empty takes the name off.`,
        initial: jack?.port.name ?? "",
        does: "Rename the input",
        onSubmit: (name) => {
          if (jack) void doInRig(rig.id, [{ kind: "ports.name", names: [{ portId: jack.port.id, name }] }]).then((refusal) => refusal && tellRefusal(refusal));
          return true;
        },
      });
    return [
      { id: "duplicate", scope: "selection", label: `Duplicate ${many}…`, key: "Alt C", hotkey: "alt+C", possible, run: duplicate },
      {
        id: "folder",
        scope: "selection",
        label: `Put ${many} in a folder…`,
        key: "Alt G",
        hotkey: "alt+G",
        possible,
        run: () => modals.open({ title: `Put ${many} in a folder`, children: <FolderDialog names={names} onChoose={toFolder} />, onClose: focusGrid }),
      },
      {
        id: "choose-family",
        scope: "selection",
        label: "Choose the family…",
        key: "Alt M",
        hotkey: "alt+M",
        possible,
        run: () => askFamily(`Family of ${many}`, studio.families, (family) => actPlanned(setFamily(doc, trackIds, family, studio.families))),
      },
      {
        id: "pattern",
        scope: "selection",
        label: "Name by pattern…",
        key: "Alt T",
        hotkey: "alt+T",
        possible,
        run: () =>
          askText({
            title: `Name ${many} by pattern`,
            label: "Pattern",
            description: "{source}, {microphone}, {player}, {input}, {folder} and {number} become what each track has of it.",
            initial: studio.namePattern,
            does: "Name the tracks",
            onSubmit: (pattern) => actPlanned(nameByPattern(doc, rig, { trackIds, pattern })),
          }),
      },
      {
        id: "gain",
        scope: "selection",
        label: "Set or shift the gain…",
        key: "Alt N",
        hotkey: "alt+N",
        possible,
        run: () => askNumbers(`Gain of ${many}`, (answer) => actPlanned(changeGain(doc, trackIds, answer))),
      },
      {
        id: "shift-inputs",
        scope: "selection",
        label: "Shift the inputs…",
        key: "Alt I",
        hotkey: "alt+I",
        possible,
        run: () =>
          askText({
            title: `Shift the inputs of ${many}`,
            label: "By how many inputs",
            description: "2 moves each two inputs further on as they sit, −1 one back.",
            initial: "1",
            does: "Shift the inputs",
            onSubmit: (text) => actPlanned(shiftInputs(doc, rig, { trackIds, by: Number(text.trim().replace("−", "-")) })),
          }),
      },
      {
        id: "rename-input",
        scope: "selection",
        label: jack ? `Rename input ${jack.label}…` : "Rename the input…",
        key: "Alt R",
        hotkey: "alt+R",
        possible: jack !== null,
        run: renameInput,
      },
    ];
  }, [doc, rig, trackIds, desk, studio, actPlanned, many]);
};

const useFolderActs = (chosen: Chosen, tools: Tools): readonly Act[] => {
  const { doc, folder } = chosen;
  const studio = useStudio();
  const { act, actPlanned } = useDoing();
  return useMemo(() => {
    const folders = entriesOf(doc.folders);
    const fold = (open: boolean): Command => ({ kind: "folders.set", folderIds: folders.map((entry) => entry.id), set: { open } });
    const anyOpen = folders.some((entry) => entry.open);
    const foldAll: Act = {
      id: "fold-all",
      scope: "list",
      label: anyOpen ? "Fold all folders" : "Unfold all folders",
      key: "Alt B",
      hotkey: "alt+B",
      possible: folders.length > 0,
      run: () => act({ name: anyOpen ? "Fold all folders" : "Unfold all folders", commands: [fold(!anyOpen)] }),
    };
    if (!folder) return [foldAll];
    const others = folders.filter((entry) => entry.id !== folder.id && canApply(doc, { kind: "folders.move", folderId: folder.id, parentId: entry.id, before: null }) === null);
    const nest = (name: string): boolean => {
      const parent = others.find((entry) => entry.name.toLowerCase() === name.trim().toLowerCase());
      if (!parent) tellRefusal(`There is no other folder called ${name}.`);
      return parent !== undefined && act({ commands: [{ kind: "folders.move", folderId: folder.id, parentId: parent.id, before: null }] });
    };
    return [
      foldAll,
      { id: "folder-up", scope: "folder", label: `Move the folder ${folder.name} up`, key: "Alt ↑", hotkey: "alt+ArrowUp", ...tools.does(stepFolder(doc, folder.id, -1)) },
      { id: "folder-down", scope: "folder", label: `Move the folder ${folder.name} down`, key: "Alt ↓", hotkey: "alt+ArrowDown", ...tools.does(stepFolder(doc, folder.id, 1)) },
      {
        id: "nest",
        scope: "folder",
        label: `Put the folder ${folder.name} in another…`,
        key: "Alt G",
        hotkey: "alt+G",
        possible: others.length > 0,
        run: () =>
          modals.open({
            title: `Put ${folder.name} in a folder`,
            children: <FolderDialog names={others.map((entry) => entry.name)} existing onChoose={nest} />,
            onClose: focusGrid,
          }),
      },
      {
        id: "unnest",
        scope: "folder",
        label: `Take the folder ${folder.name} out`,
        key: "Alt U",
        hotkey: "alt+U",
        ...tools.does(folder.parentId ? { kind: "folders.move", folderId: folder.id, parentId: doc.folders[folder.parentId]?.parentId ?? null, before: null } : null),
      },
      {
        id: "folder-family",
        scope: "folder",
        label: "Choose the family…",
        key: "Alt M",
        hotkey: "alt+M",
        possible: true,
        run: () => askFamily(`Family of the folder ${folder.name}`, studio.families, (family) => actPlanned(setFolderFamily(folder.id, family, studio.families))),
      },
      { id: "dissolve", scope: "folder", label: `Dissolve the folder ${folder.name}`, key: "Delete", ...tools.does({ kind: "folders.remove", folderId: folder.id }) },
    ];
  }, [doc, folder, studio, act, actPlanned, tools]);
};

export const useActs = (): readonly Act[] => {
  const chosen = useSelected();
  const { doc, rig, trackIds } = chosen;
  const studio = useStudio();
  const tools = useTools(doc);
  const many = trackIds.length === 1 ? "the track" : counted(trackIds.length, "track");
  const dialogs = useDialogActs(chosen, many);
  const folders = useFolderActs(chosen, tools);
  const [rows, setRows] = useRowSetting();
  return useMemo(() => {
    const block = fillBlock(chosen);
    const [only] = trackIds;
    const allTracks = () => layoutRows(doc, { unfold: true }).flatMap((row) => (row.kind === "track" ? [row.id] : []));
    const some = trackIds.length > 0;
    return [
      { id: "add", scope: "list", label: "Add tracks", key: "Alt A", hotkey: "alt+A", possible: true, run: focusField(ADD_TRACKS_FIELD) },
      { id: "filter", scope: "list", label: "Filter the rows", key: "Alt S", hotkey: "alt+S", possible: true, run: focusField(FILTER_FIELD) },
      ...arrangeActs(chosen, tools, many),
      ...dialogs,
      {
        id: "family",
        scope: "selection",
        label: `Dye ${many} by family`,
        key: "Alt Y",
        hotkey: "alt+Y",
        ...tools.plans(some ? dyeByFamily(doc, trackIds, studio.families) : { ok: false, message: "" }),
      },
      {
        id: "fill-down",
        scope: "selection",
        label: "Fill down",
        key: "Alt J",
        hotkey: "alt+J",
        possible: block.trackIds.length > 1,
        run: tools.blocks(() => fillDown(doc, rig, { block, ids: newIds })),
      },
      {
        id: "fill-ascending",
        scope: "selection",
        label: "Fill ascending",
        key: "Alt K",
        hotkey: "alt+K",
        possible: block.trackIds.length > 1,
        run: tools.blocks(() => fillAscending(doc, rig, { block, ids: newIds })),
      },
      {
        id: "unplug",
        scope: "selection",
        label: "Take it off its input",
        key: "Alt U",
        hotkey: "alt+U",
        ...(trackIds.length === 1 && only && linesOfTrack(doc, trackOf(doc, only) as never).some((line) => line.portId)
          ? tools.plans(unplug(doc, only))
          : { possible: false, run: () => {} }),
      },
      {
        id: "rows-in-input-order",
        scope: "list",
        label: "Put rows in input order",
        key: "Alt Shift R",
        hotkey: "alt+shift+R",
        possible: true,
        run: () => tools.plans(rowsInInputOrder(doc, rig)).run(),
      },
      {
        id: "inputs-in-row-order",
        scope: "list",
        label: "Put inputs in row order",
        key: "Alt Shift I",
        hotkey: "alt+shift+I",
        possible: true,
        run: () => tools.plans(inputsInRowOrder(doc, rig, allTracks())).run(),
      },
      {
        id: "fit-rows",
        scope: "list",
        label: rows === "fit" ? "Rows as high as usual" : "Fit all rows in view",
        key: "Alt Z",
        hotkey: "alt+Z",
        possible: true,
        run: () => setRows(rows === "fit" ? "usual" : "fit"),
      },
      ...folders,
    ];
  }, [rows, setRows, chosen, doc, rig, trackIds, studio, tools, many, dialogs, folders]);
};
