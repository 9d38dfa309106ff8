"use client";

import { useCallback, useMemo, useState } from "react";
import { combOf, comparedRows, type DelayRow, delayRows, switchable } from "@/core/layout/delay-rows";
import type { Template } from "@/core/model/template";
import { canBeDirect } from "@/core/planning/monitor-plans";
import { editsOf, NOTHING_TRIED, takeOver, triedOn, type WhatIf } from "@/core/planning/what-if";
import { cuesOf } from "@/core/queries/cues";
import { buffersOffered, ratesOffered } from "@/core/timing/hardware";
import { type Hearing, heardTwice, hearingOf } from "@/core/timing/hearing";
import { bufferAdvice, lowLatency, rateBufferTable } from "@/core/timing/low-latency";
import type { Act } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, usePageActs } from "../frame/page-acts";
import { PageLink } from "../shared/page-link";
import { useSteady } from "../shared/steady";
import { useDesk, useDoing, useFindings, usePlace, useRig, useStudio } from "../state/desk-context";
import { BuffersBar } from "./buffers-bar";
import classes from "./delay.module.css";
import { CombChart, LoadChart } from "./delay-charts";
import { DelayThreads } from "./delay-threads";
import { RateBufferTable } from "./rate-buffer";
import { WhatIfPanel } from "./what-if-panel";

const Nobody = ({ href }: { readonly href: string }) => (
  <p className={classes.nobody}>
    Nobody hears themself yet: <PageLink href={href}>add a cue</PageLink> for those who play. Then each of their own
    sounds is a thread here, as long as it is late.
  </p>
);

/** What is computed of the template as it is, and as it is tried. */
const useTried = (doc: Template, tried: WhatIf) => {
  const [rig, studio] = [useRig(), useStudio()];
  const now = useMemo(() => triedOn(doc, tried), [doc, tried]);
  const was = useMemo(() => delayRows(doc, hearingOf(doc, rig, studio)), [doc, rig, studio]);
  const hearing = useMemo(() => hearingOf(now, rig, studio), [now, rig, studio]);
  const rows = useMemo(() => delayRows(now, hearing), [now, hearing]);
  const advice = useMemo(() => lowLatency(now, rig, studio), [now, rig, studio]);
  const cells = useMemo(() => rateBufferTable(now, rig, studio), [now, rig, studio]);
  const load = useMemo(() => bufferAdvice(now, rig, studio), [now, rig, studio]);
  return { rig, now, differs: editsOf(doc, tried).length > 0, was, hearing, rows, advice, cells, load };
};

/** The row that is chosen. What somebody is monitored by may be tried away: then another thread of the same track. */
const chosenOf = (rows: readonly DelayRow[], was: readonly DelayRow[], picked: string | null) => {
  const before = was.find(({ id }) => id === picked);
  const wanted = rows.find(({ id }) => id === picked);
  const beside = rows.find(
    ({ cueId, trackIds }) => before && cueId === before.cueId && before.trackIds.some((id) => trackIds.includes(id)),
  );
  const chosen = wanted ?? beside ?? null;
  return { chosen, target: chosen ?? before ?? null };
};

/** The comb of what the chosen row, or else the first of all, is heard with twice. */
const Comb = ({ hearing, chosen }: { readonly hearing: Hearing; readonly chosen: DelayRow | null }) => {
  const findings = useFindings();
  const { act } = useDoing();
  const twice = useMemo(() => heardTwice(hearing), [hearing]);
  const doubled = twice.find(({ first, second }) => first.id === chosen?.id || second.id === chosen?.id) ?? twice[0];
  const comb = useMemo(() => (doubled ? combOf(doubled) : null), [doubled]);
  const told =
    doubled &&
    findings.find(
      ({ rule, id }) => rule === "hears-twice" && id === `hears-twice:${doubled.first.cueId}:${doubled.first.lineId}`,
    );
  const fix = told?.fixes[0];
  return (
    <CombChart
      comb={comb}
      who={doubled ? `${doubled.first.person.split(" ")[0]}` : ""}
      others={twice.length - 1}
      fix={fix ? { label: fix.label, run: () => act({ name: fix.label, edits: fix.edits }) } : null}
    />
  );
};

