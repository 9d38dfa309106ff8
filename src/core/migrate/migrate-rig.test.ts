import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { brokenRig } from "../commands/rig-engine";
import { wholeMill } from "../demo/rigs";
import { readRigJson, writeDocument } from "../formats/document-json";
import { RIG_SCHEMA } from "../model/rig";
import { rigFaults } from "../model/rig-schema";
import { inOrder } from "../model/table";
import { migrateRig } from "./migrate-rig";

describe("a kept sample of a rig of version 1", () => {
  const migrated = migrateRig(JSON.parse(readFileSync(new URL("./samples/rig-1.json", import.meta.url), "utf8")));
  const rig = migrated.ok ? migrated.doc : wholeMill;

  it("is read in today's shape", () => {
    expect(migrated).toMatchObject({ ok: true, from: 1, doc: { schema: RIG_SCHEMA } });
    expect(rigFaults(rig)).toEqual([]);
    expect(brokenRig(rig)).toEqual([]);
  });

  it("lets the interface lead and the expander follow through its socket", () => {
    expect([
      rig.devices["brindle" as never],
      rig.devices["eight" as never],
      rig.devices["thistle" as never],
    ]).toMatchObject([
      { clock: { kind: "leads" } },
      { clock: { kind: "follows", linkId: "brindle:optical-a" } },
      { clock: { kind: "none" } },
    ]);
  });

  it("knows headphone outputs by their names, and keeps delays for every rate", () => {
    expect(rig.ports["brindle:out:13" as never]).toMatchObject({ role: "headphones" });
    expect(rig.timing["brindle" as never]).toMatchObject({
      adc: { unit: "ms", single: 0.3, quadruple: 0.3 },
      marginInSamples: { double: 16 },
    });
  });
});

describe("a kept sample of a rig of version 2", () => {
  const migrated = migrateRig(JSON.parse(readFileSync(new URL("./samples/rig-2.json", import.meta.url), "utf8")));
  const rig = migrated.ok ? migrated.doc : expect.unreachable();

  it("is read in today's shape, in the order in which it stood", () => {
    expect(migrated).toMatchObject({ ok: true, from: 2, doc: { schema: RIG_SCHEMA } });
    expect([rigFaults(rig), brokenRig(rig)]).toEqual([[], []]);
    expect(inOrder(rig.feeds).map((feed) => feed.name)).toEqual(["Monitors", "Headphones"]);
    expect(inOrder(rig.microphones)[0]?.name).toBe("Large condenser A");
    expect(Object.values(rig.midiPorts).map((midi) => midi.usage)).toEqual(["keyboard"]);
  });
});

describe("a kept sample of a rig of version 3", () => {
  const sample = JSON.parse(readFileSync(new URL("./samples/rig-3.json", import.meta.url), "utf8"));
  const migrated = migrateRig(sample);
  const rig = migrated.ok ? migrated.doc : expect.unreachable();

  it("is read in today's shape: nobody has measured yet, and all else is as it was", () => {
    expect([rigFaults(rig), brokenRig(rig)]).toEqual([[], []]);
    const { timing, schema, ports, microphones, ...rest } = rig;
    expect(sample).toMatchObject(rest);
    expect(ports).toMatchObject(sample.ports);
    expect(microphones).toMatchObject(sample.microphones);
    expect(Object.values(timing).map(({ measured }) => measured)).toEqual([null]);
    expect(schema).toBe(RIG_SCHEMA);
  });
});

describe("a kept sample of a rig of version 4", () => {
  const sample = JSON.parse(readFileSync(new URL("./samples/rig-4.json", import.meta.url), "utf8"));
  const migrated = migrateRig(sample);
  const rig = migrated.ok ? migrated.doc : expect.unreachable();

  it("does not say how loud its microphones may be sung at, nor how strong a level its preamps take, and is else as it was", () => {
    expect([rigFaults(rig), brokenRig(rig)]).toEqual([[], []]);
    expect(Object.values(rig.microphones).map(({ maxSplDb }) => maxSplDb)).toEqual(
      Object.keys(sample.microphones).map(() => null),
    );
    expect(Object.values(rig.ports).map(({ maxInputDbu }) => maxInputDbu)).toEqual(
      Object.keys(sample.ports).map(() => null),
    );
    expect(rig).toMatchObject({ ...sample, schema: RIG_SCHEMA });
  });
});

describe("a rig as JSON", () => {
  it("reads back to the same rig", () => {
    expect(readRigJson(writeDocument(wholeMill))).toEqual({ ok: true, doc: wholeMill, from: RIG_SCHEMA });
  });

  it.each([
    ["{", "This is not JSON"],
    ["[]", "not a Wandel rig"],
    [JSON.stringify({ ...wholeMill, schema: 9 }), "reads up to 5"],
    [JSON.stringify({ ...wholeMill, name: "" }), "damaged at /name"],
    [JSON.stringify({ ...wholeMill, devices: {} }), "belongs to no device"],
  ])("%#: what can't be read is told", (text, words) =>
    expect(readRigJson(text)).toMatchObject({ ok: false, message: expect.stringContaining(words) }),
  );
});
