import { tsvFormatRows } from "d3-dsv";
import { useEffect, useRef } from "react";
import { guard } from "@/core/formats/input-list/guard";
import { pasteColumns } from "@/core/formats/input-list/paste-columns";
import { tracksOf } from "@/core/model/read-template";
import { blockTexts } from "@/core/planning/block";
import { keepText } from "../adding/adding-draft";
import { cellsOf } from "../shared/clipboard-cells";
import { useDeskStore, useDoing, useRig } from "../state/desk-context";
import { END_ROW } from "../state/desk-store";
import { INPUT_GRID } from "./grid-focus";
import { offerCues } from "./offer-cues";
import type { GridEditing } from "./use-grid-editing";

/** Beside the text of cells that were copied here: their places are meant, and not what is in them. */
const OWN_CELLS = "application/x-wandel-cells";

/** Lines of a mail or a message rather than cells: numbers before names, or several names with commas between. */
const areWritten = (cells: readonly (readonly string[])[]): boolean => {
  const lines = cells.filter((row) => row.some(Boolean));
  const single = lines.length > 1 && lines.every((row) => row.filter(Boolean).length === 1);
  const written = lines.filter(
    ([line = ""]) => /^\s{0,9}\d{1,3}[.):]? {1,9}\p{L}/u.test(line) || /\p{L}, \p{L}/u.test(line),
  );
  return single && written.length >= lines.length / 2;
};

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
      event.clipboardData.setData(OWN_CELLS, "yes");
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
      const text = event.clipboardData.getData("text/plain");
      const cells = cellsOf(text);
      const { doc: was, cursor } = desk.getState();
      // Cells of this grid go where the cursor stands; others are read by what is in them, as a list is.
      const found = event.clipboardData.types.includes(OWN_CELLS)
        ? { cells, columns: null, leftOut: [] }
        : pasteColumns(cells);
      if (cursor?.rowId === END_ROW && areWritten(cells)) {
        keepText(was.id, text);
        desk.setState({ adding: true });
        return;
      }
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
