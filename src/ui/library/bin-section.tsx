"use client";

import { Button } from "@mantine/core";
import { useCallback, useEffect, useState } from "react";
import type { Binned } from "@/contracts/answers";
import { counted } from "@/core/units/counted";
import { FirstForm } from "../acts/dialog-parts";
import { api, ServiceError } from "../shared/api";
import { sayDate } from "../shared/format-date";
import { tell, tellRefusal } from "../shared/notices";
import { openModal } from "../shared/open-modal";
import { watchChanges } from "../state/changes";
import classes from "./library.module.css";

/** What was deleted: brought back from here, and gone for good only when a person empties it. */
export const BinSection = ({ onChanged }: { readonly onChanged: () => Promise<void> }) => {
  const [binned, setBinned] = useState<readonly Binned[]>([]);
  const [open, setOpen] = useState(false);
  const look = useCallback(async () => {
    try {
      setBinned((await api.bin()).binned);
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
    }
  }, []);
  useEffect(() => void look(), [look]);
  useEffect(() => watchChanges((told) => void (typeof told === "object" && told.kind !== "studio" && look())), [look]);
  const run = async (act: () => Promise<unknown>): Promise<void> => {
    try {
      await act();
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
      tellRefusal(error.message);
    }
    await Promise.all([look(), onChanged()]);
  };
  const bringBack = ({ kind, id, name }: Binned): Promise<void> =>
    run(async () => {
      if (kind === "rig") await api.bringRigBack(id);
      else await api.bringBack(id);
      tell(`${name} is back.`);
    });
  const [newest] = binned;
  if (!newest) return null;
  const empty = (): void =>
    openModal({
      title: "Empty the bin",
      children: (
        <FirstForm
          says={`${counted(binned.length, "thing")} with everything that was ever saved of ${binned.length === 1 ? "it" : "them"} ${binned.length === 1 ? "goes" : "go"} for good: ${binned
            .slice(0, 5)
            .map(({ name }) => name)
            .join(", ")}${binned.length > 5 ? ` and ${binned.length - 5} more` : ""}. Nothing brings that back.`}
          does="Remove for good"
          onDo={() =>
            void run(async () => {
              const { gone } = await api.emptyBin(newest.at);
              tell(`${counted(gone, "thing")} removed for good.`);
            })
          }
        />
      ),
    });
  return (
    <section aria-label="Bin" className={classes.rigs}>
      <div className={classes.head}>
        <h2>Bin</h2>
        <span className={classes.soft}>{counted(binned.length, "thing")} deleted, kept until you empty it</span>
        <span className={classes.space} />
        <Button variant="default" size="compact-md" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Close the bin" : "Look into the bin"}
        </Button>
        <Button variant="default" size="compact-md" onClick={empty}>
          Empty the bin…
        </Button>
      </div>
      {open && (
        <ul className={classes.rows} aria-label="In the bin">
          {binned.map((one) => (
            <li key={`${one.kind} ${one.id}`} className={classes.binned}>
              <strong>{one.name}</strong>
              <span className={classes.soft}>
                {one.kind} · deleted {sayDate(one.at)}
                {one.by && ` by ${one.by}`}
              </span>
              <Button
                variant="default"
                size="compact-sm"
                aria-label={`Bring ${one.name} back`}
                onClick={() => void bringBack(one)}
              >
                Bring back
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
};
