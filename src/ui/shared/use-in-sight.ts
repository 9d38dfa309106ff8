import { useEffect, useRef } from "react";

interface InSight {
  /** The id of the cell that has the keys, once it is drawn. */
  readonly cell: string | undefined;
  /** Where it stands: a cell that was moved is followed. */
  readonly place: string;
  /** Changes when something is chosen anew, though it may be the same as before. */
  readonly chosen?: unknown;
  /** How much can be seen: what opens beside or below takes some of it a moment later. */
  readonly size?: string;
  /** Has the row drawn, where only those in sight are. */
  readonly draw?: () => void;
}

/**
 * Keeps the cell that has the keys in sight. What was pressed was in sight, and stays under the hand: were it brought
 * wholly into view, the second of two presses would meet another place. Answers what tells of a press.
 */
export const useInSight = ({ cell, place, chosen, size = "", draw }: InSight): ((pressed: string) => void) => {
  const pressed = useRef<string | null>(null);
  const lastSize = useRef(size);
  const latest = useRef(draw);
  latest.current = draw;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same cell is brought back too when it is chosen again
  useEffect(() => {
    const resized = lastSize.current !== size;
    lastSize.current = size;
    if (pressed.current !== place) pressed.current = null;
    if (!cell || (pressed.current && !resized)) return;
    latest.current?.();
    document.getElementById(cell)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [cell, place, chosen, size]);
  const press = useRef((to: string): void => {
    pressed.current = to;
  });
  return press.current;
};
