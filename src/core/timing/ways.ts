import { alongThread, type Leaves, threadsOf } from "../levels/passing";
import { chainGain } from "../levels/static-gain";
import { beside, louderBy, type Passing, sided, thenPass } from "../levels/strands";
import type { ChannelId } from "../model/ids";
import { perDocument, stepping } from "../model/per-document";
import { isParked } from "../model/read-template";
import type { Rig } from "../model/rig";
import { listOf } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import type { Channel } from "../model/tables/channels";
import type { Template } from "../model/template";
import { isWorking } from "../queries/at-work";
import { processorsOf } from "../queries/chains";
import { armedOf } from "../queries/cues";
import { graphOf, intoOf, type Thread } from "../routing/graph";
import { channelSamples, delayContext } from "./arrivals";
import type { DelayContext } from "./processor-delay";

/** More ways of one sound to one place than this are not told apart. */
export const MOST_WAYS = 32;

const isRoomy = ({ kind }: Processor): boolean => kind === "reverb" || kind === "delay";

/** Whether what comes out of a channel is a room or an echo of what goes in. */
export const isWet = (doc: Template, channel: Channel): boolean =>
  channel.kind === "return" ||
  processorsOf(doc, channel.id).some(
    (processor) => isRoomy(processor) && isWorking(doc, processor) && processor.wetPercent === 100,
  );

/** What a channel does to what passes it while recording. */
export interface Passed {
  /** Its trim and chain, as an amplitude. */
  readonly chain: number;
  readonly samples: number;
  readonly turned: boolean;
  readonly wet: boolean;
}

const turns = (doc: Template, channel: Channel): boolean =>
  processorsOf(doc, channel.id).reduce(
    (turned, processor) =>
      processor.kind === "gain" && processor.turned && isWorking(doc, processor) ? !turned : turned,
    channel.polarityTurned,
  );

const passedBy = (doc: Template, channel: Channel, context: DelayContext): Passed => ({
  chain:
    10 ** (channel.trimDb / 20) *
    Math.abs(chainGain(processorsOf(doc, channel.id), (processor) => isWorking(doc, processor))),
  samples: channelSamples(doc, channel.id, context),
  turned: turns(doc, channel),
  wet: isWet(doc, channel),
});

/** One step of a sound from a channel into the next and through its chain. */
export interface Step extends Omit<Passed, "chain"> {
  readonly to: ChannelId;
  /** Its place among the threads that leave the channel. */
  readonly at: number;
  readonly passing: Passing;
  /** The same without pans, balances and folds. */
  readonly gain: number;
}

/** What a channel does, and what that was reckoned from. */
interface KeptPassed {
  readonly channel: Channel;
  readonly processors: readonly Processor[];
  readonly passed: Passed;
}

interface KeptSteps {
  readonly along: unknown;
  readonly threads: readonly Thread[];
  /** By thread, null where it lets nothing through: what comes along it, and what the next channel does to it. */
  readonly by: readonly ({ readonly to: ChannelId; readonly leaves: Leaves; readonly passed: Passed } | null)[];
  readonly steps: readonly Step[];
}

/**
 * Where sounds go on from every channel of a template. What hangs on nothing that changed is the very same as before.
 */
export interface Steps {
  readonly doc: Template;
  readonly armed: ReadonlySet<ChannelId>;
  readonly kept: ReadonlyMap<ChannelId, KeptSteps>;
  readonly passed: ReadonlyMap<ChannelId, KeptPassed>;
}

const samePassed = (a: Passed, b: Passed): boolean =>
  a.chain === b.chain && a.samples === b.samples && a.turned === b.turned && a.wet === b.wet;

/** What every channel does to what passes it: the very same as before where none does anything else. */
const passedIn = (doc: Template, before: Steps | null, context: DelayContext): ReadonlyMap<ChannelId, KeptPassed> => {
  const around = before?.doc.buffers === doc.buffers && before.doc.format === doc.format;
  if (before && around && before.doc.channels === doc.channels && before.doc.processors === doc.processors)
    return before.passed;
  return new Map(
    listOf<Channel>(doc.channels).map((channel): readonly [ChannelId, KeptPassed] => {
      const [was, processors] = [before?.passed.get(channel.id), processorsOf(doc, channel.id)];
      if (was && around && was.channel === channel && was.processors === processors) return [channel.id, was];
      const passed = passedBy(doc, channel, context);
      const same = was !== undefined && was.processors === processors && samePassed(was.passed, passed);
      return [channel.id, { channel, processors, passed: same ? was.passed : passed }];
    }),
  );
};

const stepOf = (
  { to, leaves, passed: { chain, ...rest } }: NonNullable<KeptSteps["by"][number]>,
  at: number,
): Step => ({
  ...rest,
  to,
  at,
  passing: louderBy(leaves.passing, chain),
  gain: leaves.gain * chain,
});

