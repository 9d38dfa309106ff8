"use client";

import { Button } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { IconPlus, IconWand } from "@tabler/icons-react";
import { useCallback, useMemo, useState } from "react";
import { besidePass, passDraft } from "@/core/layout/pass-draft";
import type { PassId } from "@/core/model/ids";
import { armInPass, nextPass, planPasses, runPass } from "@/core/planning/pass-plans";
import { formatBytes } from "@/core/units/bytes";
import { counted } from "@/core/units/counted";
import type { Act } from "../acts/act-model";
import { askFirst } from "../acts/route-dialogs";
import { FindingsPanel } from "../frame/findings-later";
import { usePageActs } from "../frame/page-acts";
import { newIds } from "../grid/grid-focus";
import { useDesk, useDeskStore, useDoing } from "../state/desk-context";
import { CuesNav } from "./cues-nav";
import { DiskBar } from "./disk-bar";
import { askPass, askPasses } from "./pass-dialogs";
import { PassDraft } from "./pass-draft";
import classes from "./passes.module.css";
import { RunningPass } from "./running-pass";
import { useHearing } from "./use-hearing";

const Empty = ({ onPlan }: { readonly onPlan: () => void }) => (
  <div className={classes.empty}>
    <h2>No passes yet</h2>
    <p>
      A pass arms the tracks that are recorded together. A band needs one; one singer on one microphone and fourteen
      tracks needs fourteen. Say how many inputs there are, and the order is planned.
    </p>
    <Button onClick={onPlan}>Plan the passes</Button>
  </div>
);

/** Which tracks are recorded together, in which order, and what it costs. */
export const PassesScreen = () => {
  const doc = useDesk((desk) => desk.doc);
  const findingsOpen = useDesk((desk) => desk.findingsOpen);
  const desk = useDeskStore();
  const { act, actPlanned } = useDoing();
  const hearing = useHearing(doc);
  const draft = useMemo(() => passDraft(doc), [doc]);
  const [chosen, setChosen] = useState<PassId | null>(null);
  const passId = draft.wefts.some(({ pass }) => pass.id === chosen) ? chosen : null;
  const next = useCallback((): void => void actPlanned(nextPass(desk.getState().doc)), [desk, actPlanned]);
  const plan = useCallback((): void => {
    const { doc: now } = desk.getState();
    askPasses({ doc: now, onDo: (asked) => actPlanned(planPasses(desk.getState().doc, { ...asked, ids: newIds })) });
  }, [desk, actPlanned]);
  const add = useCallback(
    (): void =>
      askPass({
        doc: desk.getState().doc,
        pass: null,
        onDo: (set) =>
          act({ edits: [{ kind: "entries.add", entries: { passes: [{ id: newIds<PassId>("pass"), ...set }] } }] }),
      }),
    [desk, act],
  );
  const gather = useCallback((): readonly Act[] => {
    const pass = passId ? desk.getState().doc.passes[passId] : undefined;
    const beside = pass ? besidePass(desk.getState().doc, pass.id) : null;
    const after = beside?.after ? besidePass(desk.getState().doc, beside.after).after : null;
    return [
      { id: "next", label: "Next pass", key: "N", run: next },
      { id: "plan", label: "Plan the passes…", key: "Alt P", run: plan },
      { id: "add", label: "Add a pass…", key: "Alt A", run: add },
      ...(pass
        ? [
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
            ...(beside?.before
              ? [
                  {
                    id: "up",
                    label: `Move ${pass.name} earlier`,
                    key: "Alt ↑",
                    run: () =>
                      void act({
                        edits: [
                          { kind: "entries.move" as const, table: "passes", ids: [pass.id], before: beside.before },
                        ],
                      }),
                  },
                ]
              : []),
            ...(beside?.after
              ? [
                  {
                    id: "down",
                    label: `Move ${pass.name} later`,
                    key: "Alt ↓",
                    run: () =>
                      void act({
                        edits: [{ kind: "entries.move" as const, table: "passes", ids: [pass.id], before: after }],
                      }),
                  },
                ]
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
          ]
        : []),
    ];
  }, [desk, act, actPlanned, next, plan, add, passId]);
  usePageActs(gather);
  const run = (id: string) => (): void =>
    gather()
      .find((one) => one.id === id)
      ?.run();
  useHotkeys([["N", next]], ["INPUT", "TEXTAREA"]);
  const running = draft.wefts.find((weft) => weft.running) ?? null;
  return (
    <div className={classes.screen}>
      <h1 className="visually-hidden">Passes of {doc.name}</h1>
      <section className={classes.work} aria-label="Passes">
        <header className={classes.top}>
          <CuesNav />
          {draft.wefts.length > 0 && (
            <p>
              {counted(new Set(draft.wefts.flatMap(({ pass }) => pass.trackIds)).size, "track")} through{" "}
              {counted(draft.inputs, "input")} · {counted(draft.wefts.length, "pass", "passes")} ·{" "}
              {Math.round(draft.minutes)} minutes of takes, about {Math.round(draft.minutesInAll)} with setting up ·{" "}
              {formatBytes(draft.bytes)}
            </p>
          )}
          <span className={classes.buttons}>
            <Button
              variant="default"
              size="compact-sm"
              leftSection={<IconWand size={15} aria-hidden />}
              title="Alt P"
              onClick={plan}
            >
              {draft.wefts.length ? "Plan again…" : "Plan…"}
            </Button>
            <Button
              variant="default"
              size="compact-sm"
              leftSection={<IconPlus size={15} aria-hidden />}
              title="Alt A"
              onClick={add}
            >
              Pass
            </Button>
          </span>
        </header>
        {draft.wefts.length === 0 ? (
          <Empty onPlan={plan} />
        ) : (
          <PassDraft
            doc={doc}
            draft={draft}
            chosen={passId}
            onChoose={setChosen}
            onToggle={(pass, trackId, on) => actPlanned(armInPass(doc, { passId: pass, trackIds: [trackId], on }))}
            onSettings={run("settings")}
          />
        )}
        {running && (
          <RunningPass
            doc={doc}
            weft={running}
            hearing={hearing}
            last={running.at === draft.wefts.length - 1}
            onNext={next}
          />
        )}
        <DiskBar doc={doc} />
      </section>
      {findingsOpen && <FindingsPanel />}
    </div>
  );
};
