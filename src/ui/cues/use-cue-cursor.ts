import { useCallback, useMemo, useState } from "react";
import type { CueRow } from "@/core/layout/cue-matrix";
import type { ChannelId, CueId } from "@/core/model/ids";
import type { Cue } from "@/core/model/tables/cues";
import type { CueCell } from "@/core/queries/cues";
import { between, inList } from "../shared/grid-core";

/** The row of the heads, above all others. */
export const HEADS = "heads";

export interface At {
  /** Of a row, or HEADS. */
  readonly rowId: string;
  readonly cueId: CueId;
}

const sourcesOf = (row: CueRow): readonly ChannelId[] => (row.kind === "group" ? row.sourceIds : [row.id]);

/**
 * Where the keys are in the matrix, and what is selected: a rectangle from where a range began. On the heads whole cues
 * are.
 */
export const useCueCursor = (rows: readonly CueRow[], cues: readonly Cue[]) => {
  const [wanted, setCursor] = useState<At | null>(null);
  const [anchor, setAnchor] = useState<At | null>(null);
  const rowAt = useMemo(
    () => new Map<string, number>([[HEADS, -1], ...rows.map((row, at) => [row.id as string, at] as const)]),
    [rows],
  );
  const cueAt = useMemo(() => new Map<string, number>(cues.map((cue, at) => [cue.id, at])), [cues]);
  const there = useCallback(
    (at: At | null): At | null => (at && rowAt.has(at.rowId) && cueAt.has(at.cueId) ? at : null),
    [rowAt, cueAt],
  );
  const first = cues[0] ? { rowId: HEADS, cueId: cues[0].id } : null;
  const cursor = there(wanted) ?? first;
  const from = there(anchor) ?? cursor;
  const place = useCallback(
    (at: At): readonly [row: number, cue: number] => [rowAt.get(at.rowId) ?? -1, cueAt.get(at.cueId) ?? 0],
    [rowAt, cueAt],
  );

  const { cueIds, cells, rowIds } = useMemo(() => {
    if (!cursor || !from)
      return { cueIds: [] as readonly CueId[], cells: [] as readonly CueCell[], rowIds: new Set<string>() };
    const [[rowA, cueA], [rowB, cueB]] = [place(from), place(cursor)];
    const chosen = between(cues, cueA, cueB).map(({ id }) => id);
    const across = rowA < 0 || rowB < 0 ? [] : between(rows, rowA, rowB);
    const sourceIds = [...new Set(across.flatMap(sourcesOf))];
    return {
      cueIds: chosen,
      cells: chosen.flatMap((cueId) => sourceIds.map((sourceId): CueCell => ({ cueId, sourceId }))),
      rowIds: new Set<string>(across.map(({ id }) => id)),
    };
  }, [cursor, from, place, cues, rows]);

  const go = useCallback(
    (at: At, { range = false }: { readonly range?: boolean } = {}): void => {
      if (!range) setAnchor(at);
      else if (!there(anchor)) setAnchor(cursor);
      setCursor(at);
    },
    [there, anchor, cursor],
  );
  const step = useCallback(
    (down: number, right: number, options?: { readonly range?: boolean }): void => {
      if (!cursor) return;
      const [row, cue] = place(cursor);
      const nextRow = Math.max(-1, Math.min(rows.length - 1, row + down));
      const next = cues[inList(cue + right, cues.length)];
      if (next) go({ rowId: nextRow < 0 ? HEADS : (rows[nextRow]?.id ?? HEADS), cueId: next.id }, options);
    },
    [cursor, place, rows, cues, go],
  );
  return { cursor, cueIds, cells, rowIds, go, step };
};

export type CueCursor = ReturnType<typeof useCueCursor>;
