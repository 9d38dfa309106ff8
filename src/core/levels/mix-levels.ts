import type { ChannelId, CueId, CueLevelId } from "../model/ids";
import { perTwo, stepping } from "../model/per-document";
import { isParked } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { differingIds, differingKeys, putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Template } from "../model/template";
import { type Asked, faderDbWhen, passesComputer, worksWhen } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { carriedBy, cuesOf } from "../queries/cues";
import { type Graph, graphOf, intoOf, outOf, type Thread } from "../routing/graph";
import { orderOf } from "../routing/order";
import { type GainPlan, gainPlans } from "./gain-plan";
import { peakDb } from "./microphone";
import { alongThread, freshSince, type IntoCues, intoCue, intoCuesAs, isMono, type Leaves, type Threads, threadsOf } from "./passing";
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
  /** The fader as an amplitude. */
  readonly fader: number;
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

/** One contribution to a channel: what comes along a thread of what another one holds. */
interface Part {
  readonly leaves: Leaves;
  readonly strands: Strands;
  readonly chain: number;
}

/** What a channel begins with, and what that was reckoned from. */
interface Begins {
  readonly channel: Channel;
  readonly plans: readonly (GainPlan | undefined)[];
  readonly targetDb: number;
  readonly figures: Figures | null;
}

/** What a channel holds, and all that it was reckoned from: while that is the same, so is what it holds. */
interface Held {
  readonly threads: readonly Thread[];
  readonly begins: Begins;
  readonly number: number;
  /** By the threads that come in; null where nothing comes along one. */
  readonly parts: readonly (Part | null)[];
  readonly mono: boolean;
  readonly rings: boolean;
  readonly strands: Strands;
  readonly into: Summed;
  readonly chain: number;
  readonly levels: ChannelLevels;
}

interface Chained {
  readonly processors: readonly Processor[];
  readonly trimDb: number;
  readonly buffers: Template["buffers"];
  readonly amplitude: number;
}

interface InCue {
  readonly cueId: CueId;
  readonly strands: Strands;
  readonly chain: number;
  readonly leaves: readonly Leaves[];
  readonly passings: readonly Passing[];
  readonly contribution: Contribution;
}

/** What a channel gives to cues, and what that was reckoned from. */
interface OfChannel {
  readonly held: Held;
  readonly levels: readonly CueLevel[];
  readonly leaves: readonly (readonly Leaves[])[];
  readonly inCues: readonly InCue[];
}

interface Cued {
  readonly levelDb: number | null;
  readonly parts: readonly InCue[];
  readonly sides: Sides;
  readonly contributions: readonly Contribution[];
}

/** All that is known of the levels of a template, to go on from after the next edit. */
interface Reckoned {
  readonly doc: Template;
  readonly rig: Rig;
  readonly into: IntoCues;
  readonly plans: ReadonlyMap<string, GainPlan>;
  readonly sources: Sources;
  readonly held: ReadonlyMap<ChannelId, Held>;
  readonly chains: ReadonlyMap<ChannelId, Chained>;
  readonly channels: ReadonlyMap<ChannelId, ChannelLevels>;
  readonly threads: Threads;
  readonly ofChannel: ReadonlyMap<ChannelId, OfChannel>;
  readonly cued: ReadonlyMap<CueId, Cued>;
  readonly cues: ReadonlyMap<CueId, Sides>;
  readonly inCues: ReadonlyMap<CueId, readonly Contribution[]>;
}

/** More threads than this are not looked for one by one among those that come to a channel. */
const MOST_SOUGHT = 16;

/** More figures of sources than this are not held from edit to edit: what is beyond is added up again each time. */
const MOST_HELD = 1_000_000;

const planIds = (channel: Channel): readonly string[] =>
  channel.kind !== "track" ? [] : channel.input.kind === "line" ? [channel.input.lineId] : channel.input.kind === "pair" ? [channel.input.leftId, channel.input.rightId] : [];

