import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import type { ChannelId, CueId, CueLevelId } from "../model/ids";
import { newCueLevel } from "../model/tables/cue-levels";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { apply, applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { workedMix } from "../testing/worked";
import { type Decibels, dB } from "../units/decibels";
import { gainPlans } from "./gain-plan";
import { distanceDb, gainToSet, microphoneDbu, peakDb } from "./microphone";
import { contributorsTo, contributorsToCue, mixLevels } from "./mix-levels";
import { type Side, type Sides, sideDb, worstPeakDb } from "./sides";
import { bytesPerSecond, fileEndsAfterS, storageOf } from "./storage";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const levels = (doc: Template) => mixLevels(doc, { rig: wheelhouseCart, studio: demoStudio });

describe("the gain to set (math.md)", () => {
  it.each([
    [2.0, 114, -31.761],
    [1.2, 120, -30.198],
    [12, 74, -56.198],
  ])("%d mV/Pa at %d dB SPL give %d dBu", (sensitivity, spl, dbu) =>
    expect(microphoneDbu(sensitivity, spl)).toBeCloseTo(dbu, 3),
  );

  it("is louder near by and quieter far away", () => {
    expect(distanceDb(0.3)).toBeCloseTo(10.46, 2);
    expect(distanceDb(4)).toBeCloseTo(-12.04, 2);
  });

  it("brings 2.0 mV/Pa at 114 dB to −18 dBFS with 31.76 dB, and a crest of 14 dB peaks at −7.01", () => {
    expect(gainToSet({ targetDb: -18, fullScaleDbu: 18, sourceDbu: microphoneDbu(2, 114) })).toBeCloseTo(31.76, 2);
    expect(peakDb(-18, 14)).toBeCloseTo(-7.01, 2);
  });

  it("takes a line's own figures before those of its family, and says when the preamp does not reach", () => {
    const doc = aTemplate().track("Trumpet", { input: "1" }).track("Trumpet", { input: "2" }).build();
    const [first, second] = Object.keys(doc.lines);
    const loud = done(doc, {
      kind: "entries.set",
      table: "lines",
      ids: [second as never],
      set: { loudnessDb: 150, distanceM: 0.1, crestDb: 20 },
    });
    const [usual, hot] = [first, second].map((line) => gainPlans(loud, wheelhouseCart, demoStudio).get(line ?? ""));
    expect(usual).toMatchObject({ loudnessDb: 96, crestDb: 12, typed: false, fit: "fits", levelDb: -18 });
    expect(hot).toMatchObject({ loudnessDb: 150, crestDb: 20, typed: true, fit: "too-hot", gainDb: 0 });
    expect(hot?.levelDb).toBeGreaterThan(-18);
    expect(hot?.peakDb).toBeCloseTo((hot?.levelDb ?? 0) + 20 - 3.01, 2);
  });
});

describe("sums (math.md)", () => {
  /** What clicks of such levels come to in the main bus, under a pan law that leaves the middle as it is. */
  const summed = (all: readonly number[], faderDb: Decibels | null = dB(0)) => {
    const clicks = all.map((sourceDb, at) => ({
      kind: "click" as const,
      id: id(`click-${at}`),
      name: `Click ${at}`,
      sourceDb: dB(sourceDb),
      faderDb,
    }));
    const doc = done(
      aTemplate().build(),
      { kind: "settings.set", set: { mix: { panLawDb: 0 } } },
      { kind: "channels.add", channels: clicks, feedIds: [] },
    );
    const { alikeDb, unlikeDb } = sideDb(levels(doc).channels.get(id("main"))?.into.left as Side);
    return [alikeDb, unlikeDb];
  };

  it("four at −18 come to −5.96 alike and −11.98 unlike; −12, −18, −24 to −7.13 and −10.81; silence to silence", () => {
    expect(summed([-18, -18, -18, -18]).map((db) => db?.toFixed(2))).toEqual(["-5.96", "-11.98"]);
    expect(summed([-12, -18, -24]).map((db) => db?.toFixed(2))).toEqual(["-7.13", "-10.81"]);
    expect(summed([-18, -18], null)).toEqual([null, null]);
  });

  it("never come to more unlike than alike", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -60, max: 0 }), { minLength: 1, maxLength: 12 }), (all) => {
        const [alike, unlike] = summed(all);
        expect(unlike ?? 0).toBeLessThanOrEqual((alike ?? 0) + 1e-9);
      }),
      { seed: 20261126, numRuns: runs(20, 100) },
    );
  });
});

