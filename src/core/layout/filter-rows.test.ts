import { describe, expect, it } from "vitest";
import { wheelhouseCart, wholeMill } from "../demo/rigs";
import { demoTemplates } from "../demo/templates";
import { aTemplate } from "../testing/a-template";
import { inputField } from "./input-field";
import { filterRows, layoutRows, type Row } from "./rows";

const nine = demoTemplates().find((doc) => doc.id === "tidewrack-nine");
if (!nine) throw new Error("expected the Nine");
const names = (rows: readonly Row[]) => rows.map((row) => (row.kind === "folder" ? row.folder.name : row.track.name));
const found = (query: string) => names(filterRows(nine, wholeMill, query));

describe("a filter", () => {
  it("without a word shows the list as it is", () =>
    expect(filterRows(nine, wholeMill, "  ")).toEqual(layoutRows(nine)));

  it.each([
    ["fiddle", ["Strings", "Fiddle"]],
    ["Pell moving", ["Percussion", "Bass drum", "Frame drum", "Snare", "Shaker table"]],
    ["e3", ["Voices", "Lead voice"]],
    ["winds clip", ["Winds", "Sousaphone"]],
    ["juno", ["Strings", "Cimbalom", "Voices", "Second voice"]],
    ["nobody at all", []],
  ])("%j finds %j", (query, expected) => expect(found(query)).toEqual(expected));

  it("finds in folded folders, and without regard to accents and case", () => {
    const doc = aTemplate()
      .folder("Streicher")
      .track("Bläser Zoë", { input: "1", folder: "Streicher" })
      .does({ kind: "entries.set", table: "folders", ids: ["folder-1" as never], set: { open: false } })
      .build();
    expect(names(layoutRows(doc))).toEqual(["Streicher"]);
    expect(names(filterRows(doc, wheelhouseCart, "ZOE blaser"))).toEqual(["Streicher", "Bläser Zoë"]);
  });
});

describe("what can't be used says why", () => {
  it("by a return, by the rate, by being taken", () => {
    const doc = aTemplate().track("Fiddle", { input: "9" }).build();
    const says = (label: string, rig = wheelhouseCart, of = doc) =>
      inputField(of, rig)
        .flatMap((group) => group.rigInputs)
        .find((view) => view.rigInput.label === label);
    expect(says("15")).toMatchObject({ state: "blocked", says: "carries the Stair" });
    expect(says("9")).toMatchObject({ state: "used", says: "Fiddle" });
    expect(says("LB1")).toMatchObject({ state: "free" });
    expect(says("E3", wholeMill, { ...doc, format: { ...doc.format, sampleRateHz: 192000 } })).toMatchObject({
      state: "blocked",
      says: "not there at 192 kHz",
    });
  });
});
