"use client";

import { Button } from "@mantine/core";
import { IconPlus, IconWand } from "@tabler/icons-react";
import { type ReactNode, useMemo, useState } from "react";
import { type Draft, passDraft } from "@/core/layout/pass-draft";
import type { PassId } from "@/core/model/ids";
import { armInPass } from "@/core/planning/pass-plans";
import { formatBytes } from "@/core/units/bytes";
import { counted } from "@/core/units/counted";
import type { Acts } from "../acts/act-model";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, usePageActs } from "../frame/page-acts";
import { useDesk, useDoing } from "../state/desk-context";
import { useJump } from "../state/jump";
import { CuesNav } from "./cues-nav";
import { DiskBar } from "./disk-bar";
import { PassDraft } from "./pass-draft";
import classes from "./passes.module.css";
import { RunningPass } from "./running-pass";
import { useHearing } from "./use-hearing";
import { usePassActs } from "./use-pass-acts";

const Empty = ({ onPlan }: { readonly onPlan: () => void }) => (
  <div className={classes.empty}>
    <h2>No passes yet</h2>
    <p>
      A pass arms the tracks that are recorded together. A band needs one; one singer on one microphone and fourteen
      tracks needs fourteen. Say how many inputs there are, and the order is planned.
    </p>
    <Button onClick={onPlan}>Plan the passes</Button>
  </div>
);

/** What all of it costs, and the acts that stand on the screen. */
const Top = ({ draft, acts }: { readonly draft: Draft; readonly acts: Acts }) => {
  const button = (id: string, label: string, icon: ReactNode) => {
    const act = acts().find((one) => one.id === id);
    return (
      <Button variant="default" size="compact-sm" leftSection={icon} title={act?.key} onClick={act?.run}>
        {label}
      </Button>
    );
  };
  return (
    <header className={classes.top}>
      <CuesNav />
      {draft.wefts.length > 0 && (
        <p>
          {counted(new Set(draft.wefts.flatMap(({ pass }) => pass.trackIds)).size, "track")} through{" "}
          {counted(draft.inputs, "input")} · {counted(draft.wefts.length, "pass", "passes")} ·{" "}
          {Math.round(draft.minutes)} minutes of takes, about {Math.round(draft.minutesInAll)} with setting up ·{" "}
          {formatBytes(draft.bytes)}
        </p>
      )}
      <span className={classes.buttons}>
        {button("plan", draft.wefts.length ? "Plan again…" : "Plan…", <IconWand size={15} aria-hidden />)}
        {button("add", "Pass", <IconPlus size={15} aria-hidden />)}
      </span>
    </header>
  );
};

const MOVING: Moving = [
  ["← ↑ → ↓", "Go from crossing to crossing"],
  ["Space, Enter", "Arm or disarm the track in the pass"],
  ["Enter on a name, F2", "Name and length of the pass"],
  ["Page Up, Page Down, Home, End", "Further, and to the ends"],
];

/** Which tracks are recorded together, in which order, and what it costs. */
export const PassesScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const { actPlanned } = useDoing();
  const hearing = useHearing(doc);
  const draft = useMemo(() => passDraft(doc), [doc]);
  const [chosen, setChosen] = useState<PassId | null>(null);
  const passId = draft.wefts.some(({ pass }) => pass.id === chosen) ? chosen : null;
  useJump({
    view: "cues/passes",
    kinds: ["pass"],
    take: ({ id }) => setChosen(id),
    focus: () => document.querySelector<HTMLElement>("main [role=grid]")?.focus(),
  });
  const acts = usePassActs(passId);
  usePageActs(acts, "the passes", MOVING);
  const run = (id: string) => (): void =>
    acts()
      .find((one) => one.id === id)
      ?.run();
  const running = draft.wefts.find((weft) => weft.running) ?? null;
  return (
    <div className={classes.screen}>
      <h1 className="visually-hidden">Passes of {doc.name}</h1>
      <section className={classes.work} aria-label="Passes">
        <Top draft={draft} acts={acts} />
        {draft.wefts.length === 0 ? (
          <Empty onPlan={run("plan")} />
        ) : (
          <PassDraft
            doc={doc}
            draft={draft}
            chosen={passId}
            onChoose={setChosen}
            onToggle={(pass, trackId, on) => actPlanned(armInPass(doc, { passId: pass, trackIds: [trackId], on }))}
            onSettings={run("settings")}
          />
        )}
        {running && (
          <RunningPass
            doc={doc}
            weft={running}
            hearing={hearing}
            last={running.at === draft.wefts.length - 1}
            onNext={run("next")}
          />
        )}
        <DiskBar doc={doc} />
      </section>
      {findingsOpen && <FindingsPanel />}
    </div>
  );
};
