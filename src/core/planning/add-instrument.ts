import type { ChannelId, IdSource } from "../model/ids";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import type { NewTrack } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

/** The most outputs that get a track at once. */
const MOST = 64;

interface NewInstrument {
  readonly name: string;
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
  entriesOf(rig.midiPorts).flatMap(({ id, direction, name, number }) => (direction === "in" ? [{ id, label: name || `MIDI in ${number}` }] : []));

/** An instrument and a track for each of its outputs that are in use, in one act. It goes nowhere itself: its tracks are heard. */
export const addInstrument = ({ name, outputsText, usedText, midiPortId, midiChannelText, ids }: NewInstrument): Planned => {
  const called = name.trim();
  const outputs = Number(outputsText.trim() || 1);
  const channel = Number(midiChannelText.trim() || 0);
  if (!called) return unplanned("An instrument needs a name.");
  if (!Number.isInteger(outputs) || outputs < 1 || outputs > MOST) return unplanned(`“${outputsText.trim()}” is no number of outputs from 1 to ${MOST}.`);
  if (!Number.isInteger(channel) || channel < 0 || channel > 16) return unplanned(`“${midiChannelText.trim()}” is no MIDI channel from 1 to 16. Leave it empty for every channel.`);
  const used = readOutputs(usedText, outputs);
  if (!used) return unplanned(`“${usedText.trim()}” names no outputs of 1 to ${outputs}. Type 1-4, 7 or leave it empty for all.`);
  const instrumentId = ids<ChannelId>("instrument");
  const tracks = used.map(
    (output): NewTrack => ({
      id: ids<ChannelId>("track"),
      name: used.length === 1 ? called : `${called} ${output}`,
      note: "",
      colour: "indigo",
      icon: null,
      input: { kind: "instrument", instrumentId, output },
      sharing: null,
    }),
  );
  return planned(
    [
      {
        kind: "channels.add",
        channels: [
          {
            kind: "instrument",
            id: instrumentId,
            name: used.length === 1 ? `${called} instrument` : called,
            midiPortId,
            midiChannel: channel,
            outputs,
            output: { kind: "nowhere" },
          },
        ],
        feedIds: [],
      },
      { kind: "tracks.add", tracks, lines: [], folderId: null, before: null },
    ],
    `Add the instrument ${called} with ${tracks.length === 1 ? "a track" : `${tracks.length} tracks`}`,
  );
};
