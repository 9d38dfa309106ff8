import type { ChannelId, CueLevelId, SendId } from "../model/ids";
import { perDocument, stepping } from "../model/per-document";
import { tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { PanLawDb } from "../model/session-kinds";
import { differingIds, differingKeys } from "../model/table";
import type { Fold } from "../model/tables/channel-fields";
import type { Channel } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Send } from "../model/tables/sends";
import type { Template } from "../model/template";
import { type Asked, faderDbWhen, isSilenced, monitorOf, passesComputer, sounds } from "../queries/at-work";
import { isHeardDirect, reachesDirect } from "../queries/direct";
import { layoutOf } from "../queries/layouts";
import { type Graph, graphOf, intoOf, outOf, sendOf, type Thread } from "../routing/graph";
import { panAmplitudes } from "./pan";
import { louderBy, type Passing, sided, thenPass } from "./strands";

const amplitude = (db: number | null): number => (db === null ? 0 : 10 ** (db / 20));

/** A balance of what is stereo: the far side is turned down in a straight line, the near one stays. */
const balance = (pan: number): Passing => sided(Math.min(1, 1 - pan / 100), Math.min(1, 1 + pan / 100));

/** Where a pan puts something: what is mono by the law of the template, what is stereo by balance. */
export const placing = (mono: boolean, pan: number, law: PanLawDb): Passing => {
  if (!mono) return balance(pan);
  const [left, right] = panAmplitudes(law, pan);
  return sided(left, right);
};

const FOLDS: { readonly [F in Fold]: Passing } = {
  sum: { ll: 1, lr: 1, rl: 1, rr: 1 },
  left: { ll: 1, lr: 0, rl: 1, rr: 0 },
  right: { ll: 0, lr: 1, rl: 0, rr: 1 },
};

/** Whether a channel is heard as one side. 5.1 counts as stereo. */
export const isMono = (doc: Pick<Template, "channels" | "format">, channel: Channel): boolean =>
  layoutOf(doc, channel) === "mono";

/** What of a channel goes on: what its chain made of it, or what came in; and what becomes of that. */
export interface Leaves {
  readonly of: "into" | "before";
  readonly passing: Passing;
  /** Faders, sends and levels of cues in it, as one amplitude: without pans, balances and folds. */
  readonly gain: number;
}

/** What of a channel decides what it gives on. */
interface Gives {
  /** Amplitudes before and after its fader; null for nothing. */
  readonly before: number | null;
  readonly after: number | null;
  readonly mono: boolean;
  readonly pan: number;
}

/** What of a channel decides how something comes into it. */
interface Takes {
  readonly mono: boolean;
  readonly fold: Fold;
}

const NOTHING: Gives = { before: null, after: null, mono: true, pan: 0 };

const givesOf = (doc: Template, channel: Channel, asked: Asked): Gives => {
  if (!sounds(channel)) return NOTHING;
  const fader = passesComputer(doc, channel, asked) ? faderDbWhen(doc, channel, asked) : null;
  return {
    before: isSilenced(doc, channel) ? null : 1,
    after: fader === null ? null : amplitude(fader),
    mono: isMono(doc, channel),
    pan: channel.kind === "main" ? 0 : channel.pan,
  };
};

const takesOf = (doc: Template, channel: Channel): Takes => ({
  mono: isMono(doc, channel),
  fold: channel.kind === "bus" || channel.kind === "return" ? channel.fold : "sum",
});

const MONO: Takes = { mono: true, fold: "sum" };

const samePassing = (a: Passing, b: Passing): boolean =>
  a.ll === b.ll && a.lr === b.lr && a.rl === b.rl && a.rr === b.rr;
const sameLeaves = (a: Leaves | null, b: Leaves | null): boolean =>
  a === b || (a !== null && b !== null && a.of === b.of && a.gain === b.gain && samePassing(a.passing, b.passing));

const sameGives = (a: Gives, b: Gives): boolean =>
  a.before === b.before && a.after === b.after && a.mono === b.mono && a.pan === b.pan;

