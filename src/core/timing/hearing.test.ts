import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import type { ChannelId, CueId, CueLevelId, SendId } from "../model/ids";
import { newProcessor } from "../model/tables/chain-processors";
import { newCueLevel } from "../model/tables/cue-levels";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { apply, applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { tally } from "../testing/tally";
import { dB } from "../units/decibels";
import { heardTwice, hearingOf } from "./hearing";
import { lowLatency, rateBufferTable } from "./low-latency";

const id = (name: string) => name as ChannelId;
const CUE = "ilse" as CueId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
/** A rig with the figures of the worked template. */
const rig = {
  ...wheelhouseCart,
  timing: Object.fromEntries(
    Object.entries(wheelhouseCart.timing).map(([device, timing]) => [
      device,
      {
        ...timing,
        adc: { unit: "ms", single: 0.35, double: 0.35, quadruple: 0.35 },
        dac: { unit: "ms", single: 0.45, double: 0.45, quadruple: 0.45 },
        marginInSamples: { single: 24, double: 24, quadruple: 24 },
        marginOutSamples: { single: 24, double: 24, quadruple: 24 },
      },
    ]),
  ),
} as typeof wheelhouseCart;

const late = (channel: string, delaySamples: number, more: object = {}): Edit => ({
  kind: "entries.add",
  entries: {
    processors: [
      newProcessor("other", { id: `on-${channel}` as never, channelId: id(channel), delaySamples, ...more }) as never,
    ],
  },
});
const level = (sourceId: string, more: object = {}) =>
  newCueLevel({ id: `level-${sourceId}` as CueLevelId, cueId: CUE, sourceId: id(sourceId), levelDb: dB(0), ...more });

/** One voice with a chain of 48 samples, a plate beside it, and a cue of its own. */
const sung = (...more: readonly Edit[]): Template =>
  done(
    aTemplate(rig).track("Lead voice", { input: "1", player: "Ilse Varga" }).track("Fiddle", { input: "2" }).build(),
    { kind: "channels.add", channels: [{ kind: "return", id: id("plate"), name: "Plate" }], feedIds: [] },
    { kind: "sends.add", sends: [{ id: "send" as SendId, fromId: id("track-1"), toId: id("plate"), tap: "before" }] },
    late("track-1", 48),
    {
      kind: "entries.add",
      entries: {
        cues: [{ id: CUE, name: "Ilse", people: ["Ilse Varga"], portIds: ["brindle:out:3", "brindle:out:4"] as never }],
        cueLevels: [level("track-1"), level("plate")],
      },
    },
    ...more,
  );
const heard = (doc: Template) =>
  hearingOf(doc, rig, demoStudio).paths.map(
    ({ direct, wet, ms, state }) =>
      `${direct ? "direct" : "computer"} ${wet ? "wet" : "dry"} ${ms.toFixed(4)} ${state}`,
  );

describe("what a performer hears of themself", () => {
  it("comes through the computer after 5.4667 ms, before the fader and not held back (math.md)", () => {
    expect(heard(sung())).toEqual(["computer dry 5.4667 late", "computer wet 5.4667 wet"]);
    // Something later elsewhere does not make the singer late, but it is told how far she is ahead of it.
    const beside = sung(late("track-2", 960), {
      kind: "sends.add",
      sends: [{ id: "f" as SendId, fromId: id("track-2"), toId: id("plate") }],
    });
    expect(heard(beside)[0]).toBe("computer dry 5.4667 late");
    expect(hearingOf(beside, rig, demoStudio).paths[1]?.aheadSamples).toBe(960 - 48);
  });

  it("comes direct in the time of the interface's mixer, with the reverb through the computer; not monitored not at all", () => {
    expect(
      heard(sung({ kind: "entries.set", table: "channels", ids: [id("track-1")], set: { monitor: "direct" } })),
    ).toEqual(["direct dry 0.9000 on-time", "computer wet 5.4667 wet"]);
    expect(
      heard(sung({ kind: "entries.set", table: "channels", ids: [id("track-1")], set: { monitor: "off" } })),
    ).toEqual([]);
  });

  it("does not come by what is off, at −∞, muted after the fader, or parked", () => {
    expect(heard(sung({ kind: "cueLevels.put", levels: [{ ...level("track-1"), on: false }] }))).toEqual([
      "computer wet 5.4667 wet",
    ]);
    expect(
      heard(sung({ kind: "entries.set", table: "sends", ids: ["send" as SendId], set: { levelDb: null } })),
    ).toEqual(["computer dry 5.4667 late"]);
    const muted = { kind: "entries.set", table: "channels", ids: [id("track-1")], set: { muted: true } } as const;
    expect(heard(sung(muted, { kind: "cueLevels.put", levels: [{ ...level("track-1"), tap: "after" }] }))).toEqual([
      "computer wet 5.4667 wet",
    ]);
    expect(heard(sung(muted, { kind: "settings.set", set: { mix: { mutesBefore: true } } }))).toEqual([]);
    expect(
      heard(sung({ kind: "entries.set", table: "channels", ids: [id("plate")], set: { parked: true } })),
    ).toHaveLength(1);
  });

  it("is what is armed: of tracks that take one line by turns the first, and those of the pass that runs", () => {
    const turns = sung(
      {
        kind: "tracks.add",
        tracks: [
          {
            id: id("double"),
            name: "Double",
            note: "",
            colour: null,
            icon: null,
            input: { kind: "line", lineId: "line-1" as never },
            sharing: null,
          },
        ],
        lines: [],
        folderId: null,
        before: null,
      },
      { kind: "entries.set", table: "channels", ids: [id("track-1"), id("double")], set: { sharing: "by-turns" } },
      { kind: "cueLevels.put", levels: [level("double")] },
    );
    const tracks = (doc: Template) => [...new Set(hearingOf(doc, rig, demoStudio).paths.map(({ trackId }) => trackId))];
    expect(tracks(turns)).toEqual(["track-1"]);
    expect(
      tracks(
        done(turns, {
          kind: "entries.add",
          entries: { passes: [{ id: "p" as never, name: "Second part", trackIds: [id("double")] }] },
        }),
      ),
    ).toEqual(["double"]);
  });

  it("through a hardware insert is a whole round trip later", () => {
    const [insert] = hearingOf(
      sung({
        kind: "entries.add",
        entries: { processors: [newProcessor("insert", { id: "i" as never, channelId: id("track-1") }) as never] },
      }),
      rig,
      demoStudio,
    ).paths;
    expect(insert?.ms).toBeCloseTo(5.46667 + Math.ceil(4.46667 * 48) / 48, 3);
  });
});

describe("somebody who hears themself twice", () => {
  it("is told with the lag: a cue mixed in the interface beside a voice through the computer", () => {
    const doc = sung({ kind: "entries.set", table: "cues", ids: [CUE], set: { mixedIn: "interface" } });
    const [twice] = heardTwice(hearingOf(doc, rig, demoStudio));
    expect(twice).toMatchObject({ first: { direct: true }, second: { direct: false }, opposite: false });
    expect(twice?.lagMs).toBeCloseTo(5.4667 - 0.9, 4);
    expect(
      heardTwice(
        hearingOf(
          done(doc, { kind: "entries.set", table: "channels", ids: [id("track-1")], set: { monitor: "direct" } }),
          rig,
          demoStudio,
        ),
      ),
    ).toEqual([]);
  });

  it("is not who hears a reverb of themself, nor who hears a copy that is 30 dB quieter", () => {
    expect(heardTwice(hearingOf(sung(), rig, demoStudio))).toEqual([]);
    const bus: Edit = {
      kind: "channels.add",
      channels: [{ kind: "bus", id: id("bus"), name: "Voices" }],
      feedIds: [id("track-1")],
    };
    const both = (levelDb: number) =>
      sung(bus, late("bus", 64), { kind: "cueLevels.put", levels: [level("bus", { levelDb: dB(levelDb) })] });
    expect(heardTwice(hearingOf(both(-10), rig, demoStudio))).toHaveLength(1);
    expect(heardTwice(hearingOf(both(-40), rig, demoStudio))).toEqual([]);
  });
});

describe("low latency", () => {
  it("names the fewest to switch off, and the buffers that would do", () => {
    // 3 ms for a voice: 1 ms of chain, and 1.4667 too much of buffers at 64.
    expect(lowLatency(sung(), rig, demoStudio)).toMatchObject({
      off: ["on-track-1"],
      meets: false,
      late: 1,
      bufferAsItIs: null,
      bufferAllOff: null,
    });
    const shorter = done(sung(), {
      kind: "settings.set",
      set: { format: { sampleRateHz: 96000 }, buffers: { recordingSamples: 32 } },
    });
    expect(lowLatency(shorter, rig, demoStudio)).toMatchObject({ off: [], meets: true, late: 0, bufferAsItIs: 32 });
    const stretched = done(shorter, {
      kind: "entries.set",
      table: "processors",
      ids: ["on-track-1" as never],
      set: { delaySamples: 144 },
    });
    expect(lowLatency(stretched, rig, demoStudio)).toMatchObject({
      off: ["on-track-1"],
      meets: true,
      late: 1,
      bufferAllOff: 64,
      missingMs: 0,
    });
  });

  it("takes from both branches of a split what its longer one needs, and never says that a set will do which does not", () => {
    const processor = (name: string, delaySamples: number, branch: "first" | "second" | null) =>
      newProcessor(branch ? "other" : "split", {
        id: name as never,
        channelId: id("track-1"),
        delaySamples,
        ...(branch ? { splitId: "split" as never, branch } : {}),
      }) as never;
    const split = (first: readonly number[], second: readonly number[]): Template =>
      done(
        sung(),
        { kind: "settings.set", set: { format: { sampleRateHz: 96000 }, buffers: { recordingSamples: 32 } } },
        { kind: "entries.set", table: "processors", ids: ["on-track-1" as never], set: { delaySamples: 0 } },
        {
          kind: "entries.add",
          entries: {
            processors: [
              processor("split", 0, null),
              ...first.map((delay, n) => processor(`a${n}`, delay, "first")),
              ...second.map((delay, n) => processor(`b${n}`, delay, "second")),
            ],
          },
        },
      );
    const isLate = (doc: Template, off: readonly string[]): boolean =>
      hearingOf(
        done(doc, { kind: "entries.set", table: "processors", ids: off as never, set: { bypassed: true } }),
        rig,
        demoStudio,
      ).paths.some(({ wet, ms, targetMs }) => !wet && targetMs !== null && ms > targetMs + 1e-9);
    // One branch switched off leaves the other as late.
    const alike = lowLatency(split([144], [144]), rig, demoStudio);
    expect([...alike.off].sort()).toEqual(["a0", "b0"]);
    expect(alike.meets).toBe(true);
    expect(lowLatency(split([144], [10]), rig, demoStudio)).toMatchObject({ off: ["a0"], meets: true });
    const delays = fc.array(fc.integer({ min: 1, max: 120 }), { maxLength: 3 });
    fc.assert(
      fc.property(delays, delays, (first, second) => {
        const doc = split(first, second);
        const { off, meets } = lowLatency(doc, rig, demoStudio);
        const all = [...first.map((_, n) => `a${n}`), ...second.map((_, n) => `b${n}`)];
        const sets = Array.from({ length: 2 ** all.length }, (_, mask) =>
          all.filter((__, n) => mask & (1 << n)),
        ).filter((set) => set.length > 0);
        const enough = isLate(doc, ["on-track-1"])
          ? sets.filter((set) => !isLate(doc, set)).map(({ length }) => length)
          : [0];
        expect(meets).toBe(enough.length > 0);
        expect(off).toHaveLength(Math.min(...enough));
      }),
      { numRuns: runs(30, 600), seed: 20261126 },
    );
  });

  it("counts a processor's own figure at double rates", () => {
    const doc = done(
      sung(),
      { kind: "entries.set", table: "processors", ids: ["on-track-1" as never], set: { delayDoubleSamples: 96 } },
      { kind: "settings.set", set: { format: { sampleRateHz: 96000 } } },
    );
    expect(hearingOf(doc, rig, demoStudio).paths[0]?.chainSamples).toBe(96);
  });

  it("has a table of every rate by every buffer, which agrees with what is heard", () => {
    const doc = sung();
    const table = rateBufferTable(doc, rig, demoStudio);
    const here = table.find(({ rateHz, bufferSamples }) => rateHz === 48000 && bufferSamples === 64);
    expect(here?.latestMs).toBeCloseTo(5.46667, 4);
    expect(here).toMatchObject({ late: 1, near: 0 });
    expect(table.every(({ load, holds }) => holds === load < 0.7)).toBe(true);
    for (const [at, one] of table.entries()) {
      const next = table[at + 1];
      if (next?.rateHz === one.rateHz) expect(next.latestMs).toBeGreaterThan(one.latestMs ?? Number.POSITIVE_INFINITY);
    }
  });
});

describe("what is kept from one edit to the next", () => {
  it("is the same as from scratch, after any edits", () => {
    const drawn = tally();
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc = sung();
        for (let n = 0; n < 25; n++) {
          const made = apply(doc, randomEdit(doc, chance));
          if (!drawn.took(made.ok) || !made.ok) continue;
          doc = made.doc;
          expect(hearingOf(doc, rig, demoStudio)).toEqual(hearingOf(structuredClone(doc), rig, demoStudio));
        }
      }),
      { numRuns: runs(12, 250), seed: 20261126 },
    );
    expect(drawn.share()).toBeGreaterThan(0.5);
  });
});

describe("whatever is edited", () => {
  it("a processor that is added never makes a path earlier, and switching everything off never makes one later", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc = sung();
        for (let n = 0; n < 30; n++) {
          const made = apply(doc, randomEdit(doc, chance));
          if (made.ok) doc = made.doc;
        }
        const channelId = Object.keys(doc.channels)[0] as ChannelId;
        const more = done(doc, {
          kind: "entries.add",
          entries: {
            processors: [newProcessor("other", { id: "one-more" as never, channelId, delaySamples: 100 }) as never],
          },
        });
        const off = done(doc, { kind: "settings.set", set: { buffers: { allOff: true } } });
        const by = (of: Template) => new Map(hearingOf(of, rig, demoStudio).paths.map((path) => [path.id, path.ms]));
        const [was, later, sooner] = [by(doc), by(more), by(off)];
        for (const [path, ms] of was) {
          expect(later.get(path) ?? Number.POSITIVE_INFINITY).toBeGreaterThanOrEqual(ms - 1e-9);
          expect(sooner.get(path) ?? 0).toBeLessThanOrEqual(ms + 1e-9);
        }
      }),
      { numRuns: runs(30, 600), seed: 20261126 },
    );
  });
});
