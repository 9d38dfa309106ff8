"use client";

import { Button, SegmentedControl } from "@mantine/core";
import { IconAlertTriangle } from "@tabler/icons-react";
import { useMemo, useState } from "react";
import { contributorsOf, type HeadroomRow, headroomRows } from "@/core/layout/headroom-rows";
import { gainPlans } from "@/core/levels/gain-plan";
import { mixLevels } from "@/core/levels/mix-levels";
import { type Fallen, monoOf } from "@/core/levels/mono-check";
import type { LineId } from "@/core/model/ids";
import { LEVELS, type Levels, type Template } from "@/core/model/template";
import { planned, unplanned } from "@/core/planning/gesture";
import { ASKED, type Asked } from "@/core/queries/at-work";
import { fieldText, readField } from "@/core/reading/field-text";
import { dB, formatDb, formatGain } from "@/core/units/decibels";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, usePageActs } from "../frame/page-acts";
import { TextField } from "../inspector/inspector-fields";
import { KeptFor } from "../inspector/kept-for";
import { useDesk, useDoing, useFindings, useRig, useStudio } from "../state/desk-context";
import { CuesNav } from "./cues-nav";
import { GainTable } from "./gain-table";
import { HeadroomChart } from "./headroom-chart";
import classes from "./levels.module.css";
import { LinePanel } from "./line-panel";
import { useLevelActs } from "./use-level-acts";

const FIELDS: readonly { readonly field: keyof Levels; readonly label: string }[] = [
  { field: "targetDb", label: "Target level, dBFS RMS" },
  { field: "peakDb", label: "Peaks below, dBFS" },
];

const Aims = ({ doc }: { readonly doc: Template }) => {
  const { actPlanned } = useDoing();
  const keep =
    (field: keyof Levels) =>
    (text: string): boolean => {
      const read = readField(LEVELS[field], text);
      return actPlanned(
        read.ok
          ? planned([{ kind: "settings.set", set: { levels: { [field]: read.value } } }])
          : unplanned(`“${text.trim()}” ${read.says}.`),
      );
    };
  return (
    <div className={classes.aims}>
      <KeptFor of="levels">
        {FIELDS.map(({ field, label }) => (
          <TextField
            key={field}
            label={label}
            value={fieldText(LEVELS[field], doc.levels[field])}
            onKeep={keep(field)}
          />
        ))}
      </KeptFor>
    </div>
  );
};

const ASKED_WORDS: { readonly [A in Asked]: string } = {
  recording: "While recording",
  mixing: "Mixed",
  "listening-copy": "Listening copy",
};
const ASKED_SAYS: { readonly [A in Asked]: string } = {
  recording: "With the levels that tracks have while they record, without what is off then.",
  mixing: "With every fader as it plays back. Cues stay as they are while recording.",
  "listening-copy": "As mixed, with what is only meant for a copy to listen to. Cues stay as they are while recording.",
};

const MONO_WORDS: { readonly [O in Fallen["of"]]: string } = {
  single: "off centre",
  sides: "its two sides",
  pair: "two of one source",
};

/** What of the main bus or a cue is lost to whoever listens in mono. */
const MonoCheck = ({ name, fallen }: { readonly name: string; readonly fallen: readonly Fallen[] }) => (
  <section aria-label={`${name} in mono`} className={classes.mono}>
    <h3>In mono</h3>
    {fallen.length ? (
      <ol>
        {fallen.map(({ ids, name: who, of, fallDb }) => (
          <li key={ids.join()}>
            <span>{who}</span> <em>{MONO_WORDS[of]}</em> <b>{fallDb === null ? "cancels" : round(fallDb)}</b>
          </li>
        ))}
      </ol>
    ) : (
      <p>Nothing falls out.</p>
    )}
  </section>
);

const round = (db: number): string => formatDb(dB(Math.round(db * 100) / 100));

const MOVING: Moving = [
  ["↑ ↓, Page Up, Page Down", "Go through the lines, or the bars of the headroom"],
  ["Home, End", "First and last line"],
];

/** Where peaks stand: likely, and if all of it were alike. */
const peaksInWords = ({ likelyPeakDb, worstPeakDb }: HeadroomRow): string =>
  likelyPeakDb === null || worstPeakDb === null
    ? "is silent"
    : `peaks ${tenth(likelyPeakDb)} likely, ${tenth(worstPeakDb)} if all of it were alike`;

const tenth = (db: number): string => formatGain(dB(Math.round(db * 10) / 10));

