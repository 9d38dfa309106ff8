import type { DeviceId, LinkId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import type { Device } from "@/core/model/tables/devices";
import { type Clock, DEVICE_KINDS } from "@/core/model/tables/devices";
import type { DigitalLink } from "@/core/model/tables/links";
import { MIDI_USAGES, type MidiPort } from "@/core/model/tables/midi-ports";
import type { InterfaceMixer } from "@/core/model/tables/mixers";
import type { DeviceTiming } from "@/core/model/tables/timing";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import {
  byRateText,
  measuredText,
  portsText,
  readByRate,
  readMeasured,
  readNumber,
  readPorts,
  readRates,
  readSizes,
} from "@/core/reading/rig-cells";
import { SAMPLE_RATES_HZ } from "@/core/units/hertz";
import { nameColumn } from "../parts/name-column";
import type { PartColumn } from "../parts/part-table";

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

export const deviceColumns = (rig: Rig): readonly PartColumn<Device>[] => [
  nameColumn("Name", "device"),
  {
    id: "short",
    header: "Before its numbers",
    width: 130,
    text: (device) => device.shortName,
    editor: { kind: "text", placeholder: "nothing" },
    write: (text) =>
      /^[a-z]{0,3}$/i.test(text.trim())
        ? { shortName: text.trim().toUpperCase() }
        : "Up to three letters stand before the numbers of a device, such as E.",
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
          .filter(
            (link) => link.fromDeviceId === device.id || link.toDeviceId === device.id || link.kind === "word-clock",
          )
          .map((link) => ({
            value: `follows ${link.id}`,
            label: `follows through ${link.name} of ${rig.devices[link.toDeviceId]?.name}`,
          })),
      ],
    },
    write: (text) => ({ clock: clockOf(text) }),
  },
];

export const linkColumns = (
  rig: Rig,
  act: (edits: readonly RigEdit[]) => boolean,
): readonly PartColumn<DigitalLink>[] => [
  nameColumn("Socket", "socket", 120),
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
          .filter(
            (device) => device.id !== link.toDeviceId && (device.kind === "expander" || device.kind === "interface"),
          )
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
    return figures
      ? { [key]: { unit, ...figures } }
      : "Type a delay as 0.3 ms, or in samples by rate: 14/16/20 samples.";
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

export const TIMING: readonly PartColumn<DeviceTiming>[] = [
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
  {
    id: "rates",
    header: "Rates, kHz",
    width: 150,
    text: (timing) => timing.ratesHz.map((rate) => rate / 1000).join(" "),
    editor: { kind: "text" },
    write: (text) => {
      const ratesHz = readRates(text);
      return ratesHz
        ? { ratesHz }
        : `Type the rates it works at in kHz, parted by spaces: ${SAMPLE_RATES_HZ.map((rate) => rate / 1000).join(" ")}.`;
    },
  },
  {
    id: "measured",
    header: "Loop-back measured",
    width: 178,
    text: ({ measured }) => (measured ? measuredText(measured) : ""),
    editor: { kind: "text", placeholder: "not measured" },
    write: (text) => {
      if (!text.trim()) return { measured: null };
      const measured = readMeasured(text);
      return measured ? { measured } : "Type what the loop-back said, at which rate and buffer: 5.2 ms at 48 kHz, 64.";
    },
  },
];

export const mixerColumns = (rig: Rig): readonly PartColumn<InterfaceMixer>[] => [
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

export const midiColumns = (rig: Rig): readonly PartColumn<MidiPort>[] => [
  { id: "number", header: "Port", width: 60, text: (midi) => `${midi.direction} ${midi.number}` },
  {
    id: "usage",
    header: "What hangs on it",
    width: 150,
    text: (midi) => midi.usage,
    editor: {
      kind: "choice",
      options: () =>
        MIDI_USAGES.map((value) => ({ value, label: value === "instrument" ? "outside instrument" : value })),
    },
    write: (usage) => ({ usage }),
  },
  {
    id: "name",
    header: "Name",
    text: (midi) => midi.name,
    editor: { kind: "text" },
    write: (name) => ({ name: name.trim() }),
  },
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
