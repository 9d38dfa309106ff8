import { createContext, useContext } from "react";
import type { Channel } from "@/core/model/tables/channels";
import type { ChannelChange } from "@/core/planning/edits/edit";
import { type Planned, planned } from "@/core/planning/gesture";
import { type MixedField, setMixed } from "@/core/planning/route";
import { useDesk, useDoing } from "../state/desk-context";

/** What all of several say; null when they differ. */
export const common = <T>(values: readonly T[]): T | null => {
  const [first, ...others] = [...new Set(values)];
  return first !== undefined && !others.length ? first : null;
};

/** Whether the next move leaves out those that gangs hold together with what is selected. */
export const AloneContext = createContext<{ readonly alone: boolean; readonly moved: () => void }>({
  alone: false,
  moved: () => {},
});

const withAlone = (plan: Planned, alone: boolean): Planned =>
  alone && plan.ok
    ? {
        ...plan,
        gesture: {
          ...plan.gesture,
          edits: plan.gesture.edits.map((one) =>
            (one.kind === "entries.set" && one.table === "channels") || one.kind === "channels.shift"
              ? { ...one, alone: true as const }
              : one,
          ),
        },
      }
    : plan;

/** Setting fields of channels, those that gangs hold together among them unless they are to be left out. */
export const useSetting = (channels: readonly Channel[]) => {
  const { actPlanned } = useDoing();
  const doc = useDesk((desk) => desk.doc);
  const { alone, moved } = useContext(AloneContext);
  const channelIds = channels.map(({ id }) => id);
  const plan = (plan: Planned): boolean => {
    const done = actPlanned(withAlone(plan, alone));
    if (done && alone) moved();
    return done;
  };
  return {
    set: (set: ChannelChange) => plan(planned([{ kind: "entries.set", table: "channels", ids: channelIds, set }])),
    mixed: (field: MixedField) => (text: string) => plan(setMixed(doc, { channelIds, field, text })),
    plan,
    channelIds,
  };
};
