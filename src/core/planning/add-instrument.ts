import { plain } from "../model/families";
import type { ChannelId, FolderId, IdSource } from "../model/ids";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { Template } from "../model/template";
import { readOutput } from "../queries/outputs";
import { counted } from "../units/counted";
import type { NewTrack } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

/** The most outputs that get a track at once. */
const MOST = 64;

/** The most instruments that are added at once. */
const MOST_INSTRUMENTS = 16;

interface NewInstrument {
  /** One, or several parted by commas: all of them are as the rest says. */
  readonly name: string;
  /** The folder that their tracks come into; one that is not there is made. */
  readonly folderText?: string;
  /** Where their tracks go; empty: where the folder goes. */
  readonly outputText?: string;
  /** How many stereo outputs it has. */
  readonly outputsText: string;
  /** Which of them get a track, as "1, 2, 5" or "1-4"; empty: all. */
  readonly usedText: string;
  readonly midiPortId: string | null;
  readonly midiChannelText: string;
  readonly ids: IdSource;
}

/** Outputs as they are typed: "1-4, 7". Null when it can't be read, or names one that is not there. */
export const readOutputs = (text: string, outputs: number): readonly number[] | null => {
  if (!text.trim()) return Array.from({ length: outputs }, (_, at) => at + 1);
  const found = new Set<number>();
  for (const part of text.split(",", MOST + 1)) {
    const [from = Number.NaN, to = from] = part.split(/[-–]/, 2).map((end) => Number(end.trim() || Number.NaN));
    if (!Number.isInteger(from) || !Number.isInteger(to) || from < 1 || to > outputs || from > to) return null;
    for (let at = from; at <= to; at++) found.add(at);
  }
  return [...found].sort((a, b) => a - b);
};

/** The MIDI ports of a rig on which something can be played, by name. */
export const midiChoices = (rig: Rig): readonly { readonly id: string; readonly label: string }[] =>
  entriesOf(rig.midiPorts).flatMap(({ id, direction, name, number }) =>
    direction === "in" ? [{ id, label: name || `MIDI in ${number}` }] : [],
  );

interface Numbers {
  readonly outputs: number;
  readonly channel: number;
  readonly used: readonly number[];
}

const numbersOf = ({ outputsText, usedText, midiChannelText }: NewInstrument): Numbers | string => {
  const outputs = Number(outputsText.trim() || 1);
  const channel = Number(midiChannelText.trim() || 0);
  if (!Number.isInteger(outputs) || outputs < 1 || outputs > MOST)
    return `“${outputsText.trim()}” is no number of outputs from 1 to ${MOST}.`;
  if (!Number.isInteger(channel) || channel < 0 || channel > 16)
    return `“${midiChannelText.trim()}” is no MIDI channel from 1 to 16. Leave it empty for every channel.`;
  const used = readOutputs(usedText, outputs);
  return used
    ? { outputs, channel, used }
    : `“${usedText.trim()}” names no outputs of 1 to ${outputs}. Type 1-4, 7 or leave it empty for all.`;
};

/**
 * Where tracks of instruments come to: a folder that is there or is made, and an output of their own where one is
 * named.
 */
const placeFor = (doc: Template, rig: Rig, { folderText = "", outputText = "", ids }: NewInstrument) => {
  const wanted = folderText.trim();
  const there = wanted ? entriesOf(doc.folders).find(({ name }) => plain(name) === plain(wanted)) : undefined;
  const made = wanted && !there ? ids<FolderId>("folder") : null;
  const output = outputText.trim() ? readOutput(doc, rig, outputText) : undefined;
  return {
    folderId: there?.id ?? made,
    output,
    edits: made
      ? [{ kind: "entries.add", entries: { folders: [{ id: made, name: wanted, colour: null }] } } as const]
      : [],
  };
};

/**
 * Instruments and a track for each of their outputs that are in use, in one act. They go nowhere themselves: their
 * tracks are heard.
 */
export const addInstrument = (doc: Template, rig: Rig, asked: NewInstrument): Planned => {
  const { name, midiPortId, ids } = asked;
  const names = name
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);
  if (!names.length) return unplanned("An instrument needs a name.");
  if (names.length > MOST_INSTRUMENTS)
    return unplanned(`${names.length} instruments are too many at once; up to ${MOST_INSTRUMENTS} can be added.`);
  const numbers = numbersOf(asked);
  if (typeof numbers === "string") return unplanned(numbers);
  const { outputs, channel, used } = numbers;
  const { folderId, output, edits } = placeFor(doc, rig, asked);
  if (output === null)
    return unplanned(
      `There is no bus and no output ${asked.outputText?.trim()}. Type one that is there, or nothing for where the folder goes.`,
    );
  const made = names.map((called) => {
    const instrumentId = ids<ChannelId>("instrument");
    const tracks = used.map(
      (number): NewTrack => ({
        id: ids<ChannelId>("track"),
        name: used.length === 1 ? called : `${called} ${number}`,
        note: "",
        colour: "indigo",
        icon: null,
        input: { kind: "instrument", instrumentId, output: number },
        sharing: null,
        ...(output ? { output } : {}),
      }),
    );
    const instrument = {
      kind: "instrument" as const,
      id: instrumentId,
      name: used.length === 1 ? `${called} instrument` : called,
      midiPortId,
      midiChannel: channel,
      outputs,
      output: { kind: "nowhere" as const },
    };
    return { instrument, tracks };
  });
  const tracks = made.flatMap((one) => one.tracks);
  return planned(
    [
      ...edits,
      { kind: "channels.add", channels: made.map(({ instrument }) => instrument), feedIds: [] },
      { kind: "tracks.add", tracks, lines: [], folderId, before: null },
    ],
    `Add ${names.length === 1 ? `the instrument ${names[0]}` : counted(names.length, "instrument")} with ${tracks.length === 1 ? "a track" : `${tracks.length} tracks`}`,
  );
};
