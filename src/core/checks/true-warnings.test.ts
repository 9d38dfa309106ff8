import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import type { ChannelId, CueId, CueLevelId, LineId, PassId, SendId } from "../model/ids";
import type { Rig } from "../model/rig";
import { newProcessor } from "../model/tables/chain-processors";
import { MAIN_ID } from "../model/tables/channel-fields";
import { newCueLevel } from "../model/tables/cue-levels";
import type { ProcessorKind } from "../model/tables/processor-settings";
import type { Template } from "../model/template";
import type { ChannelChange, Edit, LineChange } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { splitInBands } from "../planning/further-ways";
import { aTemplate } from "../testing/a-template";
import { dB } from "../units/decibels";
import type { CheckContext } from "./finding";
import { evaluate } from "./index";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const context = (doc: Template, rig: Rig = wholeMill): CheckContext => ({
  doc,
  rig,
  otherRigs: [],
  studio: demoStudio,
});
const look = (doc: Template, rig: Rig = wholeMill) => evaluate(context(doc, rig));
const rulesOf = (doc: Template, rig: Rig = wholeMill): readonly string[] => look(doc, rig).map(({ rule }) => rule);

const put = (kind: ProcessorKind, channel: string, settings: object = {}, name = `p-${kind}-${channel}`): Edit => ({
  kind: "entries.add",
  entries: {
    processors: [newProcessor(kind, { id: name as never, channelId: id(channel), ...settings } as never) as never],
  },
});
const set = (channel: string, change: ChannelChange): Edit => ({
  kind: "entries.set",
  table: "channels",
  ids: [id(channel)],
  set: change,
});
const bus = (name: string, feeds: readonly string[] = [], more: object = {}): Edit => ({
  kind: "channels.add",
  channels: [{ kind: "bus", id: id(name.toLowerCase()), name, ...more }],
  feedIds: feeds.map(id),
});
const plate = (more: object = {}): Edit => ({
  kind: "channels.add",
  channels: [{ kind: "return", id: id("plate"), name: "Plate", ...more }],
  feedIds: [],
});
const send = (from: string, to: string, more: object = {}): Edit => ({
  kind: "sends.add",
  sends: [{ id: `${from}-${to}` as SendId, fromId: id(from), toId: id(to), levelDb: dB(-12), ...more }],
});
const PHONES = ["brindle:out:3", "brindle:out:4"] as never;
const cue = (name: string, sources: readonly string[], more: object = {}): Edit => ({
  kind: "entries.add",
  entries: {
    cues: [{ id: name.toLowerCase() as CueId, name, people: [], portIds: PHONES, ...more }],
    cueLevels: sources.map((source) =>
      newCueLevel({ id: `${name}-${source}` as CueLevelId, cueId: name.toLowerCase() as CueId, sourceId: id(source) }),
    ),
  },
});
const line = (number: number, change: LineChange): Edit => ({
  kind: "entries.set",
  table: "lines",
  ids: [`line-${number}` as LineId],
  set: change,
});
const pass = (name: string, tracks: readonly number[], more: object = {}): Edit => ({
  kind: "entries.add",
  entries: {
    passes: [{ id: name.toLowerCase() as PassId, name, trackIds: tracks.map((n) => id(`track-${n}`)), ...more }],
  },
});
const take = (track: string, busId: string): Edit => ({
  kind: "tracks.take",
  trackId: id(track),
  input: { kind: "bus", busId: id(busId) },
  lines: [],
});

/** Two voices and a fiddle, each plugged in soundly. */
const three = () =>
  aTemplate(wholeMill)
    .track("Lead voice", {
      input: "1",
      microphone: "Large condenser A",
      phantom: true,
      player: "Ilse Varga",
      room: "Booth",
    })
    .track("Fiddle", {
      input: "2",
      microphone: "Clip-on condenser 1",
      phantom: true,
      player: "Wynn Solari",
      room: "Wheelhouse",
    })
    .track("Clarinet", { input: "3", microphone: "Moving-coil 1", player: "Kester Blom", room: "Wheelhouse" })
    .build();

