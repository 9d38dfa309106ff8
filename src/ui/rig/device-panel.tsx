"use client";

import { Button, Group } from "@mantine/core";
import { modals } from "@mantine/modals";
import { nanoid } from "nanoid";
import { deviceUses, linesOnDevice, type RackDevice } from "@/core/layout/rack";
import type { BankId, LinkId, MidiPortId, MixerId } from "@/core/model/ids";
import type { Rig, RigTable } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import type { PhantomBank } from "@/core/model/tables/banks";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { addPort, stepDevice } from "@/core/planning/rig-plans";
import { portsText } from "@/core/reading/rig-cells";
import { type PartColumn, PartTable } from "../parts/part-table";
import { Section } from "../parts/section";
import { api } from "../shared/api";
import { tellRefusal } from "../shared/notices";
import { deviceColumns, linkColumns, midiColumns, mixerColumns, TIMING_COLUMNS } from "./device-columns";
import { portColumns } from "./port-columns";
import classes from "./rig.module.css";
import { useRigAct, useRigDocument } from "./rig-context";

/** The button that asks before a device is retired. */
export const RETIRE = "retire-device";

const Retire = ({ view, onGone }: { readonly view: RackDevice; readonly onGone: () => void }) => {
  const rig = useRigDocument();
  const act = useRigAct();
  const { device } = view;
  const ask = async () => {
    const uses = deviceUses(rig, device.id);
    const answer = await api.rigTouches(rig.id).catch(() => null);
    if (!answer) {
      tellRefusal("The server can't say now which templates stand on it. Try again when it is back.");
      return;
    }
    const lines = linesOnDevice(rig, device.id, answer.templates);
    modals.openConfirmModal({
      title: `Retire ${device.name}`,
      children: (
        <>
          {uses.length + lines.length === 0 && <p>Nothing hangs on it.</p>}
          {lines.length > 0 && (
            <>
              <p>Lines that stand on it lose their input, and the checks will tell them:</p>
              <ul>
                {lines.map(({ template, count }) => (
                  <li key={template.id}>
                    {template.name}: {count} {count === 1 ? "line" : "lines"}
                  </li>
                ))}
              </ul>
            </>
          )}
          {uses.length > 0 && (
            <ul>
              {uses.map((use) => (
                <li key={use}>{use}</li>
              ))}
            </ul>
          )}
          <p>It can be undone.</p>
        </>
      ),
      labels: { confirm: `Retire ${device.name}`, cancel: "Keep it" },
      onConfirm: () => {
        if (act([{ kind: "entries.remove", table: "devices", ids: [device.id] }])) onGone();
      },
    });
  };
  return (
    <Button id={RETIRE} variant="default" size="compact-sm" onClick={() => void ask()}>
      Retire {device.name}…
    </Button>
  );
};

interface SectionProps {
  readonly view: RackDevice;
}

