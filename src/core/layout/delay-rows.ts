import type { Colour } from "../model/colours";
import type { ChainProcessorId, ChannelId, CueId } from "../model/ids";
import type { Rig } from "../model/rig";
import { putInto } from "../model/table";
import type { Processor } from "../model/tables/chain-processors";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { processorsOf } from "../queries/chains";
import { cuesOf } from "../queries/cues";
import { delayContext } from "../timing/arrivals";
import { type Doubled, doubledDb, metresIn, notchesHz, swingDb } from "../timing/heard-twice";
import { type HeardTwice, type Hearing, type OwnPath, timelinessOf } from "../timing/hearing";
import { processorDelay } from "../timing/processor-delay";
import { samplesToMs } from "../units/milliseconds";
import { channelColour } from "./channel-colour";

/** One thread of the picture: a way, or several of one cue that are alike. */
export interface DelayRow {
  readonly id: string;
  readonly cueId: CueId;
  readonly cueName: string;
  /** What is heard: a track, or one and how many more. */
  readonly what: string;
  readonly trackIds: readonly ChannelId[];
  readonly colour: Colour | null;
  /** "direct, dry", "computer, dry", "Plate, wet". */
  readonly way: string;
  readonly path: OwnPath;
  readonly metres: number;
  readonly aheadMs: number;
}

const wayInWords = (doc: Template, { direct, wet, channelIds }: OwnPath): string => {
  const last = channelIds.at(-1);
  const through = direct
    ? "direct"
    : channelIds.length > 1 && last
      ? (doc.channels[last]?.name ?? "a bus")
      : "computer";
  return `${through}, ${wet ? "wet" : "dry"}`;
};

/** Alike are those of one cue and family that come the same way after the same time, against the same target. */
const likeness = (doc: Template, path: OwnPath): string => {
  const track = doc.channels[path.trackId];
  const family = track?.kind === "track" && !path.wet ? track.folderId : null;
  return [
    path.cueId,
    family,
    wayInWords(doc, path),
    path.ms.toFixed(3),
    path.wet ? null : path.targetMs,
    path.aheadSamples,
  ].join("|");
};

/** The threads of everybody's own sound, cue by cue, dry before wet, those that are alike as one. */
export const delayRows = (doc: Template, { paths }: Hearing): readonly DelayRow[] => {
  const groups = new Map<string, OwnPath[]>();
  for (const path of paths) putInto(groups, likeness(doc, path), path);
  const rows = [...groups.values()].flatMap((alike): readonly DelayRow[] => {
    const [path] = alike;
    if (!path) return [];
    const track = doc.channels[path.trackId];
    const names = [...new Set(alike.map(({ trackId }) => doc.channels[trackId]?.name || "a track without a name"))];
    return [
      {
        id: path.id,
        cueId: path.cueId,
        cueName: doc.cues[path.cueId]?.name ?? "",
        what: names.length > 1 ? `${names[0]} and ${names.length - 1} more` : (names[0] ?? ""),
        trackIds: alike.map(({ trackId }) => trackId),
        colour: track ? channelColour(doc, track) : null,
        way: wayInWords(doc, path),
        path,
        metres: metresIn(path.ms),
        aheadMs: samplesToMs(path.aheadSamples, doc.format.sampleRateHz),
      },
    ];
  });
  const order = new Map(cuesOf(doc).map(({ id }, at) => [id, at]));
  return rows
    .map((row, at) => ({ row, at }))
    .sort(
      (a, b) =>
        (order.get(a.row.cueId) ?? 0) - (order.get(b.row.cueId) ?? 0) ||
        Number(a.row.path.wet) - Number(b.row.path.wet) ||
        a.at - b.at,
    )
    .map(({ row }) => row);
};

/** Up to where the axis goes, in whole ms: past the longest thread and target, and never shorter than eight. */
export const axisMs = (rows: readonly DelayRow[]): number =>
  Math.max(
    8,
    Math.ceil(Math.max(0, ...rows.map(({ path, aheadMs }) => Math.max(path.ms + aheadMs, path.targetMs ?? 0))) * 1.06),
  );

/** Figures for the ticks of the axis: at most ten steps, of 1, 2, 5, 10, … ms. */
export const ticksMs = (axis: number): readonly number[] => {
  const step = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].find((one) => axis / one <= 10) ?? 2000;
  return Array.from({ length: Math.floor(axis / step) + 1 }, (_, at) => at * step);
};

export interface Comb extends Doubled {
  readonly twice: HeardTwice;
  readonly curve: readonly { readonly hz: number; readonly db: number }[];
  readonly firstHz: number;
  readonly spacingHz: number;
  readonly peakDb: number;
  readonly notchDb: number;
}

const [FROM_HZ, TO_HZ] = [20, 20_000];

