"use client";

import { useEffect, useRef, useState } from "react";
import type { RigTouches } from "@/contracts/answers";
import { writeDocument } from "@/core/formats/document-json";
import type { Rig } from "@/core/model/rig";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { rigEditing } from "@/core/planning/edits/rig-editing";
import { partsContext } from "../parts/parts-context";
import { api } from "../shared/api";
import { watchChanges } from "../state/changes";
import { isOfRig } from "./of-rig";

export const {
  Provider: RigProvider,
  useDocument: useRigDocument,
  useAct: useRigAct,
  useRevision: useRigRevision,
} = partsContext<Rig, RigEdit>({
  what: "rig",
  editing: rigEditing,
  remote: api.rigs,
  saveAsOwn: async (rig) =>
    `/rigs/${(await api.importRig(new File([writeDocument(rig)], "rig.json", { type: "application/json" }))).document.id}`,
});

/** Someone who types in a template saves many times; it is looked at when they pause. */
const SETTLE_MS = 1000;

/** Before they were asked for the first time: nothing can be said of them yet. */
export const NOT_LOOKED: RigTouches = { revision: 0, total: 0, templates: [] };

/** The templates that stand on the rig, looked at again whenever it or one of them is saved. */
export const useTouches = (rigId: string): RigTouches => {
  const revision = useRigRevision();
  const [touches, setTouches] = useState<RigTouches>(NOT_LOOKED);
  const latest = useRef(touches);
  latest.current = touches;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision may have changed what is wrong with them
  useEffect(() => {
    let here = true;
    const look = () =>
      void api
        .rigTouches(rigId)
        .then((answer) => here && setTouches(answer))
        .catch(() => {});
    look();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = watchChanges((told) => {
      if (!isOfRig(told, rigId, latest.current)) return;
      clearTimeout(timer);
      timer = setTimeout(look, SETTLE_MS);
    });
    return () => {
      here = false;
      clearTimeout(timer);
      stop();
    };
  }, [rigId, revision]);
  return touches;
};
