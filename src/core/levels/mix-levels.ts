import type { ChannelId, CueId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import { isParked } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { putInto } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Template } from "../model/template";
import { type Asked, faderDbWhen, passesComputer, worksWhen } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { cuesOf, levelsOfCue } from "../queries/cues";
import { graphOf, intoOf, outOf } from "../routing/graph";
import { orderOf } from "../routing/order";
import { type GainPlan, gainPlans } from "./gain-plan";
import { peakDb } from "./microphone";
import { alongThread, intoCue, isMono } from "./passing";
import type { Sides } from "./sides";
import { type Sources, sourcesOf } from "./sources";
import { chainGain } from "./static-gain";
import { asOneSource, beside, Gathering, louderBy, type Passing, type Strands, type Summed, sided, summedAfter, summedUp } from "./strands";

/** What is taken of what nobody has a line for: instruments, references, tracks to be played in. */
const ASSUMED_CREST_DB = 14;

const amplitude = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));

export interface ChannelLevels {
  /** What comes in: its own source, or the sum of what leads here. */
  readonly into: Summed;
  /** After trim and chain, before the fader. */
  readonly before: Summed;
  /** After the fader, not panned yet. */
  readonly after: Summed;
}

export interface MixLevels {
  /** For what they were asked: cues are always as they are while recording. */
  readonly asked: Asked;
  readonly channels: ReadonlyMap<ChannelId, ChannelLevels>;
  /** What goes out to each cue, its own level in it. */
  readonly cues: ReadonlyMap<CueId, Sides>;
  /** What contributes to each cue, before the level of the whole. */
  readonly inCues: ReadonlyMap<CueId, readonly Contribution[]>;
}

type Figures = readonly [number, number, number, number, number, number];

const figuresOf = ([leftDb, leftPeakDb]: readonly [number, number], [rightDb, rightPeakDb]: readonly [number, number] = [leftDb, leftPeakDb]): Figures => {
  const [left, right] = [amplitude(leftDb), amplitude(rightDb)];
  return [left, right, left, right, amplitude(leftPeakDb), amplitude(rightPeakDb)];
};

const steady = (db: number): readonly [number, number] => [db, peakDb(db, ASSUMED_CREST_DB)];
const planned = (plan: GainPlan | undefined, targetDb: number): readonly [number, number] => (plan ? [plan.levelDb, plan.peakDb] : steady(targetDb));

/** What a channel begins with by itself, as amplitudes; null for what only sums. */
const beginning = (doc: Template, channel: Channel, plans: ReadonlyMap<string, GainPlan>): Figures | null => {
  const { targetDb } = doc.levels;
  switch (channel.kind) {
    case "click":
    case "talkback":
      return figuresOf(steady(channel.sourceDb));
    case "instrument":
    case "reference":
      return figuresOf(steady(targetDb));
    case "track": {
      const { input } = channel;
      if (input.kind === "bus" || input.kind === "instrument") return null;
      if (input.kind === "line") return figuresOf(planned(plans.get(input.lineId), targetDb));
      if (input.kind === "pair") return figuresOf(planned(plans.get(input.leftId), targetDb), planned(plans.get(input.rightId), targetDb));
      return figuresOf(steady(targetDb));
    }
    case "bus":
    case "return":
    case "main":
      return null;
    default:
      return channel satisfies never;
  }
};

const numberOf = (sources: Sources, channel: Channel): number => (channel.kind === "track" ? sources.ofTrack(channel) : sources.ofChannel(channel.id));

/** What a chain and the trim before it do to the amplitude. */
const chainAmplitude = (doc: Template, channel: Channel, asked: Asked): number =>
  amplitude(channel.trimDb) * Math.abs(chainGain(processorsOf(doc, channel.id), (processor) => worksWhen(doc, processor, asked)));

interface Pass {
  readonly doc: Template;
  readonly rig: Rig;
  readonly plans: ReadonlyMap<string, GainPlan>;
  readonly sources: Sources;
  readonly asked: Asked;
}