/** What comes along a thread and goes on from where it leads; null for nothing. */
const throughTo = (doc: Template, passed: Steps["passed"], thread: Thread): KeptSteps["by"][number] => {
  const next = doc.channels[thread.to];
  if (!next || isParked(next)) return null;
  if (thread.kind === "input" && !(next.kind === "track" && next.monitor === "computer" && armedOf(doc).has(next.id)))
    return null;
  const leaves = alongThread(doc, { thread, asked: "recording" });
  const after = passed.get(next.id)?.passed;
  return leaves && after ? { to: next.id, leaves, passed: after } : null;
};

const sameThrough = (a: KeptSteps["by"][number] | undefined, b: KeptSteps["by"][number]): boolean =>
  a === b || (!!a && !!b && a.to === b.to && a.leaves === b.leaves && a.passed === b.passed);

/** Channels that something else is done by, or that let in what they did not. */
const doOtherwise = (before: Steps | null, doc: Template, passed: Steps["passed"]): ReadonlySet<ChannelId> | null => {
  if (!before || before.armed !== armedOf(doc)) return null;
  const found = new Set<ChannelId>();
  if (before.doc.channels === doc.channels && before.passed === passed) return found;
  for (const [id, { channel, passed: now }] of passed) {
    const was = before.passed.get(id);
    if (
      was?.passed !== now ||
      isParked(was.channel) !== isParked(channel) ||
      (channel.kind === "track" && was.channel !== channel)
    )
      found.add(id);
  }
  return found;
};

const stepsIn = (doc: Template, rig: Rig, before: Steps | null): Steps => {
  const graph = graphOf(doc);
  const { outs } = threadsOf(doc, "recording");
  const passed = passedIn(doc, before, delayContext(doc, rig));
  const otherwise = doOtherwise(before, doc, passed);
  const leading = new Set<ChannelId>();
  for (const id of otherwise ?? []) for (const { from } of intoOf(graph, id)) leading.add(from);
  const kept = new Map<ChannelId, KeptSteps>();
  for (const [id, threads] of graph.out) {
    const [was, along] = [before?.kept.get(id), outs.get(id)];
    if (was && otherwise && was.along === along && was.threads === threads && !leading.has(id)) {
      kept.set(id, was);
      continue;
    }
    const by = threads.map((thread) => throughTo(doc, passed, thread));
    const same =
      was !== undefined && was.by.length === by.length && by.every((one, at) => sameThrough(was.by[at], one));
    kept.set(
      id,
      same
        ? { ...was, along, threads }
        : { along, threads, by, steps: by.flatMap((one, at) => (one ? [stepOf(one, at)] : [])) },
    );
  }
  return { doc, armed: armedOf(doc), kept, passed };
};

const steps = perDocument((rig: Rig) => stepping((doc: Template, before: Steps | null) => stepsIn(doc, rig, before)));

/**
 * Where sounds go on from every channel while recording, and what each does to what passes it. Linear in threads and
 * processors.
 */
export const stepsOfAll = (doc: Template, rig: Rig): Steps => steps(rig)(doc);

const NO_STEPS: readonly Step[] = [];

/** Where a sound goes on from a channel: each thread that lets it through, with what becomes of it. */
export const stepsFrom = ({ kept }: Steps, id: ChannelId): readonly Step[] => kept.get(id)?.steps ?? NO_STEPS;

/** One way of a sound: its last channel, and the way to there. */
export interface Way extends Omit<Passed, "chain"> {
  readonly id: ChannelId;
  readonly before: Way | null;
  readonly at: number;
  readonly passing: Passing;
  readonly gain: number;
}

/** The ways to one place; `more` where there are more than are told apart. */
export interface Ways {
  readonly ways: readonly Way[];
  readonly more: boolean;
}

/** The beginning of ways from a channel, its own chain not in it. */
const begun = (id: ChannelId): Way => ({
  id,
  before: null,
  at: 0,
  passing: sided(1, 1),
  gain: 1,
  samples: 0,
  turned: false,
  wet: false,
});

export const onward = (before: Way, { to, at, passing, gain, samples, turned, wet }: Step): Way => ({
  id: to,
  before,
  at,
  passing: thenPass(before.passing, passing),
  gain: before.gain * gain,
  samples: before.samples + samples,
  turned: before.turned !== turned,
  wet: before.wet || wet,
});

/** What of a way decides whether it is kept. */
type Weighed = Pick<Way, "gain" | "samples" | "turned" | "wet">;

/** Those that are alike in delay, polarity and wetness, by the place of the loudest. */
const alike = <T extends Weighed>(all: readonly T[]): readonly (readonly T[])[] => {
  const groups = new Map<number, T[]>();
  for (const one of all) {
    const key = one.samples * 4 + Number(one.turned) * 2 + Number(one.wet);
    const there = groups.get(key);
    if (!there) groups.set(key, [one]);
    else if (one.gain > (there[0] as T).gain) there.unshift(one);
    else there.push(one);
  }
  return [...groups.values()];
};

const sumOf = (group: readonly Weighed[]): number => group.reduce((sum, { gain }) => sum + gain, 0);

/**
 * Of groups that are too many the earliest and the latest dry one, the latest of all, and the loudest. In the order in
 * which they came.
 */
