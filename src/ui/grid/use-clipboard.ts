import { tsvFormatRows } from "d3-dsv";
import { useEffect, useRef } from "react";
import { guard } from "@/core/formats/input-list/guard";
import { pasteColumns } from "@/core/formats/input-list/paste-columns";
import { tracksOf } from "@/core/model/read-template";
import { blockTexts } from "@/core/planning/block";
import { cellsOf } from "../shared/clipboard-cells";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { END_ROW } from "../state/desk-store";
import { INPUT_GRID } from "./grid-focus";
import { offerCues } from "./offer-cues";
import type { GridEditing } from "./use-grid-editing";

const gridHasFocus = (): boolean => document.activeElement?.id === INPUT_GRID;

/** Cells to and from a spreadsheet, by the keys and menus of the browser itself. */
export const useClipboard = (editing: GridEditing): void => {
  const desk = useDeskStore();
  const rig = useRig();
  const { actBlock } = useDoing();
  const latest = useRef({ editing, rig, actBlock });
  latest.current = { editing, rig, actBlock };
  useEffect(() => {
    const copy = (event: ClipboardEvent): void => {
      const { editing: now, rig: here } = latest.current;
      const block = now.block();
      if (!gridHasFocus() || now.editing || !block.trackIds.length || !event.clipboardData) return;
      event.clipboardData.setData(
        "text/plain",
        tsvFormatRows(blockTexts(desk.getState().doc, here, block).map((row) => row.map(guard))),
      );
      event.preventDefault();
    };
    const cut = (event: ClipboardEvent): void => {
      copy(event);
      if (event.defaultPrevented) latest.current.editing.clearRange();
    };
    const paste = (event: ClipboardEvent): void => {
      const { editing: now, actBlock: act } = latest.current;
      if (!gridHasFocus() || now.editing || !event.clipboardData) return;
      event.preventDefault();
      const found = pasteColumns(cellsOf(event.clipboardData.getData("text/plain")));
      const was = desk.getState().doc;
      const before = new Set(tracksOf(was).map((track) => track.id));
      const plan = now.paste(found.cells, found.columns);
      if (!act({ ...plan, leftOut: [...found.leftOut, ...plan.leftOut] })) return;
      offerCues(desk, was);
      const fresh = tracksOf(desk.getState().doc).flatMap((track) => (before.has(track.id) ? [] : [track.id]));
      const [first] = fresh;
      // What came in is selected, from its first row on, so that it can be put in order at once.
      if (first && desk.getState().cursor?.rowId === END_ROW)
        desk.setState({ cursor: { rowId: first, column: "name" }, anchorColumn: null, selected: fresh });
    };
    document.addEventListener("copy", copy);
    document.addEventListener("cut", cut);
    document.addEventListener("paste", paste);
    return () => {
      document.removeEventListener("copy", copy);
      document.removeEventListener("cut", cut);
      document.removeEventListener("paste", paste);
    };
  }, [desk]);
};
