import { nanoid } from "nanoid";
import type { IdSource } from "@/core/model/ids";

export const newIds: IdSource = <T extends string>(kind: string) => `${kind}-${nanoid(10)}` as T;

export const ADD_TRACKS_FIELD = "add-tracks-field";
export const FILTER_FIELD = "filter-field";
export const INPUT_GRID = "input-grid";

/** Gives the grid the focus; one that is only about to be drawn (the first tracks were just added) gets it then. */
export const focusGrid = (): void => {
  const grid = document.getElementById(INPUT_GRID);
  if (grid) grid.focus({ preventScroll: true });
  else setTimeout(() => document.getElementById(INPUT_GRID)?.focus());
};
