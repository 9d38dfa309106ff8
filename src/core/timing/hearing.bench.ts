import { describe } from "vitest";
import { CUE_CHECKS } from "../checks/cues";
import { HEARING_CHECKS } from "../checks/hearing";
import { LEVEL_CHECKS } from "../checks/levels";
import { RECORDING_CHECKS } from "../checks/recording";
import { TAIL_CHECKS } from "../checks/tails";
import { wholeMill } from "../demo/rigs";
import { demoStudio } from "../demo/studio";
import { cueHeads, cueRows } from "../layout/cue-matrix";
import { mixLevels } from "../levels/mix-levels";
import type { ChannelId, CueId, CueLevelId, LineId } from "../model/ids";
import { newCueLevel } from "../model/tables/cue-levels";
import { newCue } from "../model/tables/cues";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { apply } from "../planning/edits/template-editing";
import { aWeave } from "../testing/a-weave";
import { bench } from "../testing/bench";
import { dB } from "../units/decibels";
import { hearingOf } from "./hearing";
import { lowLatency, rateBufferTable } from "./low-latency";

/** A large routing with so many cues, each with its own person on every sixteenth track and every track in it. */
const heardBy = (doc: Template, count: number): Template => {
  const tracks = Object.values(doc.channels).filter(({ kind }) => kind === "track");
  const cues = Array.from({ length: count }, (_, at) => ({
    ...newCue({
      id: `cue-${at}` as CueId,
      name: `Cue ${at}`,
      people: [`Player ${at}`],
      portIds: [`brindle:out:${2 * at + 1}`, `brindle:out:${2 * at + 2}`] as never,
    }),
    order: `a${at.toString(36)}1`,
  }));
  const levels = cues.flatMap(({ id }) =>
    tracks.map((track) => newCueLevel({ id: `${id}-${track.id}` as CueLevelId, cueId: id, sourceId: track.id })),
  );
  const keyed = <T extends { readonly id: string }>(entries: readonly T[]) =>
    Object.fromEntries(entries.map((entry) => [entry.id, entry]));
  const lines = Object.fromEntries(
    Object.entries(doc.lines).map(([id, line], at) => [id as LineId, { ...line, player: `Player ${at % count}` }]),
  );
  return { ...doc, lines, cues: keyed(cues), cueLevels: keyed(levels) };
};

for (const [channels, sends, cues] of [
  [128, 512, 8],
  [512, 4096, 16],
] as const) {
  const doc = heardBy(aWeave(channels, sends), cues);
  let turn = 0;
  let now = doc;
  // Each edit goes on from the one before, as in a window.
  const after = (edit: Edit): Template => {
    const made = apply(now, edit);
    if (!made.ok) throw new Error(`expected the edit to be done, got: ${made.refusal.message}`);
    now = made.doc;
    return now;
  };
  const cell = { cueId: "cue-3" as CueId, sourceId: "track-7" as ChannelId };
  const turned = () =>
    after({
      kind: "cueLevels.put",
      levels: [{ ...cell, id: "cue-3-track-7" as CueLevelId, levelDb: dB(-(turn++ % 60) - 1) }],
    });
  const faded = () =>
    after({ kind: "entries.set", table: "channels", ids: [cell.sourceId], set: { faderDb: dB(-(turn++ % 60) - 1) } });
  const context = (of: Template) => ({ doc: of, rig: wholeMill, otherRigs: [], studio: demoStudio });
  const judge = (of: Template): void => {
    for (const rule of [...HEARING_CHECKS, ...CUE_CHECKS, ...LEVEL_CHECKS, ...RECORDING_CHECKS, ...TAIL_CHECKS])
      rule.check(context(of));
  };
  describe(`${channels} channels, ${sends} sends, ${cues} cues`, () => {
    bench("baseline: the document to JSON and back", () => void JSON.parse(JSON.stringify(doc)));
    bench("one level of a cue set", () => void turned());
    bench(
      "delay after one level was set: every own way of everybody",
      () => void hearingOf(turned(), wholeMill, demoStudio),
    );
    bench(
      "levels of all channels and cues after one fader was set",
      () => void mixLevels(faded(), { rig: wholeMill, studio: demoStudio }),
    );
    bench("what is told of hearing, cues, levels and recording after one level was set", () => judge(turned()));
    bench("the matrix laid out, with its heads", () => {
      const of = turned();
      cueRows(of, { folded: new Set(), buses: false });
      cueHeads(of, wholeMill, hearingOf(of, wholeMill, demoStudio));
    });
    bench("the fewest to switch off", () => void lowLatency(turned(), wholeMill, demoStudio));
    bench("every rate by every buffer", () => void rateBufferTable(turned(), wholeMill, demoStudio));
  });
}
