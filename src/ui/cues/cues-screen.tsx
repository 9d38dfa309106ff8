"use client";

import { Button } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { useCallback, useDeferredValue, useEffect, useMemo, useState } from "react";
import { type CueRow, cueHeads, cueRows } from "@/core/layout/cue-matrix";
import type { CueId } from "@/core/model/ids";
import { putInto } from "@/core/model/table";
import { setCueLevels, setGroupLevel } from "@/core/planning/cue-plans";
import { cuesOf } from "@/core/queries/cues";
import { type Decibels, formatLevel } from "@/core/units/decibels";
import { keyOf } from "../acts/chords";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, usePageActs } from "../frame/page-acts";
import { newIds } from "../grid/grid-focus";
import { useKept, useSteady } from "../shared/steady";
import { useDesk, useDoing, useFindings, useRig } from "../state/desk-context";
import { useJump } from "../state/jump";
import { CueBar } from "./cue-bar";
import { CueMatrix, MATRIX } from "./cue-matrix";
import classes from "./cues.module.css";
import { CuesNav } from "./cues-nav";
import { useCueActs } from "./use-cue-acts";
import { useCueClipboard } from "./use-cue-clipboard";
import { type At, HEADS, useCueCursor } from "./use-cue-cursor";
import { useHearing } from "./use-hearing";

/** Which groups are folded, for as long as the screen is open; folders begin as they are in the input list. */
const useFolded = () => {
  const doc = useDesk((desk) => desk.doc);
  const [folded, setFolded] = useState<ReadonlySet<string>>(
    () => new Set(Object.values(doc.folders).flatMap(({ id, open }) => (open ? [] : [id as string]))),
  );
  const fold = useCallback(
    (id: string) => setFolded((was) => new Set(was.has(id) ? [...was].filter((one) => one !== id) : [...was, id])),
    [],
  );
  return { folded, fold };
};

const Empty = ({ onAdd }: { readonly onAdd: () => void }) => (
  <div className={classes.empty}>
    <CuesNav />
    <h2>Nobody hears anything yet</h2>
    <p>
      A cue is a mix of its own for somebody who plays: how loud they hear whom, on which output. Begin with one that
      sounds like the main mix, then give each more of their own sound with <kbd>{keyOf("more-own")}</kbd>.
    </p>
    <Button onClick={onAdd}>Add a cue</Button>
  </div>
);

const MOVING: Moving = [
  ["← ↑ → ↓", "Go from level to level, and to the heads"],
  ["Shift and arrows", "Select a range"],
  ["Enter, F2 or typing", "Type a level: −6, L 30, before, off"],
  ["Space", "Fold or unfold a group"],
  ["Delete", "Take the source out of the cue; on a head, remove the cue"],
  ["Ctrl C, Ctrl V", "Copy and paste levels"],
  ["Page Up, Page Down, Home, End", "Further, and to the ends"],
];

/** People across, sources down: what everybody hears, and how late they hear themself. */
export const CuesScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const rig = useRig();
  const { actPlanned } = useDoing();
  // A level is seen at once; how late everybody hears themself follows in the next frame.
  const settled = useDeferredValue(doc);
  const hearing = useHearing(settled);
  const { folded, fold } = useFolded();
  const [buses, setBuses] = useState(false);
  const { ref, width } = useElementSize();
  const cues = cuesOf(doc);
  const rows = useKept(useMemo(() => cueRows(doc, { folded, buses }), [doc, folded, buses]));
  const heads = useKept(useMemo(() => cueHeads(settled, rig, hearing), [settled, rig, hearing]));
  const findings = useFindings();
  const told = useMemo(() => {
    const byCue = new Map<string, string[]>();
    for (const { message, places } of findings)
      for (const id of new Set(places.flatMap((place) => (place.kind === "cue" ? [place.id] : []))))
        putInto(byCue, id as string, message);
    return byCue;
  }, [findings]);
  const cursor = useCueCursor(rows, cues);
  const { gather, takeOut } = useCueActs(cursor);
  useJump({
    view: "cues",
    kinds: ["cue"],
    take: ({ id }) => cursor.go({ rowId: HEADS, cueId: id }),
    focus: () => document.getElementById(MATRIX)?.focus(),
  });
  useCueClipboard(MATRIX, rows, cursor);
  usePageActs(gather, "the cues", MOVING);
  const run = (id: string) => (): void =>
    gather()
      .find((one) => one.id === id)
      ?.run();
  const shown = width > 0 && cues.length > 0;
  useEffect(() => {
    if (shown && document.activeElement === document.body) document.getElementById(MATRIX)?.focus();
  }, [shown]);
  const { cells, cueIds } = cursor;
  const bar = useDeferredValue(
    useMemo(() => ({ cells, cueIds, heads, hearing, gather }), [cells, cueIds, heads, hearing, gather]),
  );
  const inGroup = (cueId: CueId, row: CueRow, text: string): boolean =>
    actPlanned(
      row.kind === "group"
        ? setGroupLevel(doc, { cueId, sourceIds: row.sourceIds, text, name: row.name, ids: newIds })
        : setCueLevels(doc, { cells: [{ cueId, sourceId: row.id }], text, ids: newIds }),
    );
  const type = useSteady((at: At, row: CueRow | null, text: string): boolean => {
    if (!row) return true;
    const one = cursor.rowIds.size <= 1 && cueIds.length <= 1;
    return one ? inGroup(at.cueId, row, text) : actPlanned(setCueLevels(doc, { cells, text, ids: newIds }));
  });
  const level = useSteady(
    (row: CueRow, cueId: CueId, levelDb: Decibels | null): void =>
      void inGroup(cueId, row, formatLevel(levelDb).replace(" dB", "")),
  );
  const settings = useSteady(run("settings"));
  return (
    <div className={classes.screen}>
      <h1 className="visually-hidden">Cues of {doc.name}</h1>
      <section className={classes.work} aria-label="Cues">
        <div ref={ref} className={classes.place}>
          {cues.length === 0 ? (
            <Empty onAdd={run("add")} />
          ) : (
            width > 0 && (
              <CueMatrix
                doc={doc}
                rows={rows}
                heads={heads}
                cursor={cursor}
                width={width}
                told={told}
                onFold={fold}
                onType={type}
                onLevel={level}
                onSettings={settings}
                onTakeOut={takeOut}
              />
            )
          )}
        </div>
        <CueBar {...bar} buses={buses} onBuses={setBuses} />
      </section>
      {findingsOpen && <FindingsPanel />}
    </div>
  );
};
