import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PAN_LAWS_DB } from "../model/session-kinds";
import { pannedSides } from "./pan";

describe("pan laws, by the figures of the calculations", () => {
  it.each([
    [-3, 0, -3.01, -3.01],
    [-3, 25, -5.11, -1.6],
    [-3, 50, -8.34, -0.69],
    [-4.5, 0, -4.52, -4.52],
    [-4.5, 25, -6.81, -2.84],
    [-4.5, 50, -10.19, -1.59],
    [-6, 0, -6.02, -6.02],
    [-6, 25, -8.52, -4.08],
    [-6, 50, -12.04, -2.5],
    [0, 0, 0, 0],
    [0, 25, -2.5, 0],
    [0, 50, -6.02, 0],
  ] as const)("the law of %d dB at %d has %d and %d dB", (law, pan, left, right) =>
    expect(pannedSides(law, pan)).toEqual({ left, right }),
  );

  it("have one side silent at the ends, the same turned over, and a constant power for −3 dB", () => {
    for (const law of PAN_LAWS_DB)
      expect([pannedSides(law, 100), pannedSides(law, -100)]).toEqual([
        { left: null, right: 0 },
        { left: 0, right: null },
      ]);
    fc.assert(
      fc.property(fc.integer({ min: -99, max: 99 }), fc.constantFrom(...PAN_LAWS_DB), (pan, law) => {
        const [here, there] = [pannedSides(law, pan), pannedSides(law, -pan)];
        expect(here).toEqual({ left: there.right, right: there.left });
        const { left, right } = pannedSides(-3, pan);
        expect(10 ** ((left ?? -300) / 10) + 10 ** ((right ?? -300) / 10)).toBeCloseTo(1, 2);
      }),
    );
  });
});