const drums = (count: number): Template => {
  const builder = aTemplate(wholeMill);
  for (let n = 1; n <= count; n++)
    builder.track(`Tom ${n}`, { input: n <= 8 ? String(n) : `E${n - 8}`, microphone: "moving coil" });
  return builder.build();
};

const wheels = (rig: Rig, ...wires: readonly (readonly [string, string])[]): Rig => ({
  ...rig,
  wires: {
    ...rig.wires,
    ...Object.fromEntries(
      wires.map(([from, to]) => [`${from}>${to}`, { id: `${from}>${to}`, fromPortId: from, toPortId: to }]),
    ),
  } as never,
});

/** What is told, by its rule, and a sound practice beside it on which the rule stays silent. */
type Case = readonly [
  rule: string,
  fault: () => Template,
  sound: () => Template,
  more?: { readonly rig?: () => Rig; readonly fixed?: false },
];
const CASES: readonly Case[] = [
  [
    "not-heard",
    () => done(three(), plate({ output: { kind: "nowhere" } }), put("reverb", "plate"), send("track-1", "plate")),
    () =>
      done(
        three(),
        plate({ output: { kind: "nowhere" } }),
        put("reverb", "plate"),
        send("track-1", "plate"),
        cue("Ilse", ["track-1", "plate"], { people: ["Ilse Varga"] }),
      ),
  ],
  [
    "bands-do-not-meet",
    () =>
      done(
        three(),
        ...["Low", "Middle", "High"].map((name) => bus(name)),
        ...["low", "middle", "high"].map((to) => send("track-2", to, { levelDb: dB(0) })),
        put("filter", "low", { pass: "low-pass", frequencyHz: 500, slopeDb: 24, crossover: true }),
        put("filter", "middle", { pass: "high-pass", frequencyHz: 500, slopeDb: 24, crossover: true }, "m1"),
        put("filter", "middle", { pass: "low-pass", frequencyHz: 1000, slopeDb: 24, crossover: true }, "m2"),
        put("filter", "high", { pass: "high-pass", frequencyHz: 1000, slopeDb: 24, crossover: true }),
        set("track-2", { output: { kind: "nowhere" } }),
      ),
    () => {
      let n = 0;
      const made = splitInBands(three(), {
        channelId: id("track-2"),
        lowText: "250",
        highText: "250",
        upperText: "2.5 kHz",
        ids: (kind) => `${kind}-x${n++}` as never,
      });
      return done(three(), ...(made.ok ? made.gesture.edits : expect.unreachable(made.message)));
    },
  ],
  [
    "shared-port",
    () =>
      done(three(), {
        kind: "lines.patch",
        inputs: [{ lineId: "line-2" as LineId, portId: "brindle:in:1" as never, requestedInput: null }],
      }),
    () =>
      done(
        three(),
        {
          kind: "lines.patch",
          inputs: [{ lineId: "line-2" as LineId, portId: "brindle:in:1" as never, requestedInput: null }],
        },
        pass("Voices", [1]),
        pass("Strings", [2, 3]),
      ),
  ],
  [
    "microphone-overused",
    () =>
      done(
        three(),
        line(2, { microphone: { kind: "shelf", microphoneId: "large-a" as never, name: "Large condenser A" } }),
      ),
    () =>
      done(
        three(),
        line(2, { microphone: { kind: "shelf", microphoneId: "large-a" as never, name: "Large condenser A" } }),
        pass("Voices", [1]),
        pass("Strings", [2, 3]),
      ),
  ],
  [
    "player-in-two-rooms",
    () => done(three(), line(3, { player: "Ilse Varga" })),
    () =>
      done(
        aTemplate(wholeMill)
          .track("Guitar", { input: "1", microphone: "Moving-coil 1", player: "Juno Ashby", room: "Wheelhouse" })
          .track("Guitar amplifier", { input: "2", microphone: "Moving-coil 2", player: "Juno Ashby", room: "Loft" })
          .track("Guitar DI", { input: "3", microphone: "DI box passive 1", player: "Juno Ashby", room: "Office" })
          .build(),
      ),
  ],
  [
    "hears-not-themself",
    () => done(three(), cue("Ilse", ["track-2"], { people: ["Ilse Varga"] })),
    () =>
      done(
        aTemplate(wholeMill)
          .track("Kick", { input: "1", microphone: "Moving-coil 1", player: "Pell Marrow" })
          .track("Snare", { input: "2", microphone: "Moving-coil 2", player: "Pell Marrow" })
          .track("Above", {
            input: ["5", "6"],
            microphone: "Small condenser pair",
            phantom: true,
            player: "Pell Marrow",
          })
          .build(),
        cue("Pell", ["track-1", "track-3"], { people: ["Pell Marrow"] }),
      ),
  ],
  [
    "main-processed",
    () => done(three(), put("compressor", "main")),
    () => done(three(), put("other", "main", { name: "Loudness meter" })),
  ],
  [
    "line-without-port",
    () =>
      aTemplate(wholeMill)
        .track("Spare")
        .does({
          kind: "tracks.take",
          trackId: id("track-1"),
          input: { kind: "line", lineId: "line-1" as LineId },
          lines: [],
        })
        .build(),
    () =>
      aTemplate(wholeMill)
        .track("Spare")
        .does(set("track-1", { parked: true }))
        .build(),
  ],
  [
    "far-guest-hears-back",
    () =>
      done(
        aTemplate(wholeMill)
          .track("Far guest", { input: "LB1", player: "a guest" })
          .track("Host", { input: "1", microphone: "Moving-coil 1", player: "Nadia Okonjo-Reyes" })
          .build(),
        bus("Speech", ["track-1", "track-2"]),
        cue("Line", ["speech"], { hearing: "far", people: ["somebody else"] }),
        cue("Nadia", ["track-2"], { people: ["Nadia Okonjo-Reyes"], portIds: ["brindle:out:5", "brindle:out:6"] }),
      ),
    () =>
      done(
        aTemplate(wholeMill)
          .track("Far guest", { input: "LB1", player: "a guest" })
          .track("Host", { input: "1", microphone: "Moving-coil 1", player: "Nadia Okonjo-Reyes" })
          .build(),
        bus("Back"),
        send("track-1", "back", { on: false }),
        send("track-2", "back"),
        cue("Line", ["back"], { hearing: "far", people: ["a guest"] }),
        cue("Nadia", ["track-2"], { people: ["Nadia Okonjo-Reyes"], portIds: ["brindle:out:5", "brindle:out:6"] }),
      ),
  ],
  [
    "loudspeaker-feeds-back",
    () =>
      done(
        three(),
        bus("Band", ["track-2", "track-3"]),
        cue("Room", ["band"], { hearing: "loudspeaker", room: "Wheelhouse" }),
      ),
    () =>
      done(three(), bus("Band", ["track-1"]), cue("Room", ["band"], { hearing: "loudspeaker", room: "Wheelhouse" })),
  ],
  [
    "output-feeds-back",
    () => done(three(), line(2, { room: "Office" })),
    () => done(three(), line(2, { room: "Office" }), set("track-2", { monitor: "off" })),
  ],
  [
    "beyond-full-scale",
    () => done(three(), set("main", { trimDb: dB(12) })),
    () => done(three(), bus("Band", ["track-2", "track-3"], { trimDb: 12 }), set("main", { trimDb: dB(-12) })),
  ],
  [
    "beyond-full-scale",
    () =>
      done(three(), {
        kind: "controls.add",
        control: { id: "a" as never, name: "A", faderDb: dB(10) },
        channelIds: ["track-1", "track-2", "track-3"].map(id),
      }),
    () =>
      done(three(), {
        kind: "controls.add",
        control: { id: "a" as never, name: "A", faderDb: dB(-10) },
        channelIds: ["track-1", "track-2", "track-3"].map(id),
      }),
    { fixed: false },
  ],
  [
    // Every fader stands at 0, and nothing is trimmed: a send that is turned up is enough.
    "beyond-full-scale",
    () =>
      done(
        three(),
        bus("Loud"),
        send("track-1", "loud", { levelDb: dB(12) }),
        send("track-2", "loud", { levelDb: dB(12) }),
        send("track-3", "loud", { levelDb: dB(12) }),
      ),
    () => done(three(), bus("Loud"), send("track-1", "loud"), send("track-2", "loud"), send("track-3", "loud")),
  ],
  [
    "cue-output-taken",
    () =>
      done(three(), cue("Ilse", ["track-1"], { people: ["Ilse Varga"], portIds: ["brindle:out:1", "brindle:out:2"] })),
    () => done(three(), cue("Ilse", ["track-1"], { people: ["Ilse Varga"] })),
  ],
  [
    "cue-output-taken",
    () =>
      done(
        three(),
        put("insert", "track-1", { sendPortIds: ["brindle:out:3"], returnPortIds: ["brindle:in:15"] }),
        cue("Ilse", ["track-1"], { people: ["Ilse Varga"] }),
      ),
    () =>
      done(
        three(),
        put("insert", "track-1", { sendPortIds: ["brindle:out:11"], returnPortIds: ["brindle:in:15"] }),
        cue("Ilse", ["track-1"], { people: ["Ilse Varga"] }),
      ),
  ],
  [
    "insert-shared",
    () =>
      done(
        three(),
        ...["track-1", "track-2"].map((on) =>
          put("insert", on, { sendPortIds: ["brindle:out:11"], returnPortIds: ["brindle:in:15"] }),
        ),
      ),
    () =>
      done(
        three(),
        put("insert", "track-1", { sendPortIds: ["brindle:out:11"], returnPortIds: ["brindle:in:15"] }),
        put("insert", "track-2", { sendPortIds: ["brindle:out:12"], returnPortIds: ["brindle:in:16"] }),
      ),
  ],
  [
    "insert-shared",
    () => done(three(), put("insert", "track-1", { sendPortIds: ["brindle:out:11"], returnPortIds: ["brindle:in:3"] })),
    () =>
      done(three(), put("insert", "track-1", { sendPortIds: ["brindle:out:11"], returnPortIds: ["brindle:in:15"] })),
  ],
  ["rig-unsound", three, three, { rig: () => wheels(wholeMill, ["brindle:out:9", "brindle:in:8"]), fixed: false }],
  ["rig-unsound", three, three, { rig: () => wheels(wholeMill, ["stair:out:1", "eight:in:8"]), fixed: false }],
  [
    "rig-unsound",
    three,
    three,
    {
      rig: () =>
        ({
          ...wholeMill,
          devices: {
            ...wholeMill.devices,
            brindle: { ...wholeMill.devices["brindle" as never], clock: { kind: "none" } },
          },
        }) as never,
      fixed: false,
    },
  ],
  [
    "track-in-no-pass",
    () => done(three(), pass("Voices", [1]), pass("Strings", [2])),
    () => done(three(), pass("Voices", [1]), pass("Strings", [2, 3])),
  ],
  [
    "turns-together",
    () =>
      done(
        aTemplate(wholeMill).track("Lead", { input: "1" }).trackOnLine("Double", "line-1").build(),
        { kind: "entries.set", table: "channels", ids: [id("track-1"), id("track-2")], set: { sharing: "by-turns" } },
        pass("All", [1, 2]),
      ),
    () =>
      done(
        aTemplate(wholeMill).track("Lead", { input: "1" }).trackOnLine("Double", "line-1").build(),
        { kind: "entries.set", table: "channels", ids: [id("track-1"), id("track-2")], set: { sharing: "by-turns" } },
        pass("First", [1]),
        pass("Second", [2]),
      ),
  ],
  [
    "take-too-long",
    () =>
      done(
        three(),
        { kind: "settings.set", set: { format: { sampleRateHz: 192000, bitDepth: 32 } } },
        pass("All", [1, 2, 3], { takeMinutes: 600 }),
      ),
    () =>
      done(
        three(),
        { kind: "settings.set", set: { format: { sampleRateHz: 192000, bitDepth: 32, fileType: "rf64" } } },
        pass("All", [1, 2, 3], { takeMinutes: 600 }),
      ),
  ],
  [
    "player-without-cue",
    () => done(three(), cue("Ilse", ["track-1", "track-2"], { people: ["Ilse Varga", "Wynn Solari"] })),
    () =>
      done(
        three(),
        cue("All", ["track-1", "track-2", "track-3"], { people: ["Ilse Varga", "Wynn Solari", "Kester Blom"] }),
      ),
  ],
  [
    "pair-unlike",
    () =>
      done(
        aTemplate(wholeMill)
          .track("Above", { input: ["5", "6"], microphone: "Small condenser pair", phantom: true })
          .build(),
        line(2, { phantom: false, gainDb: dB(20) }),
      ),
    () =>
      done(
        aTemplate(wholeMill)
          .track("Above", { input: ["5", "6"], microphone: "Moving-coil 1" })
          .build(),
        line(2, { microphone: { kind: "shelf", microphoneId: "coil-2" as never, name: "Moving-coil 2" } }),
      ),
  ],
  [
    "bus-beside-recording",
    () =>
      done(
        three(),
        bus("Blend", ["track-2", "track-3"]),
        {
          kind: "tracks.add",
          tracks: [
            { id: id("sum"), name: "Sum", note: "", colour: null, icon: null, input: { kind: "none" }, sharing: null },
          ],
          lines: [],
          folderId: null,
          before: null,
        },
        take("sum", "blend"),
      ),
    () =>
      done(
        three(),
        bus("Blend", ["track-2", "track-3"], { output: { kind: "nowhere" } }),
        {
          kind: "tracks.add",
          tracks: [
            { id: id("sum"), name: "Sum", note: "", colour: null, icon: null, input: { kind: "none" }, sharing: null },
          ],
          lines: [],
          folderId: null,
          before: null,
        },
        take("sum", "blend"),
      ),
  ],
  [
    "phantom-on-line",
    () => aTemplate(wholeMill).track("Keyboard", { input: "1", microphone: "line", phantom: true }).build(),
    () => aTemplate(wholeMill).track("Keyboard", { input: "1", microphone: "line" }).build(),
  ],
  [
    "phantom-missing",
    () => aTemplate(wholeMill).track("Voice", { input: "1", microphone: "condenser" }).build(),
    () => aTemplate(wholeMill).track("Voice", { input: "1", microphone: "condenser with its own supply" }).build(),
  ],
  [
    "effect-printed",
    () => done(three(), put("reverb", "track-1"), set("track-1", { recordPoint: "after" })),
    () =>
      done(three(), put("compressor", "track-1"), set("track-1", { recordPoint: "after" }), put("reverb", "track-2")),
  ],
  [
    "sum-silent",
    () => done(three(), bus("Band", ["track-2", "track-3"], { faderDb: null })),
    () => done(three(), bus("Band", ["track-2", "track-3"], { muted: true })),
  ],
  [
    "passes-bus",
    () =>
      done(
        drums(12),
        bus(
          "Drums",
          Array.from({ length: 11 }, (_, n) => `track-${n + 1}`),
        ),
      ),
    () => done(three(), ...drumsAnd("Lead voice"), bus("Backing voices", ["v1", "v2", "v3"])),
  ],
  [
    "click-unheard",
    () =>
      done(
        three(),
        cue("All", ["track-1", "track-2", "track-3"], { people: ["Ilse Varga", "Wynn Solari", "Kester Blom"] }),
        click(),
      ),
    () => done(three(), click()),
  ],
  [
    "name-chooses",
    () =>
      done(three(), bus("Band", ["track-2"]), {
        kind: "channels.add",
        channels: [{ kind: "bus", id: id("band-2"), name: "band" }],
        feedIds: [id("track-3")],
      }),
    () => done(three(), bus("Band", ["track-2", "track-3"])),
  ],
  [
    "bottom-polarity",
    () =>
      aTemplate(wholeMill)
        .track("Snare top", { input: "1", microphone: "Moving-coil 1" })
        .track("Snare bottom", { input: "2", microphone: "Moving-coil 2" })
        .build(),
    () =>
      done(
        aTemplate(wholeMill)
          .track("Snare top", { input: "1", microphone: "Moving-coil 1" })
          .track("Snare bottom", { input: "2", microphone: "Moving-coil 2" })
          .build(),
        line(2, { polarityInverted: true }),
      ),
  ],
  [
    "split-cancels",
    () =>
      done(
        three(),
        put("split", "track-1"),
        put(
          "filter",
          "track-1",
          { pass: "low-pass", frequencyHz: 500, slopeDb: 12, splitId: "p-split-track-1", branch: "first" },
          "l",
        ),
        put(
          "filter",
          "track-1",
          { pass: "high-pass", frequencyHz: 500, slopeDb: 12, splitId: "p-split-track-1", branch: "second" },
          "h",
        ),
      ),
    () =>
      done(
        three(),
        put("split", "track-1"),
        put(
          "filter",
          "track-1",
          {
            pass: "low-pass",
            frequencyHz: 500,
            slopeDb: 24,
            crossover: true,
            splitId: "p-split-track-1",
            branch: "first",
          },
          "l",
        ),
        put(
          "filter",
          "track-1",
          {
            pass: "high-pass",
            frequencyHz: 500,
            slopeDb: 24,
            crossover: true,
            splitId: "p-split-track-1",
            branch: "second",
          },
          "h",
        ),
      ),
  ],
  [
    "gain-misfits",
    () =>
      done(
        aTemplate(wholeMill).track("Player", { input: "15", microphone: "line" }).build(),
        line(1, { loudnessDb: 18, crestDb: 14 }),
      ),
    () =>
      done(
        aTemplate(wholeMill).track("Player", { input: "1", microphone: "line" }).build(),
        line(1, { loudnessDb: 4, crestDb: 10 }),
      ),
    { fixed: false },
  ],
  [
    "too-strong",
    () =>
      done(
        aTemplate(wholeMill).track("Trumpet", { input: "E1", microphone: "Active ribbon", phantom: true }).build(),
        line(1, { distanceM: 0.1, loudnessDb: 105 }),
      ),
    () => aTemplate(wholeMill).track("Trumpet", { input: "E1", microphone: "Active ribbon", phantom: true }).build(),
    { fixed: false },
  ],
];

