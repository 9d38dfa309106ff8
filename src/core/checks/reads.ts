import type { Template } from "../model/template";

/** Tables of a template. */
export type TableName = {
  [K in keyof Template]: K extends "accepted"
    ? never
    : Template[K] extends Readonly<Record<string, { readonly id: string }>>
      ? K
      : never;
}[keyof Template];

/**
 * Fields of a table by what it holds. `id` stands for which entries there are, and every reading of a table is one of
 * that.
 */
type FieldOf<K extends TableName> =
  Template[K] extends Readonly<Record<string, infer T>> ? (T extends unknown ? keyof T & string : never) : never;

/**
 * What a rule reads of a template: a field of a table, or one of the document. Names of channels, cues, folders and
 * passes are put in when all is said, and are read only by rules that are about names; `channels.said` is what a name
 * gives away of what is played.
 */
export type Read =
  | { [K in TableName]: `${K}.${FieldOf<K>}` }[TableName]
  | `${TableName}.*`
  | "channels.said"
  | Exclude<keyof Template & string, TableName>;

/** Tracks in their order, with what they take. */
export const TRACKS = ["channels.kind", "channels.input", "channels.order"] as const satisfies readonly Read[];
/** What leads where. */
export const ROUTING = [
  "channels.kind",
  "channels.input",
  "channels.output",
  "channels.parked",
  "processors.channelId",
  "sends.fromId",
  "sends.toId",
  "sideChains.fromId",
  "sideChains.processorId",
] as const satisfies readonly Read[];
/** Which tracks are armed together. */
export const ARMED = [
  ...TRACKS,
  "channels.parked",
  "channels.sharing",
  "passes.order",
  "passes.running",
  "passes.trackIds",
] as const satisfies readonly Read[];
/** What plugs where. */
export const PLACES = [
  ...TRACKS,
  "channels.said",
  "lines.microphone",
  "lines.phantom",
  "lines.portId",
  "lines.requestedInput",
  "format",
] as const satisfies readonly Read[];
export const SENT = [
  "sends.fromId",
  "sends.levelDb",
  "sends.on",
  "sends.tap",
  "sends.toId",
] as const satisfies readonly Read[];
/** How loud and how wide what leaves a channel is: faders, control faders, mutes, pans, sends. */
export const MIXED = [
  ...ROUTING,
  ...ARMED,
  ...SENT,
  "sends.pan",
  "channels.controlIds",
  "channels.faderDb",
  "channels.fold",
  "channels.layout",
  "channels.liveApart",
  "channels.liveDb",
  "channels.monitor",
  "channels.muted",
  "channels.pan",
  "channels.polarityTurned",
  "channels.trimDb",
  "controls.faderDb",
  "controls.muted",
  "controls.parentId",
  "format",
  "mix",
] as const satisfies readonly Read[];
/** What chains do to a level without acting. */
export const CHAINS = [
  "processors.branch",
  "processors.bypassed",
  "processors.channelId",
  "processors.firstDb",
  "processors.gainDb",
  "processors.kind",
  "processors.makeUpDb",
  "processors.order",
  "processors.secondDb",
  "processors.splitId",
  "processors.turned",
  "processors.use",
  "processors.wetPercent",
  "buffers",
] as const satisfies readonly Read[];
/** How late chains are. */
export const DELAYS = [
  "processors.branch",
  "processors.bypassed",
  "processors.channelId",
  "processors.delayDoubleSamples",
  "processors.delayQuadrupleSamples",
  "processors.delaySamples",
  "processors.kind",
  "processors.lookaheadMs",
  "processors.order",
  "processors.returnPortIds",
  "processors.sendPortIds",
  "processors.splitId",
  "processors.use",
  "buffers",
  "format",
] as const satisfies readonly Read[];
/** What is in cues, and who hears them where. */
export const HEARD = [
  "cueLevels.cueId",
  "cueLevels.levelDb",
  "cueLevels.on",
  "cueLevels.pan",
  "cueLevels.sourceId",
  "cueLevels.tap",
  "cues.mixedIn",
  "cues.order",
  "cues.people",
  "cues.portIds",
] as const satisfies readonly Read[];
/** What everybody hears of themself, and how late that may be. */
export const HEARING = [
  ...MIXED,
  ...CHAINS,
  ...DELAYS,
  ...HEARD,
  "channels.icon",
  "channels.said",
  "lines.player",
  "lines.portId",
  "lines.source",
] as const satisfies readonly Read[];
/** What lines give: the gain plan. */
export const GAINS = [
  ...TRACKS,
  "channels.icon",
  "channels.said",
  "levels",
  "lines.crestDb",
  "lines.distanceM",
  "lines.gainDb",
  "lines.loudnessDb",
  "lines.microphone",
  "lines.pad",
  "lines.portId",
  "lines.room",
  "lines.source",
] as const satisfies readonly Read[];
/** How loud it is everywhere. */
export const LEVELS = [
  ...MIXED,
  ...CHAINS,
  ...HEARD,
  ...GAINS,
  "channels.sourceDb",
  "cues.levelDb",
] as const satisfies readonly Read[];
/** Processors that stand out, of channels in use. */
export const REMARKABLE = [
  "processors.bypassed",
  "processors.channelId",
  "processors.installed",
  "processors.kind",
  "processors.listens",
  "processors.name",
  "processors.pass",
  "processors.steering",
] as const satisfies readonly Read[];
