import { tsvFormatRows } from "d3-dsv";
import { useEffect, useRef } from "react";
import { guard } from "@/core/formats/input-list/guard";
import type { CueRow } from "@/core/layout/cue-matrix";
import type { CueId } from "@/core/model/ids";
import { type LevelRow, levelTexts, pasteLevels } from "@/core/planning/cue-block";
import { cuesOf } from "@/core/queries/cues";
import { newIds } from "../grid/grid-focus";
import { cellsOf } from "../shared/clipboard-cells";
import { useDeskStore, useDoing } from "../state/desk-context";
import type { CueCursor } from "./use-cue-cursor";

const levelRow = (row: CueRow): LevelRow =>
  row.kind === "group"
    ? { name: row.name, sourceIds: row.sourceIds, group: true }
    : { name: row.name, sourceIds: [row.id], group: false };

/** An open group says what is in it in its own rows: it has no level of its own to copy or to paste into. */
const withLevels = (rows: readonly CueRow[]): readonly CueRow[] =>
  rows.filter((row) => row.kind === "source" || !row.open);

/** Cells of the matrix to and from a spreadsheet, by the keys and menus of the browser itself. */
export const useCueClipboard = (gridId: string, rows: readonly CueRow[], cursor: CueCursor): void => {
  const desk = useDeskStore();
  const { act, actBlock } = useDoing();
  const latest = useRef({ rows, cursor, act, actBlock });
  latest.current = { rows, cursor, act, actBlock };
  useEffect(() => {
    const chosen = () => withLevels(latest.current.rows).filter(({ id }) => latest.current.cursor.rowIds.has(id));
    const hasKeys = (event: ClipboardEvent): boolean =>
      document.activeElement?.id === gridId && event.clipboardData !== null;
    const copy = (event: ClipboardEvent): void => {
      const lines = chosen();
      if (!hasKeys(event) || !lines.length) return;
      const texts = levelTexts(desk.getState().doc, lines.map(levelRow), latest.current.cursor.cueIds);
      event.clipboardData?.setData("text/plain", tsvFormatRows(texts.map((row) => row.map(guard))));
      event.preventDefault();
    };
    const cut = (event: ClipboardEvent): void => {
      copy(event);
      const { cursor: at, act: does } = latest.current;
      const { cueLevels } = desk.getState().doc;
      const there = new Set(Object.values(cueLevels).map(({ cueId, sourceId }) => `${cueId} ${sourceId}`));
      const cells = at.cells.filter(({ cueId, sourceId }) => there.has(`${cueId} ${sourceId}`));
      if (event.defaultPrevented && cells.length) does({ edits: [{ kind: "cueLevels.remove", cells }] });
    };
    const paste = (event: ClipboardEvent): void => {
      const { rows: all, cursor: at, actBlock: does } = latest.current;
      const [first] = chosen();
      if (!hasKeys(event) || !first) return;
      event.preventDefault();
      const { doc } = desk.getState();
      const texts = cellsOf(event.clipboardData?.getData("text/plain") ?? "");
      const fills = texts.length === 1 && texts[0]?.length === 1;
      const [cueId] = at.cueIds as readonly [CueId];
      const cueIds: readonly CueId[] = cuesOf(doc).map(({ id }) => id);
      const below = withLevels(all);
      does(
        pasteLevels(doc, {
          rows: (fills ? chosen() : below.slice(below.indexOf(first))).map(levelRow),
          cueIds: fills ? at.cueIds : cueIds.slice(cueIds.indexOf(cueId)),
          texts,
          fills,
          ids: newIds,
        }),
      );
    };
    const all = { copy, cut, paste } as const;
    for (const [kind, does] of Object.entries(all)) document.addEventListener(kind as "copy", does);
    return () => {
      for (const [kind, does] of Object.entries(all)) document.removeEventListener(kind as "copy", does);
    };
  }, [desk, gridId]);
};
