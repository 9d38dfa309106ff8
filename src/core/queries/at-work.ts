import { isParked } from "../model/read-template";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel, Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { controlledBy } from "./controls";
import { armedOf, passesOf } from "./cues";

/** For what a figure is asked: while a take runs, when all of it is mixed, or for a copy to listen to. */
export const ASKED = ["recording", "mixing", "listening-copy"] as const;
export type Asked = (typeof ASKED)[number];

/**
 * Whether a processor works then: not bypassed, meant to be on, and while recording not switched off with all effects.
 */
export const worksWhen = (
  { buffers }: Pick<Template, "buffers">,
  { bypassed, use }: Pick<Processor, "bypassed" | "use">,
  asked: Asked,
): boolean => {
  if (bypassed || (use === "listening-copy" && asked !== "listening-copy")) return false;
  return asked === "recording" ? use === "always" && !buffers.allOff : true;
};

/** Whether a processor works while a take runs. */
export const isWorking = (doc: Pick<Template, "buffers">, processor: Pick<Processor, "bypassed" | "use">): boolean =>
  worksWhen(doc, processor, "recording");

/**
 * Whether a track records now, as against being played back: armed by the pass that runs; where there are no passes
 * every track does.
 */
export const isRecording = (doc: Pick<Template, "channels" | "passes">, track: Track): boolean =>
  !passesOf(doc).length || armedOf(doc).has(track.id);

/** How a track that records is heard; null of what plays back, and of what is no track. */
export const monitorOf = (doc: Pick<Template, "channels" | "passes">, channel: Channel): Track["monitor"] | null =>
  channel.kind === "track" && channel.input.kind !== "none" && isRecording(doc, channel) ? channel.monitor : null;

type Faded = Pick<Template, "channels" | "controls" | "passes">;

/**
 * Where the fader of a channel stands, control faders added; null for silence, and where it is muted. While it records
 * a track may have a level of its own.
 */
export const faderDbWhen = (doc: Faded, channel: Channel, asked: Asked): number | null => {
  const controlled = controlledBy(doc, channel);
  const live = asked === "recording" && channel.kind === "track" && channel.liveApart && isRecording(doc, channel);
  const own = live ? channel.liveDb : channel.faderDb;
  if (own === null || controlled.db === null || controlled.muted || (channel.kind !== "main" && channel.muted))
    return null;
  return own + controlled.db;
};

/** Whether what leaves a channel before its fader is silent as well: the template says that a mute reaches so far. */
export const isSilenced = (doc: Pick<Template, "mix" | "controls">, channel: Channel): boolean =>
  doc.mix.mutesBefore && channel.kind !== "main" && (channel.muted || controlledBy(doc, channel).muted);

/**
 * Whether the computer lets anything of a channel be heard past its fader: what is monitored direct, or not at all, is
 * silent there while it records.
 */
export const passesComputer = (doc: Pick<Template, "channels" | "passes">, channel: Channel, asked: Asked): boolean => {
  if (asked !== "recording") return true;
  const monitor = monitorOf(doc, channel);
  return monitor === null || monitor === "computer";
};

export const sounds = (channel: Channel | undefined): channel is Channel => channel !== undefined && !isParked(channel);