/** How something comes into a channel: panned where that is stereo; where it is mono, balanced and then folded. */
const arriving = (
  to: Takes,
  { mono, pan, law }: { readonly mono: boolean; readonly pan: number; readonly law: PanLawDb },
): Passing => {
  if (!to.mono) return placing(mono, pan, law);
  return mono ? sided(1, 1) : thenPass(balance(pan), FOLDS[to.fold]);
};

interface Along {
  readonly gives: Gives;
  readonly takes: Takes;
  readonly send: Send | null;
  readonly law: PanLawDb;
}

const leavesBy = (kind: Thread["kind"], { gives, takes, send, law }: Along): Leaves | null => {
  if (send && (!send.on || send.levelDb === null)) return null;
  const fader = send?.tap === "before" ? gives.before : gives.after;
  if (fader === null) return null;
  const gain = fader * (send ? amplitude(send.levelDb) : 1);
  if (kind === "input") return { of: "before", passing: sided(gain, gain), gain };
  return {
    of: "before",
    passing: louderBy(arriving(takes, { mono: gives.mono, pan: send ? send.pan : gives.pan, law }), gain),
    gain,
  };
};

interface AlongThread extends Along {
  readonly leaves: Leaves | null;
}

/**
 * What leaves every channel of a template, thread by thread as they leave it. What hangs on nothing that changed is the
 * very same as before.
 */
export interface Threads {
  readonly doc: Template;
  readonly graph: Graph;
  readonly gives: ReadonlyMap<ChannelId, Gives>;
  readonly takes: ReadonlyMap<ChannelId, Takes>;
  readonly outs: ReadonlyMap<ChannelId, readonly AlongThread[]>;
}

/** Everything besides the channels themselves that what they give hangs on. */
const AROUND = ["controls", "passes", "mix", "format"] as const;

/** Channels that have to be looked at again: those that changed, and tracks that are as wide as the bus they record. */
const toLookAt = (doc: Template, before: Threads | null): readonly ChannelId[] => {
  if (!before || AROUND.some((field) => before.doc[field] !== doc[field]))
    return [...new Set([...Object.keys(before?.doc.channels ?? {}), ...Object.keys(doc.channels)])] as ChannelId[];
  const differ = differingIds<Channel>(before.doc.channels, doc.channels) as readonly ChannelId[];
  if (!differ.length) return differ;
  return [...new Set([...differ, ...tracksOf(doc).flatMap(({ id, input }) => (input.kind === "bus" ? [id] : []))])];
};

/** A map in which some are others now; the very same one where none is. */
const changedIn = <K, T>(
  before: ReadonlyMap<K, T> | undefined,
  changes: ReadonlyMap<K, T | null>,
): ReadonlyMap<K, T> => {
  if (before && !changes.size) return before;
  const next = new Map(before);
  for (const [key, value] of changes) {
    if (value === null) next.delete(key);
    else next.set(key, value);
  }
  return next;
};

/** What of channels decides what they give and take: by those that changed in it. */
const endsIn = (doc: Template, before: Threads | null, asked: Asked) => {
  const [gives, takes] = [new Map<ChannelId, Gives | null>(), new Map<ChannelId, Takes | null>()];
  for (const id of toLookAt(doc, before)) {
    const channel = doc.channels[id];
    const [gave, took] = [before?.gives.get(id), before?.takes.get(id)];
    if (!channel) {
      gives.set(id, null);
      takes.set(id, null);
      continue;
    }
    const [given, taken] = [givesOf(doc, channel, asked), takesOf(doc, channel)];
    if (!gave || !sameGives(gave, given)) gives.set(id, given);
    if (!took || took.mono !== taken.mono || took.fold !== taken.fold) takes.set(id, taken);
  }
  return { gives, takes };
};

/** Channels of which something leaves otherwise than before: null for all of them. */
const leavingOtherwise = (
  graph: Graph,
  before: Threads | null,
  {
    gives,
    takes,
  }: { readonly gives: ReadonlyMap<ChannelId, unknown>; readonly takes: ReadonlyMap<ChannelId, unknown> },
): ReadonlySet<ChannelId> | null => {
  if (!before) return null;
  const found = new Set<ChannelId>(gives.keys());
  for (const id of takes.keys()) for (const { from } of intoOf(graph, id)) found.add(from);
  for (const id of differingIds<Send>(before.graph.sends, graph.sends)) {
    const [was, is] = [before.graph.sends[id as SendId], graph.sends[id as SendId]];
    if (was) found.add(was.fromId);
    if (is) found.add(is.fromId);
  }
  if (before.graph.out !== graph.out) {
    for (const [id, list] of graph.out) if (before.graph.out.get(id) !== list) found.add(id);
    for (const id of before.graph.out.keys()) if (!graph.out.has(id)) found.add(id);
  }
  return found;
};