/** What every section of a device needs: the rig, and how entries of a table that belong to it are set and removed. */
const useOfDevice = () => {
  const rig = useRigDocument();
  const act = useRigAct();
  const onSet = (table: RigTable) => (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
    act([{ kind: "entries.set", table, ids, set: change } as RigEdit]);
  const onRemove = (table: RigTable) => (ids: readonly string[]) =>
    void act([{ kind: "entries.remove", table, ids } as RigEdit]);
  return {
    rig,
    act,
    /** What a table of entries does, those that can be removed among them. */
    parts: (table: RigTable) => ({ onSet: onSet(table), onRemove: onRemove(table), onRefused: tellRefusal }),
    /** The same of a table whose entries stay. */
    kept: (table: RigTable) => ({ onSet: onSet(table), onRefused: tellRefusal }),
    add: (label: string, edit: () => RigEdit) => (
      <Button variant="default" size="compact-sm" onClick={() => act([edit()])}>
        {label}
      </Button>
    ),
  };
};

const Itself = ({ view, onGone }: SectionProps & { readonly onGone: () => void }) => {
  const { rig, act, kept } = useOfDevice();
  const { device } = view;
  const moves = [
    { label: "Move up", edits: stepDevice(rig, device.id, -1) },
    { label: "Move down", edits: stepDevice(rig, device.id, 1) },
  ];
  return (
    <Section
      title={device.name}
      actions={
        <>
          {moves.map(({ label, edits }) => (
            <Button
              key={label}
              variant="default"
              size="compact-sm"
              disabled={!edits}
              onClick={() => edits && act(edits, `${label}: ${device.name}`)}
            >
              {label}
            </Button>
          ))}
          <Retire view={view} onGone={onGone} />
        </>
      }
    >
      <PartTable
        label="The device"
        rows={[device]}
        columns={deviceColumns(rig)}
        nameOf={(row) => row.name}
        {...kept("devices")}
        empty=""
      />
    </Section>
  );
};

const rowsOf = (ports: RackDevice["inputs"]) => ports.map((port) => ({ ...port, id: port.port.id as string }));

const Inputs = ({ view }: SectionProps) => {
  const { rig, act, parts, add } = useOfDevice();
  return (
    <Section
      title="Inputs"
      hint="Enter goes down the column; names pasted one a line go down as well. An edit of a chosen row goes to all that are chosen."
      actions={add("Add an input", () => addPort(rig, view.device.id, "in"))}
    >
      <PartTable
        label={`Inputs of ${view.device.name}`}
        rows={rowsOf(view.inputs)}
        columns={portColumns(rig, "in", act)}
        nameOf={(row) => `input ${row.label}`}
        {...parts("ports")}
        selectable
        empty="It has no inputs."
      />
    </Section>
  );
};

const Outputs = ({ view }: SectionProps) => {
  const { rig, act, parts, add } = useOfDevice();
  return (
    <Section title="Outputs" actions={add("Add an output", () => addPort(rig, view.device.id, "out"))}>
      <PartTable
        label={`Outputs of ${view.device.name}`}
        rows={rowsOf(view.outputs)}
        columns={portColumns(rig, "out", act)}
        nameOf={(row) => `output ${row.label}`}
        {...parts("ports")}
        selectable
        empty="It has no outputs."
      />
    </Section>
  );
};

const bankColumns = (rig: Rig): readonly PartColumn<PhantomBank>[] => [
  {
    id: "name",
    header: "Bank",
    width: 160,
    text: (bank) => bank.name,
    editor: { kind: "text" },
    write: (name) => (name.trim() ? { name: name.trim() } : "A bank needs a name, such as 1–4."),
  },
  {
    id: "inputs",
    header: "Inputs on its switch",
    text: (bank) =>
      portsText(
        rig,
        entriesOf(rig.ports).flatMap((port) =>
          port.phantom.kind === "bank" && port.phantom.bankId === bank.id ? [port.id] : [],
        ),
      ),
  },
];

const Banks = ({ view: { device } }: SectionProps) => {
  const { rig, parts, add } = useOfDevice();
  const banks = entriesOf(rig.banks).filter((bank) => bank.deviceId === device.id);
  const fresh = (): RigEdit => {
    const bank = { id: `${device.id}:bank:${nanoid(6)}` as BankId, deviceId: device.id };
    return { kind: "entries.add", entries: { banks: [{ ...bank, name: `Bank ${banks.length + 1}` }] } };
  };
  return (
    <Section title="Phantom banks" actions={add("Add a bank", fresh)}>
      <PartTable
        label={`Phantom banks of ${device.name}`}
        rows={banks}
        columns={bankColumns(rig)}
        nameOf={(row) => `bank ${row.name}`}
        {...parts("banks")}
        empty="No inputs share a switch. Add a bank, then choose it in the column Phantom."
      />
    </Section>
  );
};

const Sockets = ({ view: { device, links: known } }: SectionProps) => {
  const { rig, act, parts, add } = useOfDevice();
  const links = known.map((entry) => entry.link);
  const fresh = (): RigEdit => ({
    kind: "entries.add",
    entries: {
      links: [
        {
          id: `${device.id}:${nanoid(6)}` as LinkId,
          name: `Optical ${links.length + 1}`,
          kind: "optical",
          toDeviceId: device.id,
          channels: { single: 8, double: 4, quadruple: 2 },
        },
      ],
    },
  });
  return (
    <Section title="Digital sockets" actions={add("Add a socket", fresh)}>
      <PartTable
        label={`Digital sockets of ${device.name}`}
        rows={links}
        columns={linkColumns(rig, act)}
        nameOf={(row) => row.name}
        {...parts("links")}
        onRefused={(message) => message && tellRefusal(message)}
        empty="It has no digital sockets."
      />
    </Section>
  );
};

const Delays = ({ view: { device } }: SectionProps) => {
  const { rig, kept } = useOfDevice();
  const timing = rig.timing[device.id];
  if (!timing) return null;
  return (
    <Section
      title="Delays and buffers"
      hint="One figure for all rates, or three by rate: 44.1/48, 88.2/96, 176.4/192 kHz."
    >
      <PartTable
        label={`Delays of ${device.name}`}
        rows={[timing]}
        columns={TIMING_COLUMNS}
        nameOf={() => device.name}
        {...kept("timing")}
        empty=""
      />
    </Section>
  );
};

const Mixer = ({ view: { device } }: SectionProps) => {
  const { rig, parts, add } = useOfDevice();
  const mixers = entriesOf(rig.mixers).filter((mixer) => mixer.deviceId === device.id);
  const fresh = (): RigEdit => {
    const mixer = { id: `${device.id}:mixer:${nanoid(6)}` as MixerId, deviceId: device.id };
    return { kind: "entries.add", entries: { mixers: [{ ...mixer, mixes: 2, mixLayout: "stereo", delayMs: 1 }] } };
  };
  return (
    <Section
      title="Its own mixer"
      hint="Direct monitoring is a path through it."
      actions={mixers.length ? undefined : add("Add its mixer", fresh)}
    >
      <PartTable
        label={`The mixer of ${device.name}`}
        rows={mixers}
        columns={mixerColumns(rig)}
        nameOf={() => "the mixer"}
        {...parts("mixers")}
        empty="It has none, or none that is told of."
      />
    </Section>
  );
};

const Midi = ({ view: { device } }: SectionProps) => {
  const { rig, parts, add } = useOfDevice();
  const ports = entriesOf(rig.midiPorts).filter((port) => port.deviceId === device.id);
  const fresh = (direction: "in" | "out") => (): RigEdit => ({
    kind: "entries.add",
    entries: {
      midiPorts: [
        {
          id: `${device.id}:midi:${nanoid(6)}` as MidiPortId,
          deviceId: device.id,
          direction,
          number: ports.filter((port) => port.direction === direction).length + 1,
          usage: "nothing",
        },
      ],
    },
  });
  return (
    <Section
      title="MIDI"
      actions={
        <>
          {add("Add a MIDI input", fresh("in"))}
          {add("Add a MIDI output", fresh("out"))}
        </>
      }
    >
      <PartTable
        label={`MIDI ports of ${device.name}`}
        rows={ports}
        columns={midiColumns(rig)}
        nameOf={(row) => `MIDI ${row.direction} ${row.number}`}
        {...parts("midiPorts")}
        empty="It has none."
      />
    </Section>
  );
};

/** One device in full: what it is, its ports, clock, digital sockets, delays, mixer and MIDI. */
export const DevicePanel = ({ view, onGone }: SectionProps & { readonly onGone: () => void }) => {
  const { kind } = view.device;
  return (
    <>
      <Itself view={view} onGone={onGone} />
      <Inputs view={view} />
      <Outputs view={view} />
      <Banks view={view} />
      {kind === "interface" && <Sockets view={view} />}
      {(kind === "interface" || kind === "expander") && <Delays view={view} />}
      {kind === "interface" && <Mixer view={view} />}
      {kind === "interface" && <Midi view={view} />}
      <Group className={classes.foot} />
    </>
  );
};
