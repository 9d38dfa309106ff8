"use client";

import { IconCloudOff } from "@tabler/icons-react";
import { counted } from "@/core/units/counted";
import { useDoc, useDocContext } from "../state/doc-context";
import classes from "./frame.module.css";

/** Whether what is shown is kept on the server. Said to screen readers when it changes. */
export const SavedState = () => {
  const save = useDoc((desk) => desk.save);
  const revision = useDoc((desk) => desk.base.revision);
  const waiting = useDoc((desk) => desk.pending.length);
  const { what } = useDocContext();
  if (save.kind === "away")
    return (
      <output className={classes.away} title={save.why}>
        <IconCloudOff size={16} stroke={1.8} aria-hidden />
        {waiting
          ? `Not saved: ${counted(waiting, "edit")} kept in this window`
          : "Server away: edits are kept in this window"}
      </output>
    );
  if (save.kind === "parted")
    return (
      <output className={classes.away} title={save.why}>
        <IconCloudOff size={16} stroke={1.8} aria-hidden />
        {save.how === "refused" || save.how === "renewed"
          ? "Not saved: see below"
          : `Not the server’s ${what}: see below`}
      </output>
    );
  return <output className={classes.saved}>{waiting ? "Saving…" : `Saved · revision ${revision}`}</output>;
};
