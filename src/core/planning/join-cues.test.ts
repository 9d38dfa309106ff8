import { describe, expect, it } from "vitest";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { demoTemplates } from "../demo/templates";
import { type ChannelId, type CueId, sequentialIds } from "../model/ids";
import { trackOf } from "../model/read-template";
import type { Template } from "../model/template";
import { cuesOf, levelIn, playersOf, tracksOfPlayer } from "../queries/cues";
import { dB } from "../units/decibels";
import { planAddTracks } from "./add-tracks";
import { levelTexts, pasteLevels } from "./cue-block";
import { cueForEveryone, readCueLevel, withoutCue } from "./cue-plans";
import { duplicateTracks } from "./duplicate";
import { applyAll } from "./edits/template-editing";
import type { Planned } from "./gesture";
import { alsoHeard, cueNeighbour } from "./join-cues";
import { sendByName, takesAlong } from "./route";

const made = sequentialIds();
const ids = ((kind: string) => `new-${made(kind)}`) as typeof made;
const did = (doc: Template, plan: Planned): Template => {
  const done = plan.ok ? applyAll(doc, plan.gesture.edits) : expect.unreachable(plan.message);
  return done.ok ? done.doc : expect.unreachable(done.refusal.message);
};
const nine = demoTemplates().find(({ name }) => name === "The Tidewrack Nine") ?? expect.unreachable();
const named = (doc: Template, name: string): ChannelId =>
  (Object.values(doc.channels).find((channel) => channel.name === name)?.id ?? expect.unreachable(name)) as ChannelId;
const heard = (doc: Template, sourceId: ChannelId) =>
  cuesOf(doc).map(({ id: cueId }) => {
    const level = levelIn(doc, { cueId, sourceId });
    return level && [level.levelDb, level.pan, level.tap, level.on];
  });

describe("cues keep up", () => {
  it("a duplicate is in the cues of its original, as loud, on the same side", () => {
    for (const input of ["by-turns", "none"] as const) {
      const plan = duplicateTracks(nine, wholeMill, { trackIds: [named(nine, "Clarinet")], input, ids });
      const doc = did(nine, plan.planned);
      expect(heard(doc, plan.trackIds[0] as ChannelId)).toEqual(heard(nine, named(nine, "Clarinet")));
      expect(heard(nine, named(nine, "Clarinet")).filter(Boolean).length).toBeGreaterThan(2);
    }
  });

  it("new tracks come in as the last of their folder is, or stay out: as it was answered", () => {
    const folderId = trackOf(nine, named(nine, "Clarinet"))?.folderId ?? null;
    const like = cueNeighbour(nine, { kind: "track", folderId }) ?? expect.unreachable();
    expect(doc(like.id)?.folderId).toBe(folderId);
    const plan = planAddTracks(nine, wholeMill, { text: "2 mono", folderId, ids });
    const inside = did(nine, alsoHeard(nine, plan.planned, { likeId: like.id, ids }));
    const outside = did(nine, alsoHeard(nine, plan.planned, { likeId: null, ids }));
    for (const id of plan.trackIds) {
      expect(heard(inside, id)).toEqual(heard(nine, like.id));
      expect(heard(outside, id).filter(Boolean)).toEqual([]);
    }
  });

  const doc = (id: ChannelId) => trackOf(nine, id);

  it("a return that is made by a send comes in as one that is there; without cues nothing is asked", () => {
    const voice = named(nine, "Clarinet");
    const plan = sendByName(nine, { channelIds: [voice], name: "Chamber", levelText: "-12", tap: "after", ids });
    const like = cueNeighbour(nine, { kind: "return", feedIds: [voice] }) ?? expect.unreachable();
    const after = did(nine, alsoHeard(nine, plan, { likeId: like.id, ids }));
    expect(heard(after, named(after, "Chamber"))).toEqual(heard(nine, like.id));
    expect(like.says).toMatch(/^as .+ is, in \d+ cues?$/);
    const bare = did(nine, {
      ok: true,
      gesture: { edits: [{ kind: "entries.remove", table: "cues", ids: cuesOf(nine).map(({ id }) => id) }] },
    });
    expect(cueNeighbour(bare, { kind: "track" })).toBeNull();
  });

  it("what is taken away says which cues no longer hear it", () => {
    const plate = Object.values(nine.channels).find(({ kind }) => kind === "return")?.id as ChannelId;
    const [cue] = cuesOf(nine).filter(({ id: cueId }) => levelIn(nine, { cueId, sourceId: plate }));
    expect(cue).toBeDefined();
    expect(takesAlong(nine, [plate])).toMatch(/hears? it no longer/);
  });

  it("everyone who plays and has none gets a cue in one act, each on an output of their own while there are any", () => {
    const bare = did(nine, {
      ok: true,
      gesture: {
        edits: [
          {
            kind: "entries.remove",
            table: "cues",
            ids: cuesOf(nine)
              .slice(1)
              .map(({ id }) => id),
          },
        ],
      },
    });
    const gear = { rig: wholeMill, studio: demoStudio };
    const missing = withoutCue(bare, wholeMill);
    const plan = cueForEveryone(bare, { gear, ids });
    const after = did(bare, plan);
    expect(missing.length).toBeGreaterThan(1);
    expect(withoutCue(after, wholeMill)).toEqual([]);
    expect(cuesOf(after).length).toBe(1 + missing.length);
    const outputs = cuesOf(after).flatMap(({ portIds }) => portIds);
    expect(new Set(outputs).size).toBe(outputs.length);
    expect(cuesOf(after).filter(({ portIds }) => !portIds.length).length).toBe(plan.without);
    for (const person of playersOf(after)) expect(tracksOfPlayer(after, person).length).toBeGreaterThan(0);
    expect(cueForEveryone(after, { gear, ids })).toMatchObject({ ok: false, message: "Everyone who plays has a cue." });
  });
});

