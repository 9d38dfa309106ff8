"use client";

import { Button, Group } from "@mantine/core";
import { counted } from "@/core/units/counted";
import { useGo } from "../shared/going";
import { useSubmit } from "../shared/use-submit";
import { useDoc, useDocContext } from "../state/doc-context";
import classes from "./frame.module.css";

/**
 * The server has not what this window builds on: what happened, and what can be done with what is shown here. Stays
 * until a person chooses.
 */
export const PartedNotice = () => {
  const save = useDoc((state) => state.save);
  const waiting = useDoc((state) => state.pending.length);
  const refused = useDoc((state) => state.pending[0]?.name ?? "");
  const doc = useDoc((state) => state.doc);
  const { saver, what, saveAsOwn, bringBack } = useDocContext();
  const go = useGo();
  const { busy, error, setError, submit } = useSubmit();
  if (save.kind !== "parted") return null;
  const keepAsOwn = () =>
    submit(async () => {
      const href = await saveAsOwn?.(doc);
      saver.letGo();
      if (href) go(href);
    });
  const applyThere = () =>
    submit(async () => {
      if (!(await saver.applyThere()))
        setError(
          `The ${what} can't be read from the server just now. Try again, or save what is here as one of its own.`,
        );
    });
  const restore = () =>
    submit(async () => {
      await bringBack?.(doc.id);
      saver.hurry();
    });
  return (
    <div role="alert" className={`${classes.lost} no-print`}>
      <div style={{ flex: 1 }}>
        <strong>{save.why}</strong>
        {waiting > 0 && (
          <p className={classes.parted}>
            {counted(waiting, "edit")} of it {waiting === 1 ? "was" : "were"} not saved anywhere else.
          </p>
        )}
        {error && <p className={classes.parted}>{error}</p>}
        <Group gap={8} mt={8}>
          {save.how === "gone" && bringBack && (
            <Button size="compact-sm" loading={busy} onClick={() => void restore()}>
              Bring the {what} back
            </Button>
          )}
          {save.how === "renewed" && (
            <Button size="compact-sm" loading={busy} onClick={() => window.location.reload()}>
              Reload
            </Button>
          )}
          {save.how === "refused" && (
            <Button size="compact-sm" loading={busy} onClick={() => saver.leaveOut()}>
              Leave out “{refused}”
            </Button>
          )}
          {(save.how === "past" || save.how === "broken") && (
            <Button size="compact-sm" loading={busy} onClick={() => void applyThere()}>
              Apply this window’s edits to what is there
            </Button>
          )}
          {saveAsOwn && (
            <Button size="compact-sm" variant="default" loading={busy} onClick={() => void keepAsOwn()}>
              Save as a {what} of its own
            </Button>
          )}
        </Group>
      </div>
    </div>
  );
};
