"use client";

import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import { useStore } from "zustand";
import { rigOf } from "@/core/checks/context";
import type { Finding } from "@/core/checks/finding";
import type { Evaluation } from "@/core/checks/judgement";
import { writeDocument } from "@/core/formats/document-json";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import type { Template } from "@/core/model/template";
import type { BlockPlan } from "@/core/planning/block";
import type { Edit } from "@/core/planning/edits/edit";
import type { Gesture, Planned } from "@/core/planning/gesture";
import { api } from "../shared/api";
import { tell, tellRefusal } from "../shared/notices";
import { type Told, watchChanges } from "./changes";
import { createDesk, type Desk, type DeskOpening, type DeskStore, doGesture, doPlanned } from "./desk-store";
import { DocProvider, useUndoing } from "./doc-context";
import { Evaluator } from "./evaluator";
import { Saver } from "./saver";
import { useLater } from "./use-later";

interface DeskContextValue {
  readonly desk: DeskStore;
  readonly saver: Saver<Template, Edit>;
}

const DeskContext = createContext<DeskContextValue | null>(null);

const useDeskContext = (): DeskContextValue => {
  const value = useContext(DeskContext);
  if (!value) throw new Error("expected to be inside a DeskProvider, got no desk");
  return value;
};

/** So long after a page began to open, what it was opened with may be old. */
const LONG_MS = 2000;

/** Rigs and studio change as well while a template is open, in this window or another. */
const followSurroundings = (desk: DeskStore): (() => void) => {
  const takeRig = async (id: string): Promise<void> => {
    const { document } = await api.loadRig(id);
    desk.setState(({ rigs }) => ({
      rigs: rigs.some((rig) => rig.id === id)
        ? rigs.map((rig) => (rig.id === id ? document : rig))
        : [...rigs, document],
    }));
  };
  const takeStudio = async (): Promise<void> => desk.setState({ studio: (await api.loadStudio()).document });
  // What the page was opened with is new, unless it took long to come to this; after an outage as well something may
  // have been missed.
  let missed = performance.now() > LONG_MS;
  const look = async (told: Told): Promise<void> => {
    if (told === "away") missed = true;
    else if (told === "again") {
      if (missed) await Promise.all([...desk.getState().rigs.map((rig) => takeRig(rig.id)), takeStudio()]);
      missed = false;
    } else if (told.kind === "rig") await takeRig(told.id);
    else if (told.kind === "studio") await takeStudio();
  };
  return watchChanges((told) => void look(told).catch(() => {}));
};

const jsonFile = (doc: Template | Rig): File =>
  new File([writeDocument(doc)], `${doc.name}.json`, { type: "application/json" });

/**
 * Keeps a template as it is shown as one of its own; on a library that has not its rig, the rig comes along. Answers
 * where it is opened.
 */
const keepTemplate = async (doc: Template, rig: Rig): Promise<string> => {
  const fields = { file: jsonFile(doc), name: `${doc.name.slice(0, 170)}, as one window had it` };
  const { rigs } = await api.listRigs();
  const rigId = rigs.some((there) => there.id === doc.rigId)
    ? doc.rigId
    : (await api.importRig(jsonFile(rig))).document.id;
  return `/templates/${(await api.importTemplate({ ...fields, rigId })).template.id}/inputs`;
};

interface DeskProviderProps {
  readonly initial: DeskOpening;
  readonly children: ReactNode;
}

/** One desk for one template: what is shown, what is on its way to the server, what can be undone. */
export const DeskProvider = ({ initial, children }: DeskProviderProps) => {
  const [value] = useState(() => {
    const desk = createDesk(initial);
    return { desk, saver: new Saver<Template, Edit>(desk, api.templates) };
  });
  const [rename] = useState(
    () => (name: string) => doGesture(value.desk, { edits: [{ kind: "document.rename", name }] }),
  );
  const [saveAsOwn] = useState(() => (doc: Template) => keepTemplate(doc, rigOf(value.desk.getState())));
  useEffect(() => followSurroundings(value.desk), [value]);
  useEffect(() => {
    const evaluator = new Evaluator(value.desk);
    evaluator.start();
    return () => evaluator.stop();
  }, [value]);
  return (
    <DeskContext value={value}>
      <DocProvider
        store={value.desk}
        saver={value.saver}
        what="template"
        rename={rename}
        saveAsOwn={saveAsOwn}
        bringBack={api.bringBack}
      >
        {children}
      </DocProvider>
    </DeskContext>
  );
};

export const useDesk = <T,>(select: (desk: Desk) => T): T => useStore(useDeskContext().desk, select);
/** The same, a moment later: for what stands beside that which was edited. */
export const useDeskLater = <T,>(select: (desk: Desk) => T): T => useLater(useDeskContext().desk, select);
export const useDeskStore = (): DeskStore => useDeskContext().desk;
export const useSaver = (): Saver<Template, Edit> => useDeskContext().saver;

/** Where the screens of what is shown are: of the template, or of the revision that is read. */
export const usePlace = (): string =>
  useDesk(({ doc, reading }) => (reading ? `/revisions/${doc.id}/${reading.revision}` : `/templates/${doc.id}`));

export const useStudio = (): Studio => useDesk((desk) => desk.studio);

export const useRig = (): Rig => useDesk(rigOf);

/** What the checks say of what is shown. While edits come fast it may lag a little behind them. */
export const useEvaluation = (): Evaluation => useDeskLater((desk) => desk.evaluation);

export const useFindings = (): readonly Finding[] => useEvaluation().open;

export interface Doing {
  /** Does a gesture; a refusal is told. Answers whether it was done. */
  readonly act: (gesture: Gesture) => boolean;
  readonly actPlanned: (plan: Planned) => boolean;
  /** Does what of a block can be done, and tells what was left out. */
  readonly actBlock: (plan: BlockPlan) => boolean;
  readonly undo: () => void;
  readonly redo: () => void;
}

const tellLeftOut = (leftOut: readonly string[]): void => {
  if (leftOut.length)
    tell(
      `${leftOut.slice(0, 3).join(" ")}${leftOut.length > 3 ? ` And ${leftOut.length - 3} more cells.` : ""} The rest is in.`,
    );
};

export const useDoing = (): Doing => {
  const desk = useDeskStore();
  const { undo, redo } = useUndoing();
  return useMemo(() => {
    const told = (refusal: string | null): boolean => {
      if (refusal) tellRefusal(refusal);
      return refusal === null;
    };
    return {
      act: (gesture) => told(doGesture(desk, gesture)),
      actPlanned: (plan) => told(doPlanned(desk, plan)),
      actBlock: ({ planned, leftOut }) => {
        const done = told(doPlanned(desk, planned));
        if (done) tellLeftOut(leftOut);
        return done;
      },
      undo,
      redo,
    };
  }, [desk, undo, redo]);
};