interface Pass {
  readonly doc: Template;
  readonly rig: Rig;
  readonly plans: ReadonlyMap<string, GainPlan>;
  readonly sources: Sources;
  readonly asked: Asked;
}

const samePart = (a: Part | null, b: Part | null): boolean => a === b || (a !== null && b !== null && a.strands === b.strands && a.leaves === b.leaves && a.chain === b.chain);

/** Behind which channel each is taken for the last time. */
const lettingGo = (() => {
  const kept = new WeakMap<object, ReadonlyMap<ChannelId, readonly ChannelId[]>>();
  return (graph: Graph): ReadonlyMap<ChannelId, readonly ChannelId[]> => {
    const known = kept.get(graph.threads);
    if (known) return known;
    const last = new Map<ChannelId, ChannelId>();
    for (const id of orderOf(graph).ids) for (const { from } of intoOf(graph, id)) last.set(from, id);
    const found = new Map<ChannelId, ChannelId[]>();
    for (const [gone, by] of last) putInto(found, by, gone);
    kept.set(graph.threads, found);
    return found;
  };
})();

/** What of a template all channels hang on. */
const AROUND = ["format", "mix", "controls", "passes", "buffers", "levels"] as const;

/** One pass along the order of the sound over all that a template holds, taking over from the one before what nothing bears on that changed. */
class Reckoning {
  private readonly gathering: Gathering;
  private readonly graph: Graph;
  private readonly now = new Map<ChannelId, Held>();
  readonly held = new Map<ChannelId, Held>();
  readonly chains = new Map<ChannelId, Chained>();
  readonly channels = new Map<ChannelId, ChannelLevels>();
  readonly threads: Threads;
  private figures = 0;
  /** Channels to which something else comes than before, and along which of the threads that lead there. */
  private readonly reached = new Map<ChannelId, Thread[]>();
  /** Whether what all channels hang on has changed. */
  private readonly around: boolean;

  constructor(
    private readonly pass: Pass,
    private readonly before: Reckoned | null,
  ) {
    const { doc, asked } = pass;
    this.gathering = new Gathering(pass.sources.count);
    this.graph = graphOf(doc);
    this.threads = threadsOf(doc, asked);
    for (const id of before ? differingKeys(before.threads.outs, this.threads.outs) : []) {
      const [was, is] = [before?.threads.outs.get(id), this.threads.outs.get(id)];
      for (const thread of outOf(this.graph, id)) if (was?.[thread.at]?.leaves !== is?.[thread.at]?.leaves) putInto(this.reached, thread.to, thread);
    }
    this.around = !before || AROUND.some((field) => before.doc[field] !== doc[field]);
  }

  private reachFrom(id: ChannelId): void {
    for (const thread of outOf(this.graph, id)) putInto(this.reached, thread.to, thread);
  }

  private begins(channel: Channel): Begins {
    const { doc, plans } = this.pass;
    const was = this.before?.held.get(channel.id)?.begins;
    const own = planIds(channel).map((id) => plans.get(id));
    if (was?.channel === channel && was.targetDb === doc.levels.targetDb && own.every((plan, at) => plan === was.plans[at])) return was;
    const figures = beginning(doc, channel, plans);
    const same = figures === was?.figures || (figures !== null && was?.figures?.every((one, at) => one === figures[at]));
    return { channel, plans: own, targetDb: doc.levels.targetDb, figures: same && was ? was.figures : figures };
  }

  private chain(channel: Channel): number {
    const { doc, asked } = this.pass;
    const was = this.before?.chains.get(channel.id);
    const processors = processorsOf(doc, channel.id);
    const now =
      was?.processors === processors && was.trimDb === channel.trimDb && was.buffers === doc.buffers
        ? was
        : { processors, trimDb: channel.trimDb, buffers: doc.buffers, amplitude: chainAmplitude(doc, channel, asked) };
    this.chains.set(channel.id, now);
    return now.amplitude;
  }

  private part(thread: Thread): Part | null {
    const [from, leaves] = [this.now.get(thread.from), this.leaves(thread)];
    return from && leaves ? { leaves, strands: from.strands, chain: from.chain } : null;
  }

