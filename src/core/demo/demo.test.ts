import { describe, expect, it } from "vitest";
import { evaluate, fixGroup } from "../checks";
import { alikeAsOne } from "../checks/alike";
import { rigFindings } from "../checks/rig-findings";
import { brokenInvariants } from "../commands/template-engine";
import { type RigId, sequentialIds, type TemplateId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import { SESSION_KINDS } from "../model/session-kinds";
import { newStudio } from "../model/studio";
import { entriesOf } from "../model/table";
import { templateFaults } from "../model/template-schema";
import { applyAll } from "../planning/edits/template-editing";
import { rigThatFits } from "../planning/rig-that-fits";
import { freeCueOutput } from "../queries/cue-outputs";
import { cuesOf, levelsOfCue, passesOf, playersOf } from "../queries/cues";
import { makeStarter, STARTERS, starterInputs } from "../starters/starters";
import { DEMO_RIGS, duoRig, wholeMill } from "./rigs";
import { demoStudio } from "./studio";
import { demoTemplates } from "./templates";

const look = (doc: ReturnType<typeof demoTemplates>[number]) => {
  const rig = DEMO_RIGS.find((candidate) => candidate.id === doc.rigId) ?? wholeMill;
  return evaluate({ doc, rig, otherRigs: DEMO_RIGS.filter((other) => other !== rig), studio: demoStudio });
};
const named = (name: string) => {
  const found = demoTemplates().find((doc) => doc.name === name);
  if (!found) throw new Error(`expected ${name}`);
  return found;
};

describe("the demo", () => {
  it.each(demoTemplates().map((doc) => [doc.name, doc] as const))("%s keeps the rules", (_name, doc) => {
    expect(templateFaults(doc)).toEqual([]);
    expect(brokenInvariants(doc)).toEqual([]);
  });

  it.each([
    ["The Tidewrack Nine", 18, 16],
    ["Harp & Lullaby", 3, 15],
    ["The Ferryman's Ghost", 8, 11],
    ["Pocket sketch", 2, 2],
    ["The Flood Cantata", 128, 128],
  ])("%s has %i lines on %i tracks", (name, lines, tracks) => {
    expect([Object.keys(named(name).lines).length, tracksOf(named(name)).length]).toEqual([lines, tracks]);
  });

  it("shows a few real findings, and nothing wrong in the rigs", () => {
    expect(look(named("The Tidewrack Nine")).map((finding) => finding.rule)).toEqual([
      "phantom-missing",
      "hears-twice",
      "processor-missing",
    ]);
    expect(look(named("The Ferryman's Ghost")).map((finding) => finding.message)).toEqual([
      "Tom Hallgarth is in two rooms at once: Foley table is played in the Loft, Foley steps in the Wheelhouse.",
    ]);
    expect(alikeAsOne(look(named("The Flood Cantata"))).map((finding) => finding.message)).toEqual([
      "106 lines ask for inputs this rig has not.",
    ]);
    expect(look(named("Harp & Lullaby"))).toEqual([]);
    expect(look(named("Pocket sketch"))).toEqual([]);
    expect(DEMO_RIGS.flatMap(rigFindings)).toEqual([]);
  });

  it("what is alike is put right in one act, and undone in one", () => {
    const doc = named("The Flood Cantata");
    const context = { doc, rig: wholeMill, otherRigs: [], studio: demoStudio };
    const [group] = alikeAsOne(evaluate(context));
    const { edits, cleared } = fixGroup(context, group ?? expect.unreachable());
    const fixed = applyAll(doc, edits);
    expect([
      group?.members?.length,
      cleared,
      fixed.ok && evaluate({ ...context, doc: fixed.doc }).filter(({ rule }) => rule === group?.rule),
    ]).toEqual([106, 106, []]);
  });

  it("the singer's fourteen tracks take one line by turns", () => {
    const takers = tracksOf(named("Harp & Lullaby")).filter((track) => track.sharing === "by-turns");
    expect(takers).toHaveLength(14);
    expect(new Set(takers.map((track) => JSON.stringify(track.input))).size).toBe(1);
  });
});

describe("starters", () => {
  it("there is at least one for each kind of session", () => {
    expect(new Set(STARTERS.map((starter) => starter.kind))).toEqual(new Set(SESSION_KINDS));
  });

  it.each(STARTERS.map((starter) => [starter.name, starter] as const))(
    "%s stands on the whole mill without a problem, and on a pocket interface without losing a track",
    (_name, starter) => {
      const on = (rig: typeof wholeMill) =>
        makeStarter(starter, { id: "t" as TemplateId, name: starter.name, rig, ids: sequentialIds() });
      const large = on(wholeMill);
      expect(
        evaluate({ doc: large, rig: wholeMill, otherRigs: [] }).filter((finding) => finding.severity === "problem"),
      ).toEqual([]);
      expect(Object.values(large.lines).filter((line) => line.portId)).toHaveLength(starterInputs(starter));
      expect(tracksOf(on(duoRig))).toHaveLength(tracksOf(large).length);
      expect(brokenInvariants(on(duoRig))).toEqual([]);
    },
  );

  it.each(
    STARTERS.flatMap((starter) =>
      [...DEMO_RIGS, rigThatFits({ id: "fits" as RigId, name: "First rig", inputs: starterInputs(starter) })].map(
        (rig) => [starter.name, rig.name, starter, rig] as const,
      ),
    ),
  )("%s on %s is whole, and the checks have nothing against it but what the rig lacks", (_name, _rig, starter, rig) => {
    const doc = makeStarter(starter, { id: "t" as TemplateId, name: starter.name, rig, ids: sequentialIds() });
    const fits = Object.values(doc.lines).every(({ portId }) => portId !== null);
    const told = evaluate({ doc, rig, otherRigs: [], studio: newStudio("The studio") });
    // Through a computer that has nothing beside it own sound takes a little longer than it should: that is told, as it
    // is so.
    const direct = entriesOf(rig.mixers).length > 0;
    if (fits)
      expect(told.filter(({ rule }) => direct || rule !== "hears-late").map(({ message }) => message)).toEqual([]);
    expect(passesOf(doc).length).toBe(starter.whole.passes.length);
    expect(
      entriesOf(doc.folders)
        .filter(({ busId }) => busId !== null)
        .map(({ name }) => name),
    ).toEqual(starter.whole.sums);
    if (freeCueOutput({ cues: {} } as never, rig))
      for (const person of playersOf(doc)) expect(cuesOf(doc).flatMap(({ people }) => people)).toContain(person);
  });

  it("in the talk the bed ducks under both voices in the room, and the far guest is nobody's echo", () => {
    const talk = STARTERS.find(({ id }) => id === "talk") ?? expect.unreachable();
    const doc = makeStarter(talk, { id: "t" as TemplateId, name: "Talk", rig: wholeMill, ids: sequentialIds() });
    const id = (name: string) => tracksOf(doc).find((track) => track.name === name)?.id ?? expect.unreachable(name);
    expect(
      Object.values(doc.sideChains)
        .map(({ fromId }) => fromId)
        .toSorted(),
    ).toEqual([id("Host"), id("Guest")].toSorted());
    const far = cuesOf(doc).find(({ hearing }) => hearing === "far") ?? expect.unreachable();
    const carries = levelsOfCue(doc, far.id).map(({ sourceId }) => sourceId);
    expect(carries).toEqual(expect.arrayContaining([id("Host"), id("Guest")]));
    expect(carries).not.toContain(id("Far guest"));
  });
});
