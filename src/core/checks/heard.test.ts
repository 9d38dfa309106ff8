import { describe, expect, it } from "vitest";
import { duoRig, wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import type { ChannelId, CueId, CueLevelId, SendId } from "../model/ids";
import type { Rig } from "../model/rig";
import { newProcessor } from "../model/tables/chain-processors";
import { newCueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { ProcessorKind } from "../model/tables/processor-settings";
import type { Template } from "../model/template";
import type { ChannelChange, Edit } from "../planning/edits/edit";
import type { Change } from "../planning/edits/entry-edits";
import { applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { dB } from "../units/decibels";
import { causeOf } from "./cause";
import type { CheckContext } from "./finding";
import { CHECKS } from "./index";

const id = (name: string) => name as ChannelId;
const CUE = "ilse" as CueId;
const PHONES = ["brindle:out:3", "brindle:out:4"] as never;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const level = (sourceId: string, more: object = {}, cueId: string = CUE) =>
  newCueLevel({
    id: `${cueId}-${sourceId}` as CueLevelId,
    cueId: cueId as CueId,
    sourceId: id(sourceId),
    levelDb: dB(-12),
    ...more,
  });
const put = (kind: ProcessorKind, channel: string, settings: object = {}): Edit => ({
  kind: "entries.add",
  entries: {
    processors: [
      newProcessor(kind, { id: `p-${kind}` as never, channelId: id(channel), ...settings } as never) as never,
    ],
  },
});
const set = (channel: string, change: ChannelChange): Edit => ({
  kind: "entries.set",
  table: "channels",
  ids: [id(channel)],
  set: change,
});
/** A channel that is sent to the plate as well. */
const thrown = (channel: string): Edit => ({
  kind: "sends.add",
  sends: [{ id: `send-${channel}` as SendId, fromId: id(channel), toId: id("plate"), levelDb: dB(0) }],
});
const cueSet = (change: Change<Cue>): Edit => ({ kind: "entries.set", table: "cues", ids: [CUE], set: change });

/** A voice that is heard direct in a cue of its own, a fiddle beside it, and a plate. */
const sung = (...more: readonly Edit[]): Template =>
  done(
    aTemplate(wholeMill)
      .track("Lead voice", { input: "1", microphone: "Large condenser A", phantom: true, player: "Ilse Varga" })
      .track("Fiddle", { input: "2", microphone: "Clip-on condenser 1", phantom: true, player: "Wynn Solari" })
      .build(),
    { kind: "entries.set", table: "lines", ids: ["line-1", "line-2"] as never, set: { room: "Wheelhouse" } },
    { kind: "channels.add", channels: [{ kind: "return", id: id("plate"), name: "Plate" }], feedIds: [] },
    put("reverb", "plate"),
    { kind: "sends.add", sends: [{ id: "send" as SendId, fromId: id("track-1"), toId: id("plate"), tap: "before" }] },
    set("track-1", { monitor: "direct" }),
    {
      kind: "entries.add",
      entries: {
        cues: [{ id: CUE, name: "Ilse", people: ["Ilse Varga"], portIds: PHONES }],
        cueLevels: [level("track-1"), level("track-2"), level("plate")],
      },
    },
    ...more,
  );

const context = (doc: Template, rig: Rig = wholeMill): CheckContext => ({
  doc,
  rig,
  otherRigs: [],
  studio: demoStudio,
});
/** That Wynn has no cue is told elsewhere: here she is only there to be heard. */
const look = (doc: Template, rig: Rig = wholeMill) =>
  CHECKS.flatMap((rule) => rule.check(context(doc, rig))).filter(({ rule }) => rule !== "player-without-cue");
/** What is told of a template, by rule and in words. */
const told = (doc: Template, rig: Rig = wholeMill) => look(doc, rig).map(({ rule, message }) => `${rule}: ${message}`);

/** Every fix that is offered clears what it is offered for, and brings no problem that was not there. */
const cleared = (doc: Template, rig: Rig = wholeMill): void => {
  const before = look(doc, rig);
  const problems = new Set(before.filter(({ severity }) => severity === "problem").map((one) => one.id));
  for (const found of before)
    for (const fix of found.fixes) {
      const after = look(done(doc, ...fix.edits), rig);
      expect(
        after.map((one) => one.id),
        `${fix.label} clears ${found.message}`,
      ).not.toContain(found.id);
      expect(
        after.filter((one) => one.severity === "problem" && !problems.has(one.id)).map(({ message }) => message),
        fix.label,
      ).toEqual([]);
    }
};

describe("nothing is told", () => {
  it("where a voice is heard direct, with its plate, on headphones of its own", () => expect(told(sung())).toEqual([]));
  it("of hearing where there are no cues", () =>
    expect(
      told(
        done(sung(), { kind: "entries.remove", table: "cues", ids: [CUE] }, set("track-1", { monitor: "computer" })),
      ),
    ).toEqual([]));
});

describe("what is told of hearing, with what clears it", () => {
  const bus: Edit = {
    kind: "channels.add",
    channels: [{ kind: "bus", id: id("voices"), name: "Voices" }],
    feedIds: [id("track-1")],
  };
  it.each<readonly [string, readonly Edit[], readonly string[]]>([
    [
      "twice, direct and through the computer",
      [set("track-1", { monitor: "computer" }), cueSet({ mixedIn: "interface" })],
      [
        "hears-twice: Ilse Varga hears Lead voice twice in Ilse, direct and 3.1 ms later through the computer: with the first hollow at 163.8 Hz, down to nothing.",
      ],
    ],
    [
      "twice, by the track and by its bus, one turned over",
      [
        set("track-1", { monitor: "computer" }),
        bus,
        put("other", "voices", { delaySamples: 48 }),
        set("voices", { polarityTurned: true }),
        { kind: "cueLevels.put", levels: [level("voices")] },
        { kind: "settings.set", set: { buffers: { recordingSamples: 32 } } },
      ],
      [
        "hears-twice: Ilse Varga hears Lead voice twice in Ilse, through the computer and 1 ms later through Voices: thin below 500 Hz, with a hollow every 1 kHz, down to nothing.",
        "late-processor: Ilse Varga hears Lead voice through Other on Voices, which takes 1 ms.",
      ],
    ],
    [
      "not at all, as it is taken out",
      [
        {
          kind: "cueLevels.remove",
          cells: [
            { cueId: CUE, sourceId: id("track-1") },
            { cueId: CUE, sourceId: id("plate") },
          ],
        },
      ],
      ["hears-not-themself: Ilse Varga does not hear Lead voice in Ilse."],
    ],
    [
      "not at all, as it is not monitored",
      [set("track-1", { monitor: "off" })],
      ["hears-not-themself: Ilse Varga does not hear Lead voice in Ilse."],
    ],
    [
      "late, with what takes the time",
      [set("track-1", { monitor: "computer" }), put("limiter", "track-1", { delaySamples: 64 })],
      [
        "hears-late: Ilse Varga hears Lead voice after 5.3 ms in Ilse, and 3 ms is what it should be; Limiter takes 1.3 ms of it.",
      ],
    ],
    [
      "a processor that is late where all are on time",
      [
        set("track-2", { monitor: "computer" }),
        put("limiter", "track-2", { delaySamples: 96 }),
        cueSet({ people: ["Wynn Solari"] }),
      ],
      ["late-processor: Wynn Solari hears Fiddle through Limiter on Fiddle, which takes 2 ms."],
    ],
    [
      "a send after a fader that is silent while recording",
      [{ kind: "entries.set", table: "sends", ids: ["send" as SendId], set: { tap: "after" } }],
      [
        "send-after-silent-fader: Lead voice is sent to Plate after a fader that is silent while recording: nothing comes of it then.",
      ],
    ],
    [
      "a cue without an output",
      [cueSet({ portIds: [] })],
      ["cue-without-output: Ilse has no output: nobody can hear it."],
    ],
    [
      "a cue on an output that is not there",
      [cueSet({ portIds: ["elsewhere"] as never })],
      ["cue-without-output: Ilse goes out by an output that this rig does not have."],
    ],
    [
      "two cues on one output",
      [
        {
          kind: "entries.add",
          entries: {
            cues: [{ id: "wynn" as CueId, name: "Wynn", people: ["Wynn Solari"], portIds: PHONES }],
            cueLevels: [level("track-2", {}, "wynn")],
          },
        },
        set("track-2", { monitor: "direct" }),
      ],
      ["cues-on-one-output: Wynn goes out where Ilse does: both are heard on top of each other."],
    ],
    [
      "a cue for nobody",
      [cueSet({ people: [] })],
      ["cue-for-nobody: Nobody hears Ilse yet. Say who does, or remove it."],
    ],
    [
      "a loudspeaker in the room of its microphones",
      [cueSet({ hearing: "loudspeaker", room: "Wheelhouse" })],
      [
        "loudspeaker-feeds-back: The loudspeaker of Ilse stands in the Wheelhouse with the open microphones of Lead voice and Fiddle, and plays Lead voice, Fiddle and Plate, in which they are: it will howl.",
      ],
    ],
    [
      "a far guest who gets their own voice back",
      [cueSet({ hearing: "far" })],
      [
        "far-guest-hears-back: Ilse goes to the far end of a line and carries Lead voice and Plate, in which their own voice is.",
      ],
    ],
    [
      "talkback that comes into the mix",
      [{ kind: "channels.add", channels: [{ kind: "talkback", id: id("talk"), name: "Talkback" }], feedIds: [] }],
      ["beside-recorded: Talkback comes into Main: it is in the mix, and not only in the headphones."],
    ],
    [
      "a click that is recorded",
      [
        { kind: "channels.add", channels: [{ kind: "bus", id: id("blend"), name: "Blend" }], feedIds: [id("track-2")] },
        {
          kind: "channels.add",
          channels: [
            { kind: "click", id: id("click"), name: "Click", output: { kind: "channel", channelId: id("blend") } },
          ],
          feedIds: [],
        },
        {
          kind: "tracks.add",
          tracks: [
            {
              id: id("sum"),
              name: "Sum",
              note: "",
              colour: null,
              icon: null,
              input: { kind: "bus", busId: id("blend") },
              sharing: null,
            },
          ],
          lines: [],
          folderId: null,
          before: null,
        },
        set("blend", { output: { kind: "nowhere" } }),
      ],
      ["beside-recorded: Click comes into what Sum records.", "click-unheard: Click is in nobody's cue."],
    ],
    [
      "a gate after a reverb",
      [put("gate", "plate")],
      ["gate-clips-tail: Gate on Plate comes after Reverb and closes on its tail."],
    ],
    [
      "a gate further down the way of a reverb",
      [
        { kind: "channels.add", channels: [{ kind: "bus", id: id("rooms"), name: "Rooms" }], feedIds: [id("plate")] },
        { kind: "channels.add", channels: [{ kind: "bus", id: id("all"), name: "All" }], feedIds: [id("rooms")] },
        put("gate", "all"),
      ],
      ["gate-clips-tail: Gate on All closes on the tail of Plate, which comes there through Rooms."],
    ],
    [
      "a gate on the return in which a throw is to ring out",
      [put("gate", "plate"), set("track-2", { output: { kind: "nowhere" } }), thrown("track-2")],
      ["gate-clips-tail: Gate on Plate comes after Reverb and closes on its tail: the throw Fiddle can't ring out."],
    ],
    [
      "a throw that makes its tail itself",
      [put("delay", "track-2"), set("track-2", { output: { kind: "nowhere" } }), thrown("track-2")],
      [
        "throw-clips-tail: Fiddle is a throw, and Delay in its own chain is cut off with it: only what rings in a return goes on.",
      ],
    ],
    [
      "a cue beyond full scale",
      [
        {
          kind: "cueLevels.put",
          levels: [level("track-1", { levelDb: dB(12) }), level("track-2", { levelDb: dB(12) })],
        },
        set("track-2", { faderDb: dB(-20) }),
      ],
      ["beyond-full-scale: Ilse would likely peak at +4.1 dBFS; Lead voice gives most."],
    ],
    [
      "a buffer that the rig does not offer",
      [{ kind: "settings.set", set: { buffers: { recordingSamples: 48 } } }],
      [
        "buffer-too-small: It is to be recorded with a buffer of 48 samples, and this rig offers 32, 64, 128, 256, 512 and 1024.",
      ],
    ],
    [
      "a buffer that the computer can't hold",
      [put("amplifier", "track-2", { costNs: 9000 }), { kind: "settings.set", set: { buffers: { callbackUs: 600 } } }],
      [
        "buffer-too-small: At a buffer of 64 the computer uses 92 % of its time by what was measured and estimated, and 70 % is the ceiling.",
      ],
    ],
    [
      "a disk that is too small, and a file that ends before the take",
      [{ kind: "settings.set", set: { disk: { freeGb: 2, hours: 9, takes: 1 } } }],
      [
        "disk-too-small: The evening takes 9.3 GB, and 2 GB are free: enough for 1 h 55 min of everything at once.",
        "disk-too-small: A take of 9 h 0 min is longer than a plain WAV file can be: the first ends after 8 h 17 min. Write it as RF64 or in parts, or begin a new take before.",
      ],
    ],
    [
      "a source that is too loud for its preamp",
      [{ kind: "entries.set", table: "lines", ids: ["line-2"] as never, set: { loudnessDb: 128, distanceM: 0.1 } }],
      ["gain-misfits: Fiddle comes at 12 dBu, and the preamp needs its pad."],
    ],
    [
      "a gain that clips",
      [{ kind: "entries.set", table: "lines", ids: ["line-1"] as never, set: { gainDb: dB(60) } }],
      [
        "beyond-full-scale: Main would likely peak at +16.4 dBFS at Outputs 1–2.",
        "beyond-full-scale: Ilse would likely peak at +4.4 dBFS; Lead voice gives most.",
        "gain-misfits: Lead voice at a gain of 60 dB would peak at 19.2 dBFS, above −6 dB: a preamp that clips stays clipped.",
      ],
    ],
  ])("%s", (_what, edits, messages) => {
    const doc = sung(...edits);
    expect(told(doc)).toEqual(messages);
    cleared(doc);
  });

  it("a gate, but nothing of what does not sound: a send that is off, a parked return, a bypassed reverb", () => {
    const gated: readonly Edit[] = [
      { kind: "channels.add", channels: [{ kind: "bus", id: id("rooms"), name: "Rooms" }], feedIds: [id("plate")] },
      put("gate", "rooms"),
    ];
    expect(told(sung(...gated))).toContain(
      "gate-clips-tail: Gate on Rooms closes on the tail of Plate, which is routed there.",
    );
    for (const silent of [set("plate", { parked: true }), set("rooms", { parked: true })] as const)
      expect(told(sung(...gated, silent)).filter((one) => one.startsWith("gate-clips-tail"))).toEqual([]);
    const sent: readonly Edit[] = [
      { kind: "channels.add", channels: [{ kind: "bus", id: id("rooms"), name: "Rooms" }], feedIds: [] },
      { kind: "sends.add", sends: [{ id: "off" as SendId, fromId: id("plate"), toId: id("rooms"), on: false }] },
      put("gate", "rooms"),
    ];
    expect(told(sung(...sent)).filter((one) => one.startsWith("gate-clips-tail"))).toEqual([]);
    expect(
      told(
        sung(
          put("delay", "track-2", { bypassed: true }),
          set("track-2", { output: { kind: "nowhere" } }),
          thrown("track-2"),
        ),
      ),
    ).toEqual([]);
  });

  it("a throw's own delay, with who else is sent to the return it would go to", () => {
    const [found] = look(
      sung(put("delay", "track-2"), set("track-2", { output: { kind: "nowhere" } }), thrown("track-2")),
    );
    expect(found?.fixes.map(({ label }) => label)).toEqual([
      "Put Delay on Plate, for 1 other channel sent there as well",
    ]);
    const echoes = ["a", "b", "c"].map((name) => put("delay", "track-2", { id: name }));
    const [many] = look(
      sung(put("delay", "track-2"), ...echoes, set("track-2", { output: { kind: "nowhere" } }), thrown("track-2")),
    );
    expect(many?.fixes[0]?.label).toMatch(/^Put 4 processors on Plate/);
  });

  it("an effect that is in the headphones and recorded by mistake", () => {
    const doc = sung(
      { kind: "channels.add", channels: [{ kind: "bus", id: id("blend"), name: "Blend" }], feedIds: [id("track-2")] },
      set("plate", { output: { kind: "channel", channelId: id("blend") } }),
      {
        kind: "tracks.add",
        tracks: [
          {
            id: id("sum"),
            name: "Sum",
            note: "",
            colour: null,
            icon: null,
            input: { kind: "bus", busId: id("blend") },
            sharing: null,
          },
        ],
        lines: [],
        folderId: null,
        before: null,
      },
    );
    expect(told(doc)).toContain(
      "effect-recorded: Sum records Blend, into which Plate is routed: what is in the headphones as an effect is recorded as well.",
    );
    cleared(doc);
  });

  it("direct monitoring of what can't be, and a rate and buffers that are not offered, on the pocket interface", () => {
    const doc = done(
      aTemplate(duoRig).track("Voice", { input: "1", player: "Nadia Okonjo-Reyes" }).build(),
      set("track-1", { monitor: "direct" }),
      {
        kind: "entries.add",
        entries: {
          cues: [
            { id: CUE, name: "Nadia", people: ["Nadia Okonjo-Reyes"], portIds: ["duo:out:3", "duo:out:4"] as never },
          ],
          cueLevels: [level("track-1")],
        },
      },
    );
    const slow: Rig = {
      ...duoRig,
      timing: Object.fromEntries(
        Object.entries(duoRig.timing).map(([device, timing]) => [device, { ...timing, ratesHz: [44100] }]),
      ) as never,
    };
    const rules = look(doc, slow).map(({ rule }) => rule);
    expect(rules).toEqual(expect.arrayContaining(["direct-cannot", "rate-not-offered"]));
    expect(told(doc, slow)).toContain("rate-not-offered: It is to be recorded at 48 kHz, and Duo works at 44.1 kHz.");
  });

  it("more cues than the interface has mixes, and inputs that its mixer does not take", () => {
    const one: Rig = {
      ...wholeMill,
      mixers: Object.fromEntries(
        Object.entries(wholeMill.mixers).map(([key, mixer]) => [
          key,
          { ...mixer, mixes: 1, inputIds: ["brindle:in:2"] },
        ]),
      ) as never,
    };
    const two = sung({
      kind: "entries.add",
      entries: {
        cues: [
          {
            id: "wynn" as CueId,
            name: "Wynn",
            people: ["Wynn Solari"],
            portIds: ["brindle:out:5", "brindle:out:6"] as never,
            mixedIn: "interface",
          },
        ],
        cueLevels: [level("track-2", {}, "wynn")],
      },
    });
    expect(told(two, one).filter((words) => words.startsWith("mixer-cannot"))).toEqual([
      "mixer-cannot: The interface's own mixer can't bring Lead voice to the output of Ilse.",
      "mixer-cannot: Wynn needs a mix of the interface's own mixer, and its 1 are taken by the cues before it.",
    ]);
  });

  it("comes back after it was accepted when what it hangs on changes", () => {
    const doc = sung(cueSet({ people: [] }));
    const [found] = look(doc);
    const stamp = (of: Template) => causeOf(context(of), found ?? expect.unreachable());
    expect(stamp(done(doc, set("track-2", { note: "warm" })))).toBe(stamp(doc));
    expect(stamp(done(doc, cueSet({ room: "Loft" })))).not.toBe(stamp(doc));
  });
});
