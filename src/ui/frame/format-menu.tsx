"use client";

import { Popover, Select, Stack, Switch, UnstyledButton } from "@mantine/core";
import { BIT_DEPTHS, type BitDepth, MAIN_LAYOUTS, SESSION_KIND_NAMES, SESSION_KINDS, type SessionKind, type Template } from "@/core/model/template";
import { fitTo } from "@/core/planning/refit";
import { formatRate, SAMPLE_RATES_HZ, type SampleRateHz } from "@/core/units/hertz";
import { dropDown } from "../shared/combobox";
import { useDesk, useDoing, useRig } from "../state/desk-context";
import classes from "./frame.module.css";

const inside = { ...dropDown(252), allowDeselect: false, comboboxProps: { withinPortal: false } } as const;

/** Rate, depth, layout, kind and rig of the template: said at the right of the stages, changed in a small panel. */
export const FormatMenu = () => {
  const doc = useDesk((desk) => desk.doc);
  const rigs = useDesk((desk) => desk.rigs);
  const rig = useRig();
  const { act } = useDoing();
  const setFormat = (format: Partial<Template["format"]>) => act({ commands: [{ kind: "template.set", format }] });
  const fit = (rigId: string | null) => {
    const to = rigs.find((candidate) => candidate.id === rigId);
    if (to && to !== rig) act({ commands: [fitTo(doc, { from: rig, to })] });
  };
  const { sampleRateHz, bitDepth, mainLayout, meetsPicture } = doc.format;
  return (
    <Popover position="bottom-end" shadow="md" width={280} trapFocus>
      <Popover.Target>
        <UnstyledButton className={classes.format} aria-label="Format and rig">
          {formatRate(sampleRateHz)} · {bitDepth} bit · {mainLayout} main · {rig.name}
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        <Stack gap="sm">
          <Select label="Rig" data={rigs.map((r) => ({ value: r.id, label: r.name }))} value={doc.rigId} onChange={fit} {...inside} />
          <Select
            label="Sample rate"
            data={SAMPLE_RATES_HZ.map((rate) => ({ value: String(rate), label: formatRate(rate) }))}
            value={String(sampleRateHz)}
            onChange={(value) => setFormat({ sampleRateHz: Number(value) as SampleRateHz })}
            {...inside}
          />
          <Select
            label="Bit depth"
            data={BIT_DEPTHS.map((depth) => ({ value: String(depth), label: depth === 32 ? "32 bit float" : `${depth} bit` }))}
            value={String(bitDepth)}
            onChange={(value) => setFormat({ bitDepth: Number(value) as BitDepth })}
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
            value={doc.kind}
            onChange={(value) => act({ commands: [{ kind: "template.set", sessionKind: value as SessionKind }] })}
            {...inside}
          />
          <Switch label="Meets picture" checked={meetsPicture} onChange={(event) => setFormat({ meetsPicture: event.currentTarget.checked })} />
        </Stack>
      </Popover.Dropdown>
    </Popover>
  );
};
