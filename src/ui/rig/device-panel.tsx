"use client";

import { Button, Group } from "@mantine/core";
import { modals } from "@mantine/modals";
import { nanoid } from "nanoid";
import { deviceUses, linesOnDevice, type RackDevice } from "@/core/layout/rack";
import type { DeviceId, LinkId } from "@/core/model/ids";
import {
  type Clock,
  DEVICE_KINDS,
  type DeviceTiming,
  type DigitalLink,
  entriesOf,
  type InterfaceMixer,
  MIDI_HANGS,
  type MidiPort,
  type PhantomBank,
  type Rig,
  type RigTable,
} from "@/core/model/rig";
import { byRateText, portsText, readByRate, readNumber, readPorts, readSizes } from "@/core/reading/rig-cells";
import { type PartColumn, PartTable } from "../parts/part-table";
import { api } from "../shared/api";
import { tellRefusal } from "../shared/notices";
import { portColumns } from "./port-columns";
import classes from "./rig.module.css";
import { useRigAct, useRigDocument } from "./rig-context";
import { Section } from "./section";

const KIND_WORDS: Readonly<Record<(typeof DEVICE_KINDS)[number], string>> = {
  interface: "interface",
  expander: "expander",
  preamp: "outside preamp",
  outboard: "outboard",
  "headphone-amplifier": "headphone amplifier",
};

const clockText = (clock: Clock): string => (clock.kind === "follows" ? `follows ${clock.linkId ?? ""}` : clock.kind);

const clockOf = (text: string): Clock => {
  if (text.startsWith("follows")) return { kind: "follows", linkId: (text.slice(8) || null) as LinkId | null };
  return text === "leads" ? { kind: "leads" } : { kind: "none" };
};

const deviceColumns = (rig: Rig): readonly PartColumn<RackDevice["device"]>[] => [
  { id: "name", header: "Name", text: (device) => device.name, editor: { kind: "text" }, write: (name) => (name.trim() ? { name: name.trim() } : "A device needs a name.") },
  {
    id: "short",
    header: "Before its numbers",
    width: 130,
    text: (device) => device.shortName,
    editor: { kind: "text", placeholder: "nothing" },
    write: (text) => (/^[a-z]{0,3}$/i.test(text.trim()) ? { shortName: text.trim().toUpperCase() } : "Up to three letters stand before the numbers of a device, such as E."),
  },
  {
    id: "kind",
    header: "Kind",
    width: 150,
    text: (device) => device.kind,
    editor: { kind: "choice", options: () => DEVICE_KINDS.map((value) => ({ value, label: KIND_WORDS[value] })) },
    write: (kind) => ({ kind }),
  },
  {
    id: "clock",
    header: "Clock",
    width: 220,
    text: (device) => clockText(device.clock),
    editor: {
      kind: "choice",
      options: (device) => [
        { value: "none", label: "none: it is analogue" },
        { value: "leads", label: "leads" },
        { value: "follows ", label: "follows, through nothing yet" },
        ...entriesOf(rig.links)
          .filter((link) => link.fromDeviceId === device.id || link.toDeviceId === device.id || link.kind === "word-clock")
          .map((link) => ({ value: `follows ${link.id}`, label: `follows through ${link.name} of ${rig.devices[link.toDeviceId]?.name}` })),
      ],
    },
    write: (text) => ({ clock: clockOf(text) }),
  },
];

const linkColumns = (rig: Rig, act: ReturnType<typeof useRigAct>): readonly PartColumn<DigitalLink>[] => [
  {
    id: "name",
    header: "Socket",
    width: 120,
    text: (link) => link.name,
    editor: { kind: "text" },
    write: (name) => (name.trim() ? { name: name.trim() } : "A socket needs a name."),
  },
  {
    id: "kind",
    header: "Kind",
    width: 110,
    text: (link) => link.kind,
    editor: {
      kind: "choice",
      options: () => [
        { value: "optical", label: "optical" },
        { value: "coaxial", label: "coaxial" },
        { value: "aes3", label: "AES3" },
        { value: "madi", label: "MADI" },
        { value: "word-clock", label: "word clock" },
      ],
    },
    write: (kind) => (kind === "word-clock" ? { kind, channels: { single: 0, double: 0, quadruple: 0 } } : { kind }),
  },
  {
    id: "channels",
    header: "Channels by rate",
    width: 120,
    text: (link) => byRateText(link.channels),
    editor: { kind: "text", placeholder: "8/4/2" },
    write: (text) => {
      const channels = readByRate(text, { min: 0, max: 512, whole: true });
      return channels ? { channels } : "Type channels at 44.1/48, at 88.2/96 and at 176.4/192 kHz: 8/4/2.";
    },
  },
  {
    id: "plugged",
    header: "Plugged in",
    text: (link) => link.fromDeviceId ?? "",
    editor: {
      kind: "choice",
      options: (link) => [
        { value: "", label: "nothing" },
        ...entriesOf(rig.devices)
          .filter((device) => device.id !== link.toDeviceId && (device.kind === "expander" || device.kind === "interface"))
          .map((device) => ({ value: device.id as string, label: device.name })),
      ],
    },
    write: (text, link) => {
      act([{ kind: "links.plug", linkId: link.id, deviceId: (text || null) as DeviceId | null }]);
      return "";
    },
  },
];

