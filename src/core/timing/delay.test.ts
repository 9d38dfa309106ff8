import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wheelhouseCart, wholeMill } from "../demo/rigs";
import type { PortId } from "../model/ids";
import { runs } from "../testing/how-many";
import { type Burden, fewestOff } from "./fewest-off";
import { correctionOf, directWay, hardwareOf, roundTripMs, roundTripSamples } from "./hardware";
import { doubledDb, metresIn, notchesHz, swingDb } from "./heard-twice";
import { loadAt, smallestHolding } from "./load";

const at = (rateHz: 48000 | 96000, bufferSamples: number, more: object) => ({
  rateHz,
  bufferSamples,
  buffersIn: 1,
  buffersOut: 1,
  marginInSamples: 24,
  marginOutSamples: 24,
  adcMs: 0.35,
  dacMs: 0.45,
  correctionSamples: 0,
  ...more,
});

describe("the round trip (math.md)", () => {
  it.each([
    [at(48000, 64, {}), 0, 4.4667],
    [at(48000, 64, {}), 96, 6.4667],
    [at(96000, 128, { buffersOut: 2, marginInSamples: 32, marginOutSamples: 32, adcMs: 0.2, dacMs: 0.25 }), 0, 5.1167],
    [at(48000, 64, {}), 48, 5.4667],
  ])("%#: with %d samples of chain %d ms", (hardware, chain, ms) =>
    expect(roundTripMs(hardware, chain)).toBeCloseTo(ms, 4),
  );

  it("costs a hardware insert a whole one", () =>
    expect(roundTripSamples(at(48000, 64, {}))).toBe(Math.ceil(4.46667 * 48)));
});

describe("the rig of the mill", () => {
  const port = (name: string) => name as PortId;

  it("brings an input past the computer in 0.9 ms, and one of the expander by its own converter", () => {
    const own = directWay(wholeMill, port("brindle:in:1"), port("brindle:out:3"), 48000);
    expect([own?.adcMs, own?.mixerMs, own?.dacMs].map((ms) => ms?.toFixed(2))).toEqual(["0.30", "0.28", "0.32"]);
    expect(directWay(wholeMill, port("eight:in:1"), port("brindle:out:3"), 48000)?.adcMs).toBeCloseTo(0.3);
    expect(directWay(wheelhouseCart, null, null, 48000)).toBeNull();
  });

  it("is corrected by what a loop-back measured, at every buffer", () => {
    const brindle = wholeMill.timing["brindle" as never] as (typeof wholeMill.timing)[never];
    const measured = {
      rateHz: 48000,
      bufferSamples: 64,
      ms: roundTripMs(hardwareOf(wholeMill, {}, { rateHz: 48000, bufferSamples: 64 })) + 0.5,
    };
    const rig = {
      ...wholeMill,
      timing: { ...wholeMill.timing, ["brindle" as never]: { ...(brindle as object), measured } },
    } as typeof wholeMill;
    expect([correctionOf(wholeMill), correctionOf(rig)]).toEqual([0, 24]);
    const grown = (bufferSamples: number) =>
      roundTripMs(hardwareOf(rig, {}, { rateHz: 48000, bufferSamples })) -
      roundTripMs(hardwareOf(wholeMill, {}, { rateHz: 48000, bufferSamples }));
    expect([grown(64), grown(512)]).toEqual([expect.closeTo(0.5, 9), expect.closeTo(0.5, 9)]);
  });
});

describe("heard twice (math.md)", () => {
  it.each([
    [1, 500, 1000],
    [2.5, 200, 400],
    [5.8, 86.21, 172.41],
  ])("%d ms apart: first notch at %d Hz, then every %d", (lagMs, first, spacing) => {
    const { firstHz, spacingHz } = notchesHz({ lagMs, opposite: false });
    expect([firstHz, spacingHz]).toEqual([expect.closeTo(first, 2), expect.closeTo(spacing, 2)]);
  });

  it.each([
    [0, -6, 3.53, -6.04],
    [0, -12, 1.95, -2.51],
    [-3, -9, 0.53, -9.04],
  ])("%d and %d dB swing from %d to %d", (firstDb, secondDb, peak, notch) => {
    const swing = swingDb({ firstDb, secondDb });
    expect([swing.peakDb, swing.notchDb]).toEqual([expect.closeTo(peak, 2), expect.closeTo(notch, 2)]);
  });

  it("turned over, 2.5 ms and −6 dB: −6.04 dB at 0 and 400 Hz, +3.53 at 200", () => {
    const doubled = { lagMs: 2.5, firstDb: 0, secondDb: -6, opposite: true };
    expect([0, 400, 200].map((hz) => Number(doubledDb(doubled, hz).toFixed(2)))).toEqual([-6.04, -6.04, 3.53]);
    expect(notchesHz(doubled)).toEqual({ firstHz: 0, spacingHz: 400 });
  });

  it("3 ms is 1.029 m in air", () => expect(metresIn(3)).toBeCloseTo(1.029, 6));
});

