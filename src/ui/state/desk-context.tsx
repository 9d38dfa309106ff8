"use client";

import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import { useStore } from "zustand";
import type { TemplateState } from "@/contracts/answers";
import { evaluate } from "@/core/checks";
import type { Finding } from "@/core/checks/finding";
import type { Rig } from "@/core/model/rig";
import type { Gesture, Planned } from "@/core/planning/gesture";
import { tellRefusal } from "../shared/notices";
import { createDesk, type Desk, type DeskStore, doGesture, doPlanned, redoLast, undoLast } from "./desk-store";
import { Saver } from "./saver";

interface DeskContextValue {
  readonly desk: DeskStore;
  readonly saver: Saver;
}

const DeskContext = createContext<DeskContextValue | null>(null);

const useDeskContext = (): DeskContextValue => {
  const value = useContext(DeskContext);
  if (!value) throw new Error("expected to be inside a DeskProvider, got no desk");
  return value;
};

interface DeskProviderProps {
  readonly initial: TemplateState;
  readonly rigs: readonly Rig[];
  readonly children: ReactNode;
}

/** One desk for one template: what is shown, what is on its way to the server, what can be undone. */
export const DeskProvider = ({ initial, rigs, children }: DeskProviderProps) => {
  const [value] = useState(() => {
    const desk = createDesk({ ...initial, rigs });
    return { desk, saver: new Saver(desk) };
  });
  useEffect(() => {
    const { saver, desk } = value;
    saver.start();
    const hurry = () => saver.hurry();
    const warn = (event: BeforeUnloadEvent) => {
      if (desk.getState().pending.length) event.preventDefault();
    };
    const look = () => {
      if (document.visibilityState === "visible") void saver.catchUp();
    };
    window.addEventListener("online", hurry);
    window.addEventListener("focus", look);
    window.addEventListener("beforeunload", warn);
    return () => {
      saver.stop();
      window.removeEventListener("online", hurry);
      window.removeEventListener("focus", look);
      window.removeEventListener("beforeunload", warn);
    };
  }, [value]);
  return <DeskContext value={value}>{children}</DeskContext>;
};

export const useDesk = <T,>(select: (desk: Desk) => T): T => useStore(useDeskContext().desk, select);
export const useDeskStore = (): DeskStore => useDeskContext().desk;
export const useSaver = (): Saver => useDeskContext().saver;

export const useRig = (): Rig => {
  const rigs = useDesk((desk) => desk.rigs);
  const rigId = useDesk((desk) => desk.doc.rigId);
  const rig = rigs.find((candidate) => candidate.id === rigId) ?? rigs[0];
  if (!rig) throw new Error("expected a rig, got none");
  return rig;
};

/** What the checks say of what is shown. */
export const useFindings = (): readonly Finding[] => {
  const doc = useDesk((desk) => desk.doc);
  const rigs = useDesk((desk) => desk.rigs);
  const rig = useRig();
  return useMemo(() => evaluate({ doc, rig, otherRigs: rigs.filter((other) => other !== rig) }), [doc, rig, rigs]);
};

export interface Doing {
  /** Does a gesture; a refusal is told. Answers whether it was done. */
  readonly act: (gesture: Gesture) => boolean;
  readonly actPlanned: (plan: Planned) => boolean;
  readonly undo: () => void;
  readonly redo: () => void;
}

export const useDoing = (): Doing => {
  const desk = useDeskStore();
  return useMemo(() => {
    const told = (refusal: string | null): boolean => {
      if (refusal) tellRefusal(refusal);
      return refusal === null;
    };
    return {
      act: (gesture) => told(doGesture(desk, gesture)),
      actPlanned: (plan) => told(doPlanned(desk, plan)),
      undo: () => void told(undoLast(desk)),
      redo: () => void told(redoLast(desk)),
    };
  }, [desk]);
};
