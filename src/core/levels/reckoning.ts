import type { ChannelId } from "../model/ids";
import { isParked } from "../model/read-template";
import type { Rig } from "../model/rig";
import { differingKeys, putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { type Asked, faderDbWhen, passesComputer, worksWhen } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { type Graph, graphOf, intoOf, outOf, type Thread } from "../routing/graph";
import { orderOf } from "../routing/order";
import type { GainPlan } from "./gain-plan";
import { peakDb } from "./microphone";
import { isMono, type Leaves, type Threads, threadsOf } from "./passing";
import type { Sources } from "./sources";
import { chainGain } from "./static-gain";
import { asOneSource, Gathering, type Strands, type Summed, sided, summedAfter, summedUp } from "./strands";

/** What is taken of what nobody has a line for: instruments, references, tracks to be played in. */
const ASSUMED_CREST_DB = 14;

export const amplitude = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));

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

type Figures = readonly [number, number, number, number, number, number];

const figuresOf = (
  [leftDb, leftPeakDb]: readonly [number, number],
  [rightDb, rightPeakDb]: readonly [number, number] = [leftDb, leftPeakDb],
): Figures => {
  const [left, right] = [amplitude(leftDb), amplitude(rightDb)];
  return [left, right, left, right, amplitude(leftPeakDb), amplitude(rightPeakDb)];
};

const steady = (db: number): readonly [number, number] => [db, peakDb(db, ASSUMED_CREST_DB)];
const planned = (plan: GainPlan | undefined, targetDb: number): readonly [number, number] =>
  plan ? [plan.levelDb, plan.peakDb] : steady(targetDb);

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
      if (input.kind === "pair")
        return figuresOf(planned(plans.get(input.leftId), targetDb), planned(plans.get(input.rightId), targetDb));
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

const numberOf = (sources: Sources, channel: Channel): number =>
  channel.kind === "track" ? sources.ofTrack(channel) : sources.ofChannel(channel.id);

/** What a chain and the trim before it do to the amplitude. */
const chainAmplitude = (doc: Template, channel: Channel, asked: Asked): number =>
  amplitude(channel.trimDb) *
  Math.abs(chainGain(processorsOf(doc, channel.id), (processor) => worksWhen(doc, processor, asked)));

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
export interface Held {
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

/** What is known of all channels, to go on from after the next edit. */
export interface Known {
  readonly doc: Template;
  readonly plans: ReadonlyMap<string, GainPlan>;
  readonly held: ReadonlyMap<ChannelId, Held>;
  readonly chains: ReadonlyMap<ChannelId, Chained>;
  readonly threads: Threads;
}

/** More threads than this are not looked for one by one among those that come to a channel. */
const MOST_SOUGHT = 16;

/** More figures of sources than this are not held from edit to edit: what is beyond is added up again each time. */
const MOST_HELD = 1_000_000;

const planIds = (channel: Channel): readonly string[] =>
  channel.kind !== "track"
    ? []
    : channel.input.kind === "line"
      ? [channel.input.lineId]
      : channel.input.kind === "pair"
        ? [channel.input.leftId, channel.input.rightId]
        : [];

export interface Pass {
  readonly doc: Template;
  readonly rig: Rig;
  readonly plans: ReadonlyMap<string, GainPlan>;
  readonly sources: Sources;
  readonly asked: Asked;
}

const samePart = (a: Part | null, b: Part | null): boolean =>
  a === b || (a !== null && b !== null && a.strands === b.strands && a.leaves === b.leaves && a.chain === b.chain);

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

/**
 * One pass along the order of the sound over all that a template holds, taking over from the one before what hangs on
 * nothing that changed.
 */
export class Reckoning {
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
    private readonly before: Known | null,
  ) {
    const { doc, asked } = pass;
    this.gathering = new Gathering(pass.sources.count);
    this.graph = graphOf(doc);
    this.threads = threadsOf(doc, asked);
    for (const id of before ? differingKeys(before.threads.outs, this.threads.outs) : []) {
      const [was, is] = [before?.threads.outs.get(id), this.threads.outs.get(id)];
      for (const thread of outOf(this.graph, id))
        if (was?.[thread.at]?.leaves !== is?.[thread.at]?.leaves) putInto(this.reached, thread.to, thread);
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
    if (
      was?.channel === channel &&
      was.targetDb === doc.levels.targetDb &&
      own.every((plan, at) => plan === was.plans[at])
    )
      return was;
    const figures = beginning(doc, channel, plans);
    const same =
      figures === was?.figures || (figures !== null && was?.figures?.every((one, at) => one === figures[at]));
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

  private added(
    channel: Channel,
    begins: Begins,
    parts: readonly (Part | null)[],
  ): Pick<Held, "strands" | "into" | "rings"> {
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
    if (
      begins.channel !== channel ||
      this.around ||
      this.before?.chains.get(channel.id)?.processors !== processorsOf(doc, channel.id)
    )
      return false;
    if (plans !== this.before?.plans && !planIds(channel).every((id, at) => plans.get(id) === begins.plans[at]))
      return false;
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
      (was.parts === parts ||
        (was.parts.length === parts.length && was.parts.every((one, at) => samePart(one, parts[at] ?? null))));
    const sums = asBefore ? was : this.added(channel, begins, parts);
    const fader = passesComputer(doc, channel, asked) ? amplitude(faderDbWhen(doc, channel, asked)) : 0;
    const into = intoOf(this.graph, channel.id);
    if (!asBefore || was.chain !== chain) this.reachFrom(channel.id);
    if (asBefore && was.chain === chain && was.levels.fader === fader)
      return was.begins === begins && was.threads === into ? was : { ...was, begins, threads: into };
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
