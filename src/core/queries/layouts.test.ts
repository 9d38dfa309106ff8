import { describe, expect, it } from "vitest";
import { wheelhouseCart } from "../demo/rigs";
import { wayOf } from "../layout/signal-path";
import type { ChannelId } from "../model/ids";
import type { Layout } from "../model/tables/channel-fields";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { aTemplate } from "../testing/a-template";
import { foldedInWords, layoutOf } from "./layouts";

const id = (name: string) => name as ChannelId;
const done = (...edits: readonly Edit[]): Template => {
  const made = applyAll(
    aTemplate()
      .track("Voice", { input: "3" })
      .track("Above", { input: ["5", "6"] })
      .track("Blend")
      .build(),
    edits,
  );
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const bus = (layout: Layout, more: object = {}): Edit => ({
  kind: "channels.add",
  channels: [{ kind: "bus", id: id("bus"), name: "Bus", layout, ...more }],
  feedIds: [id("track-1"), id("track-2")],
});
const of = (doc: Template, name: string) => doc.channels[id(name)] ?? expect.unreachable(name);
const folded = (doc: Template, from: string, to: string) => foldedInWords(doc, of(doc, from), of(doc, to));

describe("as how many a channel is heard", () => {
  it("follows its lines, what it records, and the format", () => {
    const doc = done(bus("5.1"), {
      kind: "tracks.take",
      trackId: id("track-3"),
      input: { kind: "bus", busId: id("bus") },
      lines: [],
    });
    expect(["track-1", "track-2", "track-3", "bus", "main"].map((name) => layoutOf(doc, of(doc, name)))).toEqual([
      "mono",
      "stereo",
      "5.1",
      "5.1",
      "stereo",
    ]);
  });

  it("tells what is lost on the way into fewer sides, and nothing where it is panned", () => {
    expect(folded(done(bus("mono")), "track-2", "bus")).toBe("left and right added up");
    expect(folded(done(bus("mono", { fold: "right" })), "track-2", "bus")).toBe("its right side only");
    expect(folded(done(bus("mono")), "track-1", "bus")).toBe("");
    expect(folded(done(bus("5.1")), "bus", "main")).toBe("5.1 folded down to stereo");
    const doc = done(bus("mono", { fold: "left" }), {
      kind: "entries.set",
      table: "channels",
      ids: [id("track-2")],
      set: { pan: -30 },
    });
    const way = wayOf(doc, wheelhouseCart, of(doc, "track-2")).map(({ title, detail }) => `${title}: ${detail}`);
    expect(way.slice(2, 4)).toEqual(["Above: records here, stereo, panned L 30", "Bus: sums 2; its left side only"]);
  });
});

describe("a mute", () => {
  it("silences sends after the fader, and those before it where the template says so", () => {
    const sent = (tap: "before" | "after", mutesBefore: boolean) => {
      const doc = done(
        { kind: "channels.add", channels: [{ kind: "return", id: id("plate"), name: "Plate" }], feedIds: [] },
        { kind: "sends.add", sends: [{ id: "s" as never, fromId: id("track-1"), toId: id("plate"), tap }] },
        { kind: "entries.set", table: "channels", ids: [id("track-1")], set: { muted: true } },
        { kind: "settings.set", set: { mix: { mutesBefore } } },
      );
      return wayOf(doc, wheelhouseCart, of(doc, "track-1")).find(({ title }) => title === "Plate by a send")?.detail;
    };
    expect([sent("after", false), sent("before", false), sent("before", true)]).toEqual([
      "−12 dB, after the fader, silenced by the mute",
      "−12 dB, before the fader",
      "−12 dB, before the fader, silenced by the mute",
    ]);
  });
});
