import fc from "fast-check";
import { expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import type { Template } from "../model/template";
import { apply } from "../planning/edits/template-editing";
import { graphOf } from "../routing/graph";
import { orderOf } from "../routing/order";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { randomMix } from "../testing/random-mix";
import { arrivalsOf } from "../timing/arrivals";
import { heardTwice, hearingOf } from "../timing/hearing";
import { contributorsToCue, mixLevels } from "./mix-levels";

const ASKED = ["recording", "mixing", "listening-copy"] as const;

/** All that is derived of a template, as plain data. */
const derived = (doc: Template): unknown => {
  const { threads, out, into } = graphOf(doc);
  const { tracks, paths, cut } = hearingOf(doc, wholeMill, demoStudio);
  return {
    threads,
    out: new Map([...out].sort()),
    into: new Map([...into].sort()),
    rank: orderOf(graphOf(doc)).rank,
    arrivals: arrivalsOf(doc, wholeMill),
    levels: ASKED.map((asked) => {
      const levels = mixLevels(doc, { rig: wholeMill, studio: demoStudio, asked });
      return {
        channels: levels.channels,
        cues: levels.cues,
        contributors: [...levels.cues.keys()].map((id) => contributorsToCue(levels, id)),
      };
    }),
    paths,
    cut,
    twice: heardTwice({ tracks }),
  };
};

it("levels, delays, hearing and what leads where are after every step what they are from nothing", () => {
  fc.assert(
    fc.property(chanceRuns, (chance) => {
      let doc = randomMix(chance);
      const steps: { readonly doc: Template; readonly kept: unknown }[] = [];
      for (let n = 0; n < 14; n++) {
        const done = apply(doc, randomEdit(doc, chance));
        if (done.ok) doc = done.doc;
        steps.push({ doc, kept: derived(doc) });
      }
      // Only afterwards, or what is kept from edit to edit would be let go each time.
      for (const step of steps) expect(step.kept).toEqual(derived(structuredClone(step.doc)));
    }),
    { numRuns: runs(20, 1000), seed: 20261201 },
  );
});
