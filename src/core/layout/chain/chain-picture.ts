import type { ChainProcessorId, ChannelId, SendId } from "../../model/ids";
import { rigInputCaption, rigInputInWords, rigInputOf } from "../../model/read-rig";
import { linesOfTrack, microphoneName } from "../../model/read-template";
import type { Rig } from "../../model/rig";
import type { Processor } from "../../model/tables/chain-processors";
import type { Channel, Track } from "../../model/tables/channels";
import { processorName } from "../../model/tables/processor-names";
import type { Send } from "../../model/tables/sends";
import type { Template } from "../../model/template";
import { bandsOf, processorsOf, stepsOf } from "../../queries/chains";
import { outputText } from "../../queries/outputs";
import { sendsOf } from "../../queries/sends";
import { formatDb, formatLevel } from "../../units/decibels";
import { settingsInWords, stateInWords, steeredInWords } from "../chain-words";
import { playedBy, sendInWords } from "../signal-path";

/** What stands along the thread of a channel, from where it comes in to where it goes. */
export type ChainItem =
  | {
      readonly kind: "source";
      readonly id: string;
      readonly x: number;
      readonly title: string;
      readonly detail: string;
    }
  | { readonly kind: "record"; readonly id: string; readonly x: number; readonly detail: string }
  /** A place for a further processor: before one, or at the end. */
  | { readonly kind: "place"; readonly id: string; readonly x: number; readonly before: ChainProcessorId | null }
  | ProcessorItem
  | {
      readonly kind: "tap";
      readonly id: string;
      readonly x: number;
      readonly sendId: SendId;
      readonly title: string;
      readonly detail: string;
      readonly on: boolean;
      readonly toId: ChannelId;
    }
  | {
      readonly kind: "fader";
      readonly id: string;
      readonly x: number;
      readonly title: string;
      readonly detail: string;
      readonly share: number;
    }
  | {
      readonly kind: "end";
      readonly id: string;
      readonly x: number;
      readonly title: string;
      readonly toId: ChannelId | null;
    };

export interface ProcessorItem {
  readonly kind: "processor";
  readonly id: string;
  readonly x: number;
  /** −1 above the thread and 1 below it in a split; 0 on it. */
  readonly lane: -1 | 0 | 1;
  readonly processor: Processor;
  readonly title: string;
  /** The settings that say most. */
  readonly detail: string;
  /** When it does nothing, or only in part; empty where it does all it is set to. */
  readonly state: string;
  readonly steered: string;
  /** Does nothing while recording, or at all. */
  readonly pale: boolean;
}

/** A stretch in which the thread runs in two branches. */
export interface Parted {
  readonly from: number;
  readonly to: number;
}

export interface ChainPicture {
  readonly items: readonly ChainItem[];
  readonly parted: readonly Parted[];
  readonly width: number;
  /** The width of a processor's box. */
  readonly box: number;
}

const BOX = { most: 100, least: 68 } as const;
const GAP = 24;
/** What stands before and after the processors. */
const HEAD = { source: 86, record: 100 } as const;

interface Source {
  readonly title: string;
  readonly detail: string;
}

/** What a track takes: a bus, an output of an instrument, or its lines with what is between. */
const trackSource = (doc: Template, rig: Rig, track: Track): Source => {
  const { input } = track;
  if (input.kind === "instrument")
    return { title: doc.channels[input.instrumentId]?.name ?? "An instrument", detail: `output ${input.output}` };
  if (input.kind === "bus") return { title: doc.channels[input.busId]?.name ?? "A bus", detail: "what it sums" };
  const lines = linesOfTrack(doc, track);
  const [line] = lines;
  if (!line) return { title: "No line", detail: "takes nothing yet" };
  const rigInput = rigInputOf(rig, line.portId);
  const title = rigInput
    ? rigInputInWords(rigInput)
    : line.requestedInput
      ? `input ${line.requestedInput}`
      : "no input";
  const caption = rigInput?.fedBy ? rigInputCaption(rigInput) : "";
  const facts = [
    caption,
    ...(line.gainDb === null ? [] : [`+${formatDb(line.gainDb)}`.replace("+−", "−")]),
    ...(line.phantom ? ["48 V"] : []),
  ].filter(Boolean);
  return {
    title: `${title.charAt(0).toUpperCase()}${title.slice(1)}${lines.length > 1 ? ", stereo" : ""}`,
    detail: facts.join(" · ") || microphoneName(rig, line.microphone),
  };
};

/** Where the sound of a channel comes from. */
const sourceOf = (doc: Template, rig: Rig, channel: Channel): Source => {
  switch (channel.kind) {
    case "track":
      return trackSource(doc, rig, channel);
    case "instrument": {
      const [{ title, detail }] = playedBy(rig, channel);
      return { title, detail };
    }
    case "reference":
      return { title: channel.file || "No file", detail: "read in" };
    case "click":
      return { title: `${channel.tempoBpm} beats a minute`, detail: "made here" };
    case "talkback": {
      const rigInput = rigInputOf(rig, channel.portId);
      return { title: rigInput ? rigInputInWords(rigInput) : "Built in", detail: "the control room" };
    }
    case "return":
      return { title: "What is sent", detail: "" };
    case "bus":
    case "main":
      return { title: "What it sums", detail: "" };
    default:
      return channel satisfies never;
  }
};

