import type { ChannelId, CueId, CueLevelId } from "../model/ids";
import { perTwo } from "../model/per-document";
import { differingIds, putInto, sameList } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Template } from "../model/template";
import { carriedBy, cuesOf } from "../queries/cues";
import { intoCue, type Leaves } from "./passing";
import { amplitude, type Held, type Pass } from "./reckoning";
import type { Sides } from "./sides";
import {
  beside,
  Gathering,
  louderBy,
  type Passing,
  type Strands,
  type Summed,
  sided,
  summedAfter,
  summedUp,
} from "./strands";

interface InCue {
  readonly cueId: CueId;
  readonly strands: Strands;
  readonly chain: number;
  readonly leaves: readonly Leaves[];
  readonly passings: readonly Passing[];
  readonly contribution: Contribution;
}

/** What a channel gives to cues, and what that was reckoned from. */
export interface OfChannel {
  readonly held: Held;
  readonly levels: readonly CueLevel[];
  readonly leaves: readonly (readonly Leaves[])[];
  readonly inCues: readonly InCue[];
}

export interface Cued {
  readonly levelDb: number | null;
  readonly parts: readonly InCue[];
  readonly sides: Sides;
  readonly contributions: readonly Contribution[];
}

/** What a channel holds goes into a cue: by which ways, and how loud. */
const intoCueOf = (
  leaves: readonly Leaves[],
  { channel, cueId, held }: { readonly channel: Channel; readonly cueId: CueId; readonly held: Held },
): InCue => {
  const { strands, into, chain } = held;
  const passings = leaves.map(({ of, passing }) => (of === "into" ? passing : louderBy(passing, chain)));
  return {
    cueId,
    strands,
    chain,
    leaves,
    passings,
    contribution: { sourceId: channel.id, by: "cue", sides: bothWays(into, passings) },
  };
};

export const NO_LEVELS: readonly CueLevel[] = [];

/** What a channel gives to all cues; the very same as before where nothing that it hangs on changed. */
export const intoCues = (
  { doc, rig }: Pass,
  channel: Channel,
  {
    held,
    levels,
    was,
    settled,
  }: {
    readonly held: Held;
    readonly levels: readonly CueLevel[];
    readonly was: OfChannel | undefined;
    readonly settled: (id: ChannelId) => boolean;
  },
): OfChannel => {
  if (settled(channel.id) && was?.held === held && was.levels === levels) return was;
  const leaves = levels.map((level) => intoCue(doc, rig, level));
  const same = was?.held.strands === held.strands && was.held.chain === held.chain;
  if (same && sameList(was.leaves, leaves))
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
  for (const cue of cuesOf({ cues }))
    for (const level of carriedBy({ cueLevels }, cue.id).values()) putInto(found, level.sourceId, level);
  return found;
};

let lastByChannel: {
  readonly cues: Template["cues"];
  readonly cueLevels: Template["cueLevels"];
  readonly found: ByChannel;
} | null = null;

/** Of few levels that changed only the channels they are of are looked at again. */
const FEW = 64;

const someOthers = (
  { found, cueLevels: before }: NonNullable<typeof lastByChannel>,
  cues: Template["cues"],
  cueLevels: Template["cueLevels"],
): ByChannel | null => {
  const ids = differingIds<CueLevel>(before, cueLevels);
  if (ids.length > FEW) return null;
  const next = new Map(found);
  for (const sourceId of new Set(
    ids.flatMap((id) => [before[id as CueLevelId]?.sourceId ?? [], cueLevels[id as CueLevelId]?.sourceId ?? []].flat()),
  )) {
    const list = cuesOf({ cues }).flatMap(({ id }) => carriedBy({ cueLevels }, id).get(sourceId) ?? []);
    if (list.length) next.set(sourceId, list);
    else next.delete(sourceId);
  }
  return next;
};

/**
 * Levels of cues by what is heard, in the order of the cues; a list in which nothing changed is the very same as
 * before.
 */
export const byChannel = perTwo((cues: Template["cues"], cueLevels: Template["cueLevels"]): ByChannel => {
  const found =
    (lastByChannel?.cues === cues ? someOthers(lastByChannel, cues, cueLevels) : null) ??
    levelsByChannel(cues, cueLevels);
  lastByChannel = { cues, cueLevels, found };
  return found;
});

/** Cues to which something else comes than before. */
const cuesTouched = (
  before: ReadonlyMap<ChannelId, OfChannel>,
  now: ReadonlyMap<ChannelId, OfChannel>,
): ReadonlySet<CueId> => {
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

/** What is known of all cues, to go on from after the next edit. */
interface CuesKnown {
  readonly ofChannel: ReadonlyMap<ChannelId, OfChannel>;
  readonly cued: ReadonlyMap<CueId, Cued>;
}

/** How loud every cue is: added up anew where something else comes to it. */
export const cuesOfAll = (
  { doc, sources }: Pass,
  ofChannel: ReadonlyMap<ChannelId, OfChannel>,
  before: CuesKnown | null,
): ReadonlyMap<CueId, Cued> => {
  const touched = before && cuesTouched(before.ofChannel, ofChannel);
  const all = cuesOf(doc).map(({ id, levelDb }) => ({
    id,
    levelDb,
    was: touched?.has(id) ? undefined : before?.cued.get(id),
  }));
  const parts = new Map<CueId, InCue[]>(all.flatMap(({ id, was }) => (was ? [] : [[id, []]])));
  if (parts.size)
    for (const { inCues } of ofChannel.values()) for (const one of inCues) parts.get(one.cueId)?.push(one);
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
        {
          levelDb,
          parts: own,
          sides: summedAfter(summedUp(gathering.take(), { mono: false }), sided(whole, whole)),
          contributions: own.map(({ contribution }) => contribution),
        },
      ];
    }),
  );
};

/** What a channel gives by all its ways: of one source, they add in amplitude. */
const bothWays = (into: Summed, ways: readonly Passing[]): Summed => ({
  ...summedAfter(into, ways.reduce(beside)),
  mono: false,
});

export interface Contribution {
  readonly sourceId: ChannelId;
  /** By an output, a send, or a level in a cue. */
  readonly by: "output" | "send" | "input" | "cue";
  readonly sides: Sides;
}

const loudest = ({ left, right }: Sides): number => Math.max(left.alike, right.alike);
export const loudestFirst = (contributions: readonly Contribution[]): readonly Contribution[] =>
  contributions.filter(({ sides }) => loudest(sides) > 0).sort((a, b) => loudest(b.sides) - loudest(a.sides));
