import { useCallback } from "react";
import type { ChannelId } from "@/core/model/ids";
import { trackOf } from "@/core/model/read-template";
import { countChannels } from "@/core/planning/edits/channel-edits";
import type { Act } from "../acts/act-model";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { weavingActs } from "./weaving-acts";

/** The acts that weave what is selected into something: as of the moment it is asked. */
export const useWeavingActs = (): ((selected: readonly ChannelId[]) => readonly Act[]) => {
  const desk = useDeskStore();
  const rig = useRig();
  const { act, actPlanned } = useDoing();
  return useCallback(
    (selected) => {
      const { doc, studio } = desk.getState();
      const tracks = selected.flatMap((id) => trackOf(doc, id) ?? []);
      return weavingActs({
        doc,
        studio,
        now: () => desk.getState().doc,
        kept: () => desk.getState().studio,
        rig,
        selected,
        who: countChannels(doc, selected),
        passing: selected.filter((id) => doc.channels[id]?.kind !== "main"),
        tracks,
        only: selected.length === 1 ? tracks[0] : undefined,
        act,
        actPlanned,
      });
    },
    [desk, rig, act, actPlanned],
  );
};
