import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../../demo/rigs";
import { type ChannelId, type IdSource, sequentialIds } from "../../model/ids";
import type { Template } from "../../model/template";
import { branchOff, putProcessor } from "../../planning/chain-plans";
import type { Edit } from "../../planning/edits/edit";
import { applyAll } from "../../planning/edits/template-editing";
import { processorsOf } from "../../queries/chains";
import { aTemplate } from "../../testing/a-template";
import { chainPicture, faderShare } from "./chain-picture";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  if (!made.ok) throw new Error(made.refusal.message);
  return made.doc;
};
const put = (doc: Template, kind: "filter" | "amplifier" | "compressor", ids: IdSource): Template => {
  const planned = putProcessor(doc, { kind, channelIds: [id("track-1")], ids });
  return planned.ok ? done(doc, ...planned.gesture.edits) : expect.unreachable();
};
const ready = (): { readonly doc: Template; readonly ids: IdSource } => {
  const ids = sequentialIds();
  const doc = done(
    aTemplate()
      .track("Lead", { input: "1", phantom: true, gainDb: 36 as never })
      .build(),
    { kind: "channels.add", channels: [{ kind: "return", id: id("plate"), name: "Plate" }], feedIds: [] },
    { kind: "sends.add", sends: [{ id: "s1" as never, fromId: id("track-1"), toId: id("plate"), tap: "before" }] },
    { kind: "entries.set", table: "channels", ids: [id("track-1")], set: { faderDb: -4.5 as never, pan: -20 } },
  );
  return { doc: put(put(doc, "filter", ids), "compressor", ids), ids };
};
const seen = (doc: Template, channelId = "track-1", width = 1000) => {
  const picture = chainPicture(doc, wheelhouseCart, { channelId: id(channelId), width }) ?? expect.unreachable();
  const xs = picture.items.filter((item) => item.kind !== "processor" || item.lane === 0).map(({ x }) => x);
  expect(xs).toEqual([...xs].sort((a, b) => a - b));
  return picture;
};
const kinds = (doc: Template, channelId?: string) =>
  seen(doc, channelId).items.map((item) => ("title" in item ? `${item.kind} ${item.title}` : item.kind));

describe("the thread of a channel", () => {
  it("runs from its line through the knot, the processors with places between them, the taps and the fader to its bus", () => {
    const { doc } = ready();
    expect(kinds(doc)).toEqual([
      "source Input 1",
      "record",
      "place",
      "processor High-pass",
      "place",
      "processor Compressor",
      "place",
      "tap Plate",
      "fader −4.5 dB",
      "end Main",
    ]);
    expect(seen(doc).items[0]).toMatchObject({ detail: "+36 dB · 48 V" });
    expect(seen(doc).items.find(({ kind }) => kind === "fader")).toMatchObject({ detail: "pan L 20" });
    expect(
      kinds(
        done(doc, { kind: "entries.set", table: "channels", ids: [id("track-1")], set: { recordPoint: "after" } }),
      ).slice(0, 8),
    ).toEqual([
      "source Input 1",
      "place",
      "processor High-pass",
      "place",
      "processor Compressor",
      "place",
      "record",
      "tap Plate",
    ]);
    expect(kinds(doc, "plate")).toEqual(["source What is sent", "place", "fader 0 dB", "end Main"]);
    expect(kinds(doc, "main").at(-1)).toContain("end Outputs 1–2");
    expect(chainPicture(doc, wheelhouseCart, { channelId: id("nobody"), width: 900 })).toBeNull();
  });

  it("parts in two lanes at a split and joins again", () => {
    const { doc, ids } = ready();
    const compressor = processorsOf(doc, id("track-1"))[1]?.id;
    const planned = branchOff(doc, { processorIds: compressor ? [compressor] : [], ids });
    const split = planned.ok ? done(doc, ...planned.gesture.edits) : expect.unreachable();
    const picture = seen(split);
    const lanes = picture.items.flatMap((item) => (item.kind === "processor" ? [[item.title, item.lane]] : []));
    expect(lanes).toEqual([
      ["High-pass", 0],
      ["Split", 0],
      ["Compressor", 1],
    ]);
    const [parted] = picture.parted;
    const inside = picture.items.find(({ id: item }) => item === compressor)?.x ?? 0;
    expect([inside > (parted?.from ?? 0), inside + picture.box < (parted?.to ?? 0)]).toEqual([true, true]);
  });

  it("fits a view for as long as boxes can be read, and is wider than it then", () => {
    const { doc, ids } = ready();
    let long = doc;
    for (let n = 0; n < 2; n++) long = put(long, "amplifier", ids);
    expect([seen(long).width, seen(long).box < 100]).toEqual([1000, true]);
    for (let n = 0; n < 12; n++) long = put(long, "amplifier", ids);
    expect([seen(long).width > 1000, seen(long).box]).toEqual([true, 68]);
  });

  it("shows how far a fader stands", () =>
    expect([faderShare(null), faderShare(-60), faderShare(-24), faderShare(12)]).toEqual([0, 0, 0.5, 1]));
});
