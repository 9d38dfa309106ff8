import { describe, expect, it } from "vitest";
import { gainScale, preampThread } from "./preamp-thread";

const range = (min: number, max: number) => ({ min, max }) as never;

describe("the thread of a preamp", () => {
  const scale = gainScale([{ range: range(0, 60) }, { range: range(10, 75) }, { range: null }]);

  it("lies on a scale from the least to the most gain of all", () => {
    expect(scale).toEqual({ min: 0, max: 75 });
    expect(gainScale([{ range: null }])).toBeNull();
    expect(gainScale([{ range: range(20, 20) }])).toBeNull();
  });

  it("a figure by hand: 0 to 60 dB with +30 on a scale of 75 dB", () => {
    expect(preampThread({ range: range(0, 60), gainDb: 30 as never }, scale)).toEqual({ from: 0, to: 0.8, knot: 0.4 });
  });

  it("has its knot at its end where more is wanted than it has, and none where no gain is known", () => {
    expect(preampThread({ range: range(10, 75), gainDb: 90 as never }, scale)?.knot).toBe(1);
    expect(preampThread({ range: range(10, 75), gainDb: null }, scale)?.knot).toBeNull();
    expect(preampThread({ range: null, gainDb: 3 as never }, scale)).toBeNull();
  });
});