/** What a doubled way sounds like: a response from 20 Hz to 20 kHz, with its notches. */
export const combOf = (twice: HeardTwice, points = 480): Comb => {
  const doubled: Doubled = {
    lagMs: twice.lagMs,
    firstDb: twice.firstDb,
    secondDb: twice.secondDb,
    opposite: twice.opposite,
  };
  // Where both are equally loud a notch is as deep as one looks: it is drawn down to 40 dB below the louder.
  const floor = Math.max(doubled.firstDb, doubled.secondDb) - 40;
  const curve = Array.from({ length: points }, (_, at) => {
    const hz = FROM_HZ * (TO_HZ / FROM_HZ) ** (at / (points - 1));
    return { hz, db: Math.max(floor, doubledDb(doubled, hz)) };
  });
  return { ...doubled, twice, curve, ...notchesHz(doubled), ...swingDb(doubled) };
};

export interface Switchable {
  readonly processor: Processor;
  readonly name: string;
  readonly channelName: string;
  readonly samples: number;
  /** Off while recording already, by itself. */
  readonly off: boolean;
}

/**
 * The processors that make somebody's own dry sound late, and those on its ways that are off while recording: what can
 * be switched.
 */
export const switchable = (doc: Template, rig: Rig, { paths }: Hearing): readonly Switchable[] => {
  const channels = new Set<ChannelId>(
    paths.flatMap(({ channelIds, wet, direct }) => (wet || direct ? [] : channelIds)),
  );
  const context = delayContext(doc, rig);
  const late = new Set<ChainProcessorId>(paths.flatMap(({ processorIds, wet }) => (wet ? [] : processorIds)));
  return [...channels].flatMap((id) =>
    processorsOf(doc, id).flatMap((processor): readonly Switchable[] => {
      const samples = processorDelay(processor, context);
      const off = processor.use === "not-while-recording" && !processor.bypassed && samples > 0;
      if (!late.has(processor.id) && !off) return [];
      return [{ processor, name: processorName(processor), channelName: doc.channels[id]?.name ?? "", samples, off }];
    }),
  );
};

export interface Compared {
  readonly cueName: string;
  readonly what: string;
  readonly wasMs: number;
  readonly isMs: number | null;
  readonly targetMs: number | null;
  readonly was: OwnPath["state"];
  readonly is: OwnPath["state"] | null;
}

/**
 * What becomes of each dry thread when something is tried: those that change, by cue and track; where a way is gone
 * another of the same track stands for it.
 */
export const comparedRows = (was: readonly DelayRow[], is: readonly DelayRow[]): readonly Compared[] =>
  was
    .filter(({ path }) => !path.wet)
    .flatMap((row): readonly Compared[] => {
      const dry = is.filter(
        ({ path, cueId, trackIds }) =>
          !path.wet && cueId === row.cueId && row.trackIds.some((id) => trackIds.includes(id)),
      );
      const now = dry.find(({ id }) => id === row.id) ?? dry[0];
      if (now && Math.abs(now.path.ms - row.path.ms) < 0.0005) return [];
      return [
        {
          cueName: row.cueName,
          what: row.what,
          wasMs: row.path.ms,
          isMs: now?.path.ms ?? null,
          targetMs: row.path.targetMs,
          was: row.path.state,
          is: now ? timelinessOf(now.path.ms, now.path) : null,
        },
      ];
    });

/** So many threads leave room for table and curves in the first view. */
const MOST_AT_FIRST = 7;

/**
 * What is shown of the rows at first: what is late, near or without a target, the one that is chosen, and of what is on
 * time what comes nearest to its target, as far as there is room; the others are folded away.
 */
export const foldDelays = (
  rows: readonly DelayRow[],
  chosen: string | null,
): { readonly apart: readonly DelayRow[]; readonly folded: readonly DelayRow[] } => {
  if (rows.length <= MOST_AT_FIRST + 1) return { apart: rows, folded: [] };
  const calm = ({ path }: DelayRow): boolean => path.state === "on-time" || path.state === "wet";
  const nearness = ({ path }: DelayRow): number => (path.wet || path.targetMs === null ? -1 : path.ms / path.targetMs);
  const kept = new Set(rows.filter((row) => !calm(row) || row.id === chosen));
  for (const row of rows.filter(calm).sort((a, b) => nearness(b) - nearness(a)))
    if (kept.size < MOST_AT_FIRST) kept.add(row);
  return { apart: rows.filter((row) => kept.has(row)), folded: rows.filter((row) => !kept.has(row)) };
};

/** "9 on time, 3 wet". */
export const foldedInWords = (folded: readonly DelayRow[]): string => {
  const wet = folded.filter(({ path }) => path.wet).length;
  return [...(folded.length > wet ? [`${folded.length - wet} on time`] : []), ...(wet ? [`${wet} wet`] : [])].join(
    ", ",
  );
};