interface Held {
  readonly strands: Strands;
  readonly into: Summed;
  readonly chain: number;
}

/** What channels hold for as long as something still takes it from them. */
class Holding {
  private readonly held = new Map<ChannelId, { readonly strands: Strands; readonly chain: number }>();
  private readonly waiting = new Map<ChannelId, number>();

  get(id: ChannelId) {
    return this.held.get(id);
  }

  keep(id: ChannelId, what: { readonly strands: Strands; readonly chain: number }, takers: number): void {
    if (!takers) return;
    this.held.set(id, what);
    this.waiting.set(id, takers);
  }

  /** One of those that take from it has. */
  took(id: ChannelId): void {
    const left = (this.waiting.get(id) ?? 0) - 1;
    this.waiting.set(id, left);
    if (left <= 0) this.held.delete(id);
  }
}

/** One pass in the order of the sound: what every channel holds, told one after the other. What nothing needs any more is let go. */
const passThrough = ({ doc, plans, sources, asked }: Pass, told: (channel: Channel, held: Held) => void): void => {
  const graph = graphOf(doc);
  const gathering = new Gathering(sources.count);
  const holding = new Holding();
  const gather = (channel: Channel): void => {
    const begins = beginning(doc, channel, plans);
    if (begins) gathering.begin(numberOf(sources, channel), begins);
    for (const thread of intoOf(graph, channel.id)) {
      const [leaves, from] = [alongThread(doc, graph, { thread, asked }), holding.get(thread.from)];
      if (leaves && from) gathering.add(from.strands, louderBy(leaves.passing, from.chain));
    }
  };
  for (const id of orderOf(graph).ids) {
    const channel = doc.channels[id];
    if (!channel) continue;
    if (!isParked(channel)) gather(channel);
    for (const { from } of intoOf(graph, id)) holding.took(from);
    const all = gathering.take();
    const summed = summedUp(all, { mono: isMono(doc, channel) });
    const rings = channel.kind === "return" && all.sources.length > 0;
    const strands = rings ? asOneSource(summed, sources.ofChannel(id)) : all;
    const into = rings ? { ...summed, shared: Math.sqrt(summed.left.unlike * summed.right.unlike) } : summed;
    const chain = chainAmplitude(doc, channel, asked);
    holding.keep(id, { strands, chain }, outOf(graph, id).length);
    told(channel, { strands, into, chain });
  }
};

const byChannel = (doc: Template): ReadonlyMap<ChannelId, readonly { readonly cue: Cue; readonly level: CueLevel }[]> => {
  const found = new Map<ChannelId, { readonly cue: Cue; readonly level: CueLevel }[]>();
  for (const cue of cuesOf(doc)) for (const level of levelsOfCue(doc, cue.id)) putInto(found, level.sourceId, { cue, level });
  return found;
};

const levelsIn = (
  doc: Template,
  { channel, into, chain, asked }: { readonly channel: Channel; readonly into: Summed; readonly chain: number; readonly asked: Asked },
): ChannelLevels => {
  const before = summedAfter(into, sided(chain, chain));
  const fader = passesComputer(doc, channel, asked) ? amplitude(faderDbWhen(doc, channel, asked)) : 0;
  return { into, before, after: summedAfter(before, sided(fader, fader)) };
};

interface Part {
  readonly strands: Strands;
  readonly passing: Passing;
}

