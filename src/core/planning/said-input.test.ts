import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { aTemplate } from "../testing/a-template";
import { saidInputs } from "./said-input";

const doc = aTemplate()
  .track("Fiddle", { input: "9" })
  .track("Fiddle room", { input: "10" })
  .track("Second fiddle", { input: "11" })
  .track("Snare", { input: "1" })
  .build();
const said = (text: string) => saidInputs(doc, wholeMill, text).map(({ track, input }) => `${track} on ${input}`);

describe("a track and an input, as they are said", () => {
  it.each<[string, readonly string[]]>([
    ["fiddle E5", ["Fiddle on E5", "Fiddle room on E5", "Second fiddle on E5"]],
    ["Second fiddle on e5", ["Second fiddle on E5"]],
    ["snare 3", ["Snare on 3"]],
    ["snare", []],
    ["E5", []],
    ["cymbal E5", []],
    ["snare E99", []],
    ["", []],
  ])("%s", (text, found) => expect(said(text)).toEqual(found));

  it("an input that something else comes in by is none", () => expect(said("snare 15")).toEqual([]));
});
