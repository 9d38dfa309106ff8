import { useCallback } from "react";
import { besidePass } from "@/core/layout/pass-draft";
import type { PassId } from "@/core/model/ids";
import type { Pass } from "@/core/model/tables/passes";
import { isSession } from "@/core/model/template";
import { nextPass, planPasses, runPass } from "@/core/planning/pass-plans";
import { counted } from "@/core/units/counted";
import { type Act, type Acts, cant } from "../acts/act-model";
import { keyOf } from "../acts/chords";
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
  const settings = (): void =>
    askPass({
      doc: desk.getState().doc,
      pass,
      onDo: (set) => act({ edits: [{ kind: "entries.set", table: "passes", ids: [pass.id], set }] }),
    });
  const beside = besidePass(desk.getState().doc, pass.id);
  const after = beside.after ? besidePass(desk.getState().doc, beside.after).after : null;
  return [
    {
      id: "settings",
      label: `Name and length of ${pass.name}…`,
      key: keyOf("settings"),
      run: settings,
    },
    { id: "edit", label: `Rename ${pass.name}…`, key: keyOf("edit"), run: settings },
    {
      id: "run",
      label: `Run ${pass.name}`,
      key: keyOf("run"),
      run: () => void actPlanned(runPass(desk.getState().doc, pass.id)),
    },
    ...(isSession(desk.getState().doc)
      ? [
          {
            id: "recorded",
            label: pass.ran ? `${pass.name} was not recorded` : `${pass.name} was recorded`,
            run: () =>
              void act({ edits: [{ kind: "entries.set", table: "passes", ids: [pass.id], set: { ran: !pass.ran } }] }),
          },
        ]
      : []),
    ...(beside.before
      ? [{ id: "up", label: `Move ${pass.name} earlier`, key: keyOf("up"), run: moved(pass, beside.before, by) }]
      : []),
    ...(beside.after
      ? [{ id: "down", label: `Move ${pass.name} later`, key: keyOf("down"), run: moved(pass, after, by) }]
      : []),
    {
      id: "remove",
      label: `Remove ${pass.name}`,
      key: keyOf("remove"),
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

const ACTS_ON_NONE: readonly Act[] = (
  [
    ["settings", "Name and length of the pass…", "settings"],
    ["edit", "Rename the pass…", "edit"],
    ["run", "Run the pass", "run"],
    ["remove", "Remove the pass", "remove"],
  ] as const
).map(([id, label, meaning]) => ({
  id,
  label,
  key: keyOf(meaning),
  ...cant("Choose a pass first: click its name, or go to it by the arrows."),
}));

/** What can be done on the screen of the passes, with the one that is chosen. */
export const usePassActs = (chosen: PassId | null): Acts => {
  const desk = useDeskStore();
  const { act, actPlanned } = useDoing();
  return useCallback(() => {
    const { doc } = desk.getState();
    const pass = chosen ? doc.passes[chosen] : undefined;
    return [
      { id: "next", label: "Next pass", key: keyOf("next"), run: () => void actPlanned(nextPass(desk.getState().doc)) },
      {
        id: "plan",
        label: "Plan the passes…",
        key: keyOf("add-all"),
        run: () =>
          askPasses({
            doc,
            onDo: (asked) => actPlanned(planPasses(desk.getState().doc, { ...asked, ids: newIds })),
          }),
      },
      {
        id: "add",
        label: "Add a pass…",
        key: keyOf("add"),
        run: () =>
          askPass({
            doc,
            pass: null,
            onDo: (set) =>
              act({ edits: [{ kind: "entries.add", entries: { passes: [{ id: newIds<PassId>("pass"), ...set }] } }] }),
          }),
      },
      ...(pass ? actsOnPass(pass, { desk, act, actPlanned }) : ACTS_ON_NONE),
    ];
  }, [desk, act, actPlanned, chosen]);
};