describe("the load", () => {
  const costs = { fixedUs: 400, perSampleNs: 4000, processors: 9, measured: 0 };

  it("is what a turn costs over the time that it has, and falls as the buffer grows", () => {
    expect(loadAt(costs, 64, 48000)).toBeCloseTo((400e-6 + 4e-6 * 64) / (64 / 48000), 9);
    expect(loadAt(costs, 128, 48000)).toBeLessThan(loadAt(costs, 64, 48000));
  });

  it("holds from the smallest buffer under the ceiling; from none where the samples alone are too much", () => {
    expect(smallestHolding(costs, [32, 64, 128], { rateHz: 48000, ceiling: 0.7 })).toBe(64);
    expect(
      smallestHolding({ ...costs, perSampleNs: 20_000 }, [32, 64, 128], { rateHz: 48000, ceiling: 0.7 }),
    ).toBeNull();
  });
});

const burden = (over: number, by: Readonly<Record<string, number>>): Burden => ({
  over,
  by: new Map(Object.entries(by)),
});

/** Every set there is, from the smallest. */
const byTrying = (burdens: readonly Burden[]): number | null => {
  const ids = [...new Set(burdens.flatMap(({ by }) => [...by.keys()]))];
  let best: number | null = null;
  for (let mask = 0; mask < 2 ** ids.length; mask++) {
    const off = new Set(ids.filter((_, n) => mask & (1 << n)));
    const meets = burdens.every(
      ({ over, by }) => [...by].reduce((left, [id, samples]) => left - (off.has(id) ? samples : 0), over) <= 0,
    );
    if (meets && (best === null || off.size < best)) best = off.size;
  }
  return best;
};

describe("the fewest to switch off", () => {
  it("is the one that two share, not the longest of each", () =>
    expect(fewestOff([burden(50, { x: 60, s: 50 }), burden(50, { y: 60, s: 50 })])).toEqual({
      off: ["s"],
      meets: true,
      proven: true,
    }));

  it("is nothing where all are on time, and all where not even that helps", () => {
    expect(fewestOff([burden(0, { x: 60 }), burden(-5, {})])).toEqual({ off: [], meets: true, proven: true });
    expect(fewestOff([burden(100, { x: 60, y: 30 })])).toEqual({ off: ["x", "y"], meets: false, proven: true });
  });

  it("is never more than trying every set finds", () => {
    const some = fc.dictionary(
      fc.constantFrom("a", "b", "c", "d", "e", "f", "g", "h"),
      fc.integer({ min: 1, max: 100 }),
      { maxKeys: 6 },
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: -20, max: 200 }), some), { maxLength: 6 }), (drawn) => {
        const burdens = drawn.map(([over, by]) => burden(over, by));
        const { off, meets, proven } = fewestOff(burdens);
        const best = byTrying(burdens);
        expect(proven).toBe(true);
        expect(meets).toBe(best !== null);
        if (best !== null) expect(off.length).toBe(best);
      }),
      { numRuns: runs(300, 3000), seed: 20261126 },
    );
  });

  it("comes of forty voices with a chain of eight each and one bus in moments", () => {
    const many = Array.from({ length: 40 }, (_, n) =>
      burden(150, {
        bus: 96,
        limiter: 64,
        ...Object.fromEntries(Array.from({ length: 8 }, (_, m) => [`${n}-${m}`, 20 + m])),
      }),
    );
    expect(fewestOff(many)).toEqual({ off: ["bus", "limiter"], meets: true, proven: true });
  });
});
