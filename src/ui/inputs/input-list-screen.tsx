"use client";

import { DndContext, DragOverlay, getClientRect, pointerWithin } from "@dnd-kit/core";
import { type HotkeyItem, useDebouncedValue, useElementSize, useHotkeys } from "@mantine/hooks";
import { useCallback, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import { createStore, type StoreApi } from "zustand/vanilla";
import { type JackView, jackField, jackHeights } from "@/core/layout/jack-field";
import { loomThreads } from "@/core/layout/loom";
import { filterRows, type Row } from "@/core/layout/rows";
import type { ChannelId, PortId } from "@/core/model/ids";
import { linesOfTrack, trackOf } from "@/core/model/read-template";
import { writeCell } from "@/core/planning/write-cell";
import { FindingsPanel } from "../frame/findings-panel";
import { useDesk, useDeskStore, useDoing, useFindings, useRig } from "../state/desk-context";
import { ActMenu } from "./act-menu";
import { AddTracksBar } from "./add-tracks-bar";
import { focusGrid, newIds } from "./grid-focus";
import { GridToolbar } from "./grid-toolbar";
import { InputGrid } from "./input-grid";
import classes from "./input-list.module.css";
import { Inspector } from "./inspector";
import { JackField } from "./jack-field";
import { KeySheet } from "./key-sheet";
import { Loom } from "./loom";
import { HEADER_HEIGHT, JACK_FIELD_TOP, JACK_HEIGHT, JACK_TITLE_HEIGHT, TOOLBAR_HEIGHT } from "./metrics";
import { useActs } from "./use-acts";
import { useColumns } from "./use-columns";
import { type Drag, type RowAt, useDrags } from "./use-drags";
import { useRowHeight } from "./use-row-height";

const useJacks = () => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  const groups = useMemo(() => jackField(doc, rig), [doc, rig]);
  const heights = useMemo(() => jackHeights(groups, { top: JACK_FIELD_TOP, title: JACK_TITLE_HEIGHT, jack: JACK_HEIGHT }), [groups]);
  return { groups, heights };
};

interface Scrolls {
  readonly jacks: number;
  readonly grid: number;
}

/** Rows stand where a transform puts them, so they are measured as they are seen. */
const MEASURING = { droppable: { measure: getClientRect } };

/** How far both sides are scrolled. Only the loom listens: the rest of the screen need not be drawn anew for it. */
const useScrolls = () => {
  const jacksRef = useRef<HTMLDivElement>(null);
  const gridRef = useRef<HTMLDivElement>(null);
  const [scrolls] = useState(() => createStore<Scrolls>(() => ({ jacks: 0, grid: 0 })));
  const onScroll = useCallback(() => scrolls.setState({ jacks: jacksRef.current?.scrollTop ?? 0, grid: gridRef.current?.scrollTop ?? 0 }), [scrolls]);
  return { jacksRef, gridRef, scrolls, onScroll };
};

/** Letters are taken by where they lie, since Alt changes what they write on some keyboards. */
const isLetter = (hotkey: string): boolean => /\+[A-Z]$/.test(hotkey);

const Empty = () => (
  <div className={classes.empty}>
    <h2>No tracks yet</h2>
    <p>
      Each line that is plugged in becomes a track here. Say below how many, and from which input: <code className="mono">8 mono from 3</code> lays eight tracks on eight ascending
      inputs. Press <kbd>Alt A</kbd> to go there. Rows from a spreadsheet can be pasted into the first line above.
    </p>
  </div>
);

/** Where the ends of what is dragged are now, so that its thread can be drawn while it moves: heights within the loom. */
const ghostOf = (
  drag: Drag | null,
  jackY: ReadonlyMap<string, number>,
  loomTop: number,
  portsOf: (trackId: string) => readonly string[],
): readonly { fromY: number; toY: number }[] => {
  if (!drag) return [];
  const pointer = drag.y - loomTop;
  if (drag.held.kind === "jack") {
    const fromY = jackY.get(drag.held.id);
    return fromY === undefined ? [] : [{ fromY, toY: pointer }];
  }
  return portsOf(drag.held.id).flatMap((port) => {
    const fromY = jackY.get(port);
    return fromY === undefined ? [] : [{ fromY, toY: pointer }];
  });
};

interface ThreadsProps {
  readonly rows: readonly Row[];
  readonly heights: ReadonlyMap<PortId, number>;
  readonly rowHeight: number;
  readonly scrolls: StoreApi<Scrolls>;
  readonly drag: Drag | null;
  readonly selected: ReadonlySet<string>;
  readonly troubled: ReadonlySet<string>;
  /** Where the loom begins, in pixels of the window. */
  readonly top: () => number;
  readonly portsOf: (trackId: string) => readonly string[];
}

/** The loom as both sides are scrolled now, with the thread whose end is being dragged. */
const Threads = ({ rows, heights, rowHeight, scrolls, drag, selected, troubled, top, portsOf }: ThreadsProps) => {
  const scroll = useStore(scrolls);
  const jackY = useMemo(() => new Map([...heights].map(([port, y]) => [port, y - scroll.jacks])), [heights, scroll.jacks]);
  const threads = useMemo(() => {
    const first = TOOLBAR_HEIGHT + HEADER_HEIGHT + rowHeight / 2 - scroll.grid;
    return loomThreads(rows, { jackY, rowY: (index) => first + index * rowHeight });
  }, [rows, jackY, rowHeight, scroll.grid]);
  return <Loom threads={threads} selected={selected} troubled={troubled} ghost={ghostOf(drag, jackY, drag ? top() : 0, portsOf)} />;
};