/** What every channel holds, while recording also what goes to each cue, and what gives it: in one pass. */
const levelsOf = (pass: Pass): Omit<MixLevels, "asked"> => {
  const { doc, rig, sources, asked } = pass;
  const wanted = asked === "recording" ? byChannel(doc) : new Map<ChannelId, never[]>();
  const channels = new Map<ChannelId, ChannelLevels>();
  const parts = new Map<CueId, Part[]>();
  const inCues = new Map<CueId, Contribution[]>();
  passThrough(pass, (channel, { strands, into, chain }) => {
    channels.set(channel.id, levelsIn(doc, { channel, into, chain, asked }));
    for (const { cue, level } of wanted.get(channel.id) ?? []) {
      const ways = intoCue(doc, rig, { cue, level }).map(({ of, passing }) => (of === "into" ? passing : louderBy(passing, chain)));
      for (const passing of ways) putInto(parts, cue.id, { strands, passing });
      if (ways.length) putInto(inCues, cue.id, { sourceId: channel.id, by: "cue", sides: bothWays(into, ways) });
    }
  });
  const gathering = new Gathering(sources.count);
  const cues = new Map<CueId, Sides>();
  for (const cue of cuesOf(doc)) {
    const whole = amplitude(cue.levelDb);
    for (const { strands, passing } of parts.get(cue.id) ?? []) gathering.add(strands, passing);
    cues.set(cue.id, summedAfter(summedUp(gathering.take(), { mono: false }), sided(whole, whole)));
  }
  return { channels, cues, inCues };
};

/** Kept for as long as the document lives: checks and screens ask for the same again. */
const kept = perTwo((rig: Rig, studio: Studio) => {
  const of = (asked: Asked) => perDocument((doc: Template) => levelsOf({ doc, rig, plans: gainPlans(doc, rig, studio), sources: sourcesOf(doc), asked }));
  return { recording: of("recording"), mixing: of("mixing"), "listening-copy": of("listening-copy") };
});

/** What a channel gives by all its ways: of one source, they add in amplitude. */
const bothWays = (into: Summed, ways: readonly Passing[]): Summed => ({ ...summedAfter(into, ways.reduce(beside)), mono: false });

/**
 * How loud it is everywhere, on both sides and in both bounds. Contributions of one source (two sides folded, a bus and its own recording, a track beside its
 * parallel) first add in amplitude; then, over sources, *alike* adds amplitudes, *unlike* powers, and peaks add as alike. What a return gives is a source of its own.
 * Sources by the gain plan of their lines; what has none at the target. Trims, chains at the gain they have without acting, faders and control faders, mutes, sends,
 * pans by the template's law; a balance acts before a fold; 5.1 counts as stereo. While recording without what is off then, with the levels that tracks have then,
 * and without what is heard past the computer. One pass in the order of the sound: linear in threads times the sources that each carries.
 * @example four sources at −18 into one mono bus: −5.96 alike, −11.98 unlike
 */
export const mixLevels = (doc: Template, { rig, studio, asked = "recording" }: { readonly rig: Rig; readonly studio: Studio; readonly asked?: Asked }): MixLevels => {
  const of = kept(rig, studio);
  const { cues, inCues } = of.recording(doc);
  return { asked, channels: of[asked](doc).channels, cues, inCues };
};

export interface Contribution {
  readonly sourceId: ChannelId;
  /** By an output, a send, or a level in a cue. */
  readonly by: "output" | "send" | "input" | "cue";
  readonly sides: Sides;
}

const loudest = ({ left, right }: Sides): number => Math.max(left.alike, right.alike);
const loudestFirst = (contributions: readonly Contribution[]): readonly Contribution[] =>
  contributions.filter(({ sides }) => loudest(sides) > 0).sort((a, b) => loudest(b.sides) - loudest(a.sides));

/** What a channel sums, the loudest first. */
export const contributorsTo = (doc: Template, { channels, asked }: MixLevels, id: ChannelId): readonly Contribution[] => {
  const graph = graphOf(doc);
  return loudestFirst(
    intoOf(graph, id).flatMap((thread): readonly Contribution[] => {
      const [leaves, from] = [alongThread(doc, graph, { thread, asked }), channels.get(thread.from)];
      return leaves && from ? [{ sourceId: thread.from, by: thread.kind, sides: summedAfter(from[leaves.of], leaves.passing) }] : [];
    }),
  );
};

/** What a cue carries, the loudest first. */
export const contributorsToCue = ({ inCues }: MixLevels, cueId: CueId): readonly Contribution[] => loudestFirst(inCues.get(cueId) ?? []);
