import { useCallback } from "react";
import { besidePass } from "@/core/layout/pass-draft";
import type { PassId } from "@/core/model/ids";
import type { Pass } from "@/core/model/tables/passes";
import { nextPass, planPasses, runPass } from "@/core/planning/pass-plans";
import { counted } from "@/core/units/counted";
import type { Act, Acts } from "../acts/act-model";
import { askFirst } from "../acts/route-dialogs";
import { newIds } from "../grid/grid-focus";
import { type Doing, useDeskStore, useDoing } from "../state/desk-context";
import type { DeskStore } from "../state/desk-store";
import { askPass, askPasses } from "./pass-dialogs";

interface With extends Pick<Doing, "act" | "actPlanned"> {
  readonly desk: DeskStore;
}

const moved =
  (pass: Pass, before: PassId | null, { act }: With) =>
  (): void =>
    void act({ edits: [{ kind: "entries.move", table: "passes", ids: [pass.id], before }] });

/** What can be done with the pass that is chosen. */
const actsOnPass = (pass: Pass, by: With): readonly Act[] => {
  const { desk, act, actPlanned } = by;
  const beside = besidePass(desk.getState().doc, pass.id);
  const after = beside.after ? besidePass(desk.getState().doc, beside.after).after : null;
  return [
    {
      id: "settings",
      label: `Name and length of ${pass.name}…`,
      key: "Alt I",
      run: () =>
        askPass({
          doc: desk.getState().doc,
          pass,
          onDo: (set) => act({ edits: [{ kind: "entries.set", table: "passes", ids: [pass.id], set }] }),
        }),
    },
    {
      id: "run",
      label: `Run ${pass.name}`,
      key: "Alt R",
      run: () => void actPlanned(runPass(desk.getState().doc, pass.id)),
    },
    ...(beside.before
      ? [{ id: "up", label: `Move ${pass.name} earlier`, key: "Alt ↑", run: moved(pass, beside.before, by) }]
      : []),
    ...(beside.after
      ? [{ id: "down", label: `Move ${pass.name} later`, key: "Alt ↓", run: moved(pass, after, by) }]
      : []),
    {
      id: "remove",
      label: `Remove ${pass.name}`,
      key: "Alt X",
      run: () =>
        askFirst({
          title: `Remove ${pass.name}`,
          says: `${counted(pass.trackIds.length, "track")} ${pass.trackIds.length === 1 ? "is" : "are"} armed in it.`,
          does: `Remove ${pass.name}`,
          onDo: () => void act({ edits: [{ kind: "entries.remove", table: "passes", ids: [pass.id] }] }),
        }),
    },
  ];
};

/** What can be done on the screen of the passes, with the one that is chosen. */
export const usePassActs = (chosen: PassId | null): Acts => {
  const desk = useDeskStore();
  const { act, actPlanned } = useDoing();
  return useCallback(() => {
    const { doc } = desk.getState();
    const pass = chosen ? doc.passes[chosen] : undefined;
    return [
      { id: "next", label: "Next pass", key: "N", run: () => void actPlanned(nextPass(desk.getState().doc)) },
      {
        id: "plan",
        label: "Plan the passes…",
        key: "Alt P",
        run: () =>
          askPasses({
            doc,
            onDo: (asked) => actPlanned(planPasses(desk.getState().doc, { ...asked, ids: newIds })),
          }),
      },
      {
        id: "add",
        label: "Add a pass…",
        key: "Alt A",
        run: () =>
          askPass({
            doc,
            pass: null,
            onDo: (set) =>
              act({ edits: [{ kind: "entries.add", entries: { passes: [{ id: newIds<PassId>("pass"), ...set }] } }] }),
          }),
      },
      ...(pass ? actsOnPass(pass, { desk, act, actPlanned }) : []),
    ];
  }, [desk, act, actPlanned, chosen]);
};
