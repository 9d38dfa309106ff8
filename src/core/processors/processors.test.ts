import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { newProcessor } from "../model/tables/chain-processors";
import { BAND_SHAPES, PROCESSOR_KIND_NAMES, SLOPES_DB } from "../model/tables/processor-settings";
import { miniature, threadThrough } from "./curves";
import { compressed, levelCurve, levelOut, reductionDb, thresholdFor } from "./dynamics";
import {
  bandSections,
  extremes,
  filterSections,
  frequencies,
  levelAt,
  responseCurve,
  summedAt,
  summedCurve,
} from "./response";
import { sectionOf } from "./sections";

const RATE = 48000;
const at = (design: Parameters<typeof sectionOf>[0], hz: number) =>
  levelAt([sectionOf(design, RATE)], { hz, rateHz: RATE });
const ids = { id: "p" as never, channelId: "c" as never };

describe("second-order sections at 48 kHz, by the figures of the calculations", () => {
  const highPass = { shape: "high-pass", frequencyHz: 80, gainDb: 0, q: Math.SQRT1_2 } as const;
  const bell = { shape: "bell", frequencyHz: 3000, gainDb: -4, q: 1.4 } as const;
  const lowShelf = { shape: "low-shelf", frequencyHz: 120, gainDb: 3, q: Math.SQRT1_2 } as const;
  it.each([
    [highPass, 40, -12.305],
    [highPass, 80, -3.01],
    [highPass, 120, -0.783],
    [bell, 3000, -4],
    [bell, 1000, -0.268],
    [bell, 6000, -0.676],
    [lowShelf, 40, 2.963],
    [lowShelf, 120, 1.5],
  ])("%o at %d Hz answers %d dB", (design, hz, db) => expect(at(design, hz)).toBeCloseTo(db, 3));

  it("a low shelf passes 2.5 dB on its way", () => expect(at(lowShelf, 80)).toBeCloseTo(2.5, 2));

  it("a high shelf is a low shelf turned over, and a low-pass a high-pass", () => {
    const up = { shape: "high-shelf", frequencyHz: 4000, gainDb: 6, q: Math.SQRT1_2 } as const;
    expect([at(up, 20), at(up, 4000), at(up, 20000)].map((db) => Math.round(db * 10) / 10)).toEqual([0, 3, 6]);
    expect(at({ ...highPass, shape: "low-pass" }, 80)).toBeCloseTo(-3.01, 3);
    expect(at({ shape: "notch", frequencyHz: 50, gainDb: 0, q: 10 }, 50)).toBeLessThan(-100);
  });

  it("is flat at 0 dB of gain, and turned over by its gain turned over", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("bell", "low-shelf", "high-shelf"),
        fc.double({ min: 20, max: 20000, noNaN: true }),
        fc.double({ min: -24, max: 24, noNaN: true }),
        (shape, hz, db) => {
          const design = { shape, frequencyHz: 1000, q: 1 } as const;
          expect(at({ ...design, gainDb: 0 }, hz)).toBeCloseTo(0, 6);
          expect(at({ ...design, gainDb: db }, hz)).toBeCloseTo(-at({ ...design, gainDb: -db }, hz), 6);
        },
      ),
    );
  });

  it("answers a finite level for every shape, at every rate and frequency, also beyond half the rate", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...BAND_SHAPES),
        fc.double({ min: 10, max: 40000, noNaN: true }),
        fc.double({ min: 0.1, max: 40, noNaN: true }),
        (shape, frequencyHz, q) => {
          const curve = responseCurve([sectionOf({ shape, frequencyHz, gainDb: 12, q }, 44100)], 44100, { count: 20 });
          expect(curve.every(({ y }) => Number.isFinite(y))).toBe(true);
        },
      ),
    );
  });
});