const NOTHING_DIFFERS = "Nothing is tried: choose another rate, buffer or way of monitoring at the right first.";
const MOVING: Moving = [
  ["↑ ↓, Page Up, Page Down", "Go from thread to thread"],
  ["Home, End", "First and last thread"],
];

/** To what can be tried at the right. */
const focusPanel = (): void => document.querySelector<HTMLElement>("main aside input:not([disabled])")?.focus();

/** How late everybody hears themself, what the computer carries, and what would change it. */
export const DelayScreen = () => {
  const place = usePlace();
  const doc = useDesk((desk) => desk.doc);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const { actPlanned } = useDoing();
  const [tried, setTried] = useState<WhatIf>(NOTHING_TRIED);
  const [picked, setPicked] = useState<string | null>(null);
  const { rig, now, differs, was, hearing, rows, advice, cells, load } = useTried(doc, tried);
  const { chosen, target } = chosenOf(rows, was, picked);
  const tracks = target
    ? target.trackIds.flatMap((id) => (doc.channels[id]?.kind === "track" ? [doc.channels[id]] : []))
    : [];
  const change = (next: Partial<WhatIf>): void => setTried((was) => ({ ...was, ...next }));
  const take = (): void => {
    if (actPlanned(takeOver(doc, tried))) setTried(NOTHING_TRIED);
  };
  const toTake = useSteady(take);
  const acts = useCallback(
    (): readonly Act[] => [
      {
        id: "take",
        label: "Take over what was tried",
        whyNot: differs ? undefined : NOTHING_DIFFERS,
        run: toTake,
      },
      {
        id: "back",
        label: "Put back what was tried",
        key: keyOf("remove"),
        whyNot: differs ? undefined : NOTHING_DIFFERS,
        run: () => setTried(NOTHING_TRIED),
      },
      { id: "edit", label: "Try another rate, buffer or way of monitoring", key: keyOf("edit"), run: focusPanel },
    ],
    [differs, toTake],
  );
  usePageActs(acts, "the delay", MOVING);
  return (
    <div className={classes.screen}>
      <h1 className="visually-hidden">Delay of {doc.name}</h1>
      <div className={classes.work}>
        {rows.length || was.length ? (
          <DelayThreads doc={now} rows={rows} chosen={chosen?.id ?? null} onChoose={setPicked} />
        ) : (
          <Nobody href={`${place}/cues`} />
        )}
        {hearing.cut > 0 && (
          <p className={classes.note}>There are more ways than are shown, of {hearing.cut} tracks in cues.</p>
        )}
        <div className={classes.panels}>
          <RateBufferTable
            cells={cells}
            rateHz={now.format.sampleRateHz}
            bufferSamples={now.buffers.recordingSamples}
            onTry={(rateHz, bufferSamples) => change({ rateHz, bufferSamples })}
          />
          <LoadChart doc={now} advice={load} />
          <Comb hearing={hearing} chosen={chosen} />
        </div>
        <BuffersBar doc={doc} />
      </div>
      {findingsOpen ? (
        <FindingsPanel />
      ) : (
        (cuesOf(doc).length > 0 || differs) && (
          <WhatIfPanel
            doc={doc}
            now={now}
            tried={tried}
            onTry={change}
            rates={ratesOffered(rig)}
            buffers={buffersOffered(rig)}
            chosen={target}
            canDirect={tracks.length > 0 && tracks.every((track) => canBeDirect(doc, rig, track))}
            switchables={switchable(now, rig, hearing)}
            advice={advice}
            compared={differs ? comparedRows(was, rows) : []}
            differs={differs}
            onTake={take}
            onBack={() => setTried(NOTHING_TRIED)}
          />
        )
      )}
    </div>
  );
};
