"use client";

import { DndContext, DragOverlay, getClientRect, pointerWithin } from "@dnd-kit/core";
import { Button } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { IconPlus } from "@tabler/icons-react";
import { useCallback, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import { createStore, type StoreApi } from "zustand/vanilla";
import type { Finding } from "@/core/checks/finding";
import { type InputView, inputField, inputHeights } from "@/core/layout/input-field";
import { loomThreads } from "@/core/layout/loom";
import { filterRows, type Row } from "@/core/layout/rows";
import type { ChannelId, PortId } from "@/core/model/ids";
import { foldersAround, linesOfTrack, trackOf } from "@/core/model/read-template";
import type { Template } from "@/core/model/template";
import { writeCell } from "@/core/planning/write-cell";
import { useActs } from "../acts/use-acts";
import { AddingPanel } from "../adding/adding-panel";
import { FindingsPanel } from "../frame/findings-later";
import { type Moving, openMenu, usePageActs } from "../frame/page-acts";
import { focusGrid, newIds } from "../grid/grid-focus";
import { GridToolbar } from "../grid/grid-toolbar";
import { InputGrid } from "../grid/input-grid";
import { HEADER_HEIGHT, JACK_FIELD_TOP, JACK_HEIGHT, JACK_TITLE_HEIGHT, TOOLBAR_HEIGHT } from "../grid/metrics";
import { useColumns } from "../grid/use-columns";
import { type Drag, type Held, type RowAt, useDrags } from "../grid/use-drags";
import { useRowHeight } from "../grid/use-row-height";
import { Inspector } from "../inspector/inspector";
import { InputField, type InputFieldProps } from "../jacks/input-field";
import { Loom } from "../jacks/loom";
import { useDesk, useDeskStore, useDoing, useFindings, useRig } from "../state/desk-context";
import { useJump } from "../state/jump";
import classes from "./input-list.module.css";

const useRigInputs = () => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  const groups = useMemo(() => inputField(doc, rig), [doc, rig]);
  const heights = useMemo(
    () => inputHeights(groups, { top: JACK_FIELD_TOP, title: JACK_TITLE_HEIGHT, rigInput: JACK_HEIGHT }),
    [groups],
  );
  return { groups, heights };
};

interface Scrolls {
  readonly rigInputs: number;
  readonly grid: number;
}

/** Rows stand where a transform puts them, so they are measured as they are seen. */
const MEASURING = { droppable: { measure: getClientRect } };

/** How far both sides are scrolled. Only the loom listens: the rest of the screen need not be drawn anew for it. */
const useScrolls = () => {
  const inputsRef = useRef<HTMLDivElement>(null);
  const gridRef = useRef<HTMLDivElement>(null);
  const [scrolls] = useState(() => createStore<Scrolls>(() => ({ rigInputs: 0, grid: 0 })));
  const onScroll = useCallback(
    () => scrolls.setState({ rigInputs: inputsRef.current?.scrollTop ?? 0, grid: gridRef.current?.scrollTop ?? 0 }),
    [scrolls],
  );
  return { inputsRef, gridRef, scrolls, onScroll };
};

/** Letters are taken by where they lie, since Alt changes what they write on some keyboards. */

const Empty = () => (
  <div className={classes.empty}>
    <h2>No tracks yet</h2>
    <p>
      Each line that is plugged in becomes a track here. Press <kbd>Alt A</kbd> and write what is recorded, as you would
      on paper: <code className="mono">Kick in/out, Sn T/B, OH L/R, Bass DI, Gtr 1-2, Lead vox</code>. You see what
      becomes of it before anything is done. Rows from a spreadsheet can be pasted there, or into the first line above.
    </p>
  </div>
);

/** The way to more tracks, below those that are there. */
const AddBar = ({ onAdd }: { readonly onAdd: () => void }) => (
  <div className={classes.addBar}>
    <Button variant="default" size="sm" leftSection={<IconPlus size={16} stroke={1.8} aria-hidden />} onClick={onAdd}>
      Add tracks
    </Button>
    <span>write them as you would on paper, or paste rows</span>
  </div>
);