const panned = (channel: Channel): string => {
  if (channel.kind === "main") return "";
  return channel.pan === 0 ? "pan centre" : `pan ${channel.pan < 0 ? "L" : "R"} ${Math.abs(channel.pan)}`;
};

/** How far along its way a fader stands: 0 at −∞, 1 at +12 dB; even in dB from −60 up. */
export const faderShare = (faderDb: number | null): number =>
  faderDb === null ? 0 : Math.min(1, Math.max(0, (faderDb + 60) / 72));

/**
 * The thread of a channel from left to right: where it comes in, the knot where it is recorded, its processors with
 * places between them, taps of its sends before and after the fader, the fader, and where it goes. A split runs in two
 * lanes. Boxes are narrower where there are many; what does not fit then is wider than the view. Linear in what is in
 * the chain.
 */
export const chainPicture = (
  doc: Template,
  rig: Rig,
  { channelId, width }: { readonly channelId: ChannelId; readonly width: number },
): ChainPicture | null => {
  const channel = doc.channels[channelId];
  if (!channel) return null;
  const steps = stepsOf(processorsOf(doc, channelId));
  const sends = sendsOf(doc, channelId);
  const taps = {
    before: sends.filter(({ tap }) => tap === "before"),
    after: sends.filter(({ tap }) => tap === "after"),
  };
  const isTrack = channel.kind === "track";
  const slots = steps.reduce((sum, { first, second }) => sum + 1 + Math.max(first.length, second.length), 0);
  const tail = sends.length * 78 + 252;
  const head = isTrack ? 234 : 152;
  const box = Math.max(BOX.least, Math.min(BOX.most, (width - head - tail) / Math.max(1, slots) - GAP));
  const items: ChainItem[] = [];
  const parted: Parted[] = [];
  let x = 34;
  items.push({ kind: "source", id: "source", x, ...sourceOf(doc, rig, channel) });
  x += HEAD.source;
  const knot = (detail: string): void => {
    items.push({ kind: "record", id: "record", x: x + 46, detail });
    x += HEAD.record;
  };
  if (isTrack && channel.recordPoint === "before") knot("before the chain");
  else x += 30;
  const place = (before: ChainProcessorId | null): void => {
    items.push({ kind: "place", id: `place ${before ?? "end"}`, x, before });
    x += GAP / 2;
  };
  const put = (processor: Processor, at: number, lane: -1 | 0 | 1): void => {
    items.push({
      kind: "processor",
      id: processor.id,
      x: at,
      lane,
      processor,
      title: processorName(processor),
      detail: settingsInWords(processor, bandsOf(doc, processor.id)),
      state: stateInWords(processor).join(", "),
      steered: steeredInWords(doc, processor),
      pale: processor.bypassed || processor.use !== "always",
    });
  };
  for (const { processor, first, second } of steps) {
    place(processor.id);
    const from = x;
    put(processor, x, 0);
    x += box + GAP / 2;
    if (processor.kind !== "split") continue;
    for (const [lane, branch] of [
      [-1, first],
      [1, second],
    ] as const)
      for (const [at, one] of branch.entries()) put(one, x + GAP + at * (box + GAP), lane);
    x += GAP + Math.max(0.6, Math.max(first.length, second.length)) * (box + GAP);
    parted.push({ from: from + box, to: x });
    x += GAP / 2;
  }
  place(null);
  if (isTrack && channel.recordPoint === "after") knot("after the chain");
  const tap = (send: Send): void => {
    x += 34;
    items.push({
      kind: "tap",
      id: send.id,
      x,
      sendId: send.id,
      title: doc.channels[send.toId]?.name ?? "",
      detail: sendInWords(send),
      on: send.on,
      toId: send.toId,
    });
    x += 44;
  };
  taps.before.forEach(tap);
  x += 22;
  items.push({
    kind: "fader",
    id: "fader",
    x,
    title: formatLevel(channel.faderDb),
    detail: [panned(channel), ...(channel.kind !== "main" && channel.muted ? ["muted"] : [])]
      .filter(Boolean)
      .join(", "),
    share: faderShare(channel.faderDb),
  });
  x += 90;
  taps.after.forEach(tap);
  x += 24;
  const { output } = channel;
  items.push({
    kind: "end",
    id: "end",
    x: Math.max(x, width - 110),
    title: outputText(doc, rig, output),
    toId: output.kind === "channel" ? output.channelId : null,
  });
  return { items, parted, width: Math.max(width, x + 110), box };
};
