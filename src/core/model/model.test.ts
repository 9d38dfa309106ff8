import { describe, expect, it } from "vitest";
import { wheelhouseCart, wholeMill } from "../demo/rigs";
import { microphoneType } from "../reading/microphone-type";
import { readColour, readInputs, readLayout, readPhantom } from "../reading/read-cells";
import { areSides, sideStem } from "../reading/sides";
import { dB } from "../units/decibels";
import { formatRate } from "../units/hertz";
import { COLOUR_NAMES, COLOURS, nearestColour } from "./colours";
import { guessFamily } from "./guess-family";
import { levelOf, MICROPHONE_KINDS, phantomAttitude } from "./microphone-kinds";
import {
  bankLabel,
  findRigInput,
  hardwareOutputs,
  monitorOutputs,
  rigInputInWords,
  rigInputOf,
  rigInputsOf,
} from "./read-rig";
import { linkChannels } from "./tables/links";

describe("units", () => {
  it.each([
    [44100, "44.1 kHz"],
    [48000, "48 kHz"],
    [176400, "176.4 kHz"],
  ] as const)("%d Hz is %s", (rate, text) => expect(formatRate(rate)).toBe(text));

  it("a level that is no number is a bug", () => {
    expect(() => dB(Number.NaN)).toThrow("finite level");
    expect(dB(-18)).toBe(-18);
  });
});

describe("inputs of the demo rigs", () => {
  it("a label goes before a running number, and both lead to the same socket", () => {
    expect(findRigInput(wholeMill, "E5")).toBe(findRigInput(wholeMill, "21"));
    expect(findRigInput(wholeMill, " e5 ")?.port.id).toBe("eight:in:5");
    expect(findRigInput(wheelhouseCart, "17")).toBeNull();
    expect(findRigInput(wheelhouseCart, "")).toBeNull();
  });

  it("an input behind a preamp takes what the preamp takes", () => {
    const rigInput = findRigInput(wheelhouseCart, "9");
    expect(rigInput).toMatchObject({
      levels: ["microphone"],
      occupied: false,
      phantom: { kind: "bank" },
      fedBy: { device: { name: "Thistle Four" } },
    });
    expect(rigInput?.phantom.kind === "bank" && bankLabel(wheelhouseCart, rigInput.phantom.bankId)).toBe("Thistle 1–2");
  });

  it("an input that brings a chamber back is occupied", () => {
    expect(findRigInput(wheelhouseCart, "15")).toMatchObject({ occupied: true, levels: ["line"] });
  });

  it("neighbours point at each other", () => {
    for (const rigInput of rigInputsOf(wholeMill))
      expect(rigInputOf(wholeMill, rigInput.port.neighbourId)?.port.neighbourId).toBe(rigInput.port.id);
  });

  it("are called by number on the interface, by what they are when sound comes back, by name on an expander", () => {
    expect(rigInputsOf(wholeMill).map(rigInputInWords).slice(15, 19)).toEqual([
      "input 16",
      "Brindle 16 loop-back 1",
      "Brindle 16 loop-back 2",
      "Brindle Eight input 1",
    ]);
  });

  it("the monitors are the first two outputs", () => {
    expect(monitorOutputs(wheelhouseCart)).toEqual(["brindle:out:1", "brindle:out:2"]);
    expect(hardwareOutputs(wheelhouseCart)).toHaveLength(18);
  });

  it("optical carries 8, 4 and 2 channels", () => {
    const link = Object.values(wholeMill.links)[0];
    expect(
      link && ([44100, 48000, 88200, 96000, 176400, 192000] as const).map((rate) => linkChannels(link, rate)),
    ).toEqual([8, 8, 4, 4, 2, 2]);
  });
});

describe("microphones", () => {
  it("each kind has an attitude to 48 V and a level", () => {
    expect(MICROPHONE_KINDS.map((kind) => [kind, phantomAttitude(kind), levelOf(kind)])).toEqual([
      ["moving-coil", "tolerates", "microphone"],
      ["ribbon-passive", "endangered", "microphone"],
      ["ribbon-active", "needs", "microphone"],
      ["condenser", "needs", "microphone"],
      ["condenser-supplied", "tolerates", "microphone"],
      ["di-passive", "tolerates", "microphone"],
      ["di-active", "needs", "microphone"],
      ["line-source", "tolerates", "line"],
    ]);
  });

  it.each([
    ["Kleinmembran", "condenser"],
    ["valve condenser", "condenser-supplied"],
    ["Kondensator mit Netzteil", "condenser-supplied"],
    ["Großmembran", "condenser"],
    ["Bändchen passiv", "ribbon-passive"],
    ["Bändchen aktiv", "ribbon-active"],
    ["ruban", "ribbon-passive"],
    ["active ribbon", "ribbon-active"],
    ["Tauchspule", "moving-coil"],
    ["DI", "di-passive"],
    ["DI box active", "di-active"],
    ["cond.", "condenser"],
    ["boundary", "condenser"],
    ["line", "line-source"],
    ["something", null],
  ])("%s is %s", (name, kind) => expect(microphoneType(name)).toBe(kind));
});

