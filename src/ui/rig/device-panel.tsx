"use client";

import { Button, Group } from "@mantine/core";
import { modals } from "@mantine/modals";
import { nanoid } from "nanoid";
import { deviceUses, linesOnDevice, type RackDevice } from "@/core/layout/rack";
import type { BankId, LinkId, MidiPortId, MixerId } from "@/core/model/ids";
import type { RigTable } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import type { PhantomBank } from "@/core/model/tables/banks";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { addPort, stepDevice } from "@/core/planning/rig-plans";
import { portsText } from "@/core/reading/rig-cells";
import { type PartColumn, PartTable } from "../parts/part-table";
import { Section } from "../parts/section";
import { api } from "../shared/api";
import { tellRefusal } from "../shared/notices";
import { deviceColumns, linkColumns, midiColumns, mixerColumns, TIMING } from "./device-columns";
import { portColumns } from "./port-columns";
import classes from "./rig.module.css";
import { useRigAct, useRigDocument } from "./rig-context";

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
          {uses.length + lines.length === 0 && <p>Nothing usage on it.</p>}
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
    <Button variant="default" size="compact-sm" onClick={() => void ask()}>
      Retire {device.name}…
    </Button>
  );
};

/** One device in full: what it is, its ports, clock, digital sockets, delays, mixer and MIDI. */
export const DevicePanel = ({ view, onGone }: { readonly view: RackDevice; readonly onGone: () => void }) => {
  const rig = useRigDocument();
  const act = useRigAct();
  const { device } = view;
  const set = (table: RigTable) => (ids: readonly string[], change: Readonly<Record<string, unknown>>) =>
    act([{ kind: "entries.set", table, ids, set: change } as RigEdit]);
  const remove = (table: RigTable) => (ids: readonly string[]) =>
    void act([{ kind: "entries.remove", table, ids } as RigEdit]);
  const digital = device.kind === "interface" || device.kind === "expander";
  const rows = (ports: RackDevice["inputs"]) => ports.map((port) => ({ ...port, id: port.port.id as string }));
  const banks = entriesOf(rig.banks).filter((bank) => bank.deviceId === device.id);
  const links = view.links.map((entry) => entry.link);
  const timing = rig.timing[device.id];
  const mixers = entriesOf(rig.mixers).filter((mixer) => mixer.deviceId === device.id);
  const midi = entriesOf(rig.midiPorts).filter((port) => port.deviceId === device.id);
  const moves = [
    { label: "Move up", commands: stepDevice(rig, device.id, -1) },
    { label: "Move down", commands: stepDevice(rig, device.id, 1) },
  ];
  const add = (label: string, command: () => RigEdit) => (
    <Button variant="default" size="compact-sm" onClick={() => act([command()])}>
      {label}
    </Button>
  );
  const newMixer = (): RigEdit => ({
    kind: "entries.add",
    entries: {
      mixers: [
        {
          id: `${device.id}:mixer:${nanoid(6)}` as MixerId,
          deviceId: device.id,
          mixes: 2,
          mixLayout: "stereo",
          delayMs: 1,
        },
      ],
    },
  });
  const newMidi = (direction: "in" | "out") => (): RigEdit => ({
    kind: "entries.add",
    entries: {
      midiPorts: [
        {
          id: `${device.id}:midi:${nanoid(6)}` as MidiPortId,
          deviceId: device.id,
          direction,
          number: midi.filter((port) => port.direction === direction).length + 1,
          usage: "nothing",
        },
      ],
    },
  });
  const newBank = () =>
    act([
      {
        kind: "entries.add",
        entries: {
          banks: [
            { id: `${device.id}:bank:${nanoid(6)}` as BankId, deviceId: device.id, name: `Bank ${banks.length + 1}` },
          ],
        },
      },
    ]);
  const newLink = () =>
    act([
      {
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
      },
    ]);
  const bankColumns: readonly PartColumn<PhantomBank>[] = [
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
  return (
    <>
      <Section
        title={device.name}
        actions={
          <>
            {moves.map(({ label, commands }) => (
              <Button
                key={label}
                variant="default"
                size="compact-sm"
                disabled={!commands}
                onClick={() => commands && act(commands, `${label}: ${device.name}`)}
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
          onSet={set("devices")}
          onRefused={tellRefusal}
          empty=""
        />
      </Section>
      <Section
        title="Inputs"
        hint="Enter goes down the column; names pasted one a line go down as well. An edit of a chosen row goes to all that are chosen."
        actions={add("Add an input", () => addPort(rig, device.id, "in"))}
      >
        <PartTable
          label={`Inputs of ${device.name}`}
          rows={rows(view.inputs)}
          columns={portColumns(rig, "in", act)}
          nameOf={(row) => `input ${row.label}`}
          onSet={set("ports")}
          onRefused={tellRefusal}
          onRemove={remove("ports")}
          selectable
          empty="It has no inputs."
        />
      </Section>
      <Section title="Outputs" actions={add("Add an output", () => addPort(rig, device.id, "out"))}>
        <PartTable
          label={`Outputs of ${device.name}`}
          rows={rows(view.outputs)}
          columns={portColumns(rig, "out", act)}
          nameOf={(row) => `output ${row.label}`}
          onSet={set("ports")}
          onRefused={tellRefusal}
          onRemove={remove("ports")}
          selectable
          empty="It has no outputs."
        />
      </Section>
      <Section
        title="Phantom banks"
        actions={
          <Button variant="default" size="compact-sm" onClick={newBank}>
            Add a bank
          </Button>
        }
      >
        <PartTable
          label={`Phantom banks of ${device.name}`}
          rows={banks}
          columns={bankColumns}
          nameOf={(row) => `bank ${row.name}`}
          onSet={set("banks")}
          onRefused={tellRefusal}
          onRemove={remove("banks")}
          empty="No inputs share a switch. Add a bank, then choose it in the column Phantom."
        />
      </Section>
      {device.kind === "interface" && (
        <Section
          title="Digital sockets"
          actions={
            <Button variant="default" size="compact-sm" onClick={newLink}>
              Add a socket
            </Button>
          }
        >
          <PartTable
            label={`Digital sockets of ${device.name}`}
            rows={links}
            columns={linkColumns(rig, act)}
            nameOf={(row) => row.name}
            onSet={set("links")}
            onRefused={(message) => message && tellRefusal(message)}
            onRemove={remove("links")}
            empty="It has no digital sockets."
          />
        </Section>
      )}
      {digital && timing && (
        <Section
          title="Delays and buffers"
          hint="One figure for all rates, or three by rate: 44.1/48, 88.2/96, 176.4/192 kHz."
        >
          <PartTable
            label={`Delays of ${device.name}`}
            rows={[timing]}
            columns={TIMING}
            nameOf={() => device.name}
            onSet={set("timing")}
            onRefused={tellRefusal}
            empty=""
          />
        </Section>
      )}
      {device.kind === "interface" && (
        <Section
          title="Its own mixer"
          hint="Direct monitoring is a path through it."
          actions={mixers.length ? undefined : add("Add its mixer", newMixer)}
        >
          <PartTable
            label={`The mixer of ${device.name}`}
            rows={mixers}
            columns={mixerColumns(rig)}
            nameOf={() => "the mixer"}
            onSet={set("mixers")}
            onRefused={tellRefusal}
            onRemove={remove("mixers")}
            empty="It has none, or none that is told of."
          />
        </Section>
      )}
      {device.kind === "interface" && (
        <Section
          title="MIDI"
          actions={
            <>
              {add("Add a MIDI input", newMidi("in"))}
              {add("Add a MIDI output", newMidi("out"))}
            </>
          }
        >
          <PartTable
            label={`MIDI ports of ${device.name}`}
            rows={midi}
            columns={midiColumns(rig)}
            nameOf={(row) => `MIDI ${row.direction} ${row.number}`}
            onSet={set("midiPorts")}
            onRefused={tellRefusal}
            onRemove={remove("midiPorts")}
            empty="It has none."
          />
        </Section>
      )}
      <Group className={classes.foot} />
    </>
  );
};
