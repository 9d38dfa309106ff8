import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { isOrderKey } from "../commands/order-keys";
import { brokenInvariants } from "../commands/template-engine";
import { readTemplateJson, writeDocument } from "../formats/document-json";
import { layoutRows } from "../layout/rows";
import { tracksOf } from "../model/read-template";
import type { Track } from "../model/tables/channels";
import { TEMPLATE_SCHEMA } from "../model/template";
import { templateFaults } from "../model/template-schema";
import { aTemplate } from "../testing/a-template";
import { migrateTemplate } from "./migrate-template";

const sampleOf = (version: number) =>
  JSON.parse(readFileSync(new URL(`./samples/template-${version}.json`, import.meta.url), "utf8"));

describe("a kept sample of version 8", () => {
  const sample = sampleOf(8);
  const migrated = migrateTemplate(sample);
  const doc = migrated.ok ? migrated.doc : expect.unreachable();

  it("is no session, has no tags, nothing recorded and no gain set, and is else as it was", () => {
    expect([templateFaults(doc), brokenInvariants(doc)]).toEqual([[], []]);
    const { schema: _schema, ...rest } = sample;
    expect(doc).toMatchObject({ ...rest, schema: TEMPLATE_SCHEMA, tags: [], session: { date: null, people: [] } });
    expect(Object.values(doc.lines).map(({ gainSetDb }) => gainSetDb)).toEqual(
      Object.keys(sample.lines).map(() => null),
    );
    expect(Object.values(doc.passes).map(({ ran }) => ran)).toEqual([false]);
  });
});

describe("a kept sample of version 7", () => {
  const sample = sampleOf(7);
  const migrated = migrateTemplate(sample);
  const doc = migrated.ok ? migrated.doc : expect.unreachable();

  it("writes plain WAV, has gates that hear nothing ahead and gangs that remember no silence, and is else as it was", () => {
    expect([templateFaults(doc), brokenInvariants(doc)]).toEqual([[], []]);
    expect(doc).toMatchObject({ ...sample, schema: TEMPLATE_SCHEMA, format: { ...sample.format, fileType: "wav" } });
    expect(doc.processors["gate-1" as never]).toMatchObject({ kind: "gate", lookaheadMs: 0 });
    expect(tracksOf(doc).map(({ beforeSilenceDb }) => beforeSilenceDb)).toEqual([null, null]);
  });
});

describe("a kept sample of version 6", () => {
  const sample = sampleOf(6);
  const migrated = migrateTemplate(sample);
  const doc = migrated.ok ? migrated.doc : expect.unreachable();

  it("hears what comes in through the computer, has no cues and passes yet, and keeps its chains", () => {
    expect([templateFaults(doc), brokenInvariants(doc)]).toEqual([[], []]);
    expect(doc).toMatchObject({
      cues: {},
      cueLevels: {},
      passes: {},
      buffers: { recordingSamples: 64, allOff: false },
      levels: { targetDb: -18, peakDb: -6 },
      disk: { freeGb: null },
    });
    expect(
      tracksOf(doc).every(({ monitor, liveApart, liveDb }) => monitor === "computer" && !liveApart && liveDb === 0),
    ).toBe(true);
    expect(
      Object.values(doc.lines).every(
        ({ loudnessDb, distanceM, crestDb }) => loudnessDb === null && distanceM === null && crestDb === null,
      ),
    ).toBe(true);
    expect(Object.values(doc.processors)).toEqual(
      Object.values(sample.processors as object).map((processor) => ({
        ...processor,
        delayDoubleSamples: null,
        delayQuadrupleSamples: null,
        costNs: null,
      })),
    );
    expect(doc.sends).toEqual(sample.sends);
  });
});

describe("a kept sample of version 4", () => {
  const migrated = migrateTemplate(sampleOf(4));
  const doc = migrated.ok ? migrated.doc : expect.unreachable();

  it("has every fader at 0 dB, nothing panned, muted, parked, sent, processed, held or steered, and folders that sum nothing", () => {
    expect(migrated).toMatchObject({
      ok: true,
      from: 4,
      doc: { schema: TEMPLATE_SCHEMA, sends: {}, processors: {}, bands: {}, sideChains: {}, gangs: {}, controls: {} },
    });
    expect(doc.mix).toEqual({ panLawDb: -3, mutesBefore: false, sendTap: "after" });
    expect(tracksOf(doc)).toSatisfy((tracks: Track[]) =>
      tracks.every(
        ({ recordPoint, pastEndDb, gangId, polarityTurned }) =>
          recordPoint === "before" && pastEndDb === 0 && gangId === null && !polarityTurned,
      ),
    );
    expect([templateFaults(doc), brokenInvariants(doc)]).toEqual([[], []]);
    const mixed = { trimDb: 0, faderDb: 0, output: { kind: "channel", channelId: "main" } };
    expect(
      tracksOf(doc).map(({ output, trimDb, faderDb, pan, muted, parked }) => ({
        output,
        trimDb,
        faderDb,
        pan,
        muted,
        parked,
      })),
    ).toEqual(tracksOf(doc).map(() => ({ ...mixed, pan: 0, muted: false, parked: false })));
    expect(Object.values(doc.folders).map((folder) => folder.busId)).toEqual(
      Object.values(doc.folders).map(() => null),
    );
  });
});

