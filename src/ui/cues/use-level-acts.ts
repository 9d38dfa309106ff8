import { useCallback } from "react";
import type { GainPlan } from "@/core/levels/gain-plan";
import type { LineId } from "@/core/model/ids";
import { lineName } from "@/core/model/line-name";
import { tracksByLine } from "@/core/model/read-template";
import { dB, formatDb } from "@/core/units/decibels";
import { type Act, type Acts, cant } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { focusSoon } from "../shared/focus-soon";
import { useDeskStore, useDoing } from "../state/desk-context";

const CHOOSE = "Choose a line in the gain plan first.";

/** The gain of a line that the plan wants, in the steps in which preamps are set. */
export const gainToSet = ({ wantedDb }: Pick<GainPlan, "wantedDb">) => dB(Math.round((wantedDb ?? 0) * 2) / 2);

const wantedOf = (plan: GainPlan) => (plan.wantedDb !== null && plan.fit === "fits" ? gainToSet(plan) : null);

const ON_NONE: readonly Act[] = (
  [
    ["edit", "Type the gain of the line", "edit"],
    ["plan", "Plan the gain that is wanted", "gain"],
    ["remove", "Take the planned gain off the line", "remove"],
  ] as const
).map(([id, label, meaning]) => ({ id, label, key: keyOf(meaning), ...cant(CHOOSE) }));

/** To the gain of the line in the panel. */
const focusGain = (): void => focusSoon("main aside [data-field=gain] input");

/** What can be done to the line that is chosen in the gain plan. */
export const useLevelActs = (lineId: LineId | null, plans: ReadonlyMap<string, GainPlan>): Acts => {
  const desk = useDeskStore();
  const { act } = useDoing();
  return useCallback(() => {
    const { doc } = desk.getState();
    const line = lineId ? doc.lines[lineId] : undefined;
    const plan = line && plans.get(line.id);
    const name = line ? lineName(line, tracksByLine(doc).get(line.id) ?? []) : "";
    const set = (gainDb: ReturnType<typeof dB> | null): void => {
      act({ edits: [{ kind: "entries.set", table: "lines", ids: lineId ? [lineId] : [], set: { gainDb } }] });
    };
    const wanted = plan ? wantedOf(plan) : null;
    if (!line) return ON_NONE;
    return [
      { id: "edit", label: `Type the gain of ${name}`, key: keyOf("edit"), run: focusGain },
      {
        id: "plan",
        label: wanted === null ? "Plan the gain that is wanted" : `Plan ${formatDb(wanted)} for ${name}`,
        key: keyOf("gain"),
        whyNot: wanted === null ? "No gain of this preamp fits." : undefined,
        run: () => set(wanted),
      },
      {
        id: "remove",
        label: `Take the planned gain off ${name}`,
        key: keyOf("remove"),
        whyNot: line.gainDb === null ? "No gain is planned for it." : undefined,
        run: () => set(null),
      },
    ];
  }, [desk, act, lineId, plans]);
};
