import { describe, expect, it } from "vitest";
import { measuredText, readMeasured, readRates } from "./rig-cells";

describe("what is typed of a device's clock and delay", () => {
  it.each([
    ["44.1 48", [44100, 48000]],
    ["96/48 kHz", [48000, 96000]],
    ["44,1 88,2", [44100, 88200]],
    ["44.1, 48", [44100, 48000]],
    ["47", null],
    ["", null],
  ])("rates %s are %o", (text, rates) => expect(readRates(text)).toEqual(rates));

  it.each([
    ["5.2 ms at 48 kHz, 64", { ms: 5.2, rateHz: 48000, bufferSamples: 64 }],
    ["5,25 44.1 128", { ms: 5.25, rateHz: 44100, bufferSamples: 128 }],
    ["5.2 96000 32", { ms: 5.2, rateHz: 96000, bufferSamples: 32 }],
    ["5.2 ms", null],
    ["5.2 at 47, 64", null],
    ["5.2 at 48, 0.5", null],
    ["1 2 3 4", null],
  ])("a loop-back %s is %o", (text, measured) => expect(readMeasured(text)).toEqual(measured));

  it("are read as they are shown", () =>
    expect(readMeasured(measuredText({ ms: 5.2, rateHz: 48000, bufferSamples: 64 }))).toEqual({
      ms: 5.2,
      rateHz: 48000,
      bufferSamples: 64,
    }));
});
