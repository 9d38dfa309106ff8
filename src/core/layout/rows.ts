import type { Colour } from "../model/colours";
import { plain } from "../model/families";
import type { FolderId } from "../model/ids";
import { colourOf, folderColour, linesOfTrack, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { byOrder, entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Folder } from "../model/tables/folders";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { cellText } from "../queries/cells";
import { type CellColumn, GRID_COLUMNS } from "../queries/columns";

export type Row =
  | {
      readonly kind: "folder";
      readonly id: FolderId;
      readonly folder: Folder;
      readonly depth: number;
      readonly colour: Colour;
      readonly trackCount: number;
    }
  | {
      readonly kind: "track";
      readonly id: Track["id"];
      readonly track: Track;
      readonly lines: readonly Line[];
      readonly depth: number;
      readonly colour: Colour;
    };

const grouped = <T, K>(items: readonly T[], key: (item: T) => K): ReadonlyMap<K, readonly T[]> => {
  const map = new Map<K, T[]>();
  for (const item of items) {
    const there = map.get(key(item));
    if (there) there.push(item);
    else map.set(key(item), [item]);
  }
  return map;
};

/**
 * The rows of the input list from top to bottom: tracks outside any folder first, then each folder with what is in it;
 * a folded one shows only itself. `unfold` shows all, as paper does. Linear but for the sorting.
 */
export const layoutRows = (doc: Template, { unfold = false }: { readonly unfold?: boolean } = {}): readonly Row[] => {
  const tracks = grouped(tracksOf(doc), (track) => track.folderId);
  const folders = grouped(entriesOf(doc.folders).sort(byOrder), (folder) => folder.parentId);
  const countIn = (id: FolderId): number =>
    (tracks.get(id)?.length ?? 0) + (folders.get(id) ?? []).reduce((sum, inner) => sum + countIn(inner.id), 0);
  const rows: Row[] = [];
  const walk = (parentId: FolderId | null, depth: number): void => {
    for (const track of tracks.get(parentId) ?? [])
      rows.push({
        kind: "track",
        id: track.id,
        track,
        lines: linesOfTrack(doc, track),
        depth,
        colour: colourOf(doc, track),
      });
    for (const folder of folders.get(parentId) ?? []) {
      rows.push({
        kind: "folder",
        id: folder.id,
        folder,
        depth,
        colour: folderColour(doc, folder),
        trackCount: countIn(folder.id),
      });
      if (folder.open || unfold) walk(folder.id, depth + 1);
    }
  };
  walk(null, 0);
  return rows;
};

/** What a filter looks at, besides the folders a track lies in. */
const SOUGHT: readonly CellColumn[] = GRID_COLUMNS.flatMap(({ id, field }) =>
  field?.kind === "text" || id === "microphone" || id === "input" ? [id] : [],
);

/**
 * The rows that a text is found in, with the folders they lie in, all unfolded. Every word must be found somewhere in
 * the row or its folders.
 */
export const filterRows = (doc: Template, rig: Rig, query: string): readonly Row[] => {
  const words = plain(query).split(" ").filter(Boolean);
  const rows = layoutRows(doc, { unfold: true });
  if (!words.length) return layoutRows(doc);
  const path: string[] = [];
  const kept = new Set<string>();
  const open: string[] = [];
  for (const row of rows) {
    path.length = row.depth;
    open.length = row.depth;
    if (row.kind === "folder") {
      path[row.depth] = row.folder.name;
      open[row.depth] = row.id;
      continue;
    }
    const text = plain(
      [...path, ...SOUGHT.map((column) => cellText(doc, rig, { track: row.track, column }))].join(" "),
    );
    if (words.every((word) => text.includes(word))) for (const id of [...open, row.id]) kept.add(id);
  }
  return rows.filter((row) => kept.has(row.id));
};

/** The threads of a template in order, as the selvedge shows them: one dye a track. */
export const selvedge = (doc: Template): readonly Colour[] =>
  layoutRows(doc, { unfold: true }).flatMap((row) => (row.kind === "track" ? [row.colour] : []));
