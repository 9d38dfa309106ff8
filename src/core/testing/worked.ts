import type { ChannelId, SendId } from "../model/ids";
import { newProcessor } from "../model/tables/chain-processors";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { dB } from "../units/decibels";
import { aTemplate } from "./a-template";

const id = (name: string) => name as ChannelId;

const late = (channel: string, delaySamples: number): Edit => ({
  kind: "entries.add",
  entries: {
    processors: [
      newProcessor("other", { id: `on-${channel}` as never, channelId: id(channel), delaySamples }) as never,
    ],
  },
});

/**
 * How the template that is worked through in the calculations is mixed: Lead and Second into Voices, Fiddle into
 * Strings, a plate that two are sent to.
 */
const MIX: readonly Edit[] = [
  {
    kind: "channels.add",
    channels: [{ kind: "bus", id: id("voices"), name: "Voices" }],
    feedIds: [id("track-1"), id("track-2")],
  },
  {
    kind: "channels.add",
    channels: [{ kind: "bus", id: id("strings"), name: "Strings", faderDb: dB(-2) }],
    feedIds: [id("track-3")],
  },
  {
    kind: "channels.add",
    channels: [
      {
        kind: "return",
        id: id("plate"),
        name: "Plate",
        faderDb: dB(-6),
        output: { kind: "channel", channelId: id("voices") },
      },
    ],
    feedIds: [],
  },
  { kind: "entries.set", table: "channels", ids: [id("track-1")], set: { faderDb: dB(-4.5) } },
  { kind: "entries.set", table: "channels", ids: [id("track-2")], set: { faderDb: dB(-6), pan: 25 } },
  { kind: "entries.set", table: "channels", ids: [id("track-3")], set: { faderDb: dB(-3), pan: -50, trimDb: dB(-2) } },
  {
    kind: "sends.add",
    sends: [{ id: "lead" as SendId, fromId: id("track-1"), toId: id("plate"), levelDb: dB(-12), tap: "before" }],
  },
  {
    kind: "sends.add",
    sends: [{ id: "fiddle" as SendId, fromId: id("track-3"), toId: id("plate"), levelDb: dB(-10), tap: "after" }],
  },
  { kind: "entries.set", table: "lines", ids: ["line-1", "line-2", "line-3"] as never, set: { crestDb: 14 } },
];

/** The chains of the worked template. */
const CHAINS: readonly Edit[] = [late("track-1", 48), late("track-3", 64), late("voices", 96)];

/** The worked template, and what a test does to it besides. */
export const workedMix = (...more: readonly Edit[]): Template => {
  const builder = aTemplate()
    .track("Lead", { input: "1", player: "Ilse Varga" })
    .track("Second", { input: "2" })
    .track("Fiddle", { input: "3" });
  return [...MIX, ...CHAINS, ...more].reduce((made, edit) => made.does(edit), builder).build();
};
