import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { demoTemplates } from "../demo/templates";
import { mixLevels } from "../levels/mix-levels";
import { worstPeakDb } from "../levels/sides";
import { type ChannelId, type CueId, sequentialIds } from "../model/ids";
import type { Template } from "../model/template";
import { cueOutputs, freeCueOutput } from "../queries/cue-outputs";
import { cuesOf, levelIn, levelsOfCue } from "../queries/cues";
import { aTemplate } from "../testing/a-template";
import { heardTwice, hearingOf } from "../timing/hearing";
import { dB } from "../units/decibels";
import {
  addBeside,
  addCue,
  groupLevel,
  moreOfOwn,
  nameOfPeople,
  nudgeCueLevels,
  readCueLevel,
  setCueLevels,
  setGroupLevel,
  startCueAs,
} from "./cue-plans";
import { applyAll } from "./edits/template-editing";
import type { Planned } from "./gesture";
import { backToComputer, directReaches, directWithEffects, monitorTracks } from "./monitor-plans";

const ids = sequentialIds();
const did = (doc: Template, plan: Planned): Template => {
  const made = plan.ok ? applyAll(doc, plan.gesture.edits) : expect.unreachable(plan.message);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const said = (plan: Planned): string => (plan.ok ? `done: ${plan.gesture.name}` : plan.message);
const demo = (name: string): Template => demoTemplates().find((doc) => doc.name === name) ?? expect.unreachable();
const bare = (doc: Template): Template =>
  did(doc, {
    ok: true,
    gesture: { edits: [{ kind: "entries.remove", table: "cues", ids: cuesOf(doc).map(({ id }) => id) }] },
  });
const nine = bare(demo("The Tidewrack Nine"));
const named = (doc: Template, name: string): ChannelId =>
  (Object.values(doc.channels).find((channel) => channel.name === name && channel.kind === "track")?.id ??
    expect.unreachable(name)) as ChannelId;
const cue = (doc: Template, more: Partial<Parameters<typeof addCue>[1]> = {}): Template =>
  did(
    doc,
    addCue(doc, {
      people: ["Ilse Varga"],
      name: "",
      from: "main",
      portIds: freeCueOutput(doc, wholeMill)?.portIds ?? [],
      hearing: "headphones",
      mixedIn: "computer",
      ids,
      ...more,
    }),
  );
const last = (doc: Template) => cuesOf(doc).at(-1) ?? expect.unreachable();

describe("a cue that is added", () => {
  it("begins as the main mix: every source as loud as it comes there, and no bus beside what it sums", () => {
    const doc = cue(nine);
    const { id } = last(doc);
    // The percussion's bus stands at −3 dB.
    expect(levelIn(doc, { cueId: id, sourceId: named(doc, "Snare") })).toMatchObject({
      levelDb: -3,
      tap: "before",
      on: true,
    });
    const kinds = new Set(levelsOfCue(doc, id).map(({ sourceId }) => doc.channels[sourceId]?.kind));
    expect([...kinds].sort()).toEqual(["click", "return", "talkback", "track"]);
    expect(levelIn(doc, { cueId: id, sourceId: named(doc, "Double bass") })).toBeNull();
  });

  it("takes the next free headphones, and is called by who hears it", () => {
    const doc = cue(cue(nine), { people: ["Juno Ashby", "Pell Marrow", "Bram Teller"] });
    expect(cuesOf(doc).map(({ name }) => name)).toEqual(["Ilse", "Juno and 2 more"]);
    expect(
      cueOutputs(doc, wholeMill)
        .map(({ label, takenBy }) => [label, takenBy.join()])
        .slice(0, 3),
    ).toEqual([
      ["Headphones 1", "Ilse"],
      ["Headphones 2", "Juno and 2 more"],
      ["Headphones 3", ""],
    ]);
    expect([nameOfPeople([]), nameOfPeople(["Ilse Varga", "Juno Ashby"])]).toEqual(["", "Ilse and Juno"]);
    // First names only where they tell apart.
    expect(nameOfPeople(["Ilse Varga", "Ilse Brook"])).toBe("Ilse Varga and Ilse Brook");
    expect([
      nameOfPeople(["Ilse Brook"], ["ilse"]),
      nameOfPeople(["Ilse"], ["Ilse"]),
      nameOfPeople(["Ilse"], ["Ilse", "Ilse 2"]),
    ]).toEqual(["Ilse Brook", "Ilse 2", "Ilse 3"]);
    expect(
      said(
        addCue(nine, {
          people: [],
          name: " ",
          from: "main",
          portIds: [],
          hearing: "headphones",
          mixedIn: "computer",
          ids,
        }),
      ),
    ).toContain("needs a name");
  });

  it("comes out low enough that all of it at once stays within full scale", () => {
    const doc = cue(nine, { gear: { rig: wholeMill, studio: demoStudio } });
    const peak =
      worstPeakDb(
        mixLevels(doc, { rig: wholeMill, studio: demoStudio }).cues.get(last(doc).id) ?? expect.unreachable(),
      ) ?? 0;
    expect(peak).toBeLessThanOrEqual(0);
    expect(peak).toBeGreaterThan(-0.6);
  });

  it("to the far end of a line leaves out their own sound; as a copy it has what the other has", () => {
    const ghost = bare(demo("The Ferryman's Ghost"));
    const doc = cue(ghost, { people: ["Far guest"], hearing: "far" });
    expect(levelIn(doc, { cueId: last(doc).id, sourceId: named(doc, "Far guest") })).toBeNull();
    const copied = cue(cue(nine), { name: "Copy", from: last(cue(nine)).id as CueId });
    expect(cuesOf(copied)).toHaveLength(2);
  });

  it("can begin anew as another: what it carried goes, what both have is set", () => {
    const doc = cue(cue(nine), { people: ["Juno Ashby"], from: "nothing" });
    const [ilse, juno] = cuesOf(doc);
    const again = did(doc, startCueAs(doc, { cueId: juno?.id as CueId, from: ilse?.id as CueId, ids }));
    const levels = (of: CueId) =>
      levelsOfCue(again, of)
        .map(({ sourceId, levelDb }) => `${sourceId} ${levelDb}`)
        .sort();
    expect(levels(juno?.id as CueId)).toEqual(levels(ilse?.id as CueId));
  });
});

describe("more of own sound", () => {
  it("is 3 dB of what each plays, in many cues at once; comes in where it was not", () => {
    const doc = cue(cue(nine), { people: ["Juno Ashby"] });
    const cueIds = cuesOf(doc).map(({ id }) => id);
    const more = moreOfOwn(doc, { cueIds, ids });
    expect(said(more)).toBe("done: More of own sound for 2 cues");
    const louder = did(doc, more);
    expect(levelIn(louder, { cueId: cueIds[0] as CueId, sourceId: named(doc, "Lead voice") })?.levelDb).toBe(3);
    expect(levelIn(louder, { cueId: cueIds[1] as CueId, sourceId: named(doc, "Cimbalom") })?.levelDb).toBe(3);
    const empty = cue(nine, { from: "nothing" });
    expect(levelsOfCue(did(empty, moreOfOwn(empty, { cueIds: [last(empty).id], ids })), last(empty).id)).toMatchObject([
      { levelDb: 0, tap: "before" },
    ]);
  });

  it("says why it can't be done", () => {
    const nobody = cue(nine, { people: ["Tom Hallgarth"], name: "Tom" });
    expect(said(moreOfOwn(nobody, { cueIds: [last(nobody).id], ids }))).toContain(
      "Nothing that Tom Hallgarth plays is on a track",
    );
    const far = cue(nine, { hearing: "far" });
    expect(said(moreOfOwn(far, { cueIds: [last(far).id], ids }))).toContain("far end of a line");
  });
});

describe("levels in cues", () => {
  it.each([
    ["-12", { levelDb: -12 }],
    ["−4,5 dB", { levelDb: -4.5 }],
    ["3 b", { levelDb: 3, tap: "before" }],
    ["-6 after", { levelDb: -6, tap: "after" }],
    ["−∞", { levelDb: null }],
    ["loud", null],
    ["13", null],
    ["", null],
  ])("%s is read as %o", (text, read) => expect(readCueLevel(text)).toEqual(read));

  it("are set for many at once, emptied taken out, nudged with their differences; silence stays silent", () => {
    const doc = cue(nine);
    const cueId = last(doc).id;
    const cells = ["Snare", "Fiddle"].map((name) => ({ cueId, sourceId: named(doc, name) }));
    const set = did(doc, setCueLevels(doc, { cells, text: "-12 a", ids }));
    expect(cells.map((cell) => levelIn(set, cell))).toMatchObject([
      { levelDb: -12, tap: "after" },
      { levelDb: -12, tap: "after" },
    ]);
    const nudged = did(doc, nudgeCueLevels(doc, cells, dB(2)));
    expect(cells.map((cell) => levelIn(nudged, cell)?.levelDb)).toEqual([-1, 2]);
    expect(cells.map((cell) => levelIn(did(doc, setCueLevels(doc, { cells, text: " ", ids })), cell))).toEqual([
      null,
      null,
    ]);
    const silent = did(doc, setCueLevels(doc, { cells, text: "−∞", ids }));
    expect(
      levelIn(
        did(
          silent,
          nudgeCueLevels(silent, cells.slice(0, 1), dB(3)).ok
            ? { ok: true, gesture: { edits: [] } }
            : { ok: true, gesture: { edits: [] } },
        ),
        cells[0] ?? expect.unreachable(),
      )?.levelDb,
    ).toBeNull();
    expect(said(setCueLevels(doc, { cells, text: "louder", ids }))).toContain("is no level");
  });

  it("of a group are its loudest, and move together to what is typed", () => {
    const doc = cue(nine);
    const cueId = last(doc).id;
    const sourceIds = ["Snare", "Bass drum"].map((name) => named(doc, name));
    const apart = did(
      doc,
      setCueLevels(doc, { cells: [{ cueId, sourceId: sourceIds[0] ?? expect.unreachable() }], text: "-9", ids }),
    );
    expect(groupLevel(apart, cueId, sourceIds)).toEqual({ levelDb: -3, alike: false, heard: 2 });
    const plan = setGroupLevel(apart, { cueId, sourceIds, text: "-10", name: "Percussion", ids });
    expect(said(plan)).toBe("done: Bring Percussion in Ilse to −10 dB");
    expect(sourceIds.map((sourceId) => levelIn(did(apart, plan), { cueId, sourceId })?.levelDb)).toEqual([-16, -10]);
    expect(groupLevel(apart, cueId, [])).toBeNull();
  });

  it("of a click that is added are in every cue, and it goes nowhere else", () => {
    const doc = cue(aTemplate(wholeMill).track("Lead voice", { input: "1", player: "Ilse Varga" }).build());
    const clicked = did(doc, addBeside(doc, { kind: "click", ids }));
    const click = Object.values(clicked.channels).find(({ kind }) => kind === "click") ?? expect.unreachable();
    expect([click.output, levelIn(clicked, { cueId: last(clicked).id, sourceId: click.id })?.levelDb]).toEqual([
      { kind: "nowhere" },
      -6,
    ]);
  });
});

describe("monitoring in one act", () => {
  const lullaby = demo("Harp & Lullaby");
  const parts = Object.values(lullaby.channels).flatMap((channel) =>
    channel.kind === "track" && channel.sharing === "by-turns" ? [channel.id] : [],
  );

  it("through the computer and back direct with effects, for all fourteen parts: dry below 1 ms, the reverb still fed", () => {
    const through = did(lullaby, backToComputer(lullaby, { trackIds: parts }));
    expect(hearingOf(through, wholeMill, demoStudio).paths[0]).toMatchObject({ direct: false, wet: false });
    const sends = (doc: Template) => Object.values(doc.sends).map(({ tap }) => tap);
    expect(sends(through).every((tap) => tap === "after")).toBe(true);
    expect(directReaches(through, wholeMill, parts)).toMatch(/^\d+ sends to returns go before the fader$/);
    const plan = directWithEffects(through, wholeMill, { trackIds: parts, ids });
    expect(said(plan)).toBe("done: Monitor 14 channels direct, with effects from the computer");
    const direct = did(through, plan);
    const hearing = hearingOf(direct, wholeMill, demoStudio);
    const { paths } = hearing;
    expect(paths.filter(({ wet }) => !wet).map(({ ms }) => ms < 1)).toEqual([true]);
    expect(paths.some(({ wet }) => wet)).toBe(true);
    expect(parts.map((id) => direct.channels[id])).toEqual(
      parts.map(() => expect.objectContaining({ monitor: "direct", liveApart: true, liveDb: null })),
    );
    expect(heardTwice(hearing)).toEqual([]);
  });

  it("direct leaves out what the interface's mixer does not take, and says so", () => {
    const doc = aTemplate(wholeMill)
      .track("Voice", { input: "1", player: "Ilse Varga" })
      .track("Unplugged", {})
      .build();
    const all = Object.values(doc.channels).flatMap(({ id, kind }) => (kind === "track" ? [id] : []));
    const direct = did(doc, monitorTracks(doc, wholeMill, { trackIds: all, monitor: "direct" }));
    expect(all.map((id) => (direct.channels[id] as { monitor?: string }).monitor)).toEqual(["direct", "computer"]);
    expect(directReaches(doc, wholeMill, all)).toContain("Unplugged can't be heard direct and stays as it is");
    expect(said(monitorTracks(doc, wholeMill, { trackIds: all.slice(1), monitor: "direct" }))).toContain(
      "can't be monitored direct",
    );
    expect(said(monitorTracks(doc, wholeMill, { trackIds: [], monitor: "off" }))).toContain(
      "Select one or more tracks",
    );
  });
});
