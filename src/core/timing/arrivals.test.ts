import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { ChannelId, SendId } from "../model/ids";
import { isParked } from "../model/read-template";
import { entriesOf } from "../model/table";
import { newProcessor } from "../model/tables/chain-processors";
import { newSideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { apply, applyAll } from "../planning/edits/template-editing";
import { graphOf } from "../routing/graph";
import { aTemplate } from "../testing/a-template";
import { runs } from "../testing/how-many";
import { chanceRuns, randomEdit } from "../testing/random-edits";
import { arrivalsOf, heldBack } from "./arrivals";

const id = (name: string) => name as ChannelId;
const done = (doc: Template, ...edits: readonly Edit[]): Template => {
  const made = applyAll(doc, edits);
  return made.ok ? made.doc : expect.unreachable(made.refusal.message);
};
const late = (channel: string, delaySamples: number, more: object = {}, processorId = `on-${channel}`): Edit => ({
  kind: "entries.add",
  entries: {
    processors: [
      newProcessor("other", { id: processorId as never, channelId: id(channel), delaySamples, ...more }) as never,
    ],
  },
});
const send = (from: string, to: string): Edit => ({
  kind: "sends.add",
  sends: [{ id: `${from}-${to}` as SendId, fromId: id(from), toId: id(to) }],
});

/** The template that is worked through in the calculations: Lead, Second and Fiddle, a plate, two buses. */
const worked = (...more: readonly Edit[]): Template =>
  done(
    aTemplate().track("Lead", { input: "1" }).track("Second", { input: "2" }).track("Fiddle", { input: "3" }).build(),
    {
      kind: "channels.add",
      channels: [{ kind: "bus", id: id("voices"), name: "Voices" }],
      feedIds: [id("track-1"), id("track-2")],
    },
    { kind: "channels.add", channels: [{ kind: "bus", id: id("strings"), name: "Strings" }], feedIds: [id("track-3")] },
    {
      kind: "channels.add",
      channels: [
        { kind: "return", id: id("plate"), name: "Plate", output: { kind: "channel", channelId: id("voices") } },
      ],
      feedIds: [],
    },
    send("track-1", "plate"),
    send("track-3", "plate"),
    late("track-1", 48),
    late("track-3", 64),
    late("voices", 96),
    ...more,
  );
const at = (doc: Template, ...names: readonly string[]) => names.map((name) => arrivalsOf(doc).at.get(id(name)));

describe("the worked template", () => {
  it("arrives at Plate, Voices and Strings after 64 samples, and at Main after 160", () =>
    expect(at(worked(), "plate", "voices", "strings", "main")).toEqual([64, 64, 64, 160]));

  it.each([
    ["track-1", "plate", 16],
    ["track-1", "voices", 16],
    ["track-2", "voices", 64],
    ["plate", "voices", 0],
    ["strings", "main", 96],
    ["voices", "main", 0],
  ])("%s is held back into %s by %d samples", (from, to, samples) =>
    expect(heldBack(arrivalsOf(worked()), id(from), id(to))).toBe(samples),
  );

  it("leaves out what is bypassed, off while recording, or parked; and counts side-chains", () => {
    expect(
      at(
        worked({ kind: "entries.set", table: "processors", ids: ["on-voices" as never], set: { bypassed: true } }),
        "main",
      ),
    ).toEqual([64]);
    expect(
      at(
        worked({
          kind: "entries.set",
          table: "processors",
          ids: ["on-voices" as never],
          set: { use: "not-while-recording" },
        }),
        "main",
      ),
    ).toEqual([64]);
    expect(
      at(
        worked({ kind: "entries.set", table: "channels", ids: [id("track-3")], set: { parked: true } }),
        "plate",
        "voices",
        "main",
      ),
    ).toEqual([48, 48, 144]);
    const steered = worked(
      {
        kind: "entries.add",
        entries: { processors: [newProcessor("compressor", { id: "c" as never, channelId: id("track-2") }) as never] },
      },
      {
        kind: "sideChains.add",
        sideChains: [newSideChain({ id: "s" as never, fromId: id("track-3"), processorId: "c" as never })],
      },
    );
    expect(at(steered, "track-2", "voices")).toEqual([64, 64]);
  });
});

describe("compensation", () => {
  it("lets all inputs of a sum meet, and a processor that is added never makes anything earlier", () => {
    fc.assert(
      fc.property(chanceRuns, (chance) => {
        let doc = worked();
        for (let n = 0; n < 30; n++) {
          const made = apply(doc, randomEdit(doc, chance));
          if (made.ok) doc = made.doc;
        }
        const before = arrivalsOf(doc);
        const inUse = graphOf(doc).threads.filter(({ from }) => !isParked(doc.channels[from]));
        for (const { from, to } of inUse) expect(heldBack(before, from, to)).toBeGreaterThanOrEqual(0);
        const [some] = entriesOf(doc.channels);
        const after = arrivalsOf(done(doc, late(some?.id ?? "main", 100, {}, "one-more")));
        for (const [channel, samples] of before.at) expect(after.at.get(channel) ?? 0).toBeGreaterThanOrEqual(samples);
      }),
      { numRuns: runs(40, 400), seed: 20261126 },
    );
  });
});
