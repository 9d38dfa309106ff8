import type { ChannelId, CueId } from "../model/ids";
import { perTwo, stepping } from "../model/per-document";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Template } from "../model/template";
import type { Asked } from "../queries/at-work";
import { graphOf, intoOf } from "../routing/graph";
import {
  byChannel,
  type Contribution,
  type Cued,
  cuesOfAll,
  intoCues,
  loudestFirst,
  NO_LEVELS,
  type OfChannel,
} from "./cue-sums";
import { gainPlans } from "./gain-plan";
import { alongThread, freshSince, type IntoCues, intoCuesAs } from "./passing";
import { type ChannelLevels, type Known, type Pass, Reckoning } from "./reckoning";
import type { Sides } from "./sides";
import { type Sources, sourcesOf } from "./sources";
import { summedAfter } from "./strands";

export type { Contribution } from "./cue-sums";
export type { ChannelLevels } from "./reckoning";

export interface MixLevels {
  /** For what they were asked: cues are always as they are while recording. */
  readonly asked: Asked;
  readonly channels: ReadonlyMap<ChannelId, ChannelLevels>;
  /** What goes out to each cue, its own level in it. */
  readonly cues: ReadonlyMap<CueId, Sides>;
  /** What contributes to each cue, before the level of the whole. */
  readonly inCues: ReadonlyMap<CueId, readonly Contribution[]>;
}

/** All that is known of the levels of a template, to go on from after the next edit. */
interface Reckoned extends Known {
  readonly rig: Rig;
  readonly into: IntoCues;
  readonly sources: Sources;
  readonly channels: ReadonlyMap<ChannelId, ChannelLevels>;
  readonly ofChannel: ReadonlyMap<ChannelId, OfChannel>;
  readonly cued: ReadonlyMap<CueId, Cued>;
  readonly cues: ReadonlyMap<CueId, Sides>;
  readonly inCues: ReadonlyMap<CueId, readonly Contribution[]>;
}

/** What every channel holds, while recording also what goes to each cue, and what gives it: in one pass. */
const levelsOf = (pass: Pass, last: Reckoned | null): Reckoned => {
  const { doc, sources, asked, plans } = pass;
  const before = last?.sources.ofTrack === sources.ofTrack ? last : null;
  const wanted = asked === "recording" ? byChannel(doc.cues, doc.cueLevels) : null;
  const ofChannel = new Map<ChannelId, OfChannel>();
  const into = intoCuesAs(doc);
  const fresh = before?.rig === pass.rig ? freshSince(before.into, into) : null;
  const settled = (id: ChannelId): boolean => fresh !== null && !fresh.has(id);
  const reckoning = new Reckoning(pass, before);
  const { held, chains, channels, threads } = reckoning;
  reckoning.run((channel, holds) => {
    const levels = wanted?.get(channel.id) ?? NO_LEVELS;
    if (levels.length)
      ofChannel.set(
        channel.id,
        intoCues(pass, channel, { held: holds, levels, was: before?.ofChannel.get(channel.id), settled }),
      );
  });
  const cued = cuesOfAll(pass, ofChannel, before);
  const cues = new Map([...cued].map(([id, { sides }]) => [id, sides]));
  const inCues = new Map(
    [...cued].flatMap(([id, { contributions }]) => (contributions.length ? [[id, contributions] as const] : [])),
  );
  return { doc, rig: pass.rig, into, plans, sources, held, chains, channels, threads, ofChannel, cued, cues, inCues };
};

/**
 * Kept for as long as the document lives, and each made from the one before: checks and screens ask for the same again.
 */
const kept = perTwo((rig: Rig, studio: Studio) => {
  const of = (asked: Asked) =>
    stepping((doc: Template, before: Reckoned | null) =>
      levelsOf({ doc, rig, plans: gainPlans(doc, rig, studio), sources: sourcesOf(doc), asked }, before),
    );
  return { recording: of("recording"), mixing: of("mixing"), "listening-copy": of("listening-copy") };
});

/**
 * How loud it is everywhere, on both sides and in both bounds. Contributions of one source (two sides folded, a bus and
 * its own recording, a track beside its parallel) first add in amplitude; then, over sources, *alike* adds amplitudes,
 * *unlike* powers, and peaks add as alike. What a return gives is a source of its own. Sources by the gain plan of
 * their lines; what has none at the target. Trims, chains at the gain they have without acting, faders and control
 * faders, mutes, sends, pans by the template's law; a balance acts before a fold; 5.1 counts as stereo. While recording
 * without what is off then, with the levels that tracks have then, and without what is heard past the computer. One
 * pass in the order of the sound: linear in threads times the sources that each carries.
 * @example four sources at −18 into one mono bus: −5.96 alike, −11.98 unlike
 */
export const mixLevels = (
  doc: Template,
  { rig, studio, asked = "recording" }: { readonly rig: Rig; readonly studio: Studio; readonly asked?: Asked },
): MixLevels => {
  const of = kept(rig, studio);
  const { cues, inCues } = of.recording(doc);
  return { asked, channels: of[asked](doc).channels, cues, inCues };
};

/** What a channel sums, the loudest first. */
export const contributorsTo = (
  doc: Template,
  { channels, asked }: MixLevels,
  id: ChannelId,
): readonly Contribution[] => {
  const graph = graphOf(doc);
  return loudestFirst(
    intoOf(graph, id).flatMap((thread): readonly Contribution[] => {
      const [leaves, from] = [alongThread(doc, { thread, asked }), channels.get(thread.from)];
      return leaves && from
        ? [{ sourceId: thread.from, by: thread.kind, sides: summedAfter(from[leaves.of], leaves.passing) }]
        : [];
    }),
  );
};

/** What a cue carries, the loudest first. */
export const contributorsToCue = ({ inCues }: MixLevels, cueId: CueId): readonly Contribution[] =>
  loudestFirst(inCues.get(cueId) ?? []);
