"use client";

import { IconCloudOff } from "@tabler/icons-react";
import { counted } from "@/core/units/counted";
import { useDesk } from "../state/desk-context";
import classes from "./frame.module.css";

/** Whether what is shown is kept on the server. Said to screen readers when it changes. */
export const SavedState = () => {
  const save = useDesk((desk) => desk.save);
  const revision = useDesk((desk) => desk.base.revision);
  const waiting = useDesk((desk) => desk.pending.length);
  if (save.kind === "away")
    return (
      <output className={classes.away} title={save.why}>
        <IconCloudOff size={16} stroke={1.8} aria-hidden />
        Not saved: {counted(waiting, "edit")} kept in this window
      </output>
    );
  return <output className={classes.saved}>{waiting ? "Saving…" : `Saved · revision ${revision}`}</output>;
};