describe("levels by copy and paste", () => {
  const rows = (doc: Template) =>
    ["Clarinet", "Bass", "Piano"].flatMap((name) =>
      Object.values(doc.channels).flatMap((c) =>
        c.name === name ? [{ name, sourceIds: [c.id as ChannelId], group: false }] : [],
      ),
    );
  const cueIds = (doc: Template): readonly CueId[] =>
    cuesOf(doc)
      .slice(0, 2)
      .map(({ id }) => id);

  it("what is copied says all there is, and pasted elsewhere stands as it stood", () => {
    const [a, b] = cueIds(nine) as [CueId, CueId];
    const source = { name: "Clarinet", sourceIds: [named(nine, "Clarinet")], group: false };
    const set = did(nine, {
      ok: true,
      gesture: {
        edits: [
          {
            kind: "cueLevels.put",
            levels: [
              {
                id: ids("level"),
                cueId: a,
                sourceId: source.sourceIds[0] as ChannelId,
                levelDb: dB(-7.5),
                pan: -30,
                tap: "after",
                on: false,
              },
            ],
          },
        ],
      },
    });
    const texts = levelTexts(set, [source], [a]);
    expect(texts).toEqual([["−7.5 a L30 off"]]);
    const after = did(set, pasteLevels(set, { rows: [source], cueIds: [b], texts, fills: false, ids }).planned);
    expect(levelIn(after, { cueId: b, sourceId: source.sourceIds[0] as ChannelId })).toMatchObject({
      levelDb: -7.5,
      pan: -30,
      tap: "after",
      on: false,
    });
  });

  it("one text fills what is selected; an empty cell takes out; what can't be read or lies beyond is told", () => {
    const lines = rows(nine);
    const filled = did(
      nine,
      pasteLevels(nine, { rows: lines, cueIds: cueIds(nine), texts: [["-3 b"]], fills: true, ids }).planned,
    );
    for (const { sourceIds } of lines)
      expect(levelIn(filled, { cueId: cueIds(nine)[1] as CueId, sourceId: sourceIds[0] as ChannelId })).toMatchObject({
        levelDb: -3,
        tap: "before",
      });
    const [first] = lines;
    const plan = pasteLevels(filled, {
      rows: first ? [first] : [],
      cueIds: cueIds(nine),
      texts: [["loud", "", "-3"], ["-3"]],
      fills: false,
      ids,
    });
    expect(plan.leftOut).toEqual([
      expect.stringContaining("“loud” is no level"),
      "1 row would lie past the last source.",
      "1 column would lie past the last cue.",
    ]);
    const taken = did(filled, plan.planned);
    expect(
      cueIds(nine).map(
        (cueId) => levelIn(taken, { cueId, sourceId: first?.sourceIds[0] as ChannelId })?.levelDb ?? null,
      ),
    ).toEqual([-3, null]);
  });

  it("a row that ends early leaves the cells behind it as they were", () => {
    const lines = rows(nine).slice(0, 2);
    const filled = did(
      nine,
      pasteLevels(nine, { rows: lines, cueIds: cueIds(nine), texts: [["-3 b"]], fills: true, ids }).planned,
    );
    const after = did(
      filled,
      pasteLevels(filled, { rows: lines, cueIds: cueIds(nine), texts: [["-5", "-6"], ["-7"]], fills: false, ids })
        .planned,
    );
    const [, second] = lines;
    expect(
      cueIds(nine).map((cueId) => levelIn(after, { cueId, sourceId: second?.sourceIds[0] as ChannelId })?.levelDb),
    ).toEqual([-7, -3]);
  });

  it("a block larger than can be taken is refused whole and told, however large it is", () => {
    const [first] = rows(nine);
    const huge = Array.from({ length: 200_000 }, () => ["-6"]);
    for (const texts of [huge, [Array.from({ length: 200_000 }, () => "-6")]]) {
      const plan = pasteLevels(nine, { rows: first ? [first] : [], cueIds: cueIds(nine), texts, fills: false, ids });
      expect(plan.planned).toMatchObject({
        ok: false,
        message: expect.stringContaining("too many at once; up to 4096"),
      });
    }
  });

  it.each([
    [`-6${" ".repeat(300)}loud`, null],
    ["−6 b off", { levelDb: -6, tap: "before", on: false }],
    ["-6 L30", { levelDb: -6, pan: -30 }],
    ["off", { levelDb: null }],
    ["b", null],
    ["off off off", { levelDb: null, on: false }],
  ])("“%s” is read", (text, is) => expect(readCueLevel(text)).toEqual(is));
});