const threadsIn = (doc: Template, before: Threads | null, asked: Asked): Threads => {
  const graph = graphOf(doc);
  const ends = endsIn(doc, before, asked);
  const [gives, takes] = [changedIn(before?.gives, ends.gives), changedIn(before?.takes, ends.takes)];
  const law = doc.mix.panLawDb;
  const otherwise = before?.doc.mix.panLawDb === law ? leavingOtherwise(graph, before, ends) : null;
  const changes = new Map<ChannelId, readonly AlongThread[] | null>();
  for (const id of otherwise ?? new Set([...(before?.outs.keys() ?? []), ...graph.out.keys()])) {
    const was = before?.outs.get(id);
    const now = outOf(graph, id).map((thread, at): AlongThread => {
      const along = {
        gives: gives.get(id) ?? NOTHING,
        takes: takes.get(thread.to) ?? MONO,
        send: sendOf(graph, thread),
        law,
      };
      const known = was?.[at];
      if (
        known &&
        known.gives === along.gives &&
        known.takes === along.takes &&
        known.send === along.send &&
        known.law === law
      )
        return known;
      const leaves = leavesBy(thread.kind, along);
      return { ...along, leaves: known && sameLeaves(known.leaves, leaves) ? known.leaves : leaves };
    });
    if (!now.length) changes.set(id, null);
    else if (!was || was.length !== now.length || was.some((one, at) => one !== now[at])) changes.set(id, now);
  }
  return { doc, graph, gives, takes, outs: changedIn(before?.outs, changes) };
};

const threads = {
  recording: stepping((doc: Template, before: Threads | null) => threadsIn(doc, before, "recording")),
  mixing: stepping((doc: Template, before: Threads | null) => threadsIn(doc, before, "mixing")),
  "listening-copy": stepping((doc: Template, before: Threads | null) => threadsIn(doc, before, "listening-copy")),
} as const satisfies { readonly [A in Asked]: unknown };

/** What leaves every channel, thread by thread. */
export const threadsOf = (doc: Template, asked: Asked): Threads => threads[asked](doc);

/**
 * What comes of a channel along a thread; null for nothing. The very same for as long as nothing that it hangs on
 * changes.
 */
export const alongThread = (
  doc: Template,
  { thread, asked }: { readonly thread: Thread; readonly asked: Asked },
): Leaves | null => threads[asked](doc).outs.get(thread.from)?.[thread.at]?.leaves ?? null;

const intoCueNow = (
  doc: Template,
  rig: Rig,
  { cue, level }: { readonly cue: Cue; readonly level: CueLevel },
): readonly Leaves[] => {
  const channel = doc.channels[level.sourceId];
  if (!sounds(channel) || !level.on || level.levelDb === null) return [];
  const placed = placing(isMono(doc, channel), level.pan, doc.mix.panLawDb);
  const leaves = (of: Leaves["of"], gain: number): Leaves => ({ of, passing: louderBy(placed, gain), gain });
  const whole = amplitude(level.levelDb);
  const monitor = monitorOf(doc, channel);
  const direct: readonly Leaves[] =
    monitor !== null && channel.kind === "track" && reachesDirect(doc, rig, { track: channel, cue })
      ? [leaves("into", whole)]
      : [];
  if (!passesComputer(doc, channel, "recording")) return direct;
  const fader = level.tap === "before" ? (isSilenced(doc, channel) ? null : 0) : faderDbWhen(doc, channel, "recording");
  return fader === null ? direct : [...direct, leaves("before", whole * amplitude(fader))];
};

interface InCue {
  readonly cue: Cue;
  readonly channel: Channel | undefined;
  readonly gives: Gives | undefined;
  readonly around: object;
  readonly lines: Template["lines"] | null;
  readonly ways: readonly Leaves[];
}

