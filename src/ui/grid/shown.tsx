"use client";

import { createContext, startTransition, useCallback, useContext, useEffect, useRef, useState } from "react";
import { useDeskStore } from "../state/desk-context";
import type { Desk } from "../state/desk-store";

/**
 * What of the desk the inspector shows. It follows the desk when the cursor rests, in pieces that a key can interrupt:
 * going through the rows must not wait for its fields.
 */
export type Shown = Pick<Desk, "doc" | "cursor" | "selected">;

/** How long the cursor rests before the fields follow it. */
const REST_MS = 120;

const sameRows = (a: Shown, b: Shown): boolean => a.cursor?.rowId === b.cursor?.rowId && a.selected === b.selected;

const pick = ({ doc, cursor, selected }: Shown): Shown => ({ doc, cursor, selected });

/** The desk as it is to be shown; `onLate` is told whether what is shown is of rows that are no longer selected. */
const useFollowing = (onLate: (late: boolean) => void): Shown => {
  const desk = useDeskStore();
  const [shown, setShown] = useState(() => pick(desk.getState()));
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const follow = () => {
      timer = undefined;
      startTransition(() => setShown(pick(desk.getState())));
    };
    const stop = desk.subscribe((now, before) => {
      if (!sameRows(now, before)) {
        onLate(true);
        clearTimeout(timer);
        timer = setTimeout(follow, REST_MS);
      } else if (now.doc !== before.doc && !timer) follow();
    });
    follow();
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [desk, onLate]);
  useEffect(() => onLate(!sameRows(shown, desk.getState())), [shown, desk, onLate]);
  return shown;
};

/** A panel in which nothing can be touched until it shows what is selected now. */
export const useLatePanel = () => {
  const panel = useRef<HTMLElement>(null);
  const onLate = useCallback((late: boolean) => {
    if (panel.current) panel.current.inert = late;
  }, []);
  return { panel, shown: useFollowing(onLate) };
};

const ShownContext = createContext<Shown | null>(null);
export const ShownProvider = ShownContext;

export const useShown = (): Shown => {
  const shown = useContext(ShownContext);
  if (!shown) throw new Error("expected to be inside a ShownProvider, got nothing shown");
  return shown;
};
