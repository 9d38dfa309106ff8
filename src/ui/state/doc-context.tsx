"use client";

import { createContext, type ReactNode, useContext, useEffect, useMemo } from "react";
import { useStore } from "zustand";
import type { StoreApi } from "zustand/vanilla";
import { tellOnce, tellRefusal } from "../shared/notices";
import { type DocState, type DocStore, redoIn, undoIn } from "./doc-store";
import { keepHistory, keptHistory } from "./history-keeper";
import type { Saver } from "./saver";
import { useLater } from "./use-later";

/** What the bar over every screen knows of the document below it, of whichever kind it is. */
interface AnyDoc {
  readonly id: string;
  readonly name: string;
}
type AnyCommand = { readonly kind: string };
type AnyStore = StoreApi<DocState<AnyDoc, AnyCommand>>;

interface DocContextValue {
  readonly store: AnyStore;
  readonly saver: Saver<AnyDoc, AnyCommand>;
  /** "template", "rig": as sentences name it. */
  readonly what: string;
  readonly rename: (name: string) => string | null;
  /**
   * Keeps the document as it is shown as another one; answers where that is opened. Absent where there can only be one.
   */
  readonly saveAsOwn?: ((doc: AnyDoc) => Promise<string>) | undefined;
  readonly bringBack?: ((id: string) => Promise<unknown>) | undefined;
}

const DocContext = createContext<DocContextValue | null>(null);

export const useDocContext = (): DocContextValue => {
  const value = useContext(DocContext);
  if (!value) throw new Error("expected to be inside a DocProvider, got no document");
  return value;
};

interface DocProviderProps<D extends AnyDoc, C extends AnyCommand> {
  readonly store: DocStore<D, C>;
  readonly saver: Saver<D & AnyDoc, C>;
  readonly what: string;
  readonly rename: (name: string) => string | null;
  readonly saveAsOwn?: ((doc: D) => Promise<string>) | undefined;
  readonly bringBack?: ((id: string) => Promise<unknown>) | undefined;
  readonly children: ReactNode;
}

/** So long after an edit what can be undone is kept for the next page: edits come in runs. */
const KEEPING_MS = 300;

/** Keeps one document saved for as long as it is shown, and until what was done to it is sent. */
export const DocProvider = <D extends AnyDoc, C extends AnyCommand>({
  store,
  saver,
  what,
  rename,
  saveAsOwn,
  bringBack,
  children,
}: DocProviderProps<D, C>) => {
  const value = useMemo(
    () => ({ store, saver, what, rename, saveAsOwn, bringBack }) as unknown as DocContextValue,
    [store, saver, what, rename, saveAsOwn, bringBack],
  );
  useEffect(() => {
    const { doc, base, history, locked } = store.getState();
    if (locked !== null) return;
    if (!history.past.length && !history.future.length)
      store.setState({ history: keptHistory(what, doc.id, base.revision) });
    let keeping: ReturnType<typeof setTimeout> | null = null;
    const keep = (): void => {
      if (keeping) clearTimeout(keeping);
      keeping = null;
      const now = store.getState();
      keepHistory(what, now.doc.id, now.history, now.base.revision);
    };
    const stop = store.subscribe((now, before) => {
      if (now.history !== before.history) keeping ??= setTimeout(keep, KEEPING_MS);
    });
    window.addEventListener("pagehide", keep);
    return () => {
      stop();
      window.removeEventListener("pagehide", keep);
      keep();
    };
  }, [store, what]);
  useEffect(() => {
    // What is only read is not kept up with what is newer.
    if (store.getState().locked !== null) return;
    saver.start();
    const hurry = () => saver.hurry();
    const look = () => {
      if (document.visibilityState === "visible") void saver.catchUp();
    };
    window.addEventListener("online", hurry);
    window.addEventListener("focus", look);
    return () => {
      saver.leave();
      window.removeEventListener("online", hurry);
      window.removeEventListener("focus", look);
    };
  }, [saver, store]);
  return <DocContext value={value}>{children}</DocContext>;
};

export const useDoc = <T,>(select: (state: DocState<AnyDoc, AnyCommand>) => T): T =>
  useStore(useDocContext().store, select);

/** The same, a moment later: for what stands beside that which was edited. */
export const useDocLater = <T,>(select: (state: DocState<AnyDoc, AnyCommand>) => T): T =>
  useLater(useDocContext().store, select);

/** Undo and redo of whatever document is shown; what can't be done is told. */
export const useUndoing = (): { readonly undo: () => void; readonly redo: () => void } => {
  const { store } = useDocContext();
  return useMemo(() => {
    const told = (refusal: string | null): void => {
      if (refusal) tellRefusal(refusal);
    };
    /** Pressed once too often is no fault: it is said quietly, and once. */
    const step = (what: "undo" | "redo", left: number, go: () => string | null): void =>
      left ? told(go()) : tellOnce(`nothing-to-${what}`, `There is nothing to ${what}.`);
    return {
      undo: () => step("undo", store.getState().history.past.length, () => undoIn(store)),
      redo: () => step("redo", store.getState().history.future.length, () => redoIn(store)),
    };
  }, [store]);
};