describe("filters", () => {
  it.each(SLOPES_DB)(
    "of %d dB an octave answer −3.01 dB at their frequency, and fall so fast far from it",
    (slopeDb) => {
      const sections = filterSections({ pass: "low-pass", frequencyHz: 500, slopeDb, crossover: false }, 192000);
      expect(levelAt(sections, { hz: 500, rateHz: 192000 })).toBeCloseTo(-3.01, 2);
      expect(
        levelAt(sections, { hz: 2000, rateHz: 192000 }) - levelAt(sections, { hz: 4000, rateHz: 192000 }),
      ).toBeCloseTo(slopeDb, 0);
    },
  );

  const half = (pass: "high-pass" | "low-pass", frequencyHz: number) => [
    { pass, frequencyHz, slopeDb: 24 as const, crossover: true },
  ];
  it("of a crossover add up to what came in; apart they leave a hole, over one another a bump", () => {
    for (const { y } of summedCurve([half("low-pass", 300), half("high-pass", 300)], RATE)) expect(y).toBeCloseTo(0, 6);
    expect(summedAt([half("low-pass", 250), half("high-pass", 350)], 300, RATE)).toBeCloseTo(-4.4, 2);
    expect(summedAt([half("low-pass", 350), half("high-pass", 250)], 300, RATE)).toBeCloseTo(1.45, 2);
  });
});

describe("an equaliser", () => {
  const band = (gainDb: number, bypassed = false) => ({
    shape: "bell" as const,
    frequencyHz: 1000,
    gainDb: gainDb as never,
    q: 1,
    bypassed,
  });
  it("adds up its bands in dB, leaves out what is bypassed, and tells its highest point", () => {
    expect(levelAt(bandSections([band(3), band(2), band(6, true)], RATE), { hz: 1000, rateHz: RATE })).toBeCloseTo(
      5,
      6,
    );
    const { highest, lowest } = extremes(responseCurve(bandSections([band(3)], RATE), RATE));
    expect([Math.round(highest.x / 50) * 50, Math.round(highest.y * 10) / 10, Math.round(lowest.y)]).toEqual([
      1000, 3, 0,
    ]);
  });
  it("is drawn from 20 Hz to 20 kHz, as far apart by their logarithm", () => {
    const hz = frequencies(4);
    expect([hz[0], Math.round(hz[1] ?? 0), Math.round(hz[2] ?? 0), Math.round(hz[3] ?? 0)]).toEqual([
      20, 200, 2000, 20000,
    ]);
  });
});

describe("dynamics", () => {
  const compressor = { thresholdDb: -20, ratio: 2.5, kneeDb: 6 } as never;
  it.each([
    [-30, -30],
    [-22, -22.05],
    [-20, -20.45],
    [-18, -19.25],
    [-10, -16],
    [0, -12],
  ])("a compressor takes %d dB in to %d out", (x, y) => expect(compressed(compressor, x)).toBeCloseTo(y, 2));

  it("a compressor never takes off more than its range, and never adds but by its make-up", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -100, max: 0, noNaN: true }),
        fc.double({ min: 1, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 24, noNaN: true }),
        (x, ratio, rangeDb) => {
          const off = reductionDb(
            { thresholdDb: -40 as never, ratio, kneeDb: 6 as never, rangeDb: rangeDb as never },
            x,
          );
          expect(off).toBeGreaterThanOrEqual(0);
          expect(off).toBeLessThanOrEqual(rangeDb + 1e-9);
        },
      ),
    );
  });

  it("ducking is set so that the wanted depth is reached at the level that is expected", () => {
    const thresholdDb = thresholdFor({ depthDb: 9, ratio: 4, heardDb: -24 });
    expect(thresholdDb).toBe(-36);
    expect(
      reductionDb({ thresholdDb: thresholdDb as never, ratio: 4, kneeDb: 0 as never, rangeDb: 9 as never }, -24),
    ).toBeCloseTo(9, 9);
    expect(
      reductionDb({ thresholdDb: thresholdDb as never, ratio: 4, kneeDb: 0 as never, rangeDb: 9 as never }, -6),
    ).toBe(9);
    expect(
      reductionDb({ thresholdDb: thresholdDb as never, ratio: 4, kneeDb: 0 as never, rangeDb: 9 as never }, -60),
    ).toBe(0);
  });

  it.each([
    [
      newProcessor("gate", { ...ids, thresholdDb: -40 as never, ratio: 2, rangeDb: 20 as never }),
      [-30, -50, -60],
      [-30, -60, -80],
    ],
    [newProcessor("limiter", { ...ids, ceilingDb: -6 as never }), [-20, -3], [-20, -6]],
    [
      newProcessor("de-esser", { ...ids, thresholdDb: -20 as never, rangeDb: 6 as never }),
      [-30, -18, 0],
      [-30, -20, -6],
    ],
    [
      newProcessor("compressor", { ...ids, thresholdDb: -20 as never, kneeDb: 0 as never, makeUpDb: 3 as never }),
      [-30, -10],
      [-27, -13],
    ],
    [newProcessor("gain", { ...ids, gainDb: -6 as never }), [-10], [-16]],
  ])("%o", (processor, ins, outs) => expect(ins.map((x) => levelOut(processor, x))).toEqual(outs));

  it("is drawn from −60 to 0 dBFS, and what does not depend on the level is not", () => {
    const curve = levelCurve(newProcessor("limiter", ids));
    expect([curve?.[0], curve?.at(-1)]).toEqual([
      { x: -60, y: -60 },
      { x: 0, y: -1 },
    ]);
    expect(levelCurve(newProcessor("reverb", ids))).toBeNull();
  });
});