/** Jack field, loom, grid and inspector: what is plugged in where, and on which track it arrives. */
export const InputListScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const selected = useDesk((desk) => desk.selected);
  const filter = useDesk((desk) => desk.filter);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const desk = useDeskStore();
  const rig = useRig();
  const findings = useFindings();
  const { actPlanned } = useDoing();
  const acts = useActs();
  const [restingActs] = useDebouncedValue(acts, 120, { leading: true });
  const rows = useMemo((): readonly Row[] => filterRows(doc, rig, filter), [doc, rig, filter]);
  const { groups, heights } = useJacks();
  const { jacksRef, gridRef, scrolls, onScroll } = useScrolls();
  const columns = useColumns(rows);
  const { ref: workRef, height: workHeight } = useElementSize();
  const rowHeight = useRowHeight(rows.length, workHeight);
  const rowAt = useCallback(
    (y: number): RowAt | null => {
      const box = gridRef.current?.getBoundingClientRect();
      const at = box ? (y - box.top - HEADER_HEIGHT + (gridRef.current?.scrollTop ?? 0)) / rowHeight.height : -1;
      const row = rows[Math.floor(at)];
      return row ? { kind: row.kind, id: row.id, share: at - Math.floor(at) } : null;
    },
    [rows, rowHeight.height, gridRef],
  );
  const drags = useDrags(rowAt);
  const [menu, setMenu] = useState<{ readonly x: number; readonly y: number } | null>(null);
  const [keysOpen, setKeysOpen] = useState(false);
  useHotkeys([
    ...acts.flatMap((act): HotkeyItem[] => (act.hotkey && act.possible ? [[act.hotkey, act.run, { usePhysicalKeys: isLetter(act.hotkey) }]] : [])),
    ["shift+?", () => setKeysOpen(true)],
  ]);

  const troubled = useMemo(() => new Set(findings.flatMap((finding) => finding.places.flatMap((place) => (place.kind === "line" ? [place.id as string] : [])))), [findings]);
  const selectedIds = useMemo(() => new Set<string>(selected), [selected]);
  const portsOf = useCallback(
    (id: string): readonly string[] => {
      const track = trackOf(doc, id as ChannelId);
      return track ? linesOfTrack(doc, track).flatMap((line) => line.portId ?? []) : [];
    },
    [doc],
  );
  const selectedPorts = useMemo(() => new Set<string>(selected.flatMap(portsOf)), [selected, portsOf]);

  const onJack = useCallback(
    (view: JackView) => {
      const { doc: now, selected: chosen } = desk.getState();
      if (view.trackId) desk.setState({ cursor: { rowId: view.trackId, column: "input" }, anchorColumn: null, selected: [view.trackId] });
      else if (chosen.length) actPlanned(writeCell(now, rig, { trackIds: chosen, column: "input", text: view.jack.label, ids: newIds }));
      focusGrid();
    },
    [desk, rig, actPlanned],
  );

  return (
    <DndContext
      sensors={drags.sensors}
      collisionDetection={pointerWithin}
      measuring={MEASURING}
      onDragStart={drags.onDragStart}
      onDragMove={drags.onDragMove}
      onDragEnd={drags.onDragEnd}
      onDragCancel={drags.onDragCancel}
    >
      <div className={classes.screen}>
        <h1 className="visually-hidden">Input list of {doc.name}</h1>
        <JackField groups={groups} scrollRef={jacksRef} onScroll={onScroll} selectedPorts={selectedPorts} onJack={onJack} />
        <Threads
          rows={rows}
          heights={heights}
          rowHeight={rowHeight.height}
          scrolls={scrolls}
          drag={drags.drag}
          selected={selectedIds}
          troubled={troubled}
          top={() => jacksRef.current?.getBoundingClientRect().top ?? 0}
          portsOf={portsOf}
        />
        <section className={classes.work} aria-label="Tracks">
          <GridToolbar
            shownRows={rows.filter((row) => row.kind === "track").length}
            columns={columns}
            rowSetting={rowHeight.setting}
            onRowSetting={rowHeight.setSetting}
            onKeys={() => setKeysOpen(true)}
          />
          <div ref={workRef} className={classes.rows}>
            <InputGrid
              rows={rows}
              acts={acts}
              findings={findings}
              columns={columns}
              rowHeight={rowHeight.height}
              drag={drags.drag}
              scrollRef={gridRef}
              onScroll={onScroll}
              onMenu={setMenu}
            />
            {rows.length === 0 && !filter && <Empty />}
          </div>
          <AddTracksBar />
        </section>
        {findingsOpen ? <FindingsPanel /> : <Inspector acts={restingActs} />}
        <ActMenu at={menu} acts={acts} onClose={() => setMenu(null)} />
        <KeySheet opened={keysOpen} acts={acts} onClose={() => setKeysOpen(false)} />
      </div>
      <DragOverlay dropAnimation={null}>
        {drags.drag && (
          <span className={classes.held}>
            {drags.drag.held.kind === "track" && selected.length > 1 && selectedIds.has(drags.drag.held.id) ? `${selected.length} tracks` : drags.drag.held.name}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
};
