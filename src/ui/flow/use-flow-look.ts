import { useCallback, useMemo, useState } from "react";
import type { Ways } from "@/core/layout/flow/lit";
import { type FlowView, FOLDED_FROM } from "@/core/layout/flow/picture";
import type { ChannelId, FolderId } from "@/core/model/ids";
import { tracksOf } from "@/core/model/read-template";
import { entriesOf } from "@/core/model/table";
import type { Template } from "@/core/model/template";

const families = (doc: Template): readonly FolderId[] =>
  entriesOf(doc.folders).flatMap(({ id, parentId }) => (parentId === null ? [id] : []));

export interface FlowLook {
  readonly view: Omit<FlowView, "width" | "height">;
  readonly setView: (change: Partial<FlowLook["view"]>) => void;
  readonly ways: Ways;
  readonly setWays: (ways: Ways) => void;
  /** What stays lit whatever is selected; null: what is selected. */
  readonly alone: readonly ChannelId[] | null;
  readonly setAlone: (alone: readonly ChannelId[] | null) => void;
  /** Whether nodes tell where their peaks are. */
  readonly levels: boolean;
  readonly setLevels: (levels: boolean) => void;
  readonly zoom: number;
  readonly setZoom: (zoom: number) => void;
  readonly fold: (id: FolderId) => void;
  readonly foldAll: () => void;
}

/**
 * How the picture is looked at. It belongs to this window and is no edit; from some forty tracks on, families begin
 * folded.
 */
export const useFlowLook = (doc: Template): FlowLook => {
  const [view, setWhole] = useState<FlowLook["view"]>(() => ({
    folded: new Set(tracksOf(doc).length > FOLDED_FROM ? families(doc) : []),
    within: null,
    outputs: true,
    sends: true,
    parked: false,
  }));
  const [ways, setWays] = useState<Ways>("all");
  const [levels, setLevels] = useState(false);
  const [zoom, setZoom] = useState(1);
  const [alone, setAlone] = useState<readonly ChannelId[] | null>(null);
  const setView = useCallback((change: Partial<FlowLook["view"]>) => setWhole((now) => ({ ...now, ...change })), []);
  const fold = useCallback(
    (id: FolderId) =>
      setWhole((now) => {
        const folded = new Set(now.folded);
        if (!folded.delete(id)) folded.add(id);
        return { ...now, folded };
      }),
    [],
  );
  const foldAll = useCallback(
    () => setWhole((now) => ({ ...now, folded: new Set(now.folded.size ? [] : families(doc)) })),
    [doc],
  );
  // A folder that went is looked at no more.
  const within = view.within && doc.folders[view.within] ? view.within : null;
  const there = useMemo(() => alone?.filter((id) => doc.channels[id]) ?? null, [alone, doc.channels]);
  const held = there?.length ? there : null;
  return useMemo(
    () => ({
      view: { ...view, within },
      setView,
      ways,
      setWays,
      alone: held,
      setAlone,
      levels,
      setLevels,
      zoom,
      setZoom,
      fold,
      foldAll,
    }),
    [view, within, setView, ways, held, levels, zoom, fold, foldAll],
  );
};
