import { gainPlans } from "../levels/gain-plan";
import { type Contribution, contributorsTo, contributorsToCue, mixLevels } from "../levels/mix-levels";
import { likelyPeakDb, type Sides, sideDb, worstPeakDb } from "../levels/sides";
import { passStorage, storageOf } from "../levels/storage";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import type { Channel } from "../model/tables/channels";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import type { Asked } from "../queries/at-work";
import { cuesOf, passesOf } from "../queries/cues";
import { layoutOf } from "../queries/layouts";
import { delayContext } from "../timing/arrivals";
import { metresIn, notchesHz, swingDb } from "../timing/heard-twice";
import { heardTwice, hearingOf } from "../timing/hearing";
import { bufferAdvice, lowLatency, rateBufferTable } from "../timing/low-latency";
import { processorDelay } from "../timing/processor-delay";
import { SAMPLE_RATES_HZ, type SampleRateHz } from "../units/hertz";

interface Seen {
  readonly doc: Template;
  readonly rig: Rig;
  readonly studio: Studio;
}

/** Another rate and buffer than those of the template, for this answer only. */
export interface DelayAsked {
  readonly rateHz?: number;
  readonly buffer?: number;
}

const asked = (doc: Template, { rateHz, buffer }: DelayAsked): Template => {
  const rate = SAMPLE_RATES_HZ.find((one) => one === rateHz) as SampleRateHz | undefined;
  return {
    ...doc,
    ...(rate ? { format: { ...doc.format, sampleRateHz: rate } } : {}),
    ...(buffer ? { buffers: { ...doc.buffers, recordingSamples: buffer } } : {}),
  };
};

const places = (value: number, digits = 4): number => Math.round(value * 10 ** digits) / 10 ** digits;
const orNull = (value: number | null, digits = 2): number | null => (value === null ? null : places(value, digits));

const earDb = (amplitude: number): number | null => (amplitude < 1e-9 ? null : places(20 * Math.log10(amplitude), 2));

/**
 * Every way of everybody's own sound, by person and part, and who hears themself twice; at the rate and buffer of the
 * template or at those asked for.
 */
export const delayAnswer = ({ doc, rig, studio }: Seen, ask: DelayAsked) => {
  const now = asked(doc, ask);
  const hearing = hearingOf(now, rig, studio);
  return {
    rateHz: now.format.sampleRateHz,
    bufferSamples: now.buffers.recordingSamples,
    paths: hearing.paths.map(
      ({
        cueId,
        person,
        trackId,
        direct,
        wet,
        channelIds,
        parts,
        ms,
        chainSamples,
        processorIds,
        targetMs,
        state,
        levelDb,
        ears,
        aheadSamples,
      }) => ({
        cue: { id: cueId, name: now.cues[cueId]?.name ?? "" },
        person,
        track: { id: trackId, name: now.channels[trackId]?.name ?? "" },
        monitored: direct ? "direct" : "computer",
        wet,
        through: channelIds,
        parts: parts.map((part) => ({ ...part, ms: places(part.ms) })),
        ms: places(ms),
        metres: places(metresIn(ms), 2),
        chainSamples,
        processors: processorIds,
        targetMs,
        state,
        levelDb: places(levelDb, 2),
        leftDb: earDb(ears.left),
        rightDb: earDb(ears.right),
        aheadSamples,
      }),
    ),
    heardTwice: heardTwice(hearing).map(({ first, second, lagMs, opposite, ear, firstDb, secondDb, depthDb }) => ({
      cueId: first.cueId,
      person: first.person,
      lineId: first.lineId,
      lagMs: places(lagMs),
      opposite,
      ear,
      through: [first.channelIds, second.channelIds],
      firstDb: places(firstDb, 2),
      secondDb: places(secondDb, 2),
      depthDb: places(depthDb, 2),
      ...notchesHz({ lagMs, opposite }),
      ...swingDb({ firstDb, secondDb }),
    })),
    notFollowed: hearing.cut,
  };
};