const figures = ({ left, right }: Sides): readonly string[] => {
  const of = (side: Side) => [sideDb(side).alikeDb?.toFixed(2) ?? "", sideDb(side).unlikeDb?.toFixed(2) ?? ""];
  const [[alikeL, unlikeL], [alikeR, unlikeR]] = [of(left), of(right)] as [string[], string[]];
  return [`${alikeL} / ${alikeR}`, `${unlikeL} / ${unlikeR}`, worstPeakDb({ left, right })?.toFixed(2) ?? ""];
};

describe("the whole worked template (math.md)", () => {
  it.each([
    ["plate", "-28.36 / -28.36", "-31.25 / -31.25", "-17.37"],
    ["voices", "-19.39 / -18.09", "-23.74 / -22.40", "-7.10"],
    ["strings", "-23.69 / -31.34", "-23.69 / -31.34", "-12.70"],
    ["main", "-15.96 / -16.70", "-21.59 / -22.07", "-4.97"],
  ])("into %s: alike %s, unlike %s, worst peak %s", (channel, alike, unlike, peak) =>
    expect(figures(levels(workedMix()).channels.get(id(channel))?.into as Sides)).toEqual([alike, unlike, peak]),
  );

  it("names what contributes most, and counts control faders, mutes and parked channels", () => {
    const doc = workedMix();
    expect(contributorsTo(doc, levels(doc), id("voices")).map(({ sourceId }) => sourceId)).toEqual([
      "track-1",
      "track-2",
      "plate",
    ]);
    const ridden = done(doc, {
      kind: "controls.add",
      control: { id: "c" as never, name: "All", faderDb: dB(-6) },
      channelIds: [id("voices")],
    });
    const into = (of: Template) => sideDb(levels(of).channels.get(id("main"))?.into.right as Side).alikeDb ?? 0;
    expect(into(ridden)).toBeLessThan(into(doc) - 4);
    expect(
      contributorsTo(
        done(doc, { kind: "entries.set", table: "channels", ids: [id("voices")], set: { muted: true } }),
        levels(done(doc, { kind: "entries.set", table: "channels", ids: [id("voices")], set: { muted: true } })),
        id("main"),
      ).map(({ sourceId }) => sourceId),
    ).toEqual(["strings"]);
    expect(
      into(
        done(doc, {
          kind: "entries.set",
          table: "channels",
          ids: [id("track-1"), id("track-2"), id("plate")],
          set: { parked: true },
        }),
      ),
    ).toBeCloseTo(-33.34, 2);
  });
});

describe("what a cue comes to", () => {
  const cue = "ilse" as CueId;
  const put = (sourceId: string, more: object = {}) =>
    newCueLevel({ id: `l-${sourceId}` as CueLevelId, cueId: cue, sourceId: id(sourceId), levelDb: dB(0), ...more });
  const heard = (...put: readonly ReturnType<typeof newCueLevel>[]) =>
    done(workedMix(), { kind: "entries.add", entries: { cues: [{ id: cue, name: "Ilse" }], cueLevels: put } });

  it("is before the fader the source itself, after it with the fader; panned by the law", () => {
    const [before, after] = [heard(put("track-1")), heard(put("track-1", { tap: "after" }))].map(
      (doc) => sideDb(levels(doc).cues.get(cue)?.left as Side).alikeDb,
    );
    expect([before?.toFixed(2), after?.toFixed(2)]).toEqual(["-21.01", "-25.51"]);
  });

  it("leaves out what is off, and names what contributes most", () => {
    const doc = heard(put("track-1", { on: false }), put("track-2"), put("plate"));
    expect(contributorsToCue(levels(doc), cue).map(({ sourceId }) => sourceId)).toEqual(["track-2", "plate"]);
  });

  it("is silent where the cue stands at −∞", () => {
    const doc = done(heard(put("track-1")), { kind: "entries.set", table: "cues", ids: [cue], set: { levelDb: null } });
    expect(worstPeakDb(levels(doc).cues.get(cue) as Sides)).toBeNull();
  });
});

