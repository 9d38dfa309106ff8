"use client";

import { Button, Group } from "@mantine/core";
import { modals } from "@mantine/modals";
import { useCallback, useEffect, useState } from "react";
import { useStore } from "zustand";
import { counted } from "@/core/units/counted";
import { api } from "../shared/api";
import { named, short } from "../shared/named";
import { PageLink } from "../shared/page-link";
import { useSubmit } from "../shared/use-submit";
import { behind, type LeftDoc } from "../state/behind";
import { type Orphaned, PendingKeeper } from "../state/pending-keeper";
import classes from "./waiting-notice.module.css";

const AWAY =
  "The server or its database can’t be reached. What is not saved is kept in this window, and goes out when it is back.";

/** So many edits are named before they are given up; of the others it is said how many they are. */
const NAMED_LAST = 12;

const SCREENS: Readonly<Record<string, (id: string) => string>> = {
  template: (id) => `/templates/${id}/inputs`,
  rig: (id) => `/rigs/${id}`,
  studio: () => "/studio",
};

const partsOf = (about: string): { readonly kind: string; readonly id: string; readonly href: string } => {
  const [kind = "", id = ""] = about.split(":");
  return { kind, id, href: SCREENS[kind]?.(id) ?? "/" };
};

/**
 * What pages that were closed, or broke off, left in this browser; looked at again when another page keeps something or
 * is gone.
 */
const useOrphans = () => {
  const [orphans, setOrphans] = useState<readonly Orphaned[]>([]);
  const [looked, setLooked] = useState(0);
  const look = useCallback(() => setLooked((times) => times + 1), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: again each time that something may be different
  useEffect(() => {
    const left = new AbortController();
    const { signal } = left;
    void PendingKeeper.allOrphans().then((found) => {
      if (signal.aborted) return;
      setOrphans(found);
      void PendingKeeper.whenGone(signal, look);
    });
    window.addEventListener("storage", look, { signal });
    return () => left.abort();
  }, [looked]);
  return { orphans, look };
};

interface WaitingProps {
  readonly about: string;
  readonly name: string;
  readonly edits: readonly string[];
  readonly why: string;
  /** There is nothing to be decided: they go out by themselves. */
  readonly byThemselves?: boolean;
  readonly bringBack?: (() => Promise<void>) | undefined;
  readonly onGiveUp: () => void;
}

const Waiting = ({ about, name, edits, why, byThemselves, bringBack, onGiveUp }: WaitingProps) => {
  const { busy, error, submit } = useSubmit();
  const { kind, href } = partsOf(about);
  const called = name ? `“${short(name)}”` : `a ${kind}`;
  const askGiveUp = () =>
    modals.openConfirmModal({
      title: `Give up ${counted(edits.length, "edit")} of ${called}`,
      children: (
        <>
          {edits.length === 1 ? "It is" : "They are"} kept in this browser and nowhere else, and can’t be had back:
          <ul className={classes.edits}>
            {edits.slice(0, NAMED_LAST).map((edit, at) => (
              <li key={at}>{short(edit)}</li>
            ))}
            {edits.length > NAMED_LAST && <li>and {edits.length - NAMED_LAST} more</li>}
          </ul>
        </>
      ),
      labels: {
        confirm: edits.length === 1 ? "Give it up" : "Give them up",
        cancel: edits.length === 1 ? "Keep it" : "Keep them",
      },
      onConfirm: onGiveUp,
    });
  return (
    <li>
      <strong>
        {counted(edits.length, "edit")} of {called} {edits.length === 1 ? "is" : "are"} not saved:
      </strong>{" "}
      {named(edits)}
      <p>{why}</p>
      {error && <p role="alert">{error}</p>}
      {!byThemselves && (
        <Group gap={8} mt={8}>
          {bringBack ? (
            <Button size="compact-sm" loading={busy} onClick={() => void submit(bringBack)}>
              Bring the {kind} back
            </Button>
          ) : (
            <Button size="compact-sm" maw="100%" component={PageLink} href={href}>
              Open {called}
            </Button>
          )}
          <Button size="compact-sm" variant="default" onClick={askGiveUp}>
            Give {edits.length === 1 ? "it" : "them"} up…
          </Button>
        </Group>
      )}
    </li>
  );
};

/** A document whose screen was left, as far as something of it is not going out. */
const leftProps = (about: string, { name, edits, save, sending }: LeftDoc): WaitingProps | null => {
  if (!edits.length) return null;
  if (save.kind === "away")
    return { about, name, edits, why: AWAY, byThemselves: true, onGiveUp: () => sending.letGo() };
  if (save.kind !== "parted") return null;
  const { kind, id } = partsOf(about);
  const gone = save.how === "gone" && kind === "template";
  const bringBack = async () => {
    await api.bringBack(id);
  };
  return {
    about,
    name,
    edits,
    why: save.happened,
    bringBack: gone ? bringBack : undefined,
    onGiveUp: () => sending.letGo(),
  };
};

/** Edits of this browser that the server has not: whose they are, why, and what can be done. */
export const WaitingNotice = () => {
  const left = useStore(behind);
  const { orphans, look } = useOrphans();
  const giveUp = async (about: string) => {
    await PendingKeeper.dropOrphans(about);
    look();
  };
  const waiting = [
    ...Object.entries(left).flatMap(([about, doc]) => leftProps(about, doc) ?? []),
    ...orphans.map(
      ({ about, name, edits }): WaitingProps => ({
        about,
        name,
        edits,
        why: "The window that they were made in was closed, or broke off, before they were saved. Opened here, they are done on what is there now.",
        onGiveUp: () => void giveUp(about),
      }),
    ),
  ];
  if (!waiting.length) return null;
  return (
    <section className={classes.waiting} aria-label="Edits that are not saved" aria-live="polite">
      <ul>
        {waiting.map((props, at) => (
          <Waiting key={`${props.about} ${at}`} {...props} />
        ))}
      </ul>
    </section>
  );
};