const delayColumn = (key: "adc" | "dac", header: string): PartColumn<DeviceTiming> => ({
  id: key,
  header,
  width: 116,
  text: (timing) => (timing[key] ? `${byRateText(timing[key])} ${timing[key].unit}` : ""),
  editor: { kind: "text", placeholder: "none" },
  write: (text) => {
    if (!text.trim()) return { [key]: null };
    const unit = /samples?$/i.test(text.trim()) ? "samples" : "ms";
    const figures = readByRate(text.replace(/(ms|samples?)\s*$/i, ""), { min: 0, max: 100_000 });
    return figures ? { [key]: { unit, ...figures } } : "Type a delay as 0.3 ms, or in samples by rate: 14/16/20 samples.";
  },
});

const marginColumn = (key: "marginInSamples" | "marginOutSamples", header: string): PartColumn<DeviceTiming> => ({
  id: key,
  header,
  width: 96,
  text: (timing) => byRateText(timing[key]),
  editor: { kind: "text" },
  write: (text) => {
    const figures = readByRate(text, { min: 0, max: 100_000, whole: true });
    return figures ? { [key]: figures } : "Type whole samples, one figure or three by rate: 16/16/32.";
  },
});

const countColumn = (key: "buffersIn" | "buffersOut", header: string): PartColumn<DeviceTiming> => ({
  id: key,
  header,
  width: 78,
  text: (timing) => String(timing[key]),
  editor: { kind: "number" },
  write: (text) => {
    const count = readNumber(text, { min: 0, max: 8, whole: true });
    return count === null ? "Buffers in a direction are counted from 0 to 8." : { [key]: count };
  },
});

const TIMING: readonly PartColumn<DeviceTiming>[] = [
  delayColumn("adc", "Input converter"),
  delayColumn("dac", "Output converter"),
  marginColumn("marginInSamples", "Margin in"),
  marginColumn("marginOutSamples", "Margin out"),
  countColumn("buffersIn", "Buffers in"),
  countColumn("buffersOut", "Buffers out"),
  {
    id: "sizes",
    header: "Buffer sizes offered",
    text: (timing) => timing.bufferSizesSamples.join(" "),
    editor: { kind: "text", placeholder: "none" },
    write: (text) => {
      const sizes = readSizes(text);
      return sizes ? { bufferSizesSamples: sizes } : "Type buffer sizes in samples, parted by spaces: 64 128 256.";
    },
  },
];

const mixerColumns = (rig: Rig): readonly PartColumn<InterfaceMixer>[] => [
  {
    id: "inputs",
    header: "Inputs it reaches",
    width: 130,
    text: (mixer) => portsText(rig, mixer.inputIds),
    editor: { kind: "text", placeholder: "all" },
    write: (text) => {
      const read = readPorts(rig, text, "in");
      return read.ok ? { inputIds: read.portIds } : `${rig.name} has no input ${read.missing}.`;
    },
  },
  {
    id: "mixes",
    header: "Mixes",
    width: 60,
    text: (mixer) => String(mixer.mixes),
    editor: { kind: "number" },
    write: (text) => {
      const mixes = readNumber(text, { min: 1, max: 64, whole: true });
      return mixes === null ? "A mixer has from 1 to 64 mixes." : { mixes };
    },
  },
  {
    id: "layout",
    header: "Each",
    width: 84,
    text: (mixer) => mixer.mixLayout,
    editor: {
      kind: "choice",
      options: () => [
        { value: "mono", label: "mono" },
        { value: "stereo", label: "stereo" },
      ],
    },
    write: (mixLayout) => ({ mixLayout }),
  },
  {
    id: "delay",
    header: "Delay ms",
    width: 76,
    text: (mixer) => String(mixer.delayMs),
    editor: { kind: "number" },
    write: (text) => {
      const delayMs = readNumber(text, { min: 0, max: 100 });
      return delayMs === null ? "Type a delay from 0 to 100 ms." : { delayMs };
    },
  },
  {
    id: "processing",
    header: "Processing",
    text: (mixer) => mixer.processing.join(", "),
    editor: { kind: "text", placeholder: "none" },
    write: (text) => ({
      processing: text
        .split(",")
        .map((word) => word.trim())
        .filter(Boolean),
    }),
  },
  {
    id: "recorded",
    header: "Which is",
    width: 110,
    text: (mixer) => String(mixer.recorded),
    editor: {
      kind: "choice",
      options: () => [
        { value: "false", label: "only heard" },
        { value: "true", label: "recorded" },
      ],
    },
    write: (text) => ({ recorded: text === "true" }),
  },
];