/** What would bring everybody on time, what each rate and buffer comes to, and which buffer the computer holds. */
export const lowLatencyAnswer = ({ doc, rig, studio }: Seen) => {
  const { off, ...advice } = lowLatency(doc, rig, studio);
  const context = delayContext(doc, rig);
  const { costs, loads, recording, latestMs, missingMs, mixing } = bufferAdvice(doc, rig, studio);
  return {
    ...advice,
    off: off.flatMap((id) => {
      const processor = doc.processors[id];
      return processor
        ? [
            {
              id,
              name: processorName(processor),
              channelId: processor.channelId,
              delaySamples: processorDelay(processor, context),
            },
          ]
        : [];
    }),
    table: rateBufferTable(doc, rig, studio).map((cell) => ({
      ...cell,
      roundTripMs: places(cell.roundTripMs),
      latestMs: orNull(cell.latestMs, 4),
      load: places(cell.load),
    })),
    load: {
      ...costs,
      ceilingPercent: doc.buffers.ceilingPercent,
      byBuffer: loads.map(({ bufferSamples, load }) => ({ bufferSamples, load: places(load) })),
      recording,
      latestMs: orNull(latestMs, 4),
      missingMs: places(missingMs),
      mixing,
    },
  };
};

const told = ({ left, right }: Sides) => {
  const side = (of: Sides["left"]) => {
    const { alikeDb, unlikeDb, peakDb } = sideDb(of);
    return { alikeDb: orNull(alikeDb), unlikeDb: orNull(unlikeDb), peakDb: orNull(peakDb) };
  };
  return {
    left: side(left),
    right: side(right),
    worstPeakDb: orNull(worstPeakDb({ left, right })),
    likelyPeakDb: orNull(likelyPeakDb({ left, right })),
  };
};

/** So many of what contributes are told. */
const MOST = 5;
const greatest = (contributions: readonly Contribution[]) =>
  contributions.slice(0, MOST).map(({ sourceId, by, sides }) => ({ sourceId, by, ...told(sides) }));

/** For what levels are asked: while recording where nothing is said. */
export interface LevelsAsked {
  readonly asked?: Asked;
}

/** The gain plan of every line, and how loud every sum and every cue is in both bounds, with what contributes most. */
export const levelsAnswer = ({ doc, rig, studio }: Seen, ask: LevelsAsked = {}) => {
  const levels = mixLevels(doc, { rig, studio, asked: ask.asked ?? "recording" });
  const plans = gainPlans(doc, rig, studio);
  return {
    targetDb: doc.levels.targetDb,
    asked: levels.asked,
    lines: [...plans].map(([lineId, { typed: _typed, ...plan }]) => ({
      lineId,
      ...plan,
      sourceDbu: places(plan.sourceDbu, 3),
      levelDb: places(plan.levelDb, 2),
      peakDb: places(plan.peakDb, 2),
      splDb: orNull(plan.splDb),
    })),
    channels: entriesOf<Channel>(doc.channels).flatMap((channel) => {
      const { id, kind, name } = channel;
      const at = levels.channels.get(id);
      const layout = layoutOf(doc, channel);
      const sums = kind === "bus" || kind === "return" || kind === "main";
      return at
        ? [
            {
              id,
              kind,
              name,
              countsAs: layout === "5.1" ? "stereo" : layout,
              into: told(at.into),
              out: told(at.after),
              ...(sums ? { greatest: greatest(contributorsTo(doc, levels, id)) } : {}),
            },
          ]
        : [];
    }),
    cues: cuesOf(doc).flatMap(({ id, name }) => {
      const sides = levels.cues.get(id);
      return sides ? [{ id, name, out: told(sides), greatest: greatest(contributorsToCue(levels, id)) }] : [];
    }),
  };
};

export interface StorageAsked {
  readonly hours?: number;
  readonly takes?: number;
}

/** What an evening takes of the disk; for so many hours and takes where they are asked for. */
export const storageAnswer = (
  { doc }: Pick<Seen, "doc">,
  { hours = doc.disk.hours, takes = doc.disk.takes }: StorageAsked,
) => ({
  hours,
  takes,
  ...storageOf({ ...doc, disk: { ...doc.disk, hours, takes } }),
  passes: passesOf(doc).map((pass) => ({ id: pass.id, name: pass.name, ...passStorage(doc, pass) })),
});