describe("families", () => {
  it.each([
    ["Double bass DI", "low-strings"],
    ["Bass drum", "percussion"],
    ["Bass", "low-strings"],
    ["Bass trombone", "brass"],
    ["Lead voice", "voices"],
    ["Sopran", "voices"],
    ["Orgelpositiv", "keys"],
    ["Clarinet", "woodwind"],
    ["Narrator", "speech"],
    ["Violon", "bowed-strings"],
    ["Altered state", null],
    ["", null],
  ])("%s belongs to %s", (name, family) => expect(guessFamily(name)).toBe(family));
});

describe("colours", () => {
  it("each is nearest to itself", () => {
    for (const colour of COLOUR_NAMES)
      expect(nearestColour(COLOURS[colour].cloth)).toMatchObject({ colour, distance: expect.closeTo(0, 6) });
  });

  it.each([
    ["#ff0000", "madder"],
    ["#0000ff", "indigo"],
    ["#808080", "slate"],
    ["#00ff00", "lichen"],
  ])("%s is nearest to %s", (hex, colour) => expect(nearestColour(hex).colour).toBe(colour));

  it.each([
    ["Madder", { colour: "madder", exact: true }],
    ["#2F9074", { colour: "verdigris", exact: true }],
    ["2f9074", { colour: "verdigris", exact: true }],
    ["#f00", { colour: "madder", exact: false }],
    ["mauve", null],
  ])("%s is read as a colour", (text, colour) => expect(readColour(text)).toEqual(colour));
});

describe("cells of a list", () => {
  it.each([
    ["7", ["7"]],
    ["07", ["7"]],
    ["7-8", ["7", "8"]],
    ["7/8", ["7", "8"]],
    ["7 + 8", ["7", "8"]],
    ["7–8", ["7", "8"]],
    ["7 und 8", ["7", "8"]],
    ["E5", ["E5"]],
    ["e5-6", ["E5", "E6"]],
    ["E5-E6", ["E5", "E6"]],
    ["In 7", ["7"]],
    ["Kanal 3", ["3"]],
    ["", []],
    ["seven", null],
    ["1-2-3", null],
    ["7.5", null],
  ])("input %j", (text, inputs) => expect(readInputs(text)).toEqual(inputs));

  it.each(["yes", "Ja", "x", "X", "+48", "+48 V", "48V", "on", "1", "oui", "✓", "P48"])("phantom %j is on", (text) =>
    expect(readPhantom(text)).toBe(true),
  );
  it.each(["no", "Nein", "", "-", "off", "0", "non"])("phantom %j is off", (text) =>
    expect(readPhantom(text)).toBe(false),
  );
  it("phantom in other words is neither", () => expect(readPhantom("perhaps")).toBeNull());

  it.each([
    ["Above L", "Above"],
    ["Above (R)", "Above"],
    ["Orgel links", "Orgel"],
    ["Piano droite", "Piano"],
    ["Table left", "Table"],
    ["Girl", null],
    ["L", null],
  ])("%j without its side", (text, stem) => expect(sideStem(text)).toBe(stem));

  it.each([
    ["Piano L", "Piano R", { stem: "Piano", first: "left" }],
    ["Gtr Re", "Gtr Li", { stem: "Gtr", first: "right" }],
    ["Choeur G", "Choeur D", { stem: "Choeur", first: "left" }],
    ["Coro S", "Coro D", { stem: "Coro", first: "left" }],
    ["Arpa izq", "arpa der", { stem: "Arpa", first: "left" }],
    ["Synth sx", "Synth dx", { stem: "Synth", first: "left" }],
    ["Marimba Lo", "Marimba Hi", { stem: "Marimba", first: "left" }],
    ["Left overhead", "Right overhead", { stem: "overhead", first: "left" }],
    ["OHL", "OHR", { stem: "OH", first: "left" }],
    ["Gtr G", "Gtr R", null],
    ["Gtr L", "Bass R", null],
    ["Gtr L", "Gtr L", null],
  ])("%j and %j are the sides of %j", (a, b, sides) => expect(areSides(a, b)).toEqual(sides));

  it("mono, stereo, or neither", () =>
    expect(["mono", "Stereo", "", "2", "quad"].map(readLayout)).toEqual(["mono", "stereo", "mono", "stereo", null]));
});