const sumsInWords = ({ worstPeakDb, alikeDb, unlikeDb }: HeadroomRow): string =>
  worstPeakDb === null || alikeDb === null || unlikeDb === null
    ? "Silent."
    : `${round(alikeDb)}FS if all of it is alike, ${round(unlikeDb)}FS if it is not; peaks at worst ${round(worstPeakDb)}FS: ${
        worstPeakDb > 0 ? `${round(worstPeakDb)} beyond full scale` : `${round(-worstPeakDb)} of headroom`
      }.`;

/** Rules about levels: what they tell stands on this screen as well. */
const OF_LEVELS: ReadonlySet<string> = new Set(["beyond-full-scale", "gain-misfits", "gain-out-of-range"]);
const MOST_TOLD = 4;

/** What is found of gains and levels, each with what puts it right. */
const LevelFindings = () => {
  const findings = useFindings().filter(({ rule }) => OF_LEVELS.has(rule));
  const { act } = useDoing();
  if (!findings.length) return null;
  return (
    <ul className={classes.found} aria-label="Findings of levels">
      {findings.slice(0, MOST_TOLD).map(({ id, message, severity, fixes: [fix] }) => (
        <li key={id} data-severity={severity}>
          <IconAlertTriangle size={15} stroke={1.9} aria-hidden />
          <span>{message}</span>
          {fix && (
            <Button variant="default" size="compact-sm" onClick={() => act({ name: fix.label, edits: fix.edits })}>
              {fix.label}
            </Button>
          )}
        </li>
      ))}
      {findings.length > MOST_TOLD && <li>{findings.length - MOST_TOLD} more in the list of findings.</li>}
    </ul>
  );
};

/** How loud everything comes, from the microphone to what goes out, and how far that is from full scale. */
export const LevelsScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const [rig, studio] = [useRig(), useStudio()];
  const [asked, setAsked] = useState<Asked>("recording");
  const levels = useMemo(() => mixLevels(doc, { rig, studio, asked }), [doc, rig, studio, asked]);
  const rows = useMemo(() => headroomRows(doc, { levels }), [doc, levels]);
  const plans = useMemo(() => gainPlans(doc, rig, studio), [doc, rig, studio]);
  const [picked, setPicked] = useState<string | null>(null);
  const [lineId, setLineId] = useState<LineId | null>(null);
  const isMain = ({ what }: (typeof rows)[number]) => what.kind === "channel" && doc.channels[what.id]?.kind === "main";
  const row = rows.find(({ id }) => id === picked) ?? rows.find(isMain) ?? rows[0] ?? null;
  const most = useMemo(() => (row ? contributorsOf(doc, { levels, row }) : []), [doc, levels, row]);
  const mono = useMemo(() => (row ? monoOf(doc, row.id) : null), [doc, row]);
  const line = lineId ? doc.lines[lineId] : undefined;
  const acts = useLevelActs(lineId, plans);
  usePageActs(acts, "the levels", MOVING);
  return (
    <div className={classes.screen}>
      <h1 className="visually-hidden">Levels of {doc.name}</h1>
      <section className={classes.work} aria-label="Levels">
        <header className={classes.top}>
          <CuesNav />
          <SegmentedControl
            size="xs"
            aria-label="Levels of what"
            data={ASKED.map((value) => ({ value, label: ASKED_WORDS[value] }))}
            value={asked}
            onChange={(value) => setAsked(value as Asked)}
          />
          <Aims doc={doc} />
        </header>
        <GainTable doc={doc} plans={plans} chosen={lineId} onChoose={setLineId} />
        <LevelFindings />
      </section>
      {findingsOpen ? (
        <FindingsPanel />
      ) : (
        <aside className={classes.side} aria-label="Headroom of what is summed">
          {line && <LinePanel doc={doc} line={line} plan={plans.get(line.id)} onClose={() => setLineId(null)} />}
          <HeadroomChart rows={rows} chosen={row?.id ?? null} onChoose={setPicked} />
          {row && (
            <section className={classes.most} aria-label={`What contributes most to ${row.name}`}>
              <h3>
                {row.name} <span>{peaksInWords(row)}</span>
              </h3>
              <p>{sumsInWords(row)}</p>
              <ol>
                {most.map(({ sourceId, name, by, db }) => (
                  <li key={`${sourceId} ${by}`}>
                    <span>{name}</span> {by === "send" && <em>sent</em>} <b>{round(db)}</b>
                  </li>
                ))}
              </ol>
              {mono && row && <MonoCheck name={row.name} fallen={mono} />}
              <p>
                {ASKED_SAYS[asked]} What changes level by itself is counted at the gain it has without acting.
                {doc.format.mainLayout === "5.1" && " 5.1 counts as stereo."}
              </p>
            </section>
          )}
        </aside>
      )}
    </div>
  );
};
