import type { MouseEvent } from "react";

const TAKES_FOCUS = "input, textarea, select, button, a";

/** A press inside a grid that names its active cell: the grid has the keys then, and not the cell that was pressed. */
export const keepFocus = (event: MouseEvent<HTMLElement>): void => {
  if ((event.target as Element).closest(TAKES_FOCUS)) return;
  event.preventDefault();
  event.currentTarget.focus({ preventScroll: true });
};