/** The inputs of a track, or of nothing when a folder is held. */
const portsOf = (doc: Template, id: string): readonly PortId[] => {
  const track = trackOf(doc, id as ChannelId);
  return track ? linesOfTrack(doc, track).flatMap((line) => line.portId ?? []) : [];
};

/**
 * Where the ends of what is dragged are now, so that its thread can be drawn while it moves: heights within the loom.
 */
const ghostOf = (
  drag: Drag | null,
  inputY: ReadonlyMap<string, number>,
  loomTop: number,
  doc: Template,
): readonly { fromY: number; toY: number }[] => {
  if (!drag) return [];
  const pointer = drag.y - loomTop;
  const ports = drag.held.kind === "jack" ? [drag.held.id] : portsOf(doc, drag.held.id);
  return ports.flatMap((port) => {
    const fromY = inputY.get(port);
    return fromY === undefined ? [] : [{ fromY, toY: pointer }];
  });
};

interface ThreadsProps {
  readonly rows: readonly Row[];
  readonly heights: ReadonlyMap<PortId, number>;
  readonly rowHeight: number;
  readonly scrolls: StoreApi<Scrolls>;
  readonly drag: Drag | null;
  readonly findings: readonly Finding[];
  /** Where the loom begins, in pixels of the window. */
  readonly top: () => number;
}

/** The loom as both sides are scrolled now, with the thread whose end is being dragged. */
const Threads = ({ rows, heights, rowHeight, scrolls, drag, findings, top }: ThreadsProps) => {
  const doc = useDesk((desk) => desk.doc);
  const selected = useDesk((desk) => desk.selected);
  const scroll = useStore(scrolls);
  const selectedIds = useMemo(() => new Set<string>(selected), [selected]);
  const troubled = useMemo(
    () =>
      new Set(
        findings.flatMap((finding) =>
          finding.places.flatMap((place) => (place.kind === "line" ? [place.id as string] : [])),
        ),
      ),
    [findings],
  );
  const inputY = useMemo(
    () => new Map([...heights].map(([port, y]) => [port, y - scroll.rigInputs])),
    [heights, scroll.rigInputs],
  );
  const threads = useMemo(() => {
    const first = TOOLBAR_HEIGHT + HEADER_HEIGHT + rowHeight / 2 - scroll.grid;
    return loomThreads(rows, { inputY, rowY: (index) => first + index * rowHeight });
  }, [rows, inputY, rowHeight, scroll.grid]);
  return (
    <Loom
      threads={threads}
      selected={selectedIds}
      troubled={troubled}
      ghost={ghostOf(drag, inputY, drag ? top() : 0, doc)}
    />
  );
};

/** Jacks, with those of the selected rows marked. Selecting draws only this and the loom anew, not the whole screen. */
const RigInputs = (props: Omit<InputFieldProps, "selectedPorts">) => {
  const doc = useDesk((desk) => desk.doc);
  const selected = useDesk((desk) => desk.selected);
  const selectedPorts = useMemo(() => new Set<string>(selected.flatMap((id) => portsOf(doc, id))), [doc, selected]);
  return <InputField {...props} selectedPorts={selectedPorts} />;
};

/** What is in the hand. */
const HeldName = ({ held }: { readonly held: Held }) => {
  const selected = useDesk((desk) => desk.selected);
  return (
    <span className={classes.held}>
      {held.kind === "track" && selected.length > 1 && selected.includes(held.id)
        ? `${selected.length} tracks`
        : held.name}
    </span>
  );
};

const MOVING: Moving = [
  ["← ↑ → ↓", "Go from cell to cell"],
  ["Tab, Shift Tab", "Next and last cell"],
  ["Enter, F2 or typing", "Edit the cell"],
  ["Ctrl Enter", "Write the same into every selected row"],
  ["Esc", "Leave the edit; clear the selection"],
  ["Shift and arrows", "Select a range"],
  ["Shift Space", "Select whole rows"],
  ["Ctrl A", "Select all rows"],
  ["Ctrl C, Ctrl X, Ctrl V", "Copy, cut, paste cells"],
  ["Backspace", "Empty the cells of the range"],
  ["Space", "Turn a switch; fold a folder"],
  ["Home, End", "First and last cell; with Ctrl first and last row"],
];

