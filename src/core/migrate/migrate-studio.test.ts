import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { STUDIO_SCHEMA } from "../model/studio";
import { studioFaults } from "../model/studio-schema";
import { inOrder } from "../model/table";
import { brokenStudio } from "../testing/broken-studio";
import { migrateStudio } from "./migrate-studio";

describe("a kept sample of a studio of version 1", () => {
  const migrated = migrateStudio(JSON.parse(readFileSync(new URL("./samples/studio-1.json", import.meta.url), "utf8")));
  const studio = migrated.ok ? migrated.doc : expect.unreachable();

  it("is read in today's shape, its rooms and people in the order in which they stood", () => {
    expect(migrated).toMatchObject({ ok: true, from: 1, doc: { schema: STUDIO_SCHEMA } });
    expect([studioFaults(studio), brokenStudio(studio)]).toEqual([[], []]);
    expect(inOrder(studio.rooms).map((room) => room.name)).toEqual(["Wheelhouse", "Loft", "Booth", "Stair", "Office"]);
    expect(inOrder(studio.people)[0]?.name).toBe("Nadia Okonjo-Reyes");
  });

  it("keeps its own colours and who has them", () => {
    expect([studio.colours["own-heather"], studio.families.keys]).toMatchObject([
      { name: "heather" },
      { colour: "own-heather" },
    ]);
  });
});

describe("a kept sample of a studio of version 2", () => {
  it("keeps no chains yet, and all else as it was", () => {
    const sample = JSON.parse(readFileSync(new URL("./samples/studio-2.json", import.meta.url), "utf8"));
    const migrated = migrateStudio(sample);
    const studio = migrated.ok ? migrated.doc : expect.unreachable();
    expect([studioFaults(studio), brokenStudio(studio)]).toEqual([[], []]);
    const { families: _families, ...rest } = sample;
    expect(studio).toMatchObject({ ...rest, schema: STUDIO_SCHEMA, chains: {}, processors: {}, bands: {} });
  });
});

describe("a kept sample of a studio of version 3", () => {
  const sample = JSON.parse(readFileSync(new URL("./samples/studio-3.json", import.meta.url), "utf8"));
  const migrated = migrateStudio(sample);
  const studio = migrated.ok ? migrated.doc : expect.unreachable();

  it("says how loud each family plays, keeps its dyes, and estimates what its processors cost", () => {
    expect([studioFaults(studio), brokenStudio(studio)]).toEqual([[], []]);
    expect(studio.families.brass).toMatchObject({
      ...sample.families.brass,
      loudnessDb: 96,
      distanceM: 0.6,
      crestDb: 12,
    });
    const kept = Object.values(studio.processors);
    expect(kept.length).toBeGreaterThan(3);
    for (const processor of kept)
      expect(processor).toMatchObject({
        ...sample.processors[processor.id],
        delayDoubleSamples: null,
        delayQuadrupleSamples: null,
        costNs: null,
      });
  });
});

describe("a kept sample of a studio of version 4", () => {
  const sample = JSON.parse(readFileSync(new URL("./samples/studio-4.json", import.meta.url), "utf8"));
  const migrated = migrateStudio(sample);
  const studio = migrated.ok ? migrated.doc : expect.unreachable();

  it("does not say how large its rooms are, has gates that hear nothing ahead, and is else as it was", () => {
    expect([studioFaults(studio), brokenStudio(studio)]).toEqual([[], []]);
    expect(studio).toMatchObject({ ...sample, schema: STUDIO_SCHEMA });
    for (const room of Object.values(studio.rooms)) expect(room).toMatchObject({ volumeM3: null, decayS: null });
    expect(Object.values(studio.processors).flatMap((one) => (one.kind === "gate" ? [one.lookaheadMs] : []))).toEqual([
      0,
    ]);
  });
});

describe("a kept sample of a studio of version 5", () => {
  const sample = JSON.parse(readFileSync(new URL("./samples/studio-5.json", import.meta.url), "utf8"));
  const migrated = migrateStudio(sample);
  const studio = migrated.ok ? migrated.doc : expect.unreachable();

  it("has families that give folders and buses of their own name, one for what is played in, and remembers nothing", () => {
    expect([studioFaults(studio), brokenStudio(studio)]).toEqual([[], []]);
    const { families, ...rest } = sample;
    expect(studio).toMatchObject({ ...rest, schema: STUDIO_SCHEMA, taughtWords: {}, listHabits: {} });
    expect(studio.families.keys).toEqual({
      ...families.keys,
      folder: "",
      bus: "",
      place: 5,
      chainId: null,
      sendTo: "",
      sendDb: null,
    });
    expect(studio.families.references).toMatchObject({ colour: "slate", place: 11 });
  });
});
