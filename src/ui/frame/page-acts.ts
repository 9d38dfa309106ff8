import { useEffect } from "react";
import { createStore } from "zustand/vanilla";

/** Something that can be done on the page that is open, as the palette offers it. */
export interface PageAct {
  readonly id: string;
  readonly label: string;
  /** As it is shown; bound by the page. */
  readonly key?: string;
  readonly run: () => void;
}

/** What the page that is open has to offer: gathered when the palette opens. */
export const pageActs = createStore<{ readonly gather: (() => readonly PageAct[]) | null }>(() => ({ gather: null }));

/** Offers the acts of a page in the palette for as long as the page is open. */
export const usePageActs = (gather: () => readonly PageAct[]): void =>
  useEffect(() => {
    pageActs.setState({ gather });
    return () => pageActs.setState({ gather: null });
  }, [gather]);