function click(): Edit {
  return {
    kind: "channels.add",
    channels: [{ kind: "click", id: id("click"), name: "Click", output: { kind: "nowhere" } }],
    feedIds: [],
  };
}

function drumsAnd(_lead: string): readonly Edit[] {
  return [
    {
      kind: "tracks.add",
      tracks: ["v1", "v2", "v3"]
        .map((name, at) => ({
          id: id(name),
          name: `Voice ${at + 2}`,
          note: "",
          colour: null,
          icon: null,
          input: { kind: "bus", busId: id("none") } as never,
          sharing: null,
        }))
        .map((track) => ({ ...track, input: { kind: "none" as const } })),
      lines: [],
      folderId: null,
      before: null,
    },
  ];
}

describe("each rule: a fault that is told, and beside it a sound practice on which it stays silent", () => {
  it.each(CASES.map((one) => [one[0], one] as const))(
    "%s",
    (rule, [, fault, sound, { rig = () => wholeMill, fixed = true } = {}]) => {
      const at = rig();
      const found = look(fault(), at).filter((one) => one.rule === rule);
      expect(found.length, `${rule} is told`).toBeGreaterThan(0);
      expect(rulesOf(sound()), "the sound practice").not.toContain(rule);
      if (fixed) expect(found[0]?.fixes.length, "with a fix").toBeGreaterThan(0);
      for (const fix of found[0]?.fixes ?? []) {
        const after = look(done(fault(), ...fix.edits), at);
        expect(
          after.map((one) => one.id),
          `${fix.label} clears it`,
        ).not.toContain(found[0]?.id);
      }
    },
  );

  it("twice is graded by how deep its notches are", () => {
    const heard = (levelDb: number): readonly string[] => {
      const doc = done(
        three(),
        bus("Voices", ["track-1"]),
        put("other", "voices", { delaySamples: 96 }),
        cue("Ilse", ["track-1", "voices"], { people: ["Ilse Varga"] }),
        {
          kind: "cueLevels.put",
          levels: [
            { id: "Ilse-voices" as CueLevelId, cueId: "ilse" as CueId, sourceId: id("voices"), levelDb: dB(levelDb) },
          ],
        },
      );
      return look(doc).flatMap(({ rule, severity }) => (rule === "hears-twice" ? [severity] : []));
    };
    expect([heard(-12), heard(-25), heard(-40)]).toEqual([["problem"], ["hint"], []]);
  });

  it("copies on different ears make no comb, and gains of chains count", () => {
    const sided = (pan: number, more: readonly Edit[] = []): number =>
      look(
        done(
          three(),
          bus("Voices", ["track-1"]),
          put("other", "voices", { delaySamples: 96 }),
          cue("Ilse", ["track-1", "voices"], { people: ["Ilse Varga"] }),
          {
            kind: "cueLevels.put",
            levels: [
              { id: "Ilse-track-1" as CueLevelId, cueId: "ilse" as CueId, sourceId: id("track-1"), pan: -100 },
              { id: "Ilse-voices" as CueLevelId, cueId: "ilse" as CueId, sourceId: id("voices"), pan },
            ],
          },
          ...more,
        ),
      ).filter(({ rule }) => rule === "hears-twice").length;
    expect([sided(100), sided(-100), sided(-100, [put("gain", "voices", { gainDb: -40 })])]).toEqual([0, 1, 0]);
  });

  it("a direct way that is late by itself is told as such, and not to be monitored direct", () => {
    const slow: Rig = {
      ...wholeMill,
      mixers: Object.fromEntries(
        Object.entries(wholeMill.mixers).map(([key, mixer]) => [key, { ...mixer, delayMs: 5 }]),
      ) as never,
    };
    const [late] = look(
      done(three(), set("track-1", { monitor: "direct" }), cue("Ilse", ["track-1"], { people: ["Ilse Varga"] })),
      slow,
    ).filter(({ rule }) => rule === "hears-late");
    expect(late?.message).toContain("though it comes direct");
    expect(late?.fixes.map(({ label }) => label).join()).not.toContain("direct");
  });

  it("what is beyond full scale is told once, where it leaves, and not at each bus on the way", () => {
    const doc = done(
      three(),
      bus("Band", ["track-1", "track-2", "track-3"], { trimDb: 12 }),
      bus("All", ["band"], { trimDb: 6 }),
    );
    expect(look(doc).flatMap(({ rule, places: [place] }) => (rule === "beyond-full-scale" ? [place?.id] : []))).toEqual(
      [MAIN_ID],
    );
  });
});
