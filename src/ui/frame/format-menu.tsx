"use client";

import { Popover, Select, Stack, Switch, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import { useShallow } from "zustand/react/shallow";
import type { RigList } from "@/contracts/answers";
import {
  BIT_DEPTHS,
  FILE_TYPE_NAMES,
  FILE_TYPES,
  MAIN_LAYOUTS,
  PAN_LAWS_DB,
  SESSION_KIND_NAMES,
  SESSION_KINDS,
} from "@/core/model/session-kinds";
import type { Template } from "@/core/model/template";
import { fitTo } from "@/core/planning/refit";
import { dB, formatDb } from "@/core/units/decibels";
import { formatRate, SAMPLE_RATES_HZ } from "@/core/units/hertz";
import { api, ServiceError } from "../shared/api";
import { dropDown } from "../shared/combobox";
import { tellRefusal } from "../shared/notices";
import { useDesk, useDeskStore, useDoing, useRig } from "../state/desk-context";
import classes from "./frame.module.css";

const inside = { ...dropDown(252), allowDeselect: false, comboboxProps: { withinPortal: false } } as const;

/** All rigs of the studio by name: more than a window holds of them. Asked for when the menu is opened. */
const useRigNames = () => {
  const [others, setOthers] = useState<RigList["rigs"]>([]);
  const look = () =>
    void api
      .listRigs()
      .then(({ rigs }) => setOthers(rigs.filter((rig) => !rig.unreadable)))
      .catch(() => {});
  return { others, look };
};

interface ChoiceProps<V extends string | number> {
  readonly label: string;
  readonly options: readonly (readonly [value: V, label: string])[];
  readonly value: V;
  readonly onChoose: (value: V) => void;
}

const Choice = <V extends string | number>({ label, options, value, onChoose }: ChoiceProps<V>) => (
  <Select
    label={label}
    data={options.map(([one, said]) => ({ value: String(one), label: said }))}
    value={String(value)}
    onChange={(text) => {
      const chosen = options.find(([one]) => String(one) === text);
      if (chosen) onChoose(chosen[0]);
    }}
    {...inside}
  />
);

const RigChoice = ({ others }: { readonly others: RigList["rigs"] }) => {
  const rigs = useDesk((desk) => desk.rigs);
  const rig = useRig();
  const desk = useDeskStore();
  const { act } = useDoing();
  const fitOn = async (to: string): Promise<void> => {
    if (to === rig.id) return;
    try {
      const other = rigs.find((candidate) => candidate.id === to) ?? (await api.loadRig(to)).document;
      if (!rigs.includes(other)) desk.setState((state) => ({ rigs: [...state.rigs, other] }));
      act({ edits: [fitTo(desk.getState().doc, { from: rig, to: other })] });
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
      tellRefusal(error.message);
    }
  };
  const choices = new Map([...others, ...rigs].map((known) => [known.id as string, known.name]));
  return <Choice label="Rig" options={[...choices]} value={rig.id as string} onChoose={(id) => void fitOn(id)} />;
};

const DEPTHS = BIT_DEPTHS.map((depth) => [depth, depth === 32 ? "32 bit float" : `${depth} bit`] as const);
const TAPS = [
  ["after", "after the fader"],
  ["before", "before the fader"],
] as const;

const Fields = ({ format, mix, kind }: Pick<Template, "format" | "mix" | "kind">) => {
  const { act } = useDoing();
  const set = (change: Readonly<Record<string, unknown>>): void =>
    void act({ edits: [{ kind: "settings.set", set: change }] });
  const setFormat = (change: Partial<Template["format"]>) => set({ format: change });
  const setMix = (change: Partial<Template["mix"]>) => set({ mix: change });
  return (
    <>
      <Choice
        label="Sample rate"
        options={SAMPLE_RATES_HZ.map((rate) => [rate, formatRate(rate)])}
        value={format.sampleRateHz}
        onChoose={(sampleRateHz) => setFormat({ sampleRateHz })}
      />
      <Choice
        label="Bit depth"
        options={DEPTHS}
        value={format.bitDepth}
        onChoose={(bitDepth) => setFormat({ bitDepth })}
      />
      <Choice
        label="Takes are written as"
        options={FILE_TYPES.map((type) => [type, FILE_TYPE_NAMES[type]])}
        value={format.fileType}
        onChoose={(fileType) => setFormat({ fileType })}
      />
      <Choice
        label="Main layout"
        options={MAIN_LAYOUTS.map((layout) => [layout, layout])}
        value={format.mainLayout}
        onChoose={(mainLayout) => setFormat({ mainLayout })}
      />
      <Choice
        label="Kind of session"
        options={SESSION_KINDS.map((one) => [one, SESSION_KIND_NAMES[one]])}
        value={kind}
        onChoose={(one) => set({ kind: one })}
      />
      <Choice
        label="Pan law at the centre"
        options={PAN_LAWS_DB.map((law) => [law, formatDb(dB(law))])}
        value={mix.panLawDb}
        onChoose={(panLawDb) => setMix({ panLawDb })}
      />
      <Choice label="New sends leave" options={TAPS} value={mix.sendTap} onChoose={(sendTap) => setMix({ sendTap })} />
      <Switch
        label="A mute silences sends before the fader too"
        checked={mix.mutesBefore}
        onChange={(event) => setMix({ mutesBefore: event.currentTarget.checked })}
      />
      <Switch
        label="For picture"
        checked={format.meetsPicture}
        onChange={(event) => setFormat({ meetsPicture: event.currentTarget.checked })}
      />
    </>
  );
};

/** Rate, depth, layout, kind and rig of the template: said at the right of the stages, changed in a small panel. */
export const FormatMenu = () => {
  const of = useDesk(useShallow(({ doc }) => ({ format: doc.format, mix: doc.mix, kind: doc.kind })));
  const { sampleRateHz, bitDepth, mainLayout } = of.format;
  const rig = useRig();
  const { others, look } = useRigNames();
  return (
    <Popover position="bottom-end" shadow="md" width={280} trapFocus onOpen={look}>
      <Popover.Target>
        <UnstyledButton className={classes.format} title="Format and rig">
          {formatRate(sampleRateHz)} · {bitDepth} bit · {mainLayout} main · {rig.name}
          <span className="visually-hidden">: Format and rig</span>
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap="sm">
          <RigChoice others={others} />
          <Fields {...of} />
        </Stack>
      </Popover.Dropdown>
    </Popover>
  );
};
