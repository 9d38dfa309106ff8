import type { ChannelId, CueId } from "../model/ids";
import { isParked } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { PanLawDb } from "../model/session-kinds";
import type { Studio } from "../model/studio";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel, Fold } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Template } from "../model/template";
import { processorsOf } from "../queries/chains";
import { controlledBy } from "../queries/controls";
import { cuesOf, levelsOfCue } from "../queries/cues";
import { layoutOf } from "../queries/layouts";
import { type Graph, graphOf, intoOf, sendOf, type Thread } from "../routing/graph";
import { orderOf } from "../routing/order";
import { type GainPlan, gainPlans } from "./gain-plan";
import { peakDb } from "./microphone";
import { panAmplitudes } from "./pan";
import { gained, SILENCE, type Sides, sideAt, summed } from "./sides";

/** What is taken of what nobody has a line for: instruments, references, tracks to be played in. */
const ASSUMED_CREST_DB = 14;

const amplitude = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));

export interface ChannelLevels {
  /** What comes in: its own source, or the sum of what leads here. */
  readonly into: Sides;
  /** After trim and chain, before the fader. */
  readonly before: Sides;
  /** After the fader, not panned yet. */
  readonly after: Sides;
}

export interface MixLevels {
  readonly channels: ReadonlyMap<ChannelId, ChannelLevels>;
  /** What goes out to each cue, its own level in it. */
  readonly cues: ReadonlyMap<CueId, Sides>;
}

/** What a chain adds at the gain it has without acting, in dB: gains and make-up. What changes level by itself is counted as if it did not. */
export const staticGainDb = (processors: readonly Processor[]): number =>
  processors.reduce((sum, processor) => {
    if (processor.bypassed || processor.splitId !== null) return sum;
    if (processor.kind === "gain") return sum + processor.gainDb;
    return processor.kind === "compressor" ? sum + processor.makeUpDb : sum;
  }, 0);

const steady = (db: number, crestDb: number): Sides => {
  const side = sideAt(db, peakDb(db, crestDb));
  return { left: side, right: side, mono: true };
};

const planned = (plan: GainPlan | undefined, targetDb: number): Sides => (plan ? steady(plan.levelDb, plan.crestDb) : steady(targetDb, ASSUMED_CREST_DB));

/** What a channel begins with by itself; null for what only sums. */
const sourceOf = (doc: Template, channel: Channel, plans: ReadonlyMap<string, GainPlan>): Sides | null => {
  const { targetDb } = doc.levels;
  switch (channel.kind) {
    case "click":
    case "talkback":
      return steady(channel.sourceDb, ASSUMED_CREST_DB);
    case "instrument":
    case "reference":
      return { ...steady(targetDb, ASSUMED_CREST_DB), mono: false };
    case "track": {
      const { input } = channel;
      if (input.kind === "bus" || input.kind === "instrument") return null;
      if (input.kind === "line") return planned(plans.get(input.lineId), targetDb);
      if (input.kind === "pair") return { left: planned(plans.get(input.leftId), targetDb).left, right: planned(plans.get(input.rightId), targetDb).right, mono: false };
      return steady(targetDb, ASSUMED_CREST_DB);
    }
    case "bus":
    case "return":
    case "main":
      return null;
    default:
      return channel satisfies never;
  }
};

/** Where a pan puts something: mono by the law of the template; of what is stereo the far side is turned down in a straight line, the near one stays. */
const placed = (sides: Sides, pan: number, law: PanLawDb): Sides => {
  if (!sides.mono) return gained(sides, [Math.min(1, 1 - pan / 100), Math.min(1, 1 + pan / 100)]);
  return { ...gained(sides, panAmplitudes(law, pan)), mono: false };
};

const folded = ({ left, right, mono }: Sides, fold: Fold): Sides => {
  if (mono) return { left, right, mono };
  const both = fold === "left" ? left : fold === "right" ? right : { alike: left.alike + right.alike, unlike: left.unlike + right.unlike, peak: left.peak + right.peak };
  return { left: both, right: both, mono: true };
};

/** How something comes into a channel: panned where that is stereo, folded where it is mono. */
const arriving = (doc: Template, to: Channel, { sides, pan }: { readonly sides: Sides; readonly pan: number }): Sides =>
  layoutOf(doc, to) === "mono" ? folded(sides, to.kind === "bus" || to.kind === "return" ? to.fold : "sum") : placed(sides, pan, doc.mix.panLawDb);

/** The fader with what control faders add, as an amplitude; 0 where it is muted. */
const faderOf = (doc: Template, channel: Channel): number => {
  const controlled = controlledBy(doc, channel);
  if (controlled.muted || controlled.db === null || (channel.kind !== "main" && channel.muted)) return 0;
  return amplitude(channel.faderDb) * amplitude(controlled.db);
};

