import { useEffect } from "react";
import { createStore } from "zustand/vanilla";
import { type Acts, useActKeys } from "../acts/act-model";

/** What the screen that is open has to offer: gathered when the palette opens. */
export const pageActs = createStore<{ readonly gather: Acts | null }>(() => ({ gather: null }));

/** Offers the acts of a screen in the palette, and does them by their keys, for as long as it is open. */
export const usePageActs = (gather: Acts): void => {
  useActKeys(gather);
  useEffect(() => {
    pageActs.setState({ gather });
    return () => pageActs.setState({ gather: null });
  }, [gather]);
};