describe("the small picture of a processor", () => {
  const bands = [{ shape: "bell" as const, frequencyHz: 632.5, gainDb: 9 as never, q: 1, bypassed: false }];
  it.each(PROCESSOR_KIND_NAMES)("of a %s lies within its frame and goes from left to right", (kind) => {
    const points = miniature(newProcessor(kind, ids as never) as never, bands, RATE);
    expect(points.length).toBeGreaterThan(1);
    for (const { x, y } of points) expect([x >= 0 && x <= 1, y >= 0.04 && y <= 0.96]).toEqual([true, true]);
    expect(points.at(-1)?.x ?? 0).toBeGreaterThan(points[0]?.x ?? 1);
  });
  it.each(PROCESSOR_KIND_NAMES)(
    "the thread through a %s comes in and goes on where it ran, and never jumps",
    (kind) => {
      const points = threadThrough(newProcessor(kind, ids as never) as never, bands, RATE);
      expect([points[0], points.at(-1)]).toEqual([
        { x: 0, y: 0 },
        { x: 1, y: 0 },
      ]);
      for (const { y } of points) expect(Math.abs(y)).toBeLessThanOrEqual(1);
      expect(points.every(({ x }, at) => at === 0 || x >= (points[at - 1]?.x ?? 0))).toBe(true);
      // Eased: what stands at the very edge of the small picture is not seen there.
      expect(Math.abs(points[1]?.y ?? 1)).toBeLessThan(0.5);
    },
  );
  it("the thread is pulled up where an equaliser turns up, and down where a high-pass takes away", () => {
    const up = threadThrough(newProcessor("equaliser", ids) as never, bands, RATE);
    const high = threadThrough(newProcessor("filter", { ...ids, frequencyHz: 400 }) as never, [], RATE);
    const at = (points: typeof up, x: number) =>
      points.reduce((a, b) => (Math.abs(b.x - x) < Math.abs(a.x - x) ? b : a)).y;
    expect([at(up, 0.5) > 0.2, at(high, 0.2) < -0.2, Math.abs(at(high, 0.8)) < 0.05]).toEqual([true, true, true]);
  });
  it("shows what it does: a bell in the middle, a limiter that stops", () => {
    const middle = miniature(newProcessor("equaliser", ids) as never, bands, RATE)[30];
    expect(middle?.y).toBeGreaterThan(0.62);
    const [wet, dry] = [100, 0].map(
      (wetPercent) => miniature(newProcessor("equaliser", { ...ids, wetPercent }) as never, bands, RATE)[30]?.y,
    );
    expect([wet === middle?.y, dry]).toEqual([true, 0.5]);
    const limited = miniature(newProcessor("limiter", { ...ids, ceilingDb: -30 as never }) as never, [], RATE);
    expect([limited[20]?.y, limited.at(-1)?.y].map((y) => Math.round((y ?? 0) * 100))).toEqual([50, 50]);
  });
});