describe("levels of whatever was edited", () => {
  it("are never more unlike than alike, nowhere", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc = workedMix();
        for (let n = 0; n < 30; n++) {
          const made = apply(doc, randomEdit(doc, chance));
          if (made.ok) doc = made.doc;
        }
        const { channels, cues } = levels(doc);
        for (const sides of [...[...channels.values()].map(({ into }) => into), ...cues.values()])
          for (const side of [sides.left, sides.right]) {
            expect(Number.isFinite(side.alike) && Number.isFinite(side.peak)).toBe(true);
            expect(Math.sqrt(side.unlike)).toBeLessThanOrEqual(side.alike * (1 + 1e-9) + 1e-12);
          }
      }),
      { numRuns: runs(60, 600), seed: 20261126 },
    );
  });
});

describe("the disk (math.md)", () => {
  it("takes 3,456,000 bytes a second of 24 mono tracks at 48 kHz and 24 bit: 12.4416 GB or 11.587 GiB an hour", () => {
    const doc = aTemplate().build();
    const tracks = Array.from({ length: 24 }, (_, n) => ({
      id: id(`t${n}`),
      name: `T ${n}`,
      note: "",
      colour: null,
      icon: null,
      input: { kind: "line", lineId: `l${n}` } as const,
      sharing: null,
    }));
    const many = done(doc, {
      kind: "tracks.add",
      tracks: tracks as never,
      lines: tracks.map(
        ({ input }) =>
          ({
            ...Object.values(aTemplate().track("A", { input: "1" }).build().lines)[0],
            id: input.lineId,
            portId: null,
          }) as never,
      ),
      folderId: null,
      before: null,
    });
    const { bytesPerSecond: perSecond, bytesPerHour, eveningBytes } = storageOf(many);
    expect(perSecond).toBe(3_456_000);
    expect(bytesPerHour / 1e9).toBeCloseTo(12.4416, 4);
    expect(bytesPerHour / 2 ** 30).toBeCloseTo(11.587, 3);
    expect(eveningBytes).toBe(3 * bytesPerHour);
  });

  it("ends a plain file after 2 h 4 min in stereo at 96 kHz and 24 bit, after 8 h 17 min in mono at 48", () => {
    expect(Math.floor(fileEndsAfterS(2, { sampleRateHz: 96000, bitDepth: 24 }) / 60)).toBe(2 * 60 + 4);
    expect(Math.floor(fileEndsAfterS(1, { sampleRateHz: 48000, bitDepth: 24 }) / 60)).toBe(8 * 60 + 17);
    expect(bytesPerSecond(6, { sampleRateHz: 48000, bitDepth: 32 })).toBe(1_152_000);
  });

  it("counts tracks that take one line by turns once, and says how much fits", () => {
    const doc = done(
      aTemplate().track("Lead", { input: "1" }).trackOnLine("Double", "line-1").build(),
      { kind: "entries.set", table: "channels", ids: [id("track-1"), id("track-2")], set: { sharing: "by-turns" } },
      { kind: "settings.set", set: { disk: { freeGb: 1.44 } } },
      {
        kind: "entries.add",
        entries: {
          passes: [
            { id: "p" as never, name: "Lead", trackIds: [id("track-1"), id("track-2")], takeMinutes: 5, takes: 2 },
          ],
        },
      },
    );
    expect(storageOf(doc)).toMatchObject({ bytesPerSecond: 144_000, fitsS: 10_000, passesBytes: 144_000 * 600 });
  });
});
