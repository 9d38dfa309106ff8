import { expect, it } from "vitest";
import { changesBetween } from "../difference/changes-between";
import { TEMPLATE, type Template } from "../model/template";
import { apply } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { twoSelvedges } from "./two-selvedges";

const did = (doc: Template, ...edits: readonly object[]): Template =>
  edits.reduce<Template>((at, edit) => {
    const done = apply(at, edit as never);
    if (!done.ok) throw new Error(done.refusal.message);
    return done.doc;
  }, doc);

it("two selvedges have a thread for each track of both, crossed where it moved; what is on one side only has none", () => {
  const here = aTemplate()
    .track("Bass drum", { input: "1" })
    .track("Snare", { input: "2" })
    .track("Above", { input: "3" })
    .build();
  const there = did(
    here,
    { kind: "entries.move", table: "channels", ids: ["track-2"], before: "track-1" },
    { kind: "entries.remove", table: "channels", ids: ["track-3"] },
    { kind: "entries.set", table: "lines", ids: ["line-1"], set: { phantom: true } },
  );
  const drawn = twoSelvedges(here, there, changesBetween(TEMPLATE, { here, there }));
  expect(drawn.left.map(({ name, differs, only }) => [name, differs, only])).toEqual([
    ["Bass drum", true, false],
    ["Snare", true, false],
    ["Above", true, true],
  ]);
  expect(drawn.right.map(({ name, only }) => [name, only])).toEqual([
    ["Snare", false],
    ["Bass drum", false],
  ]);
  expect(drawn.threads.map(({ id, from, to }) => [id, from, to])).toEqual([
    ["track-2", 1, 0],
    ["track-1", 0, 1],
  ]);
});
