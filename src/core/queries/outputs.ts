import { plain } from "../model/families";
import { perDocument } from "../model/per-document";
import { hardwareOutputs, portLabel } from "../model/read-rig";
import { isSum } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf, listOf } from "../model/table";
import { MAIN_ID, type Output } from "../model/tables/channel-fields";
import type { Channel, Sum } from "../model/tables/channels";
import type { Template } from "../model/template";

/** Hardware outputs in words: "Outputs 1–2", "Phones 1 L". */
export const outputsInWords = (rig: Rig, portIds: readonly string[]): string => {
  const ports = hardwareOutputs(rig).filter((port) => portIds.includes(port.id));
  if (!ports.length) return "An output this rig does not have";
  if (ports.every((port) => port.name)) return ports.map((port) => port.name).join(" and ");
  const labels = ports.map((port) => portLabel(rig, port));
  return labels.length === 1 ? `Output ${labels[0]}` : `Outputs ${labels[0]}–${labels.at(-1)}`;
};

export const NOWHERE = "Nowhere";

/**
 * An output as a cell shows it, and as it can be typed again: the name of a bus, outputs of the interface, or nowhere.
 */
export const outputText = (doc: Pick<Template, "channels">, rig: Rig, output: Output): string => {
  if (output.kind === "nowhere") return NOWHERE;
  return output.kind === "hardware"
    ? outputsInWords(rig, output.portIds)
    : (doc.channels[output.channelId]?.name ?? "");
};

/** Buses and then returns, each by name: a bus has no place of its own among others. */
export const sumsOf = ({ channels }: Pick<Template, "channels">): readonly Sum[] => sumsIn(channels);

const sumsIn = perDocument((channels: Template["channels"]): readonly Sum[] =>
  entriesOf(channels)
    .filter(isSum)
    .sort((a, b) =>
      a.kind === b.kind ? a.name.localeCompare(b.name) || (a.id < b.id ? -1 : 1) : a.kind === "bus" ? -1 : 1,
    ),
);

const byName = perDocument((channels: Template["channels"]): ReadonlyMap<string, Sum> => {
  const found = new Map<string, Sum>();
  // The first of a name is meant.
  for (const sum of [...sumsIn(channels)].reverse()) found.set(plain(sum.name), sum);
  return found;
});

/** The bus or return of a name. */
export const sumNamed = ({ channels }: Pick<Template, "channels">, name: string): Sum | undefined =>
  byName(channels).get(plain(name));

export interface OutputChoice {
  readonly output: Output;
  readonly label: string;
}

/**
 * Everything that a channel can be routed to: the main bus, buses, returns, pairs of outputs, nowhere. Whether a loop
 * would come of it is told when it is done.
 */
export const outputChoices = (doc: Template, rig: Rig): readonly OutputChoice[] => {
  const ports = hardwareOutputs(rig);
  const pairs = ports.flatMap((port, at) =>
    port.number % 2 === 1 && ports[at + 1] ? [[port.id, ports[at + 1]?.id ?? port.id]] : [],
  );
  return [
    { output: { kind: "channel", channelId: MAIN_ID }, label: doc.channels[MAIN_ID]?.name ?? "Main" },
    ...sumsOf(doc).map((sum) => ({ output: { kind: "channel", channelId: sum.id } as const, label: sum.name })),
    ...pairs.map((portIds) => ({
      output: { kind: "hardware", portIds } as const,
      label: outputsInWords(rig, portIds),
    })),
    { output: { kind: "nowhere" }, label: NOWHERE },
  ];
};

/** Every way out of the interface, of any width: single outputs, as an amplifier takes them, then pairs. */
export const hardwareChoices = (rig: Rig): readonly OutputChoice[] => {
  const ports = hardwareOutputs(rig);
  const pairs = ports.flatMap((port, at) =>
    port.number % 2 === 1 && ports[at + 1] ? [[port.id, ports[at + 1]?.id ?? port.id]] : [],
  );
  return [...ports.map(({ id }) => [id]), ...pairs].map((portIds) => ({
    output: { kind: "hardware", portIds },
    label: outputsInWords(rig, portIds),
  }));
};

/** The first single output on which nothing hangs and nothing goes out: where an amplifier can be plugged in. */
export const freeOutput = (doc: Template, rig: Rig): OutputChoice | null => {
  const taken = new Set<string>([
    ...entriesOf(rig.feeds).flatMap(({ portIds }) => portIds),
    ...entriesOf(rig.loops).flatMap(({ sendPortIds }) => sendPortIds),
    ...entriesOf(doc.cues).flatMap(({ portIds }) => portIds),
    ...listOf<Channel>(doc.channels).flatMap(({ output }) => (output.kind === "hardware" ? output.portIds : [])),
  ]);
  return (
    hardwareChoices(rig).find(
      ({ output }) => output.kind === "hardware" && output.portIds.every((id) => !taken.has(id)),
    ) ?? null
  );
};

/** The way out of the interface that a text names; null when there is none of that name. */
export const readHardware = (rig: Rig, text: string): Extract<Output, { kind: "hardware" }> | null => {
  const found = hardwareChoices(rig).find(({ label }) => plain(label) === plain(text))?.output;
  return found?.kind === "hardware" ? found : null;
};

/** The output that a text names; null when there is none of that name. */
export const readOutput = (doc: Template, rig: Rig, text: string): Output | null =>
  outputChoices(doc, rig).find(({ label }) => plain(label) === plain(text))?.output ?? null;
