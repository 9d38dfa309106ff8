import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { type ChannelId, sequentialIds } from "../model/ids";
import type { Template } from "../model/template";
import { cellText } from "../queries/cells";
import type { CellColumn } from "../queries/columns";
import { sendsOf } from "../queries/sends";
import { aTemplate } from "../testing/a-template";
import { fillDown, pasteBlock } from "./block";
import type { Edit } from "./edits/edit";
import { applyAll } from "./edits/template-editing";
import { writeCell } from "./write-cell";

const id = (name: string) => name as ChannelId;
const [one, two, three] = ["track-1", "track-2", "track-3"].map(id) as [ChannelId, ChannelId, ChannelId];
const done = (doc: Template, edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const ready = (): Template =>
  done(
    aTemplate().track("Lead", { input: "1" }).track("Second", { input: "2" }).track("Fiddle", { input: "3" }).build(),
    [
      {
        kind: "channels.add",
        channels: [
          { kind: "return", id: id("plate"), name: "Plate" },
          { kind: "return", id: id("delay"), name: "Delay 2" },
          { kind: "bus", id: id("mix"), name: "Mix" },
        ],
        feedIds: [],
      },
    ],
  );
const text = (doc: Template, channel: ChannelId, column: CellColumn): string => {
  const track = doc.channels[channel];
  return track?.kind === "track" ? cellText(doc, wheelhouseCart, { track, column }) : "";
};
const ids = sequentialIds();
const write = (doc: Template, column: CellColumn, typed: string, trackIds: readonly ChannelId[] = [one]) =>
  writeCell(doc, wheelhouseCart, { trackIds, column, text: typed, ids, studio: demoStudio });
const written = (doc: Template, column: CellColumn, typed: string, trackIds?: readonly ChannelId[]): Template => {
  const plan = write(doc, column, typed, trackIds);
  return plan.ok ? done(doc, plan.gesture.edits) : expect.unreachable(plan.message);
};
const refused = (column: CellColumn, typed: string): string => {
  const plan = write(ready(), column, typed);
  return plan.ok ? "" : plan.message;
};

describe("a cell of sends", () => {
  it.each([
    ["Plate", "Plate −12"],
    ["plate -9", "Plate −9"],
    ["Plate −9 before, Mix 0", "Plate −9 before, Mix 0"],
    ["Delay 2", "Delay 2 −12"],
    ["Delay 2 −3 dB off", "Delay 2 −3 off"],
    ["Plate −∞", "Plate −∞"],
    ["Plate -20 dB before off", "Plate −20 before off"],
    ["", ""],
  ])("reads “%s” and shows “%s”, which reads as the same again", (typed, shown) => {
    const doc = written(ready(), "sends", typed);
    expect(text(doc, one, "sends")).toBe(shown);
    expect(text(written(doc, "sends", shown), one, "sends")).toBe(shown);
  });

  it("is written for a range at once, and what is not named is taken off", () => {
    const doc = written(written(ready(), "sends", "Plate -9"), "sends", "Delay 2 -20", [one, two]);
    expect(
      [one, two, three].map((channel) => sendsOf(doc, channel).map(({ toId, levelDb }) => `${toId} ${levelDb}`)),
    ).toEqual([["delay -20"], ["delay -20"], []]);
    expect(write(ready(), "sends", "Plate", [one, two])).toMatchObject({
      gesture: { name: "Set the sends of 2 channels" },
    });
  });

  it("says what it can't read", () => {
    expect(refused("sends", "Hall −12")).toBe(
      "There is no return and no bus Hall. Name one that is there, with its level: Plate −12.",
    );
    expect(refused("sends", "Plate, plate −3")).toBe("Plate is named twice.");
    expect(refused("sends", Array.from({ length: 70 }, () => "Plate").join(","))).toContain("Up to 64");
    expect(refused("sends", "Plate 99")).toContain("no return and no bus Plate 99");
  });
});

describe("a cell of a chain", () => {
  it("takes the name of a kept chain, of a channel that has one, or nothing", () => {
    const doc = written(ready(), "chain", "any voice, first take");
    expect(text(doc, one, "chain")).toBe("High-pass, compressor");
    const copied = written(doc, "chain", "Lead", [two, three]);
    expect([two, three].map((channel) => text(copied, channel, "chain"))).toEqual([
      "High-pass, compressor",
      "High-pass, compressor",
    ]);
    expect(text(written(copied, "chain", "", [two]), two, "chain")).toBe("");
    expect(refused("chain", "Nobody")).toContain("No chain is kept under the name Nobody");
  });
});

describe("the cell of an input", () => {
  it("takes the name of a bus, which is recorded then, and an input again after that", () => {
    const doc = written(ready(), "input", "mix");
    expect([doc.channels[one], text(doc, one, "input")]).toMatchObject([
      { input: { kind: "bus", busId: "mix" } },
      "Mix",
    ]);
    const back = written(doc, "input", "5");
    expect([text(back, one, "input"), back.channels[one]]).toMatchObject(["5", { input: { kind: "line" } }]);
    expect(written(doc, "input", "").channels[one]).toMatchObject({ input: { kind: "none" } });
    const source = write(doc, "source", "Voice");
    expect(source.ok ? "" : source.message).toContain("Lead records no line of its own");
  });
});

describe("blocks", () => {
  it("copy sends and chains down, and take them from a spreadsheet", () => {
    const doc = written(written(ready(), "sends", "Plate -9"), "chain", "Fiddle, close");
    const filled = fillDown(doc, wheelhouseCart, {
      block: { trackIds: [one, two, three], columns: ["sends", "chain"] },
      ids,
    });
    const after = filled.planned.ok
      ? done(doc, filled.planned.gesture.edits)
      : expect.unreachable(filled.planned.message);
    expect([text(after, three, "sends"), text(after, three, "chain"), filled.leftOut]).toEqual([
      "Plate −9",
      "Equaliser, compressor",
      [],
    ]);
    const pasted = pasteBlock(doc, wheelhouseCart, {
      trackIds: [two, three],
      columns: ["input", "sends"],
      cells: [
        ["Mix", "Delay 2 −6"],
        ["7", "Hall"],
      ],
      folderId: null,
      ids,
    });
    const laid = pasted.planned.ok
      ? done(doc, pasted.planned.gesture.edits)
      : expect.unreachable(pasted.planned.message);
    expect([
      text(laid, two, "input"),
      text(laid, two, "sends"),
      text(laid, three, "input"),
      text(laid, three, "sends"),
    ]).toEqual(["Mix", "Delay 2 −6", "7", ""]);
    expect(pasted.leftOut[0]).toContain("no return and no bus Hall");
  });
});
