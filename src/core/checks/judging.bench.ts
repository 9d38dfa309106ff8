import { describe } from "vitest";
import { DEMO_RIGS } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import type { ChannelId } from "../model/ids";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { apply } from "../planning/edits/template-editing";
import { aChoir } from "../testing/a-choir";
import { bench, SMALL } from "../testing/bench";
import { aLargeEvening, busesInARow, longChains, manyCues, wideSends } from "../testing/shapes";
import { dB } from "../units/decibels";
import { contextOf } from "./context";
import { evaluateAll, judging } from "./index";

const most = (count: number): number => (SMALL ? Math.max(4, Math.round(count / 64)) : count);
const contextFor = (doc: Template) => contextOf({ doc, rigs: DEMO_RIGS, studio: demoStudio });

/**
 * What an edit costs the one who judges, as it goes on from the state before: each turn another value, so that nothing
 * is the same again.
 */
const stepping = (first: Template, edit: (turn: number) => Edit): (() => void) => {
  const judged = judging();
  let doc = first;
  judged(contextFor(doc));
  let turn = 0;
  return () => {
    const done = apply(doc, edit(turn++));
    if (!done.ok) throw new Error(`expected the edit to be done, got: ${done.refusal.message}`);
    doc = done.doc;
    judged(contextFor(doc));
  };
};

const track = "track-3" as ChannelId;

for (const [name, make] of [
  ["512 channels, 4,096 sends, 830 processors, 16 cues", aLargeEvening],
  ["4,096 lines", () => aChoir(most(4096))],
] as const) {
  const doc = make();
  const [send] = Object.values(doc.sends);
  const [level] = Object.values(doc.cueLevels);
  describe(`judged after one edit: ${name}`, () => {
    bench("baseline: the document to JSON and back", () => void JSON.parse(JSON.stringify(doc)));
    const named = stepping(doc, (turn) => ({
      kind: "entries.set",
      table: "channels",
      ids: [track],
      set: { name: `Another ${turn}` },
    }));
    bench("a name", named);
    const faded = stepping(doc, (turn) => ({
      kind: "entries.set",
      table: "channels",
      ids: [track],
      set: { faderDb: dB(-(turn % 40) - 1) },
    }));
    bench("a fader", faded);
    if (send)
      bench(
        "the level of a send",
        stepping(doc, (turn) => ({
          kind: "entries.set",
          table: "sends",
          ids: [send.id],
          set: { levelDb: dB(-(turn % 40) - 1) },
        })),
      );
    if (doc.channels["bus-3" as ChannelId])
      bench(
        "a track routed elsewhere",
        stepping(doc, (turn) => ({
          kind: "entries.set",
          table: "channels",
          ids: [track],
          set: { output: { kind: "channel", channelId: (turn % 2 ? "bus-3" : "bus-4") as ChannelId } },
        })),
      );
    if (level)
      bench(
        "a level in a cue",
        stepping(doc, (turn) => ({ kind: "cueLevels.put", levels: [{ ...level, levelDb: dB(-(turn % 40) - 1) }] })),
      );
  });
}

for (const [name, make] of [
  [
    "1,023 buses in a row, 32,176 sends, 64 cues",
    () => busesInARow({ buses: most(1023), sends: most(32_176), cues: most(64), each: most(64) }),
  ],
  ["512 tracks sent to 64 returns", () => wideSends(most(512), most(64))],
  ["256 cues of 128", () => manyCues(most(256), most(128))],
  ["16,384 processors", () => longChains(most(512), 32)],
  ["8,192 lines", () => aChoir(most(8192))],
] as const) {
  const doc = make();
  describe(`judged from nothing: ${name}`, () => {
    bench("baseline: the document to JSON and back", () => void JSON.parse(JSON.stringify(doc)));
    // A fresh document each time, or what is kept by document would be measured instead of the work.
    bench("all rules", () => void evaluateAll(contextFor(structuredClone(doc))), {
      iterations: 3,
      time: 100,
      warmupIterations: 1,
      warmupTime: 0,
    });
  });
}