  /** What comes to a channel, thread by thread: only what comes otherwise is looked up again. */
  private parts(channel: Channel, was: Held | undefined): readonly (Part | null)[] {
    if (isParked(channel)) return [];
    const into = intoOf(this.graph, channel.id);
    if (was?.threads !== into || was.parts.length !== into.length) return into.map((thread) => this.part(thread));
    const others = this.reached.get(channel.id);
    if (!others) return was.parts;
    if (others.length > MOST_SOUGHT) return into.map((thread) => this.part(thread));
    const parts = was.parts.slice();
    for (const thread of others) parts[into.indexOf(thread)] = this.part(thread);
    return parts;
  }

  private added(channel: Channel, begins: Begins, parts: readonly (Part | null)[]): Pick<Held, "strands" | "into" | "rings"> {
    const { doc, sources } = this.pass;
    if (begins.figures && !isParked(channel)) this.gathering.begin(numberOf(sources, channel), begins.figures);
    for (const part of parts) if (part) this.gathering.add(part.strands, part.leaves.passing, part.chain);
    const all = this.gathering.take();
    const summed = summedUp(all, { mono: isMono(doc, channel) });
    const rings = channel.kind === "return" && all.sources.length > 0;
    return {
      rings,
      strands: rings ? asOneSource(summed, sources.ofChannel(channel.id)) : all,
      into: rings ? { ...summed, shared: Math.sqrt(summed.left.unlike * summed.right.unlike) } : summed,
    };
  }

  /** Whether nothing that a channel holds hangs on has changed. */
  private isAsBefore(channel: Channel, was: Held): boolean {
    const { doc, plans } = this.pass;
    const { begins } = was;
    if (begins.channel !== channel || this.around || this.before?.chains.get(channel.id)?.processors !== processorsOf(doc, channel.id)) return false;
    if (plans !== this.before?.plans && !planIds(channel).every((id, at) => plans.get(id) === begins.plans[at])) return false;
    return was.threads === intoOf(this.graph, channel.id) && !this.reached.has(channel.id);
  }

  private leaves(thread: Thread): Leaves | null {
    return this.threads.outs.get(thread.from)?.[thread.at]?.leaves ?? null;
  }

  private hold(channel: Channel): Held {
    const { doc, asked, sources } = this.pass;
    const was = this.before?.held.get(channel.id);
    if (was && this.isAsBefore(channel, was)) {
      const chained = this.before?.chains.get(channel.id);
      if (chained) this.chains.set(channel.id, chained);
      return was;
    }
    const begins = this.begins(channel);
    const parts = this.parts(channel, was);
    const number = numberOf(sources, channel);
    const mono = isMono(doc, channel);
    const chain = this.chain(channel);
    const asBefore =
      was !== undefined &&
      was.begins.figures === begins.figures &&
      was.begins.channel.kind === channel.kind &&
      isParked(was.begins.channel) === isParked(channel) &&
      was.number === number &&
      was.mono === mono &&
      (was.parts === parts || (was.parts.length === parts.length && was.parts.every((one, at) => samePart(one, parts[at] ?? null))));
    const sums = asBefore ? was : this.added(channel, begins, parts);
    const fader = passesComputer(doc, channel, asked) ? amplitude(faderDbWhen(doc, channel, asked)) : 0;
    const into = intoOf(this.graph, channel.id);
    if (!asBefore || was.chain !== chain) this.reachFrom(channel.id);
    if (asBefore && was.chain === chain && was.levels.fader === fader) return was.begins === begins && was.threads === into ? was : { ...was, begins, threads: into };
    const before = summedAfter(sums.into, sided(chain, chain));
    const levels = { into: sums.into, before, after: summedAfter(before, sided(fader, fader)), fader };
    const { strands, rings } = sums;
    return {
      threads: into,
      begins,
      number,
      parts,
      mono,
      rings,
      strands,
      into: sums.into,
      chain,
      levels,
    };
  }

