import { type Colour, UNCOLOURED } from "../model/colours";
import type { Field } from "../model/describe/fields";
import type { ChannelId, IdSource, SendId } from "../model/ids";
import { colourOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import { MAIN_ID, type Output } from "../model/tables/channel-fields";
import { CHANNELS } from "../model/tables/channels";
import { SENDS, type Tap } from "../model/tables/sends";
import type { Template } from "../model/template";
import { cuesOf, levelIn } from "../queries/cues";
import { outputChoices, readOutput, sumNamed, sumsOf } from "../queries/outputs";
import { readField } from "../reading/field-text";
import { graphOf } from "../routing/graph";
import { downFrom } from "../routing/reach";
import { counted, listed } from "../units/counted";
import { countChannels } from "./edits/channel-edits";
import type { ChannelChange } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

interface ByName {
  readonly channelIds: readonly ChannelId[];
  readonly name: string;
  readonly ids: IdSource;
}

/** Where all of these go, when they go to one bus; else the main bus. */
const commonSum = (doc: Template, channelIds: readonly ChannelId[]): ChannelId => {
  const sums = new Set(
    channelIds.map((id) => {
      const output = doc.channels[id]?.output;
      return output?.kind === "channel" ? output.channelId : MAIN_ID;
    }),
  );
  const [only, ...others] = sums;
  return only !== undefined && !others.length ? only : MAIN_ID;
};

const into = (channelId: ChannelId): Output => ({ kind: "channel", channelId });

/** The output that all of these share; else the main bus. */
export const commonOutput = (doc: Template, channelIds: readonly ChannelId[]): Output =>
  into(commonSum(doc, channelIds));

/** The dye that all of these show; none where they differ. What sums them takes it. */
export const dyeOf = (doc: Template, channelIds: readonly ChannelId[]): Colour | null => {
  const dyes = new Set(
    channelIds.map((id) => {
      const channel = doc.channels[id];
      if (!channel || channel.kind === "main") return null;
      return channel.kind === "track" ? colourOf(doc, channel) : channel.colour;
    }),
  );
  const [only, ...others] = dyes;
  return only && !others.length && only !== UNCOLOURED ? only : null;
};

/** Where channels can be routed: everything but what they reach already, since that would be a loop, and themselves. */
export const routeChoices = (doc: Template, rig: Rig, channelIds: readonly ChannelId[]): readonly string[] => {
  const choices = outputChoices(doc, rig);
  const graph = graphOf(doc);
  const loops = new Set<string>(channelIds);
  for (const { output } of choices)
    if (
      output.kind === "channel" &&
      [...downFrom(graph, output.channelId).channels].some((id) => channelIds.includes(id))
    )
      loops.add(output.channelId);
  return choices.flatMap(({ output, label }) =>
    output.kind === "channel" && loops.has(output.channelId) ? [] : [label],
  );
};

/**
 * Routes channels to what is named: a bus, outputs, nowhere. What is not there becomes a bus of that name, which goes
 * where they all went.
 */
export const routeByName = (doc: Template, rig: Rig, { channelIds, name, ids }: ByName): Planned => {
  const text = name.trim();
  if (!text) return unplanned("Type the name of a bus, of outputs, or nowhere.");
  const output = readOutput(doc, rig, text);
  if (output) return planned([{ kind: "entries.set", table: "channels", ids: channelIds, set: { output } }]);
  const bus = {
    kind: "bus" as const,
    id: ids<ChannelId>("bus"),
    name: text,
    colour: dyeOf(doc, channelIds),
    output: into(commonSum(doc, channelIds)),
  };
  return planned(
    [{ kind: "channels.add", channels: [bus], feedIds: channelIds }],
    `Route ${countChannels(doc, channelIds)} to the new bus ${text}`,
  );
};

interface SendByName extends ByName {
  readonly levelText: string;
  readonly tap: Tap;
}

/** Where channels can be sent to. */
export const sendChoices = (doc: Template): readonly string[] => sumsOf(doc).map((sum) => sum.name);

/**
 * Sends channels to the return or bus that is named, all at one level. What is not there becomes a return of that name,
 * which goes where they all go.
 */
export const sendByName = (doc: Template, { channelIds, name, levelText, tap, ids }: SendByName): Planned => {
  const text = name.trim();
  if (!text) return unplanned("Type the name of a return or a bus.");
  const level = readField(SENDS.fields.levelDb, levelText);
  if (!level.ok) return unplanned(`“${levelText.trim()}” ${level.says}.`);
  const there = sumNamed(doc, text);
  const toId = there?.id ?? ids<ChannelId>("return");
  const fromIds = channelIds.filter((id) => id !== toId);
  const sends = fromIds.map((fromId) => ({
    id: ids<SendId>("send"),
    fromId,
    toId,
    levelDb: level.value as never,
    tap,
  }));
  const send = { kind: "sends.add" as const, sends };
  if (there) return planned([send]);
  const made = {
    kind: "return" as const,
    id: toId,
    name: text,
    colour: "logwood" as const,
    output: into(commonSum(doc, channelIds)),
  };
  return planned(
    [{ kind: "channels.add", channels: [made], feedIds: [] }, send],
    `Send ${countChannels(doc, channelIds)} to the new return ${text}`,
  );
};

const MIXED = {
  faderDb: CHANNELS.fields.faderDb,
  trimDb: CHANNELS.fields.trimDb,
  pan: CHANNELS.kinds.bus.pan,
} as const;
export type MixedField = keyof typeof MIXED;

/**
 * A number typed for channels: a level in dB, or a pan from −100 (left) to 100 (right), where L 30 and R 30 are
 * understood as well.
 */
export const setMixed = (
  doc: Template,
  {
    channelIds,
    field,
    text,
  }: { readonly channelIds: readonly ChannelId[]; readonly field: MixedField; readonly text: string },
): Planned => {
  const described: Field = MIXED[field];
  if (field === "pan") {
    const pan = readPan(text);
    return pan === null
      ? unplanned(`“${text.trim()}” is no pan. Type L 30, R 30, or 0 for the centre.`)
      : planned([{ kind: "entries.set", table: "channels", ids: passing(doc, channelIds), set: { pan } }]);
  }
  const read = readField({ ...described, kind: "decibels", silent: true }, text);
  if (!read.ok) return unplanned(`“${text.trim()}” ${read.says}.`);
  if (field === "trimDb" && read.value === null)
    return unplanned("A trim turns up or down by some dB. To silence a channel, mute it or pull its fader to −∞.");
  return planned([
    { kind: "entries.set", table: "channels", ids: channelIds, set: { [field]: read.value } as ChannelChange },
  ]);
};

const passing = (doc: Template, ids: readonly ChannelId[]): readonly ChannelId[] =>
  ids.filter((id) => doc.channels[id]?.kind !== "main");

export const readPan = (text: string): number | null => {
  const word = text.trim().toLowerCase().replace("−", "-").replace("%", "").trim();
  if (word === "" || word === "middle" || word === "c" || word === "centre" || word === "center") return 0;
  const side = word.startsWith("l") ? -1 : word.startsWith("r") ? 1 : 0;
  const number = Number(side ? word.slice(1).trim() : word);
  if (!Number.isFinite(number) || Math.abs(number) > 100 || (side && number < 0)) return null;
  return Math.round(side ? side * number : number);
};

/** What goes with buses and returns that are taken away, in words; null when nothing does. */
export const takesAlong = (doc: Template, channelIds: readonly ChannelId[]): string | null => {
  const gone = new Set<string>(channelIds);
  const sends = entriesOf(doc.sends).filter(({ fromId, toId }) => gone.has(fromId) || gone.has(toId)).length;
  const fed = entriesOf(doc.channels).filter(
    ({ id, output }) => output.kind === "channel" && gone.has(output.channelId) && !gone.has(id),
  ).length;
  const folders = entriesOf(doc.folders)
    .filter(({ busId }) => busId !== null && gone.has(busId))
    .map(({ name }) => name);
  const cues = cuesOf(doc).filter(({ id: cueId }) => channelIds.some((sourceId) => levelIn(doc, { cueId, sourceId })));
  const named = cues.length > 4 ? counted(cues.length, "cue") : listed(cues.map(({ name }) => name));
  const parts = [
    ...(cues.length
      ? [`${named} ${cues.length === 1 ? "hears" : "hear"} ${channelIds.length === 1 ? "it" : "them"} no longer`]
      : []),
    ...(fed
      ? [
          `${counted(fed, "channel")} ${fed === 1 ? "goes" : "go"} where ${channelIds.length === 1 ? "it" : "they"} went`,
        ]
      : []),
    ...(sends ? [`${counted(sends, "send")} ${sends === 1 ? "goes" : "go"} along`] : []),
    ...(folders.length ? [`${folders.join(", ")} no longer ${folders.length === 1 ? "sums" : "sum"}`] : []),
  ];
  return parts.length ? `${parts.join("; ")}.` : null;
};
