"use client";

import { Modal } from "@mantine/core";
import type { GridAct } from "../acts/act";
import type { Acts } from "../acts/act-model";
import classes from "./key-sheet.module.css";

const MOVING: readonly (readonly [string, string])[] = [
  ["← ↑ → ↓", "Go from cell to cell"],
  ["Tab, Shift Tab", "Next and last cell"],
  ["Enter, F2 or typing", "Edit the cell"],
  ["Ctrl Enter", "Write the same into every selected row"],
  ["Esc", "Leave the edit; clear the selection"],
  ["Shift and arrows", "Select a range"],
  ["Shift Space", "Select whole rows"],
  ["Ctrl A", "Select all rows"],
  ["Ctrl C, Ctrl X, Ctrl V", "Copy, cut, paste cells"],
  ["Backspace", "Empty the cells of the range"],
  ["Space", "Turn a switch; fold a folder"],
  ["Home, End", "First and last cell; with Ctrl first and last row"],
  ["Ctrl Z, Ctrl Shift Z", "Undo, redo"],
  ["Ctrl K", "Do or find anything"],
];

const List = ({ title, keys }: { readonly title: string; readonly keys: readonly (readonly [string, string])[] }) => (
  <section>
    <h3 className={classes.title}>{title}</h3>
    <dl className={classes.list}>
      {keys.map(([key, does]) => (
        <div key={does}>
          <dt>{key}</dt>
          <dd>{does}</dd>
        </div>
      ))}
    </dl>
  </section>
);

/** Every key of the input list. Those of acts come from the acts themselves, so that the sheet can't be wrong. */
export const KeySheet = ({
  opened,
  acts,
  onClose,
}: {
  readonly opened: boolean;
  readonly acts: Acts<GridAct>;
  readonly onClose: () => void;
}) => {
  const keyed = (opened ? acts() : []).flatMap((act) =>
    act.scope !== "folder"
      ? [[act.key, act.label.replace(/ (the track|\d+ tracks?)\b/, " what is selected")] as const]
      : [],
  );
  return (
    <Modal opened={opened} onClose={onClose} title="All keys of the input list" size="xl">
      <div className={classes.sheet}>
        <List title="In the grid" keys={MOVING} />
        <List title="Acts" keys={keyed} />
      </div>
    </Modal>
  );
};