const weightiest = <T extends Weighed>(groups: readonly (readonly T[])[], most: number): readonly (readonly T[])[] => {
  const kept = new Set<readonly T[]>();
  const first = (group: readonly T[]): T => group[0] as T;
  const least = (of: readonly (readonly T[])[], by: (one: T) => number): void => {
    const found = of.reduce<readonly T[] | null>(
      (best, group) => (best === null || by(first(group)) < by(first(best)) ? group : best),
      null,
    );
    if (found) kept.add(found);
  };
  const dry = groups.filter((group) => !first(group).wet);
  least(dry, ({ samples }) => samples);
  least(dry, ({ samples }) => -samples);
  least(groups, ({ samples }) => -samples);
  const loudness = new Map(groups.map((group) => [group, sumOf(group)] as const));
  for (const group of [...groups].sort((a, b) => (loudness.get(b) ?? 0) - (loudness.get(a) ?? 0))) {
    if (kept.size >= most) break;
    kept.add(group);
  }
  return groups.filter((group) => kept.has(group));
};

/**
 * At most so many of what comes to one place: all, where they are no more; else those that come at the same time, in
 * the same polarity, as one; and where these are still too many, the earliest and the latest dry one, the latest of
 * all, and the loudest. Groups come in the order of the first of each.
 */
export const fewer = <T extends Weighed>(
  all: readonly T[],
  most: number,
): { readonly groups: readonly (readonly T[])[]; readonly more: boolean } => {
  if (all.length <= most) return { groups: all.map((one) => [one]), more: false };
  const groups = alike(all);
  return { groups: groups.length <= most ? groups : weightiest(groups, most), more: true };
};

/** Sums of what was alike; louder than anything can be they stay finite. */
const LOUDEST = 1e100;
const together = (a: Passing, b: Passing): Passing => {
  const { ll, lr, rl, rr } = beside(a, b);
  return { ll: Math.min(LOUDEST, ll), lr: Math.min(LOUDEST, lr), rl: Math.min(LOUDEST, rl), rr: Math.min(LOUDEST, rr) };
};

/** Several ways as one: by the path of the loudest, as loud as all of them. */
export const asOne = <T extends Way>(group: readonly T[]): T => {
  const [first, ...rest] = group as readonly [T, ...T[]];
  if (!rest.length) return first;
  return {
    ...first,
    passing: rest.reduce((sum, { passing }) => together(sum, passing), first.passing),
    gain: Math.min(LOUDEST, sumOf(group)),
  };
};

interface Coming extends Weighed {
  readonly from: Way;
  readonly step: Step;
}

/** What waits to come into a channel: from where, and by which step. */
interface Waiting {
  readonly id: ChannelId;
  readonly from: Ways;
  readonly step: Step;
}

const byOrigin = (a: Waiting, b: Waiting): number => (a.id < b.id ? -1 : a.id > b.id ? 1 : a.step.at - b.step.at);

/** What comes to a channel by all that leads there, at most so many ways. Only what is kept is reckoned out. */
const gathered = (into: readonly Waiting[], most: number): Ways => {
  const coming: Coming[] = [];
  let more = false;
  for (const { from, step } of into) {
    more ||= from.more;
    for (const way of from.ways)
      coming.push({
        from: way,
        step,
        gain: way.gain * step.gain,
        samples: way.samples + step.samples,
        turned: way.turned !== step.turned,
        wet: way.wet || step.wet,
      });
  }
  const { groups, more: here } = fewer(coming, most);
  return { ways: groups.map((group) => asOne(group.map(({ from, step }) => onward(from, step)))), more: more || here };
};

/**
 * The ways from one channel to every other that its sound comes to, itself first: sets of delay, amplitude and
 * polarity, handed on along the order of the sound. Each place holds at most `most`. Linear in threads times `most`.
 */
export const waysFrom = (
  from: ChannelId,
  {
    ids,
    steps,
    most,
  }: { readonly ids: readonly ChannelId[]; readonly steps: (id: ChannelId) => readonly Step[]; readonly most: number },
) => {
  const found = new Map<ChannelId, Ways>([[from, { ways: [begun(from)], more: false }]]);
  const into = new Map<ChannelId, Waiting[]>();
  for (const id of ids) {
    const waiting = into.get(id);
    if (waiting) {
      // In whatever order of the sound they were come by, they are taken up in the same one.
      found.set(id, gathered(waiting.sort(byOrigin), most));
      into.delete(id);
    }
    const here = found.get(id);
    if (!here) continue;
    for (const step of steps(id)) {
      const there = into.get(step.to);
      if (there) there.push({ id, from: here, step });
      else into.set(step.to, [{ id, from: here, step }]);
    }
  }
  return found as ReadonlyMap<ChannelId, Ways>;
};

/** The channels that a way passes, in order, and the place of each step among those that could have been taken. */
export const pathOf = (way: Way): { readonly ids: readonly ChannelId[]; readonly steps: readonly number[] } => {
  const ids: ChannelId[] = [];
  const steps: number[] = [];
  for (let at: Way | null = way; at; at = at.before) {
    ids.push(at.id);
    steps.push(at.at);
  }
  return { ids: ids.reverse(), steps: steps.reverse() };
};
