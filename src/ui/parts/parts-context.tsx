"use client";

import { createContext, type ReactNode, useContext, useMemo, useState } from "react";
import { useStore } from "zustand";
import { createStore, type StoreApi } from "zustand/vanilla";
import type { Editing } from "@/core/planning/edits/plan-edits";
import { tellRefusal } from "../shared/notices";
import { DocProvider } from "../state/doc-context";
import { type DocState, doIn, type Opening, openState } from "../state/doc-store";
import { type Remote, Saver } from "../state/saver";

type Kinded = { readonly kind: string };

interface Named {
  readonly id: string;
  readonly name: string;
}

interface PartsDesk<D extends Named, E extends Kinded> {
  readonly store: StoreApi<DocState<D, E>>;
}

interface Setup<D, E extends Kinded> {
  readonly what: string;
  readonly editing: Editing<D, E>;
  readonly remote: Remote<D>;
  /** Keeps the document as it is shown as another one; answers where that is opened. */
  readonly saveAsOwn?: (doc: D) => Promise<string>;
}

/** A provider and hooks for documents that are made of parts: the rig, the studio. */
export const partsContext = <D extends Named, E extends Kinded>({ what, editing, remote, saveAsOwn }: Setup<D, E>) => {
  const Context = createContext<PartsDesk<D, E> | null>(null);

  const Provider = ({ initial, children }: { readonly initial: Opening<D>; readonly children: ReactNode }) => {
    const [value] = useState(() => {
      const store = createStore<DocState<D, E>>(() => openState(editing, initial));
      const rename = (name: string) => doIn(store, { edits: [{ kind: "document.rename", name } as unknown as E] });
      return { store, saver: new Saver<D, E>(store, remote), rename };
    });
    return (
      <Context value={value}>
        <DocProvider store={value.store} saver={value.saver} what={what} rename={value.rename} saveAsOwn={saveAsOwn}>
          {children}
        </DocProvider>
      </Context>
    );
  };

  const useParts = (): PartsDesk<D, E> => {
    const value = useContext(Context);
    if (!value) throw new Error(`expected to be inside the provider of a ${what}, got none`);
    return value;
  };

  const useDocument = (): D => useStore(useParts().store, (state) => state.doc);

  /** Does commands as one gesture; a refusal is told. Answers whether it was done. */
  const useAct = (): ((edits: readonly E[], name?: string) => boolean) => {
    const { store } = useParts();
    return useMemo(
      () => (edits, name) => {
        const refusal = doIn(store, name ? { name, edits } : { edits });
        if (refusal) tellRefusal(refusal);
        return refusal === null;
      },
      [store],
    );
  };

  const useRevision = (): number => useStore(useParts().store, (state) => state.base.revision);

  return { Provider, useDocument, useAct, useRevision };
};
