"use client";

import { type HotkeyItem, useHotkeys } from "@mantine/hooks";
import { useCallback, useMemo, useRef, useState } from "react";
import { type JackView, jackField, jackHeights } from "@/core/layout/jack-field";
import { loomThreads } from "@/core/layout/loom";
import { layoutRows } from "@/core/layout/rows";
import { linesOfTrack, trackOf } from "@/core/model/read-template";
import { writeCell } from "@/core/planning/write-cell";
import { FindingsPanel } from "../frame/findings-panel";
import { useDesk, useDeskStore, useDoing, useFindings, useRig } from "../state/desk-context";
import { AddTracksBar } from "./add-tracks-bar";
import { InputGrid } from "./input-grid";
import classes from "./input-list.module.css";
import { Inspector } from "./inspector";
import { JackField } from "./jack-field";
import { Loom } from "./loom";
import { HEADER_HEIGHT, JACK_FIELD_TOP, JACK_HEIGHT, JACK_TITLE_HEIGHT, ROW_HEIGHT } from "./metrics";
import { focusGrid, newIds, useActs } from "./use-acts";

const useJacks = () => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  const groups = useMemo(() => jackField(doc, rig), [doc, rig]);
  const heights = useMemo(() => jackHeights(groups, { top: JACK_FIELD_TOP, title: JACK_TITLE_HEIGHT, jack: JACK_HEIGHT }), [groups]);
  return { groups, heights };
};

/** How far both sides are scrolled, so that the threads follow. */
const useScrolls = () => {
  const jacksRef = useRef<HTMLDivElement>(null);
  const gridRef = useRef<HTMLDivElement>(null);
  const [scroll, setScroll] = useState({ jacks: 0, grid: 0 });
  const onScroll = useCallback(() => setScroll({ jacks: jacksRef.current?.scrollTop ?? 0, grid: gridRef.current?.scrollTop ?? 0 }), []);
  return { jacksRef, gridRef, scroll, onScroll };
};

/** Letters are taken by where they lie, since Alt changes what they write on some keyboards. */
const isLetter = (hotkey: string): boolean => /\+[A-Z]$/.test(hotkey);

const Empty = () => (
  <div className={classes.empty}>
    <h2>No tracks yet</h2>
    <p>
      Each line that is plugged in becomes a track here. Say below how many, and from which input: <code className="mono">8 mono from 3</code> lays eight tracks on eight ascending
      inputs. Press <kbd>Alt A</kbd> to go there.
    </p>
  </div>
);

/** Jack field, loom, grid and inspector: what is plugged in where, and on which track it arrives. */
export const InputListScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const selected = useDesk((desk) => desk.selected);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const desk = useDeskStore();
  const rig = useRig();
  const findings = useFindings();
  const { actPlanned } = useDoing();
  const acts = useActs();
  const rows = useMemo(() => layoutRows(doc), [doc]);
  const { groups, heights } = useJacks();
  const { jacksRef, gridRef, scroll, onScroll } = useScrolls();
  useHotkeys(acts.flatMap((act): HotkeyItem[] => (act.hotkey ? [[act.hotkey, () => act.possible && act.run(), { usePhysicalKeys: isLetter(act.hotkey) }]] : [])));

  const threads = useMemo(() => {
    const jackY = new Map([...heights].map(([port, y]) => [port, y - scroll.jacks]));
    return loomThreads(rows, { jackY, rowY: (index) => HEADER_HEIGHT + index * ROW_HEIGHT + ROW_HEIGHT / 2 - scroll.grid });
  }, [rows, heights, scroll]);
  const troubled = useMemo(() => new Set(findings.flatMap((finding) => finding.places.flatMap((place) => (place.kind === "line" ? [place.id as string] : [])))), [findings]);
  const selectedIds = useMemo(() => new Set<string>(selected), [selected]);
  const selectedPorts = useMemo(() => {
    const tracks = selected.flatMap((id) => trackOf(doc, id) ?? []);
    return new Set(tracks.flatMap((track) => linesOfTrack(doc, track).flatMap((line) => line.portId ?? [])));
  }, [doc, selected]);

  const onJack = (view: JackView) => {
    if (view.trackId) desk.setState({ cursor: { rowId: view.trackId, column: "input" }, selected: [view.trackId] });
    else if (selected.length) actPlanned(writeCell(doc, rig, { trackIds: selected, column: "input", text: view.jack.label, ids: newIds }));
    focusGrid();
  };

  return (
    <div className={classes.screen}>
      <h1 className="visually-hidden">Input list of {doc.name}</h1>
      <JackField groups={groups} scrollRef={jacksRef} onScroll={onScroll} selectedPorts={selectedPorts} onJack={onJack} />
      <Loom threads={threads} selected={selectedIds} troubled={troubled} />
      <section className={classes.work} aria-label="Tracks">
        {rows.length ? <InputGrid rows={rows} acts={acts} findings={findings} scrollRef={gridRef} onScroll={onScroll} /> : <Empty />}
        <AddTracksBar />
      </section>
      {findingsOpen ? <FindingsPanel /> : <Inspector acts={acts} />}
    </div>
  );
};
