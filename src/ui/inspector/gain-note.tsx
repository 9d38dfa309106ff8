import { gainInWords } from "@/core/layout/level-words";
import { gainPlans } from "@/core/levels/gain-plan";
import { linesOfTrack } from "@/core/model/read-template";
import type { Track } from "@/core/model/tables/channels";
import { useShown } from "../grid/shown";
import { useRig, useStudio } from "../state/desk-context";
import classes from "./inspector.module.css";

/** What the line of a track brings, and the gain that it needs. */
export const GainNote = ({ track }: { readonly track: Track }) => {
  const { doc } = useShown();
  const [rig, studio] = [useRig(), useStudio()];
  const [line] = linesOfTrack(doc, track);
  const plan = line && gainPlans(doc, rig, studio).get(line.id);
  return plan ? <p className={classes.gain}>{gainInWords(plan)}</p> : null;
};