const midiColumns = (rig: Rig): readonly PartColumn<MidiPort>[] => [
  { id: "number", header: "Port", width: 60, text: (midi) => `${midi.direction} ${midi.number}` },
  {
    id: "hangs",
    header: "What hangs on it",
    width: 150,
    text: (midi) => midi.hangs,
    editor: { kind: "choice", options: () => MIDI_HANGS.map((value) => ({ value, label: value === "instrument" ? "outside instrument" : value })) },
    write: (hangs) => ({ hangs }),
  },
  { id: "name", header: "Name", text: (midi) => midi.name, editor: { kind: "text" }, write: (name) => ({ name: name.trim() }) },
  {
    id: "returns",
    header: "Comes back on inputs",
    width: 160,
    text: (midi) => portsText(rig, midi.returnPortIds),
    editor: { kind: "text", placeholder: "none" },
    write: (text) => {
      const read = readPorts(rig, text, "in");
      return read.ok ? { returnPortIds: read.portIds } : `${rig.name} has no input ${read.missing}.`;
    },
  },
];

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
        if (act([{ kind: "parts.remove", table: "devices", ids: [device.id] }])) onGone();
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
  const set = (table: RigTable) => (ids: readonly string[], change: Readonly<Record<string, unknown>>) => act([{ kind: "parts.set", table, ids, set: change }]);
  const remove = (table: RigTable) => (ids: readonly string[]) => void act([{ kind: "parts.remove", table, ids }]);
  const digital = device.kind === "interface" || device.kind === "expander";
  const rows = (ports: RackDevice["inputs"]) => ports.map((port) => ({ ...port, id: port.port.id as string }));
  const banks = entriesOf(rig.banks).filter((bank) => bank.deviceId === device.id);
  const links = view.links.map((entry) => entry.link);
  const timing = rig.timing[device.id];
  const mixers = entriesOf(rig.mixers).filter((mixer) => mixer.deviceId === device.id);
  const midi = entriesOf(rig.midiPorts).filter((port) => port.deviceId === device.id);
  const newBank = () => act([{ kind: "parts.add", parts: { banks: [{ id: `${device.id}:bank:${nanoid(6)}`, deviceId: device.id, name: `Bank ${banks.length + 1}` }] as never } }]);
  const newLink = () =>
    act([
      {
        kind: "parts.add",
        parts: {
          links: [
            {
              id: `${device.id}:${nanoid(6)}`,
              name: `Optical ${links.length + 1}`,
              kind: "optical",
              fromDeviceId: null,
              toDeviceId: device.id,
              channels: { single: 8, double: 4, quadruple: 2 },
              order: links.length,
            },
          ] as never,
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
          entriesOf(rig.ports).flatMap((port) => (port.phantom.kind === "bank" && port.phantom.bankId === bank.id ? [port.id] : [])),
        ),
    },
  ];
  return (
    <>
      <Section title={device.name} actions={<Retire view={view} onGone={onGone} />}>
        <PartTable label="The device" rows={[device]} columns={deviceColumns(rig)} nameOf={(row) => row.name} onSet={set("devices")} onRefused={tellRefusal} empty="" />
      </Section>
      <Section title="Inputs" hint="Enter goes down the column; names pasted one a line go down as well. An edit of a chosen row goes to all that are chosen.">
        <PartTable
          label={`Inputs of ${device.name}`}
          rows={rows(view.inputs)}
          columns={portColumns(rig, "in", act)}
          nameOf={(row) => `input ${row.label}`}
          onSet={set("ports")}
          onRefused={tellRefusal}
          selectable
          empty="It has no inputs."
        />
      </Section>
      <Section title="Outputs">
        <PartTable
          label={`Outputs of ${device.name}`}
          rows={rows(view.outputs)}
          columns={portColumns(rig, "out", act)}
          nameOf={(row) => `output ${row.label}`}
          onSet={set("ports")}
          onRefused={tellRefusal}
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
        <Section title="Delays and buffers" hint="One figure for all rates, or three by rate: 44.1/48, 88.2/96, 176.4/192 kHz.">
          <PartTable label={`Delays of ${device.name}`} rows={[timing]} columns={TIMING} nameOf={() => device.name} onSet={set("timing")} onRefused={tellRefusal} empty="" />
        </Section>
      )}
      {mixers.length > 0 && (
        <Section title="Its own mixer" hint="Direct monitoring is a path through it.">
          <PartTable
            label={`The mixer of ${device.name}`}
            rows={mixers}
            columns={mixerColumns(rig)}
            nameOf={() => "the mixer"}
            onSet={set("mixers")}
            onRefused={tellRefusal}
            empty=""
          />
        </Section>
      )}
      {midi.length > 0 && (
        <Section title="MIDI">
          <PartTable
            label={`MIDI ports of ${device.name}`}
            rows={midi}
            columns={midiColumns(rig)}
            nameOf={(row) => `MIDI ${row.direction} ${row.number}`}
            onSet={set("midiPorts")}
            onRefused={tellRefusal}
            empty=""
          />
        </Section>
      )}
      <Group className={classes.foot} />
    </>
  );
};