describe("a kept sample of version 3", () => {
  const migrated = migrateTemplate(sampleOf(3));
  const doc = migrated.ok ? migrated.doc : expect.unreachable();

  it("is read in today's shape and keeps the rules", () => {
    expect(migrated).toMatchObject({ ok: true, from: 3, doc: { schema: TEMPLATE_SCHEMA } });
    expect([templateFaults(doc), brokenInvariants(doc)]).toEqual([[], []]);
  });

  it("has everything where it stood, with keys between which others can be put", () => {
    const rows = layoutRows(doc, { unfold: true }).map((row) =>
      row.kind === "track" ? row.track.name : `${row.depth}: ${row.folder.name}`,
    );
    expect(rows).toEqual(["First of all", "Guitar", "Voice", "0: Second", "0: Outer", "1: Inner", "Asked for"]);
    expect(tracksOf(doc).every((track) => isOrderKey(track.order))).toBe(true);
  });

  it("has colours, and inputs that were asked for, under today's names", () => {
    expect([doc.channels["t9" as never], doc.folders["f1" as never], doc.lines["l9" as never]]).toMatchObject([
      { colour: "madder" },
      { colour: "woad" },
      { requestedInput: "17" },
    ]);
  });
});

describe("a kept sample of version 2", () => {
  const migrated = migrateTemplate(sampleOf(2));

  it("is read in today's shape, with lines of which the new things are not known", () => {
    expect(migrated).toMatchObject({ ok: true, from: 2, doc: { schema: TEMPLATE_SCHEMA, accepted: {} } });
    expect(migrated.ok && templateFaults(migrated.doc)).toEqual([]);
    expect(migrated.ok && migrated.doc.lines["l1" as never]).toMatchObject({
      pad: false,
      polarityInverted: false,
      gainDb: null,
      room: "",
    });
  });

  it("is not changed itself", () => {
    const before = sampleOf(2);
    migrateTemplate(before);
    expect(before).toEqual(sampleOf(2));
  });
});

describe("what can't be read is told with its place", () => {
  const message = (value: unknown) => {
    const migrated = migrateTemplate(value);
    return migrated.ok ? "" : migrated.message;
  };
  const doc = aTemplate().track("Fiddle", { input: "9" }).build();

  it.each([
    [null, "no schema version"],
    [[], "no schema version"],
    ["text", "no schema version"],
    [{ schema: 99 }, `this Wandel reads up to ${TEMPLATE_SCHEMA}`],
    [{ schema: 0 }, "There is no schema version 0"],
    [{ schema: 1 }, "There is no schema version 1"],
    [{ schema: 5 }, "There is no schema version 5"],
    [{ ...doc, name: "" }, "damaged at /name"],
    [
      { ...doc, lines: { "line-1": { ...doc.lines["line-1" as never], phantom: "yes" } } },
      "damaged at /lines/line-1/phantom",
    ],
    [{ ...doc, surplus: 1 }, "damaged"],
  ])("%#", (value, words) => expect(message(value)).toContain(words));

  it("no JSON, and JSON whose references lead nowhere", () => {
    expect(readTemplateJson("{")).toMatchObject({ ok: false });
    const dangling = { ...doc, lines: {} };
    expect(readTemplateJson(JSON.stringify(dangling))).toMatchObject({
      ok: false,
      message: "The template is damaged: Fiddle takes a line that is not there.",
    });
  });
});

describe("a template as JSON", () => {
  it("reads back to the same document, also with a byte order mark", () => {
    const doc = aTemplate()
      .folder("Strings")
      .track("Harp", { input: ["3", "4"], folder: "Strings" })
      .build();
    expect(readTemplateJson(`\uFEFF${writeDocument(doc)}`)).toEqual({ ok: true, doc, from: TEMPLATE_SCHEMA });
  });
});
