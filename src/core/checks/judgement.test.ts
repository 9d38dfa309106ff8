import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_RIGS } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { demoTemplates } from "../demo/templates";
import type { Template } from "../model/template";
import { apply } from "../planning/edits/template-editing";
import { aChoir } from "../testing/a-choir";
import { aWeave } from "../testing/a-weave";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { randomMix } from "../testing/random-mix";
import { busesInARow, longChains } from "../testing/shapes";
import { watched } from "../testing/watched";
import { readsAnyOf } from "./changed-reads";
import { contextOf } from "./context";
import type { Finding } from "./finding";
import { CHECKS, evaluateAll, judging } from "./index";

const contextFor = (doc: Template) => contextOf({ doc, rigs: DEMO_RIGS, studio: demoStudio });
const demos = demoTemplates();

/** A template to begin with: one of the demo, or a mix by chance. */
const begun = (chance: () => number): Template =>
  chance() < 0.5 ? randomMix(chance) : (demos[Math.floor(chance() * demos.length)] as Template);

const edited = (doc: Template, chance: () => number, times: number): Template => {
  let now = doc;
  for (let n = 0; n < times; n++) {
    const done = apply(now, randomEdit(now, chance));
    if (done.ok) now = done.doc;
  }
  return now;
};

const byId = (findings: readonly Finding[]): readonly Finding[] =>
  [...findings].sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1));

/** What the rules read of a template and do not say that they do. */
const untold = (doc: Template): readonly string[] =>
  CHECKS.filter(({ id }) => !TRYING_OUT.has(id)).flatMap((rule) => {
    const { doc: of, reads } = watched(doc);
    rule.check(contextFor(of));
    return [...reads]
      .filter(
        (read) =>
          !IMPLIED.has(read) &&
          !(NAMES.has(read) && !rule.reads.some((one) => NAMES.has(one))) &&
          !readsAnyOf(rule.reads, new Set([read.replace(/\.id$/, ".*")])),
      )
      .map((read) => `${rule.id} reads ${read}`);
  });
/** These try out what they offer, and copy whole entries for it: what they go by is seen in what they say. */
const TRYING_OUT = new Set([
  "port-not-on-rig",
  "level-not-accepted",
  "shared-port",
  "phantom-endangers",
  "pair-unlike",
  "track-in-no-pass",
]);
const NAMES = new Set(["channels.name", "cues.name", "folders.name", "passes.name"]);
/** The rig is part of the surroundings, and names are put in when all is said. */
const IMPLIED = new Set(["rigId", "schema", "id", "name", "note", "accepted"]);

describe("a judgement kept from edit to edit", () => {
  it("says what one from nothing says, after every step of whatever is done", () => {
    let steps = 0;
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const judged = judging();
        let doc = begun(chance);
        for (let n = 0; n < 12; n++) {
          expect(structuredClone(judged(contextFor(doc)))).toEqual(
            structuredClone(evaluateAll(contextFor(structuredClone(doc)))),
          );
          doc = edited(doc, chance, 1);
          steps++;
        }
      }),
      { numRuns: runs(15, 500), seed: 20261201 },
    );
    expect(steps).toBeGreaterThan(150);
  });

  it("says by marks what it says by names", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        const context = contextFor(edited(begun(chance), chance, 8));
        const { open, accepted } = evaluateAll(context);
        expect(byId([...open, ...accepted.map(({ finding }) => finding)])).toEqual(
          byId(CHECKS.flatMap((rule) => rule.check(context))),
        );
      }),
      { numRuns: runs(30, 1000), seed: 20261201 },
    );
  });

  it("of a rule goes by what it says it reads, and by nothing else", () => {
    const seen = new Set<string>();
    const look = (doc: Template): void => {
      for (const one of untold(doc)) seen.add(one);
    };
    for (const doc of [
      ...demos,
      aWeave(64, 100),
      aChoir(40),
      busesInARow({ buses: 10, sends: 10, cues: 3, each: 20 }),
      longChains(10, 8),
    ])
      look(doc);
    fc.assert(
      fc.property(chanceRuns, (chance) => look(edited(begun(chance), chance, 10))),
      { numRuns: runs(10, 600), seed: 20261201 },
    );
    expect([...seen].sort()).toEqual([]);
  });

  it("with a rule that reads nothing of what changed is the very same", () => {
    const judged = judging();
    const [doc] = demos as [Template, ...Template[]];
    const before = judged(contextFor(doc));
    const [id] = Object.keys(doc.channels).filter((one) => doc.channels[one as never]?.kind === "track");
    const done = apply(doc, {
      kind: "entries.set",
      table: "channels",
      ids: [id as never],
      set: { name: "Another voice" },
    });
    const after = judged(contextFor(done.ok ? done.doc : doc));
    const kept = after.open.filter((finding) => before.open.includes(finding));
    expect(kept.length).toBeGreaterThan(0);
    expect(after.open.filter((finding) => !before.open.includes(finding)).length).toBeLessThan(3);
  });
});
