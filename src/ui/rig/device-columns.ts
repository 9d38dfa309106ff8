import type { DeviceId, LinkId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import { entriesOf } from "@/core/model/table";
import { type Clock, DEVICES, type Device } from "@/core/model/tables/devices";
import { type DigitalLink, LINKS } from "@/core/model/tables/links";
import { MIDI_PORTS, type MidiPort } from "@/core/model/tables/midi-ports";
import { type InterfaceMixer, MIXERS } from "@/core/model/tables/mixers";
import { type DeviceTiming, TIMING } from "@/core/model/tables/timing";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import {
  byRateText,
  measuredText,
  portsText,
  readByRate,
  readMeasured,
  readPorts,
  readRates,
  readSizes,
} from "@/core/reading/rig-cells";
import { SAMPLE_RATES_HZ } from "@/core/units/hertz";
import { describedColumns } from "../parts/described-columns";
import type { PartColumn } from "../parts/part-table";

const clockText = (clock: Clock): string => (clock.kind === "follows" ? `follows ${clock.linkId ?? ""}` : clock.kind);

const clockOf = (text: string): Clock => {
  if (text.startsWith("follows")) return { kind: "follows", linkId: (text.slice(8) || null) as LinkId | null };
  return text === "leads" ? { kind: "leads" } : { kind: "none" };
};

const clockChoices = (rig: Rig, device: Device) => [
  { value: "none", label: "none: it is analogue" },
  { value: "leads", label: "leads" },
  { value: "follows ", label: "follows, through nothing yet" },
  ...entriesOf(rig.links)
    .filter((link) => link.fromDeviceId === device.id || link.toDeviceId === device.id || link.kind === "word-clock")
    .map((link) => ({
      value: `follows ${link.id}`,
      label: `follows through ${link.name} of ${rig.devices[link.toDeviceId]?.name}`,
    })),
];

export const deviceColumns = (rig: Rig): readonly PartColumn<Device>[] =>
  describedColumns<Device>(
    DEVICES,
    {
      shortName: {
        write: (text) =>
          /^[a-z]{0,3}$/i.test(text.trim())
            ? { shortName: text.trim().toUpperCase() }
            : "Up to three letters stand before the numbers of a device, such as E.",
      },
      clock: {
        text: (device) => clockText(device.clock),
        editor: { kind: "choice", options: (device) => clockChoices(rig, device) },
        write: (text) => ({ clock: clockOf(text) }),
      },
    },
    ["name", "shortName", "kind", "clock"],
  );

/** What can be plugged into a socket. */
const pluggable = (rig: Rig, link: DigitalLink) => [
  { value: "", label: "nothing" },
  ...entriesOf(rig.devices)
    .filter((device) => device.id !== link.toDeviceId && (device.kind === "expander" || device.kind === "interface"))
    .map((device) => ({ value: device.id as string, label: device.name })),
];

export const linkColumns = (
  rig: Rig,
  act: (edits: readonly RigEdit[]) => boolean,
): readonly PartColumn<DigitalLink>[] =>
  describedColumns<DigitalLink>(
    LINKS,
    {
      kind: {
        write: (kind) =>
          kind === "word-clock" ? { kind, channels: { single: 0, double: 0, quadruple: 0 } } : { kind },
      },
      channels: {
        text: (link) => byRateText(link.channels),
        write: (text) => {
          const channels = readByRate(text, { min: 0, max: 512, whole: true });
          return channels ? { channels } : "Type channels at 44.1/48, at 88.2/96 and at 176.4/192 kHz: 8/4/2.";
        },
      },
      fromDeviceId: {
        text: (link) => link.fromDeviceId ?? "",
        editor: { kind: "choice", options: (link) => pluggable(rig, link) },
        write: (text, link) => {
          act([{ kind: "links.plug", linkId: link.id, deviceId: (text || null) as DeviceId | null }]);
          return "";
        },
      },
    },
    ["name", "kind", "channels", "fromDeviceId"],
  );

const converter = (key: "adc" | "dac"): Partial<PartColumn<DeviceTiming>> => ({
  text: (timing) => (timing[key] ? `${byRateText(timing[key])} ${timing[key].unit}` : ""),
  write: (text) => {
    if (!text.trim()) return { [key]: null };
    const unit = /samples?$/i.test(text.trim()) ? "samples" : "ms";
    const figures = readByRate(text.replace(/(ms|samples?)\s*$/i, ""), { min: 0, max: 100_000 });
    return figures
      ? { [key]: { unit, ...figures } }
      : "Type a delay as 0.3 ms, or in samples by rate: 14/16/20 samples.";
  },
});

const margin = (key: "marginInSamples" | "marginOutSamples"): Partial<PartColumn<DeviceTiming>> => ({
  text: (timing) => byRateText(timing[key]),
  write: (text) => {
    const figures = readByRate(text, { min: 0, max: 100_000, whole: true });
    return figures ? { [key]: figures } : "Type whole samples, one figure or three by rate: 16/16/32.";
  },
});

export const TIMING_COLUMNS: readonly PartColumn<DeviceTiming>[] = describedColumns<DeviceTiming>(TIMING, {
  adc: converter("adc"),
  dac: converter("dac"),
  marginInSamples: margin("marginInSamples"),
  marginOutSamples: margin("marginOutSamples"),
  bufferSizesSamples: {
    text: (timing) => timing.bufferSizesSamples.join(" "),
    write: (text) => {
      const sizes = readSizes(text);
      return sizes ? { bufferSizesSamples: sizes } : "Type buffer sizes in samples, parted by spaces: 64 128 256.";
    },
  },
  ratesHz: {
    text: (timing) => timing.ratesHz.map((rate) => rate / 1000).join(" "),
    write: (text) => {
      const ratesHz = readRates(text);
      return ratesHz
        ? { ratesHz }
        : `Type the rates it works at in kHz, parted by spaces: ${SAMPLE_RATES_HZ.map((rate) => rate / 1000).join(" ")}.`;
    },
  },
  measured: {
    text: ({ measured }) => (measured ? measuredText(measured) : ""),
    write: (text) => {
      if (!text.trim()) return { measured: null };
      const measured = readMeasured(text);
      return measured ? { measured } : "Type what the loop-back said, at which rate and buffer: 5.2 ms at 48 kHz, 64.";
    },
  },
});

/** Inputs of a rig by their labels, in a field of its own. */
const inputs = <T, K extends keyof T & string>(rig: Rig, key: K): Partial<PartColumn<T>> => ({
  text: (row) => portsText(rig, row[key] as never),
  write: (text) => {
    const read = readPorts(rig, text, "in");
    return read.ok ? { [key]: read.portIds } : `${rig.name} has no input ${read.missing}.`;
  },
});

export const mixerColumns = (rig: Rig): readonly PartColumn<InterfaceMixer>[] =>
  describedColumns<InterfaceMixer>(MIXERS, {
    inputIds: inputs(rig, "inputIds"),
    processing: {
      text: (mixer) => mixer.processing.join(", "),
      write: (text) => ({
        processing: text
          .split(",")
          .map((word) => word.trim())
          .filter(Boolean),
      }),
    },
    recorded: {
      editor: {
        kind: "choice",
        options: () => [
          { value: "false", label: "only heard" },
          { value: "true", label: "recorded" },
        ],
      },
    },
  });

export const midiColumns = (rig: Rig): readonly PartColumn<MidiPort>[] => [
  { id: "number", header: "Port", width: 60, text: (midi) => `${midi.direction} ${midi.number}` },
  ...describedColumns<MidiPort>(MIDI_PORTS, { returnPortIds: inputs(rig, "returnPortIds") }),
];
