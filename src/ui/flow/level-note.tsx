import { useMemo } from "react";
import { levelInWords } from "@/core/layout/level-words";
import { mixLevels } from "@/core/levels/mix-levels";
import type { Channel } from "@/core/model/tables/channels";
import type { Template } from "@/core/model/template";
import { useRig, useStudio } from "../state/desk-context";
import classes from "./flow.module.css";

/** How loud a channel goes out, in both bounds. */
export const LevelNote = ({ doc, channel }: { readonly doc: Template; readonly channel: Channel }) => {
  const [rig, studio] = [useRig(), useStudio()];
  const levels = useMemo(() => mixLevels(doc, { rig, studio }).channels, [doc, rig, studio]);
  const at = levels.get(channel.id);
  return at ? <p className={classes.more}>Leaves at {levelInWords(at)}.</p> : null;
};