  run(told: (channel: Channel, held: Held) => void): void {
    const { doc } = this.pass;
    const lets = lettingGo(this.graph);
    for (const id of orderOf(this.graph).ids) {
      const channel = doc.channels[id];
      if (!channel) continue;
      const held = this.hold(channel);
      this.now.set(id, held);
      this.figures += held.strands.figures.length;
      if (this.figures <= MOST_HELD) this.held.set(id, held);
      // What is not held from edit to edit is let go as soon as nothing takes it any more.
      else for (const gone of lets.get(id) ?? []) this.now.delete(gone);
      this.channels.set(id, held.levels);
      told(channel, held);
    }
  }
}

/** What a channel holds goes into a cue: by which ways, and how loud. */
const intoCueOf = (leaves: readonly Leaves[], { channel, cueId, held }: { readonly channel: Channel; readonly cueId: CueId; readonly held: Held }): InCue => {
  const { strands, into, chain } = held;
  const passings = leaves.map(({ of, passing }) => (of === "into" ? passing : louderBy(passing, chain)));
  return { cueId, strands, chain, leaves, passings, contribution: { sourceId: channel.id, by: "cue", sides: bothWays(into, passings) } };
};

const NO_LEVELS: readonly CueLevel[] = [];

/** What a channel gives to all cues; the very same as before where nothing bears on it that changed. */
const intoCues = (
  { doc, rig }: Pass,
  channel: Channel,
  { held, levels, was, settled }: { readonly held: Held; readonly levels: readonly CueLevel[]; readonly was: OfChannel | undefined; readonly settled: (id: ChannelId) => boolean },
): OfChannel => {
  if (settled(channel.id) && was?.held === held && was.levels === levels) return was;
  const leaves = levels.map((level) => intoCue(doc, rig, level));
  const same = was?.held.strands === held.strands && was.held.chain === held.chain;
  if (same && was.leaves.length === leaves.length && leaves.every((one, at) => one === was.leaves[at]))
    return was.held === held && was.levels === levels ? was : { ...was, held, levels };
  const before = new Map(was?.inCues.map((one) => [one.cueId, one]));
  const inCues = leaves.flatMap((one, at): readonly InCue[] => {
    const cueId = (levels[at] as CueLevel).cueId;
    const known = before.get(cueId);
    if (!one.length) return [];
    return [same && known?.leaves === one ? known : intoCueOf(one, { channel, cueId, held })];
  });
  return { held, levels, leaves, inCues };
};

type ByChannel = ReadonlyMap<ChannelId, readonly CueLevel[]>;

const levelsByChannel = (cues: Template["cues"], cueLevels: Template["cueLevels"]): ByChannel => {
  const found = new Map<ChannelId, CueLevel[]>();
  for (const cue of cuesOf({ cues })) for (const level of carriedBy({ cueLevels }, cue.id).values()) putInto(found, level.sourceId, level);
  return found;
};

let lastByChannel: { readonly cues: Template["cues"]; readonly cueLevels: Template["cueLevels"]; readonly found: ByChannel } | null = null;

/** Of few levels that changed only the channels they are of are looked at again. */
const FEW = 64;

const someOthers = ({ found, cueLevels: before }: NonNullable<typeof lastByChannel>, cues: Template["cues"], cueLevels: Template["cueLevels"]): ByChannel | null => {
  const ids = differingIds<CueLevel>(before, cueLevels);
  if (ids.length > FEW) return null;
  const next = new Map(found);
  for (const sourceId of new Set(ids.flatMap((id) => [before[id as CueLevelId]?.sourceId ?? [], cueLevels[id as CueLevelId]?.sourceId ?? []].flat()))) {
    const list = cuesOf({ cues }).flatMap(({ id }) => carriedBy({ cueLevels }, id).get(sourceId) ?? []);
    if (list.length) next.set(sourceId, list);
    else next.delete(sourceId);
  }
  return next;
};