const sameWays = (a: readonly Leaves[], b: readonly Leaves[]): boolean =>
  a.length === b.length && a.every((one, at) => sameLeaves(one, b[at] ?? null));

/**
 * What besides a level, its channel and its cue decides what comes into a cue: the very same object for as long as none
 * of it changes.
 */
const aroundCues = stepping(
  (doc: Template, before: Pick<Template, (typeof AROUND)[number]> | null): Pick<Template, (typeof AROUND)[number]> => {
    const { controls, passes, mix, format } = doc;
    return before && AROUND.every((field) => before[field] === doc[field]) ? before : { controls, passes, mix, format };
  },
);

/** Stands for all that comes into all cues. */
export interface IntoCues {
  readonly doc: Template;
  readonly gives: Threads["gives"];
  readonly around: object;
  /**
   * The one before it, by its number, and of which channels something else comes into cues since; null where it may be
   * of all.
   */
  readonly number: number;
  readonly since: number;
  readonly fresh: ReadonlySet<ChannelId> | null;
}

const freshIn = (doc: Template, gives: Threads["gives"], before: IntoCues): ReadonlySet<ChannelId> => {
  const fresh = new Set<ChannelId>(differingIds<Channel>(before.doc.channels, doc.channels) as readonly ChannelId[]);
  for (const id of differingKeys(before.gives, gives)) fresh.add(id);
  for (const id of differingIds<CueLevel>(before.doc.cueLevels, doc.cueLevels))
    for (const level of [before.doc.cueLevels[id as CueLevelId], doc.cueLevels[id as CueLevelId]])
      if (level) fresh.add(level.sourceId);
  return fresh;
};

/** The very same object for as long as nothing comes into any cue otherwise. */
export const intoCuesAs = stepping((doc: Template, before: IntoCues | null): IntoCues => {
  const [{ gives }, around] = [threads.recording(doc), aroundCues(doc)];
  const whole =
    before === null || before.around !== around || before.doc.lines !== doc.lines || before.doc.cues !== doc.cues;
  const fresh = whole ? null : freshIn(doc, gives, before);
  if (before && fresh && !fresh.size) return before;
  return { doc, gives, around, number: (before?.number ?? 0) + 1, since: before?.number ?? 0, fresh };
});

const NONE: ReadonlySet<ChannelId> = new Set();

/** Of which channels something else comes into cues than did; null where that may be of all. */
export const freshSince = (before: IntoCues, now: IntoCues): ReadonlySet<ChannelId> | null =>
  before === now ? NONE : now.since === before.number ? now.fresh : null;

const NO_WAYS: readonly Leaves[] = [];

const cued = perDocument((rig: Rig) => {
  const kept = new WeakMap<CueLevel, InCue>();
  return (doc: Template, level: CueLevel): readonly Leaves[] => {
    const [cue, channel] = [doc.cues[level.cueId], doc.channels[level.sourceId]];
    if (!cue) return NO_WAYS;
    const was = kept.get(level);
    const [around, gives] = [aroundCues(doc), threads.recording(doc).gives.get(level.sourceId)];
    // Only what is to be heard direct goes by the sockets of its lines.
    const lines = channel?.kind === "track" && isHeardDirect(channel, cue) ? doc.lines : null;
    if (
      was &&
      was.cue === cue &&
      was.channel === channel &&
      was.gives === gives &&
      was.around === around &&
      was.lines === lines
    )
      return was.ways;
    const now = intoCueNow(doc, rig, { cue, level });
    const ways = was && sameWays(was.ways, now) ? was.ways : now;
    kept.set(level, { cue, channel, gives, around, lines, ways });
    return ways;
  };
});

/**
 * What a channel gives to a cue, in one way or two: past the computer through the interface's own mixer, as it comes
 * in; and through the computer, before the fader or after it, while recording with the level that it has then. Nothing
 * of what is off, at −∞ or parked. The very same for as long as nothing that it hangs on changes.
 */
export const intoCue = (doc: Template, rig: Rig, level: CueLevel): readonly Leaves[] => cued(rig)(doc, level);
