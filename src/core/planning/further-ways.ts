import type { ChainProcessorId, ChannelId, IdSource, LineId, SendId } from "../model/ids";
import { findRigInput, hardwareOutputs } from "../model/read-rig";
import { trackOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { newProcessor } from "../model/tables/chain-processors";
import { newLine } from "../model/tables/lines";
import type { Pass } from "../model/tables/processor-settings";
import type { Template } from "../model/template";
import { readHardware } from "../queries/outputs";
import { readDecibels } from "../reading/read-cells";
import { dB, formatDb } from "../units/decibels";
import { readHz } from "../units/hertz";
import { countChannels } from "./edits/channel-edits";
import type { NewTrack } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";
import { commonOutput, dyeOf } from "./route";

import { after, passing } from "./weave-plans";

interface Beside {
  readonly channelIds: readonly ChannelId[];
  readonly name: string;
  readonly ids: IdSource;
}

/** A bus beside what goes on as it is: fed by sends at 0 dB after the fader, into where all of them go. */
export const parallelBus = (doc: Template, { channelIds, name, ids }: Beside): Planned => {
  const fromIds = passing(doc, channelIds);
  if (!fromIds.length) return unplanned("Select one or more channels first.");
  if (!name.trim()) return unplanned("A bus needs a name.");
  const busId = ids<ChannelId>("bus");
  return planned(
    [
      {
        kind: "channels.add",
        channels: [
          {
            kind: "bus",
            id: busId,
            name: name.trim(),
            colour: dyeOf(doc, fromIds),
            output: commonOutput(doc, fromIds),
          },
        ],
        feedIds: [],
      },
      {
        kind: "sends.add",
        sends: fromIds.map((fromId) => ({ id: ids<SendId>("send"), fromId, toId: busId, levelDb: dB(0) })),
      },
    ],
    `Lay the bus ${name.trim()} beside ${countChannels(doc, fromIds)}`,
  );
};

interface Bands {
  readonly channelId: ChannelId;
  readonly lowText: string;
  readonly highText: string;
  /** Up to where the band in the middle goes; nothing for two bands. */
  readonly upperText?: string;
  readonly ids: IdSource;
}

interface BandFilter {
  readonly pass: Pass;
  readonly frequencyHz: number;
}

/**
 * The filters of three bands that add up flat: as a tree, the upper crossing after the lower, and its all-pass in the
 * low band as well.
 */
export const threeBands = (lowerHz: number, upperHz: number): readonly (readonly BandFilter[])[] => [
  [
    { pass: "low-pass", frequencyHz: lowerHz },
    { pass: "all-pass", frequencyHz: upperHz },
  ],
  [
    { pass: "high-pass", frequencyHz: lowerHz },
    { pass: "low-pass", frequencyHz: upperHz },
  ],
  [
    { pass: "high-pass", frequencyHz: lowerHz },
    { pass: "high-pass", frequencyHz: upperHz },
  ],
];

/**
 * Splits a channel in two bands (the low one up to a frequency, the high one from another) or in three, each a bus of
 * its own, all into where the channel went and in its dye. Three bands add up flat by the all-pass in the lowest.
 */
export const splitInBands = (doc: Template, { channelId, lowText, highText, upperText = "", ids }: Bands): Planned => {
  const channel = doc.channels[channelId];
  if (!channel || channel.kind === "main") return unplanned("Select the channel that should be split.");
  const texts = [lowText, highText, ...(upperText.trim() ? [upperText] : [])];
  const [low, high, upper = null] = texts.map(readHz);
  const odd = texts.find((text) => readHz(text) === null);
  if (odd !== undefined || low == null || high == null)
    return unplanned(`“${(odd ?? "").trim()}” is no frequency from 10 Hz to 40 kHz. Type 300, or 1.2 kHz.`);
  if (upper !== null && low !== high)
    return unplanned("Of three bands the lowest ends where the middle one begins: type one frequency for both.");
  if (upper !== null && upper <= low)
    return unplanned("The highest band begins above the lowest: type a higher frequency for it.");
  const output = commonOutput(doc, [channelId]);
  const name = channel.name || "Channel";
  const filters: readonly (readonly BandFilter[])[] =
    upper === null
      ? [[{ pass: "low-pass", frequencyHz: low }], [{ pass: "high-pass", frequencyHz: high }]]
      : threeBands(low, upper);
  const words = upper === null ? ["low", "high"] : ["low", "mid", "high"];
  const colour = dyeOf(doc, [channelId]);
  const bands = filters.map((own, at) => ({ id: ids<ChannelId>("bus"), name: `${name} ${words[at]}`, filters: own }));
  return planned(
    [
      {
        kind: "channels.add",
        channels: bands.map((band) => ({ kind: "bus", id: band.id, name: band.name, colour, output })),
        feedIds: [],
      },
      {
        kind: "entries.add",
        entries: {
          processors: bands.flatMap(({ id, filters: own }) =>
            own.map(
              (filter) =>
                newProcessor("filter", {
                  ...filter,
                  id: ids<ChainProcessorId>("processor"),
                  channelId: id,
                  slopeDb: 24,
                  crossover: true,
                }) as never,
            ),
          ),
        },
      },
      { kind: "entries.set", table: "channels", ids: [channelId], set: { output: { kind: "nowhere" } } },
      {
        kind: "sends.add",
        sends: bands.map(({ id }) => ({ id: ids<SendId>("send"), fromId: channelId, toId: id, levelDb: dB(0) })),
      },
    ],
    `Split ${name} in ${upper === null ? "two" : "three"} bands`,
  );
};

interface Throw {
  readonly channelIds: readonly ChannelId[];
  readonly returnId: ChannelId;
  readonly ids: IdSource;
}

/** Lets channels reach a return only: no dry sound, for words or notes that should ring out. */
export const throwTo = (doc: Template, { channelIds, returnId, ids }: Throw): Planned => {
  const fromIds = passing(doc, channelIds);
  if (!fromIds.length) return unplanned("Select one or more tracks first.");
  const there = doc.channels[returnId];
  if (there?.kind !== "return") return unplanned("The return that it should ring in is no longer there.");
  return planned(
    [
      { kind: "entries.set", table: "channels", ids: fromIds, set: { output: { kind: "nowhere" } } },
      {
        kind: "sends.add",
        sends: fromIds.map((fromId) => ({ id: ids<SendId>("send"), fromId, toId: there.id, levelDb: dB(0) })),
      },
    ],
    `Throw ${countChannels(doc, fromIds)} into ${there.name}`,
  );
};

interface ReAmp {
  readonly trackId: ChannelId;
  readonly outputText: string;
  readonly levelText: string;
  readonly inputText: string;
  readonly ids: IdSource;
}

/**
 * The level at which a line output plays a channel of so many dBFS, in dBu; null where the rig does not say its level
 * at full scale.
 */
export const playedDbu = (
  rig: Rig,
  portIds: readonly string[],
  levelDb: number,
  channelDbfs: number,
): number | null => {
  const fullScale = hardwareOutputs(rig).find(({ id }) => portIds.includes(id))?.fullScaleDbu;
  return fullScale === undefined || fullScale === null ? null : fullScale + channelDbfs + levelDb;
};

/**
 * Sends a recorded track out to an amplifier at a set level and records it again on a new track through an input. No
 * loop can come of it: the bus out goes to outputs only.
 */
export const reAmp = (doc: Template, rig: Rig, { trackId, outputText, levelText, inputText, ids }: ReAmp): Planned => {
  const track = trackOf(doc, trackId);
  if (!track) return unplanned("Select the track that should be played out.");
  const output = readHardware(rig, outputText);
  if (!output) return unplanned(`“${outputText.trim()}” is no output of ${rig.name}.`);
  const level = readDecibels(levelText.trim() || "0", { min: -120, max: 12 });
  if (!level || level.db === null) return unplanned(`“${levelText.trim()}” is no level from −120 to +12 dB.`);
  const input = inputText.trim() ? findRigInput(rig, inputText.trim()) : null;
  if (inputText.trim() && !input) return unplanned(`${rig.name} has no input ${inputText.trim()}.`);
  const [busId, newId, lineId] = [ids<ChannelId>("bus"), ids<ChannelId>("track"), ids<LineId>("line")];
  const name = track.name || "Track";
  const line = newLine({ id: lineId, source: `${name} amplifier`, portId: input?.port.id ?? null });
  const again: NewTrack = {
    id: newId,
    name: `${name} amplified`,
    note: "",
    colour: track.colour,
    icon: track.icon,
    input: { kind: "line", lineId },
    sharing: null,
    output: track.output,
  };
  const before = after(doc, track);
  return planned(
    [
      {
        kind: "channels.add",
        channels: [
          {
            kind: "bus",
            id: busId,
            name: `${name} to amplifier`,
            layout: output.portIds.length > 1 ? "stereo" : "mono",
            output,
          },
        ],
        feedIds: [],
      },
      {
        kind: "sends.add",
        sends: [{ id: ids<SendId>("send"), fromId: trackId, toId: busId, levelDb: level.db, tap: "before" }],
      },
      { kind: "tracks.add", tracks: [again], lines: [line], folderId: track.folderId, before },
    ],
    `Play ${name} through an amplifier at ${formatDb(level.db)} and record it again`,
  );
};
