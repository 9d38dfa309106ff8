import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import type { ChainProcessorId, ChannelId, LineId, SendId } from "../model/ids";
import type { Rig } from "../model/rig";
import { newProcessor, type Processor } from "../model/tables/chain-processors";
import type { ProcessorKind } from "../model/tables/processor-settings";
import type { Template } from "../model/template";
import type { ChannelChange, Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { BAND_CHECKS } from "./bands";
import { causeOf } from "./cause";
import { CHAIN_CHECKS } from "./chains";
import type { CheckContext, Finding } from "./finding";
import { CHECKS, evaluate } from "./index";
import { WOVEN_CHECKS } from "./woven";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const rig: Rig = {
  ...wheelhouseCart,
  processors: { "p-1": { id: "p-1", name: "House de-esser", version: "1.2", kind: "" } } as never,
};
const context = (doc: Template): CheckContext => ({ doc, rig, otherRigs: [] });
const look = (doc: Template): readonly Finding[] =>
  [...CHAIN_CHECKS, ...BAND_CHECKS, ...WOVEN_CHECKS].flatMap((rule) => rule.check(context(doc)));
const told = (doc: Template) => look(doc).map(({ message }) => message);
const put = (kind: ProcessorKind, channel: string, settings: object = {}, processorId = `p-${kind}`): Edit => ({
  kind: "entries.add",
  entries: {
    processors: [
      newProcessor(kind, {
        ...settings,
        id: processorId as ChainProcessorId,
        channelId: id(channel),
      } as never) as never,
    ],
  },
});
const set = (channel: string, change: ChannelChange): Edit => ({
  kind: "entries.set",
  table: "channels",
  ids: [id(channel)],
  set: change,
});
const steer = (from: string, processorId: string): Edit => ({
  kind: "sideChains.add",
  sideChains: [
    { id: `s-${from}` as never, fromId: id(from), processorId: processorId as never, lowHz: null, highHz: null },
  ],
});
const bus = (name: string, kind: "bus" | "return" = "bus"): Edit => ({
  kind: "channels.add",
  channels: [{ kind, id: id(name.toLowerCase()), name }],
  feedIds: [],
});
const send = (from: string, to: string): Edit => ({
  kind: "sends.add",
  sends: [{ id: `${from}-${to}` as SendId, fromId: id(from), toId: id(to), levelDb: 0 as never }],
});
const take = (track: string, busId: string): Edit => ({
  kind: "tracks.take",
  trackId: id(track),
  input: { kind: "bus", busId: id(busId) },
  lines: [],
});
const half = (channel: string, pass: "low-pass" | "high-pass", frequencyHz: number): Edit =>
  put("filter", channel, { pass, frequencyHz, slopeDb: 24, crossover: true }, `p-${channel}`);

const band = (...more: readonly Edit[]): Template =>
  done(
    aTemplate()
      .track("Fiddle", { input: "9" })
      .track("Above", { input: ["5", "6"] })
      .track("Voice", { input: "3" })
      .track("Spare")
      .trackOnLine("Voice again", "line-4")
      .build(),
    ...more,
  );

/** Every way that is offered clears what it is offered for, and brings nothing new of any check. */
const cleared = (doc: Template): void => {
  const before = CHECKS.flatMap((rule) => rule.check(context(doc))).map((finding) => finding.id);
  for (const { id: found, fixes } of look(doc)) {
    expect(fixes.length, found).toBeGreaterThan(0);
    for (const { edits, label } of fixes) {
      const left = CHECKS.flatMap((rule) => rule.check(context(done(doc, ...edits)))).map((finding) => finding.id);
      expect(left, label).not.toContain(found);
      expect(
        left.filter((one) => !before.includes(one)),
        label,
      ).toEqual([]);
    }
  }
};

const plate = [bus("Plate", "return"), send("track-1", "plate")];

describe("checks of chains and of what is woven", () => {
  it("have nothing to say of what is in order", () =>
    expect(told(band(...plate, put("reverb", "plate"), put("compressor", "track-1")))).toEqual([]));

  it.each<readonly [string, readonly Edit[], string]>([
    [
      "a return that is not fully wet",
      [...plate, put("reverb", "plate", { wetPercent: 60 })],
      "Reverb on the return Plate is 60 % wet, and what is sent there is heard dry as well: that is heard twice.",
    ],
    [
      "a processor that nothing steers",
      [put("compressor", "track-1", { listens: "others", name: "Ducking" })],
      "Ducking on Fiddle listens to what steers it, and nothing does.",
    ],
    [
      "a side-chain that is silent",
      [put("compressor", "track-1"), steer("track-3", "p-compressor"), set("track-3", { muted: true })],
      "Compressor on Fiddle is steered by Voice, of which nothing is heard now.",
    ],
    [
      "bands with a hole between them",
      [
        bus("Low"),
        bus("High"),
        send("track-1", "low"),
        send("track-1", "high"),
        half("low", "low-pass", 250),
        half("high", "high-pass", 350),
      ],
      "The bands of Fiddle do not meet: Low ends at 250 Hz and High begins at 350 Hz, which makes a hole of −4.4 dB at 295 Hz.",
    ],
    [
      "bands over one another",
      [
        bus("Low"),
        bus("High"),
        send("track-1", "low"),
        send("track-1", "high"),
        half("low", "low-pass", 350),
        half("high", "high-pass", 250),
      ],
      "The bands of Fiddle do not meet: Low ends at 350 Hz and High begins at 250 Hz, which makes a bump of 1.4 dB at 295 Hz.",
    ],
    [
      "one line heard twice",
      [{ kind: "entries.set", table: "channels", ids: [id("track-3"), id("track-5")], set: { sharing: "at-once" } }],
      "Voice and Voice again record the same line at once, and both are heard in Main.",
    ],
    [
      "a pair of which one side is turned over",
      [{ kind: "entries.set", table: "lines", ids: ["line-2" as LineId], set: { polarityInverted: true } }],
      "One side of Above is inverted and the other is not: what is in the centre cancels.",
    ],
    [
      "a processor that is not installed",
      [put("reverb", "track-1", { installed: "Mill plate", version: "1.4", from: "the folder of the house" })],
      "Mill plate 1.4, asked for by Fiddle, is not installed on Wheelhouse cart. Get it from the folder of the house.",
    ],
    [
      "a processor that is older than asked for",
      [put("de-esser", "track-1", { installed: "house de-esser", version: "1.10" })],
      "house de-esser 1.10, asked for by Fiddle, is there as 1.2 only.",
    ],
    [
      "what works on the main bus",
      [put("limiter", "main", { delaySamples: 48 })],
      "Limiter on Main is on while recording: everybody hears it, 48 samples late, and no track has it.",
    ],
    [
      "an effect that nobody uses",
      [
        ...plate,
        put("reverb", "plate"),
        { kind: "entries.set", table: "sends", ids: ["track-1-plate" as SendId], set: { on: false } },
      ],
      "Plate holds reverb, and all that is sent there is off.",
    ],
    [
      "a bus that is recorded twice",
      [
        bus("Mix"),
        send("track-1", "mix"),
        take("track-3", "mix"),
        take("track-4", "mix"),
        set("mix", { output: { kind: "nowhere" } }),
      ],
      "Mix is recorded on Voice and Spare: the same sound twice.",
    ],
    [
      "an insert that goes nowhere",
      [put("insert", "track-1")],
      "Hardware insert on Fiddle goes through no send and return yet, so nothing comes back from it.",
    ],
    [
      "an insert on another rig's ports",
      [put("insert", "track-1", { name: "Stair", sendPortIds: ["gone"], returnPortIds: ["gone too"] })],
      "Stair on Fiddle goes out and back through ports that Wheelhouse cart does not have.",
    ],
    [
      "a controller that is not there",
      [put("amplifier", "track-1", { steering: { field: "driveDb", midiPortId: "gone" } })],
      "Amplifier on Fiddle is moved by a controller that Wheelhouse cart does not have.",
    ],
  ])("%s is told, and cleared by what is offered", (_what, edits, message) => {
    const doc = band(...edits);
    expect(told(doc)).toEqual([message]);
    cleared(doc);
  });

  it("headroom that is certainly gone is told with how much, and a trim clears it", () => {
    const many = Array.from({ length: 16 }, (_, at) => `Voice ${at + 1}`)
      .reduce((builder, name) => builder.track(name), aTemplate())
      .build();
    expect(told(many)).toEqual([
      "16 channels go into Main at 0 dB or more, and nothing is turned down: they add up to 13 dB above one of them.",
    ]);
    cleared(many);
    expect(told(done(many, set("track-1", { faderDb: -1 as never })))).toEqual([]);
  });

  it("leave alone what is bypassed, parked, by turns, and effects in the chain of a track", () => {
    expect(told(band(...plate, put("reverb", "plate", { wetPercent: 60, bypassed: true })))).toEqual([]);
    expect(told(band(put("reverb", "track-1", { wetPercent: 30 })))).toEqual([]);
    expect(told(band(put("insert", "track-1"), set("track-1", { parked: true })))).toEqual([]);
    expect(
      told(
        band({
          kind: "entries.set",
          table: "channels",
          ids: [id("track-3"), id("track-5")],
          set: { sharing: "by-turns" },
        }),
      ),
    ).toEqual([]);
    expect(told(band(put("limiter", "main", { use: "not-while-recording" })))).toEqual([]);
  });

  it("come back after they were accepted when the chain changes", () => {
    const doc = band(put("limiter", "main"));
    const cause = (of: Template) => causeOf(context(of), look(of)[0] ?? expect.unreachable());
    expect(cause(done(doc, set("track-1", { note: "warm" })))).toBe(cause(doc));
    const changed: Partial<Processor> = { delaySamples: 12 };
    expect(
      cause(
        done(doc, {
          kind: "entries.set",
          table: "processors",
          ids: ["p-limiter" as ChainProcessorId],
          set: changed as never,
        }),
      ),
    ).not.toBe(cause(doc));
  });

  it("are among what is evaluated of a template", () =>
    expect(evaluate(context(band(put("limiter", "main")))).map(({ rule }) => rule)).toContain("main-processed"));
});
