"use client";

import { useEffect, useState } from "react";
import type { RigTouches } from "@/contracts/answers";
import { rigEngine } from "@/core/commands/rig/apply-rig";
import type { RigCommand } from "@/core/commands/rig/rig-command";
import type { Rig } from "@/core/model/rig";
import { partsContext } from "../parts/parts-context";
import { api } from "../shared/api";
import { watchChanges } from "../state/changes";

export const {
  Provider: RigProvider,
  useDocument: useRigDocument,
  useAct: useRigAct,
  useRevision: useRigRevision,
} = partsContext<Rig, RigCommand>({ what: "rig", engine: rigEngine, remote: api.rigs });

/** The templates that stand on the rig, looked at again whenever it or one of them is saved. */
export const useTouches = (rigId: string): RigTouches["templates"] => {
  const revision = useRigRevision();
  const [touches, setTouches] = useState<RigTouches["templates"]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision may have changed what is wrong with them
  useEffect(() => {
    let here = true;
    const look = () =>
      void api
        .rigTouches(rigId)
        .then((answer) => here && setTouches(answer.templates))
        .catch(() => {});
    look();
    const stop = watchChanges((told) => {
      if (told === "again" || (typeof told === "object" && told.kind === "template")) look();
    });
    return () => {
      here = false;
      stop();
    };
  }, [rigId, revision]);
  return touches;
};
