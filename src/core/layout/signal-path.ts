import type { ChannelId } from "../model/ids";
import { rigInputCaption, rigInputInWords, rigInputOf } from "../model/read-rig";
import { isParked, linesOfTrack, microphoneName } from "../model/read-template";
import type { Rig } from "../model/rig";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Channel, Instrument, Track } from "../model/tables/channels";
import { processorName } from "../model/tables/processor-names";
import type { Send } from "../model/tables/sends";
import type { Template } from "../model/template";
import { foldedInWords } from "../queries/layouts";
import { outputsInWords } from "../queries/outputs";
import { isThrow } from "../queries/sends";
import { graphOf, intoOf, outOf, sendOf, type Thread } from "../routing/graph";
import { arrivalsOf, heldBack } from "../timing/arrivals";
import { counted } from "../units/counted";
import { formatLevel } from "../units/decibels";
import { formatMs, samplesToMs } from "../units/milliseconds";
import { panText } from "../units/pan";

import { chainInWords } from "./chain-words";

export interface WayStep {
  readonly title: string;
  readonly detail: string;
  /** The channel it is about; none for inputs and outputs of the interface. */
  readonly channelId?: ChannelId;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const nameOf = ({ name, kind }: Channel): string => name || `A ${kind} without a name`;

/** A send in words: "−12 dB, before the fader". */
export const sendInWords = ({ levelDb, tap, on }: Send): string =>
  `${formatLevel(levelDb)}, ${tap} the fader${on ? "" : ", off"}`;

/** What of a channel is not as it begins, in words. */
const stateOf = (channel: Channel): readonly string[] => [
  ...(channel.trimDb ? [`trimmed by ${formatLevel(channel.trimDb)}`] : []),
  ...(channel.polarityTurned ? ["polarity inverted"] : []),
  ...(channel.kind !== "main" && channel.pan ? [`panned ${panText(channel.pan)}`] : []),
  ...(channel.faderDb === 0 ? [] : [`fader at ${formatLevel(channel.faderDb)}`]),
  ...(channel.kind !== "main" && channel.muted ? ["muted"] : []),
  ...(isParked(channel) ? ["parked"] : []),
];

/**
 * By how much a way is held back so that it meets the latest that comes there, in words; nothing where it is the
 * latest.
 */
const heldInWords = (doc: Template, rig: Rig, { from, to }: Pick<Thread, "from" | "to">): readonly string[] => {
  const samples = isParked(doc.channels[from]) ? 0 : heldBack(arrivalsOf(doc, rig), from, to);
  return samples > 0
    ? [`held back by ${samples} samples, ${formatMs(samplesToMs(samples, doc.format.sampleRateHz))}`]
    : [];
};

const sentOn = (doc: Template, rig: Rig, channel: Channel): readonly WayStep[] =>
  outOf(graphOf(doc), channel.id).flatMap((thread): WayStep[] => {
    const [send, target] = [sendOf(doc, thread), doc.channels[thread.to]];
    if (thread.kind === "input" && target)
      return [{ title: `Recorded on ${nameOf(target)}`, detail: stateOf(target).join(", "), channelId: target.id }];
    const silent = send && channel.kind !== "main" && channel.muted && (send.tap === "after" || doc.mix.mutesBefore);
    const detail = send
      ? [sendInWords(send), ...(silent ? ["silenced by the mute"] : []), ...heldInWords(doc, rig, thread)].join(", ")
      : "";
    return send && target ? [{ title: `${nameOf(target)} by a send`, detail, channelId: target.id }] : [];
  });

const summedIn = (doc: Template, rig: Rig, bus: Channel): WayStep => {
  const into = intoOf(graphOf(doc), bus.id);
  const sends = into.filter(({ kind }) => kind === "send").length;
  const sums = into.length - sends;
  const fed = [...(sums ? [`sums ${sums}`] : []), ...(sends ? [`takes ${counted(sends, "send")}`] : [])];
  const samples = arrivalsOf(doc, rig).at.get(bus.id) ?? 0;
  const late = samples
    ? [`reached after ${samples} samples, ${formatMs(samplesToMs(samples, doc.format.sampleRateHz))}`]
    : [];
  return {
    title: nameOf(bus),
    detail: [...stateOf(bus), ...fed, ...late].join(", ") || "nothing feeds it",
    channelId: bus.id,
  };
};

/** What becomes of what goes nowhere. */
const NOWHERE: Partial<Record<Channel["kind"], string>> = {
  track: "it is recorded, and not heard",
  instrument: "its tracks are heard",
};

/** Where the sound of a channel leads, step by step, to the last. It comes to an end, as no edit leaves a loop. */
const onward = (doc: Template, rig: Rig, channel: Channel): readonly WayStep[] => {
  const { output } = channel;
  const sends = sentOn(doc, rig, channel);
  if (output.kind === "nowhere")
    return [
      ...sends,
      {
        title: "Nowhere",
        detail:
          channel.kind === "track" && isThrow(doc, channel)
            ? "thrown: heard only in what it is sent to"
            : (NOWHERE[channel.kind] ?? "it ends here"),
      },
    ];
  if (output.kind === "hardware")
    return [...sends, { title: outputsInWords(rig, output.portIds), detail: "out of the interface" }];
  const bus = doc.channels[output.channelId];
  if (!bus) return sends;
  const sum = summedIn(doc, rig, bus);
  const folded = foldedInWords(doc, channel, bus);
  const detail = [
    sum.detail,
    ...(folded ? [folded] : []),
    ...heldInWords(doc, rig, { from: channel.id, to: bus.id }),
  ].join("; ");
  return [...sends, { ...sum, detail }, ...onward(doc, rig, bus)];
};

const plugs = (doc: Template, rig: Rig, track: Track): readonly WayStep[] =>
  linesOfTrack(doc, track).map((line): WayStep => {
    const rigInput = rigInputOf(rig, line.portId);
    const microphone = microphoneName(rig, line.microphone) || "No microphone chosen";
    if (!rigInput)
      return {
        title: line.requestedInput ? `Input ${line.requestedInput}` : "No input",
        detail: `${microphone}; not plugged in`,
      };
    return {
      title: capital(rigInputInWords(rigInput)),
      detail: `${microphone}${rigInput.fedBy ? `, ${rigInputCaption(rigInput)}` : ""}${line.phantom ? ", 48 V" : ""}`,
    };
  });

const recordsInWords = ({ input, recordPoint }: Track): string => {
  const point = recordPoint === "after" ? " after its chain" : "";
  if (input.kind === "bus") return `records its bus here${point}`;
  if (input.kind === "instrument") return `records output ${input.output} here${point}`;
  if (input.kind === "pair") return `records here${point}, stereo`;
  return inputLineIds(input).length ? `records here${point}` : "records nothing yet";
};

const itself = (doc: Template, rig: Rig, channel: Channel): WayStep => {
  if (channel.kind === "instrument")
    return {
      title: nameOf(channel),
      detail: [counted(channel.outputs, "stereo output"), ...stateOf(channel)].join(", "),
      channelId: channel.id,
    };
  if (channel.kind === "reference")
    return {
      title: nameOf(channel),
      detail: [channel.file || "no file named yet", ...stateOf(channel)].join(", "),
      channelId: channel.id,
    };
  if (channel.kind === "click")
    return {
      title: nameOf(channel),
      detail: [`${channel.tempoBpm} beats a minute`, ...stateOf(channel)].join(", "),
      channelId: channel.id,
    };
  if (channel.kind === "talkback")
    return {
      title: nameOf(channel),
      detail: ["from the control room", ...stateOf(channel)].join(", "),
      channelId: channel.id,
    };
  if (channel.kind !== "track") return summedIn(doc, rig, channel);
  return {
    title: nameOf(channel),
    detail: [recordsInWords(channel), ...stateOf(channel)].join(", "),
    channelId: channel.id,
  };
};

/** What a bus gathers that a track records. */
const gathered = (doc: Template, rig: Rig, track: Track): readonly WayStep[] => {
  const { input } = track;
  if (input.kind === "instrument") {
    const instrument = doc.channels[input.instrumentId];
    return instrument?.kind === "instrument"
      ? [
          ...playedBy(rig, instrument),
          { title: nameOf(instrument), detail: `output ${input.output}`, channelId: instrument.id },
        ]
      : [];
  }
  const bus = input.kind === "bus" ? doc.channels[input.busId] : undefined;
  return bus ? [summedIn(doc, rig, bus)] : [];
};

/** What plays an instrument. */
export const playedBy = (rig: Rig, { midiPortId, midiChannel }: Instrument): readonly [WayStep] => {
  const port = midiPortId === null ? undefined : rig.midiPorts[midiPortId as never];
  if (!port)
    return [
      {
        title: "Played by nothing",
        detail: midiPortId === null ? "on no MIDI port" : "on a MIDI port that this rig does not have",
      },
    ];
  return [
    { title: port.name || `MIDI in ${port.number}`, detail: midiChannel ? `channel ${midiChannel}` : "every channel" },
  ];
};

/** What the sound passes in a channel, one after the other, and what steers it there. */
const passed = (doc: Template, channel: Channel): readonly WayStep[] =>
  chainInWords(doc, channel.id).map(({ title, detail }) => ({ title, detail, channelId: channel.id }));

/** Processors of others that a channel steers. */
const steered = (doc: Template, { id }: Channel): readonly WayStep[] =>
  graphOf(doc).steers.flatMap((steer) => {
    const [processor, target] = [doc.processors[steer.processorId], doc.channels[steer.to]];
    return steer.from === id && processor && target
      ? [
          {
            title: `Steers ${nameOf(target)}`,
            detail: `its ${processorName(processor).toLowerCase()}`,
            channelId: target.id,
          },
        ]
      : [];
  });

/** The way of a signal in words, from what is plugged in to where it is heard. */
export const wayOf = (doc: Template, rig: Rig, channel: Channel): readonly WayStep[] => [
  ...(channel.kind === "instrument" ? playedBy(rig, channel) : []),
  ...(channel.kind === "track" ? [...gathered(doc, rig, channel), ...plugs(doc, rig, channel)] : []),
  itself(doc, rig, channel),
  ...passed(doc, channel),
  ...steered(doc, channel),
  ...onward(doc, rig, channel),
];

const fromInWords = (doc: Template, rig: Rig, thread: Thread): WayStep => {
  const { from } = thread;
  const [send, channel] = [sendOf(doc, thread), doc.channels[from]];
  const way = send ? [`by a send, ${sendInWords(send)}`] : channel ? stateOf(channel) : [];
  return {
    title: channel ? nameOf(channel) : from,
    detail: [...way, ...heldInWords(doc, rig, thread)].join(", "),
    channelId: from,
  };
};

/** What feeds a channel: what is routed to it, then what is sent to it. */
export const feedsOf = (doc: Template, rig: Rig, id: ChannelId): readonly WayStep[] => {
  const into = intoOf(graphOf(doc), id);
  return [...into.filter(({ kind }) => kind === "output"), ...into.filter(({ kind }) => kind === "send")].map(
    (thread) => fromInWords(doc, rig, thread),
  );
};

/** One way from a channel to another in words: "Fiddle → Strings → Main", with "by a send" where it is one. */
export const pathInWords = (doc: Template, from: ChannelId, path: readonly Thread[]): string => {
  const called = (id: ChannelId): string => {
    const channel = doc.channels[id];
    return channel ? nameOf(channel) : id;
  };
  const step = (thread: Thread): string => {
    const send = sendOf(doc, thread);
    if (thread.kind === "input") return ` → (recorded on) ${called(thread.to)}`;
    return ` → ${send ? `(by a send at ${sendInWords(send)}) ` : ""}${called(thread.to)}`;
  };
  return `${called(from)}${path.map(step).join("")}`;
};