/** Jack field, loom, grid and inspector: what is plugged in where, and on which track it arrives. */
export const InputListScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const filter = useDesk((desk) => desk.filter);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const adding = useDesk((desk) => desk.adding);
  const reading = useDesk((state) => state.reading !== null);
  const desk = useDeskStore();
  const rig = useRig();
  const findings = useFindings();
  const { act, actPlanned } = useDoing();
  const acts = useActs();
  const rows = useMemo((): readonly Row[] => filterRows(doc, rig, filter), [doc, rig, filter]);
  const { groups, heights } = useRigInputs();
  const { inputsRef, gridRef, scrolls, onScroll } = useScrolls();
  const columns = useColumns(rows);
  const { ref: workRef, width: workWidth, height: workHeight } = useElementSize();
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
  usePageActs(acts, "the input list", MOVING);
  useJump({
    view: "inputs",
    kinds: ["channel", "folder"],
    focus: focusGrid,
    take: ({ kind, id }) => {
      const { doc: now } = desk.getState();
      const track = kind === "channel" ? now.channels[id] : undefined;
      const folded = foldersAround(
        now,
        kind === "folder" ? (now.folders[id]?.parentId ?? null) : track?.kind === "track" ? track.folderId : null,
      ).filter(({ open }) => !open);
      if (folded.length)
        act({
          name: `Unfold ${folded.map(({ name }) => name).join(", ")}`,
          edits: [
            { kind: "entries.set", table: "folders", ids: folded.map((folder) => folder.id), set: { open: true } },
          ],
        });
      desk.setState({
        cursor: { rowId: id, column: "name" },
        anchorColumn: null,
        selected: kind === "channel" ? [id] : [],
        filter: "",
      });
    },
  });

  const onRigInput = useCallback(
    (view: InputView) => {
      const { doc: now, selected: chosen } = desk.getState();
      if (view.trackId)
        desk.setState({
          cursor: { rowId: view.trackId, column: "input" },
          anchorColumn: null,
          selected: [view.trackId],
        });
      else if (chosen.length)
        actPlanned(writeCell(now, rig, { trackIds: chosen, column: "input", text: view.rigInput.label, ids: newIds }));
      focusGrid();
    },
    [desk, rig, actPlanned],
  );

  if (adding && !reading)
    return (
      <div className={classes.screen}>
        <h1 className="visually-hidden">Add tracks to {doc.name}</h1>
        <AddingPanel />
      </div>
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
        <RigInputs groups={groups} scrollRef={inputsRef} onScroll={onScroll} onRigInput={onRigInput} />
        <Threads
          rows={rows}
          heights={heights}
          rowHeight={rowHeight.height}
          scrolls={scrolls}
          drag={drags.drag}
          findings={findings}
          top={() => inputsRef.current?.getBoundingClientRect().top ?? 0}
        />
        <section className={classes.work} aria-label="Tracks">
          <GridToolbar
            rows={rows}
            columns={columns}
            rowSetting={rowHeight.setting}
            onRowSetting={rowHeight.setSetting}
          />
          <div ref={workRef} className={classes.rows}>
            <InputGrid
              rows={rows}
              acts={acts}
              findings={findings}
              columns={columns}
              rowHeight={rowHeight.height}
              width={workWidth}
              height={workHeight}
              drag={drags.drag}
              scrollRef={gridRef}
              onScroll={onScroll}
              onMenu={openMenu}
            />
            {rows.length === 0 && !filter && <Empty />}
          </div>
          {!reading && <AddBar onAdd={() => desk.setState({ adding: true })} />}
        </section>
        {findingsOpen ? <FindingsPanel /> : <Inspector acts={acts} />}
      </div>
      <DragOverlay dropAnimation={null}>{drags.drag && <HeldName held={drags.drag.held} />}</DragOverlay>
    </DndContext>
  );
};