const isSilenced = (doc: Template, channel: Channel): boolean => doc.mix.mutesBefore && channel.kind !== "main" && (channel.muted || controlledBy(doc, channel).muted);

type Leaving = ReadonlyMap<ChannelId, ChannelLevels>;

/** What comes along a thread. */
const along = (doc: Template, leaving: Leaving, { graph, thread }: { readonly graph: Graph; readonly thread: Thread }): Sides => {
  const [from, to] = [doc.channels[thread.from], doc.channels[thread.to]];
  const levels = leaving.get(thread.from);
  if (!from || !to || !levels || isParked(from)) return SILENCE;
  if (thread.kind === "input") return levels.after;
  const send = sendOf(graph, thread);
  if (!send) return arriving(doc, to, { sides: levels.after, pan: from.kind === "main" ? 0 : from.pan });
  if (!send.on || (send.tap === "before" && isSilenced(doc, from))) return SILENCE;
  const sides = send.tap === "before" ? levels.before : levels.after;
  const level = amplitude(send.levelDb);
  return arriving(doc, to, { sides: gained(sides, [level, level]), pan: send.pan });
};

const channelLevels = (doc: Template, channel: Channel, into: Sides): ChannelLevels => {
  const gain = amplitude(channel.trimDb + staticGainDb(processorsOf(doc, channel.id)));
  const before = gained(into, [gain, gain]);
  const fader = faderOf(doc, channel);
  return { into, before, after: gained(before, [fader, fader]) };
};

/** What one source gives to a cue. */
const intoCue = (doc: Template, leaving: Leaving, { sourceId, levelDb, pan, tap, on }: CueLevel): Sides => {
  const [channel, levels] = [doc.channels[sourceId], leaving.get(sourceId)];
  if (!channel || !levels || !on || isParked(channel) || (tap === "before" && isSilenced(doc, channel))) return SILENCE;
  const level = amplitude(levelDb);
  return placed(gained(tap === "before" ? levels.before : levels.after, [level, level]), pan, doc.mix.panLawDb);
};

/**
 * How loud it is everywhere, on both sides and in both bounds: *alike* adds the amplitudes of every contribution, *unlike* their powers, and peaks add as alike.
 * Sources by the gain plan of their lines; what has none at the target. Trims, chains at the gain they have without acting, faders and control faders, mutes, sends,
 * pans by the template's law. One pass in the order of the sound, linear in channels and threads.
 * @example four sources at −18 into one mono bus: −5.96 alike, −11.98 unlike
 */
export const mixLevels = (doc: Template, rig: Rig, studio: Studio): MixLevels => {
  const graph = graphOf(doc);
  const plans = gainPlans(doc, rig, studio);
  const channels = new Map<ChannelId, ChannelLevels>();
  for (const id of orderOf(graph).ids) {
    const channel = doc.channels[id];
    if (!channel) continue;
    let into = sourceOf(doc, channel, plans) ?? (layoutOf(doc, channel) === "mono" ? { ...SILENCE, mono: true } : SILENCE);
    if (isParked(channel)) into = SILENCE;
    else for (const thread of intoOf(graph, id)) into = summed(into, along(doc, channels, { graph, thread }));
    channels.set(id, channelLevels(doc, channel, into));
  }
  const cues = new Map<CueId, Sides>();
  for (const cue of cuesOf(doc)) {
    const whole = amplitude(cue.levelDb);
    let sides = SILENCE;
    for (const level of levelsOfCue(doc, cue.id)) sides = summed(sides, intoCue(doc, channels, level));
    cues.set(cue.id, gained(sides, [whole, whole]));
  }
  return { channels, cues };
};

export interface Contribution {
  readonly sourceId: ChannelId;
  /** By an output, a send, or a level in a cue. */
  readonly by: "output" | "send" | "input" | "cue";
  readonly sides: Sides;
}

const loudest = ({ left, right }: Sides): number => Math.max(left.alike, right.alike);
const byLoudness = (a: Contribution, b: Contribution): number => loudest(b.sides) - loudest(a.sides);

/** What a channel sums, the loudest first. */
export const contributorsTo = (doc: Template, levels: MixLevels, id: ChannelId): readonly Contribution[] => {
  const graph = graphOf(doc);
  return intoOf(graph, id)
    .map((thread): Contribution => ({ sourceId: thread.from, by: thread.kind, sides: along(doc, levels.channels, { graph, thread }) }))
    .filter(({ sides }) => loudest(sides) > 0)
    .sort(byLoudness);
};

/** What a cue carries, the loudest first. */
export const contributorsToCue = (doc: Template, levels: MixLevels, cueId: CueId): readonly Contribution[] =>
  levelsOfCue(doc, cueId)
    .map((level): Contribution => ({ sourceId: level.sourceId, by: "cue", sides: intoCue(doc, levels.channels, level) }))
    .filter(({ sides }) => loudest(sides) > 0)
    .sort(byLoudness);
