import { expect, it } from "vitest";
import { evaluateAll } from "../checks";
import { contextOf } from "../checks/context";
import { DEMO_RIGS } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { templateFaults } from "../model/template-schema";
import { aChoir } from "./a-choir";
import { aLargeEvening, busesInARow, longChains, manyCues, wideSends } from "./shapes";

it.each([
  ["buses in a row", busesInARow({ buses: 24, sends: 60, cues: 4, each: 8 })],
  ["wide sends", wideSends(12, 4)],
  ["many cues", manyCues(6, 8)],
  ["long chains", longChains(6, 8)],
  ["many lines", aChoir(64)],
  ["a large evening", aLargeEvening()],
])("%s, by which size is measured, is a template as it may be, and can be judged", (_name, doc) => {
  expect(templateFaults(doc)).toEqual([]);
  const { open } = evaluateAll(contextOf({ doc, rigs: DEMO_RIGS, studio: demoStudio }));
  expect(open.every(({ message }) => message.length > 0 && !/[\uE000\uE001]/.test(message))).toBe(true);
});