/** Levels of cues by what is heard, in the order of the cues; a list in which nothing changed is the very same as before. */
const byChannel = perTwo((cues: Template["cues"], cueLevels: Template["cueLevels"]): ByChannel => {
  const found = (lastByChannel?.cues === cues ? someOthers(lastByChannel, cues, cueLevels) : null) ?? levelsByChannel(cues, cueLevels);
  lastByChannel = { cues, cueLevels, found };
  return found;
});

/** Cues to which something else comes than before. */
const cuesTouched = (before: ReadonlyMap<ChannelId, OfChannel>, now: ReadonlyMap<ChannelId, OfChannel>): ReadonlySet<CueId> => {
  const touched = new Set<CueId>();
  const differ = (a: readonly InCue[], b: readonly InCue[]): void => {
    const others = new Set(b);
    for (const one of a) if (!others.has(one)) touched.add(one.cueId);
  };
  for (const id of new Set([...before.keys(), ...now.keys()])) {
    const [was, is] = [before.get(id)?.inCues ?? [], now.get(id)?.inCues ?? []];
    if (was === is) continue;
    differ(was, is);
    differ(is, was);
  }
  return touched;
};

const bySource = ({ contribution: a }: InCue, { contribution: b }: InCue): number => (a.sourceId < b.sourceId ? -1 : 1);

/** How loud every cue is: added up anew where something else comes to it. */
const cuesOfAll = ({ doc, sources }: Pass, ofChannel: ReadonlyMap<ChannelId, OfChannel>, before: Reckoned | null): ReadonlyMap<CueId, Cued> => {
  const touched = before && cuesTouched(before.ofChannel, ofChannel);
  const all = cuesOf(doc).map(({ id, levelDb }) => ({ id, levelDb, was: touched?.has(id) ? undefined : before?.cued.get(id) }));
  const parts = new Map<CueId, InCue[]>(all.flatMap(({ id, was }) => (was ? [] : [[id, []]])));
  if (parts.size) for (const { inCues } of ofChannel.values()) for (const one of inCues) parts.get(one.cueId)?.push(one);
  const gathering = new Gathering(sources.count);
  return new Map(
    all.map(({ id, levelDb, was }): readonly [CueId, Cued] => {
      if (was && was.levelDb === levelDb) return [id, was];
      // Added up in one order, whichever way the sound comes to them.
      const own = was?.parts ?? (parts.get(id) ?? []).sort(bySource);
      for (const { strands, passings } of own) for (const passing of passings) gathering.add(strands, passing);
      const whole = amplitude(levelDb);
      return [
        id,
        { levelDb, parts: own, sides: summedAfter(summedUp(gathering.take(), { mono: false }), sided(whole, whole)), contributions: own.map(({ contribution }) => contribution) },
      ];
    }),
  );
};

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
    if (levels.length) ofChannel.set(channel.id, intoCues(pass, channel, { held: holds, levels, was: before?.ofChannel.get(channel.id), settled }));
  });
  const cued = cuesOfAll(pass, ofChannel, before);
  const cues = new Map([...cued].map(([id, { sides }]) => [id, sides]));
  const inCues = new Map([...cued].flatMap(([id, { contributions }]) => (contributions.length ? [[id, contributions] as const] : [])));
  return { doc, rig: pass.rig, into, plans, sources, held, chains, channels, threads, ofChannel, cued, cues, inCues };
};

/** Kept for as long as the document lives, and each made from the one before: checks and screens ask for the same again. */
const kept = perTwo((rig: Rig, studio: Studio) => {
  const of = (asked: Asked) =>
    stepping((doc: Template, before: Reckoned | null) => levelsOf({ doc, rig, plans: gainPlans(doc, rig, studio), sources: sourcesOf(doc), asked }, before));
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
      const [leaves, from] = [alongThread(doc, { thread, asked }), channels.get(thread.from)];
      return leaves && from ? [{ sourceId: thread.from, by: thread.kind, sides: summedAfter(from[leaves.of], leaves.passing) }] : [];
    }),
  );
};

/** What a cue carries, the loudest first. */
export const contributorsToCue = ({ inCues }: MixLevels, cueId: CueId): readonly Contribution[] => loudestFirst(inCues.get(cueId) ?? []);
