"use client";

import { modals } from "@mantine/modals";
import { nanoid } from "nanoid";
import { useMemo } from "react";
import { canApply } from "@/core/commands/apply";
import type { Command } from "@/core/commands/command";
import { layoutRows } from "@/core/layout/rows";
import type { ChannelId, IdSource } from "@/core/model/ids";
import { pairCommand, stepCommand } from "@/core/planning/arrange";
import { dyeByFamily } from "@/core/planning/family";
import { writeCell } from "@/core/planning/write-cell";
import { counted } from "@/core/units/counted";
import { useDesk, useDoing, useRig } from "../state/desk-context";
import { FolderDialog } from "./folder-dialog";

/** Something that can be done to what is selected: the same list stands behind keys, palette and buttons. */
export interface Act {
  readonly id: string;
  readonly label: string;
  /** As it is shown. */
  readonly key?: string;
  /** As the key listener knows it. */
  readonly hotkey?: string;
  readonly possible: boolean;
  readonly run: () => void;
}

export const newIds: IdSource = <T extends string>(kind: string) => `${kind}-${nanoid(10)}` as T;

export const ADD_TRACKS_FIELD = "add-tracks-field";
export const INPUT_GRID = "input-grid";

/** Gives the grid the focus; one that is only about to be drawn (the first tracks were just added) gets it then. */
export const focusGrid = (): void => {
  const grid = document.getElementById(INPUT_GRID);
  if (grid) grid.focus();
  else setTimeout(() => document.getElementById(INPUT_GRID)?.focus());
};

export const useActs = (): readonly Act[] => {
  const doc = useDesk((desk) => desk.doc);
  const selected = useDesk((desk) => desk.selected);
  const cursor = useDesk((desk) => desk.cursor);
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  return useMemo(() => {
    const possible = (command: Command | null) => command !== null && canApply(doc, command) === null;
    const doIt = (command: Command | null, name?: string) => () => {
      if (command && act(name ? { name, commands: [command] } : { commands: [command] })) focusGrid();
    };
    // Left is what stands higher, however the two were selected.
    const asTheyStand = layoutRows(doc, { unfold: true }).flatMap((row) => (row.kind === "track" && selected.includes(row.id) ? [row.id] : []));
    const pair = pairCommand(doc, asTheyStand);
    const split: Command | null = selected.length === 1 && selected[0] ? { kind: "tracks.split", trackId: selected[0], newTrackId: newIds<ChannelId>("track") } : null;
    const [up, down] = [stepCommand(doc, selected, -1), stepCommand(doc, selected, 1)];
    const folder = cursor && doc.folders[cursor.rowId as keyof typeof doc.folders];
    const remove: Command = { kind: "tracks.remove", trackIds: selected };
    const many = selected.length === 1 ? "the track" : counted(selected.length, "track");
    const askFolder = () =>
      modals.open({
        title: `Put ${many} in a folder`,
        children: (
          <FolderDialog
            names={Object.values(doc.folders).map((entry) => entry.name)}
            onChoose={(name) => actPlanned(writeCell(doc, rig, { trackIds: selected, column: "folder", text: name, ids: newIds }))}
          />
        ),
        onClose: focusGrid,
      });
    const family = dyeByFamily(doc, selected);
    const acts: Act[] = [
      { id: "add", label: "Add tracks", key: "Alt A", hotkey: "alt+A", possible: true, run: () => document.getElementById(ADD_TRACKS_FIELD)?.focus() },
      { id: "pair", label: "Make one stereo track", key: "Alt P", hotkey: "alt+P", possible: possible(pair), run: doIt(pair) },
      { id: "split", label: "Make two mono tracks", key: "Alt O", hotkey: "alt+O", possible: possible(split), run: doIt(split) },
      { id: "folder", label: `Put ${many} in a folder…`, key: "Alt G", hotkey: "alt+G", possible: selected.length > 0, run: askFolder },
      { id: "family", label: `Dye ${many} by family`, key: "Alt Y", hotkey: "alt+Y", possible: selected.length > 0 && family.ok, run: () => void actPlanned(family) },
      { id: "up", label: `Move ${many} up`, key: "Alt ↑", hotkey: "alt+ArrowUp", possible: possible(up), run: doIt(up, `Move ${many} up`) },
      { id: "down", label: `Move ${many} down`, key: "Alt ↓", hotkey: "alt+ArrowDown", possible: possible(down), run: doIt(down, `Move ${many} down`) },
      { id: "remove", label: `Remove ${many}`, key: "Delete", possible: selected.length > 0, run: doIt(remove) },
    ];
    if (folder) acts.push({ id: "dissolve", label: `Dissolve the folder ${folder.name}`, possible: true, run: doIt({ kind: "folders.remove", folderId: folder.id }) });
    return acts;
  }, [doc, selected, cursor, rig, act, actPlanned]);
};
