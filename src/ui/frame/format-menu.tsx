"use client";

import { Popover, Select, Stack, Switch, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import { useShallow } from "zustand/react/shallow";
import type { RigList } from "@/contracts/answers";
import {
  BIT_DEPTHS,
  type BitDepth,
  FILE_TYPE_NAMES,
  FILE_TYPES,
  type FileType,
  MAIN_LAYOUTS,
  PAN_LAWS_DB,
  type PanLawDb,
  SESSION_KIND_NAMES,
  SESSION_KINDS,
  type SessionKind,
} from "@/core/model/session-kinds";
import type { Template } from "@/core/model/template";
import { fitTo } from "@/core/planning/refit";
import { dB, formatDb } from "@/core/units/decibels";
import { formatRate, SAMPLE_RATES_HZ, type SampleRateHz } from "@/core/units/hertz";
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

/** Rate, depth, layout, kind and rig of the template: said at the right of the stages, changed in a small panel. */
export const FormatMenu = () => {
  const { format, mix, rigId, kind } = useDesk(
    useShallow(({ doc }) => ({ format: doc.format, mix: doc.mix, rigId: doc.rigId, kind: doc.kind })),
  );
  const rigs = useDesk((desk) => desk.rigs);
  const rig = useRig();
  const desk = useDeskStore();
  const { act } = useDoing();
  const setFormat = (set: Partial<Template["format"]>) =>
    act({ edits: [{ kind: "settings.set", set: { format: set } }] });
  const setMix = (set: Partial<Template["mix"]>) => act({ edits: [{ kind: "settings.set", set: { mix: set } }] });
  const { others, look } = useRigNames();
  const fitOn = async (to: string | null) => {
    if (!to || to === rig.id) return;
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
  const { sampleRateHz, bitDepth, mainLayout, meetsPicture, fileType } = format;
  return (
    <Popover position="bottom-end" shadow="md" width={280} trapFocus onOpen={look}>
      <Popover.Target>
        <UnstyledButton className={classes.format} aria-label="Format and rig">
          {formatRate(sampleRateHz)} · {bitDepth} bit · {mainLayout} main · {rig.name}
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap="sm">
          <Select
            label="Rig"
            data={[...choices].map(([value, label]) => ({ value, label }))}
            value={rigId}
            onChange={(id) => void fitOn(id)}
            {...inside}
          />
          <Select
            label="Sample rate"
            data={SAMPLE_RATES_HZ.map((rate) => ({ value: String(rate), label: formatRate(rate) }))}
            value={String(sampleRateHz)}
            onChange={(value) => setFormat({ sampleRateHz: Number(value) as SampleRateHz })}
            {...inside}
          />
          <Select
            label="Bit depth"
            data={BIT_DEPTHS.map((depth) => ({
              value: String(depth),
              label: depth === 32 ? "32 bit float" : `${depth} bit`,
            }))}
            value={String(bitDepth)}
            onChange={(value) => setFormat({ bitDepth: Number(value) as BitDepth })}
            {...inside}
          />
          <Select
            label="Takes are written as"
            data={FILE_TYPES.map((type) => ({ value: type, label: FILE_TYPE_NAMES[type] }))}
            value={fileType}
            onChange={(value) => setFormat({ fileType: value as FileType })}
            {...inside}
          />
          <Select
            label="Main layout"
            data={[...MAIN_LAYOUTS]}
            value={mainLayout}
            onChange={(value) => setFormat({ mainLayout: value as (typeof MAIN_LAYOUTS)[number] })}
            {...inside}
          />
          <Select
            label="Kind of session"
            data={SESSION_KINDS.map((kind) => ({ value: kind, label: SESSION_KIND_NAMES[kind] }))}
            value={kind}
            onChange={(value) => act({ edits: [{ kind: "settings.set", set: { kind: value as SessionKind } }] })}
            {...inside}
          />
          <Select
            label="Pan law, the middle"
            data={PAN_LAWS_DB.map((law) => ({ value: String(law), label: formatDb(dB(law)) }))}
            value={String(mix.panLawDb)}
            onChange={(value) => setMix({ panLawDb: Number(value) as PanLawDb })}
            {...inside}
          />
          <Select
            label="New sends leave"
            data={[
              { value: "after", label: "after the fader" },
              { value: "before", label: "before the fader" },
            ]}
            value={mix.sendTap}
            onChange={(value) => setMix({ sendTap: value as Template["mix"]["sendTap"] })}
            {...inside}
          />
          <Switch
            label="A mute silences sends before the fader too"
            checked={mix.mutesBefore}
            onChange={(event) => setMix({ mutesBefore: event.currentTarget.checked })}
          />
          <Switch
            label="Meets picture"
            checked={meetsPicture}
            onChange={(event) => setFormat({ meetsPicture: event.currentTarget.checked })}
          />
        </Stack>
      </Popover.Dropdown>
    </Popover>
  );
};
