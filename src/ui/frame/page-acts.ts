import { useEffect } from "react";
import { createStore } from "zustand/vanilla";
import { type Acts, doAct, useActKeys } from "../acts/act-model";

/** What keys do that move about and edit, as the list of keys shows it: the key, and what it does. */
export type Moving = readonly (readonly [string, string])[];

interface PageActs {
  readonly gather: Acts | null;
  /** What the screen is called in the list of its keys. */
  readonly title: string;
  readonly moving: Moving;
}

const NONE: PageActs = { gather: null, title: "", moving: [] };

/** What the screen that is open has to offer: gathered when the palette opens. */
export const pageActs = createStore<PageActs>(() => NONE);

/** Whether the list of keys is open, and where the menu of what can be done is. */
export const overPage = createStore<{
  readonly keys: boolean;
  readonly menu: { readonly x: number; readonly y: number } | null;
}>(() => ({ keys: false, menu: null }));

export const openKeys = (): void => overPage.setState({ keys: true });
export const openMenu = (menu: { readonly x: number; readonly y: number }): void => overPage.setState({ menu });

const NOTHING: Moving = [];

/** Offers the acts of a screen in palette, menu and list of keys, and does them by their keys, as long as it is open. */
export const usePageActs = (gather: Acts, title: string, moving: Moving = NOTHING): void => {
  useActKeys(gather);
  useEffect(() => {
    pageActs.setState({ gather, title, moving });
    return () => pageActs.setState(NONE);
  }, [gather, title, moving]);
};

/** Does one act of those that there are now, by its id, or tells why it can't be done. */
export const runById = (gather: Acts, id: string): void => {
  const act = gather().find((one) => one.id === id);
  if (act) doAct(act);
};
