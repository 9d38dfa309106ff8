import { describe, expect, it } from "vitest";
import { rigEngine } from "../commands/rig-engine";
import { brokenInvariants, templateEngine } from "../commands/template-engine";
import { wholeMill } from "../demo/rigs";
import { demoTemplates } from "../demo/templates";
import { sequentialIds } from "../model/ids";
import { RIG, type Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import { TEMPLATE, type Template } from "../model/template";
import { copiesOf } from "./copies";

const templates = demoTemplates();
const own = () => {
  const ids = sequentialIds();
  return <T extends string>(kind: string): T => `copy-${ids<string>(kind)}` as T;
};

/** What hangs on a channel, counted straight from the document. */
const hanging = (doc: Template, channelId: string) => {
  const processors = entriesOf(doc.processors).filter((one) => one.channelId === channelId);
  const chain = new Set<string>(processors.map(({ id }) => id));
  return {
    sends: entriesOf(doc.sends).filter((send) => send.fromId === channelId).length,
    processors: processors.length,
    bands: entriesOf(doc.bands).filter((band) => chain.has(band.processorId)).length,
    sideChains: entriesOf(doc.sideChains).filter((side) => chain.has(side.processorId)).length,
    cueLevels: entriesOf(doc.cueLevels).filter((level) => level.sourceId === channelId).length,
  };
};

describe("copies with all that hangs on them", () => {
  it.each(templates.map((doc) => [doc.name, doc] as const))(
    "%s: of each channel are those that hang on it, under new ids, and can be added",
    (_name, doc) => {
      for (const channel of entriesOf(doc.channels)) {
        if (channel.kind === "main") continue;
        const { entries, idOf } = copiesOf(TEMPLATE, doc, { table: "channels", ids: [channel.id] }, own());
        const count = Object.fromEntries(
          Object.keys(hanging(doc, channel.id)).map((table) => [table, entries[table]?.length ?? 0]),
        );
        expect(count).toEqual(hanging(doc, channel.id));
        const all = Object.values(entries).flat();
        expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
        expect(
          [...idOf.values()].some((id) => Object.values(doc).some((table) => typeof table === "object" && id in table)),
        ).toBe(false);
        const added = templateEngine.applyAll(
          doc,
          Object.entries(entries).map(([table, list]) => ({ kind: "add", table, entries: list })),
        );
        if (!added.ok) throw new Error(added.refusal.message);
        expect(brokenInvariants(added.doc)).toEqual([]);
      }
    },
  );

  it("of several lead to one another, and to the rest as before", () => {
    const doc = templates.find(({ sends }) => entriesOf(sends).length > 2) ?? expect.unreachable();
    const [send] = entriesOf(doc.sends);
    const { fromId, toId } = send ?? expect.unreachable();
    const alone = copiesOf(TEMPLATE, doc, { table: "channels", ids: [fromId] }, own());
    expect(alone.entries.sends?.find((copy) => copy.toId === toId)).toMatchObject({
      fromId: alone.idOf.get(`channels/${fromId}`),
      toId,
    });
    const both = copiesOf(TEMPLATE, doc, { table: "channels", ids: [fromId, toId] }, own());
    const to = both.idOf.get(`channels/${toId}`);
    expect(
      both.entries.sends?.some((copy) => copy.toId === to && copy.fromId === both.idOf.get(`channels/${fromId}`)),
    ).toBe(true);
  });

  it.each(entriesOf(wholeMill.devices).map((device) => [device.name, device.id] as const))(
    "of %s bring its ports, banks and sockets, and not those that it is plugged into",
    (_name, id) => {
      const { entries } = copiesOf(RIG, wholeMill, { table: "devices", ids: [id] }, own());
      const ports = entriesOf((wholeMill as Rig).ports).filter((port) => port.deviceId === id);
      const sockets = entriesOf(wholeMill.links).filter((link) => link.toDeviceId === id);
      expect([entries.devices?.length, entries.ports?.length ?? 0, entries.links?.length ?? 0]).toEqual([
        1,
        ports.length,
        sockets.length,
      ]);
      const added = rigEngine.applyAll(
        wholeMill,
        Object.entries(entries).map(([table, list]) => ({ kind: "add" as const, table, entries: list })),
      );
      // What is led to something of its own twice is refused by the rig itself, and not by a copy that leads nowhere.
      expect(String(added.ok || added.refusal.message)).not.toMatch(/not there/);
    },
  );
});
