import { useMemo } from "react";
import type { Template } from "@/core/model/template";
import { type Hearing, hearingOf } from "@/core/timing/hearing";
import { useRig, useStudio } from "../state/desk-context";

/** What everybody hears of themself and how late, in this state of the template. */
export const useHearing = (doc: Template): Hearing => {
  const [rig, studio] = [useRig(), useStudio()];
  return useMemo(() => hearingOf(doc, rig, studio), [doc, rig, studio]);
};
