import type { ChannelId, CueLevelId } from "../model/ids";
import { linesOfTrack } from "../model/read-template";
import { newStudio, type Studio } from "../model/studio";
import type { Track } from "../model/tables/channels";
import type { Cue } from "../model/tables/cues";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { armedOf, cuesOf, levelIn, ownTracksOf } from "../queries/cues";
import { familyOfTrack } from "../queries/performing";
import { delayContext } from "../timing/arrivals";
import { directWay } from "../timing/hardware";
import { notchesHz } from "../timing/heard-twice";
import { type Hearing, heardTwice, hearingOf, type OwnPath } from "../timing/hearing";
import { lowLatency, rateBufferTable } from "../timing/low-latency";
import { processorDelay } from "../timing/processor-delay";
import { counted, listed } from "../units/counted";
import { dB, formatDb } from "../units/decibels";
import { formatHz, formatRate } from "../units/hertz";
import { formatMs, samplesToMs } from "../units/milliseconds";
import { type Check, type CheckContext, type Finding, type Fix, finding } from "./finding";
import { fresh } from "./fresh-ids";
import { HEARING } from "./reads";
import { nameOf } from "./remarkable";

const USUAL = newStudio("");
const studioOf = ({ studio }: CheckContext): Studio => studio ?? USUAL;

const SILENCE: Hearing = { paths: [], tracks: [], cut: 0 };
/** What everybody hears of themself; nothing is computed where there are no cues. */
const hearing = (context: CheckContext): Hearing =>
  cuesOf(context.doc).length ? hearingOf(context.doc, context.rig, studioOf(context)) : SILENCE;

const at = (cueId: Cue["id"], field: "delay" | "sources") => [{ kind: "cue", id: cueId, field }] as const;
const monitored = (ids: readonly ChannelId[], monitor: "direct" | "computer") =>
  [{ kind: "entries.set" as const, table: "channels" as const, ids, set: { monitor } }] as const;

const wayInWords = (doc: Template, { direct, channelIds }: OwnPath): string => {
  if (direct) return "direct";
  const last = channelIds.at(-1);
  return channelIds.length > 1 && last ? `through ${nameOf(doc.channels[last])}` : "through the computer";
};

/** Silences one of two copies: the direct way stays where there is one, else what was heard first. */
const silencing = (doc: Template, { first, second }: { readonly first: OwnPath; readonly second: OwnPath }): Fix => {
  const track = doc.channels[first.trackId] as Track;
  if (first.direct && first.trackId === second.trackId)
    return { label: "Silence the computer's copy", edits: monitored([track.id], "direct") };
  // What a bus carries is more than this one: the copy that is one source of the cue by itself is taken out.
  const single = [second, first].find(({ channelIds, direct }) => channelIds.length === 1 && !direct) ?? second;
  const sourceId = single.channelIds.at(-1) as ChannelId;
  return {
    label: `Take ${nameOf(doc.channels[sourceId])} out of this cue`,
    edits: [{ kind: "cueLevels.remove", cells: [{ cueId: single.cueId, sourceId }] }],
  };
};

/** Notches deeper than this are a problem, down to that a hint, and less is nothing; in dB below the louder copy. */
const [DEEP_DB, SHALLOW_DB] = [-3, -1.5];
const deepInWords = (depthDb: number): string =>
  depthDb < -40 ? "down to nothing" : `${formatDb(dB(Math.round(depthDb * 10) / 10))} deep`;

export const hearsTwice: Check = {
  id: "hears-twice",
  why: "Somebody who hears themself twice, a few milliseconds apart, hears a hollow sound and loses the time.",
  reads: [...HEARING],
  check: (context) =>
    heardTwice(hearing(context)).flatMap((twice): readonly Finding[] => {
      const { doc } = context;
      const { first, second, lagMs, opposite, depthDb } = twice;
      if (depthDb > SHALLOW_DB) return [];
      const { firstHz, spacingHz } = notchesHz({ lagMs, opposite });
      const notch = opposite
        ? `thin below ${formatHz(spacingHz / 2)}, with a hollow every ${formatHz(spacingHz)}`
        : `with the first hollow at ${formatHz(firstHz)}`;
      return [
        finding("hears-twice", {
          severity: depthDb < DEEP_DB ? "problem" : "hint",
          about: `${first.cueId}:${first.lineId}`,
          message: `${first.person} hears ${nameOf(doc.channels[first.trackId])} twice in ${doc.cues[first.cueId]?.name}, ${wayInWords(doc, first)} and ${formatMs(lagMs)} later ${wayInWords(doc, second)}: ${notch}, ${deepInWords(depthDb)}.`,
          places: at(first.cueId, "delay"),
          fixes: [silencing(doc, twice)],
        }),
      ];
    }),
};

const many = (tracks: readonly Track[]): string =>
  tracks.length === 1 ? nameOf(tracks[0]) : counted(tracks.length, "track");

/**
 * What a person plays on a track: its family, else the folder it lies in, else the track by itself. Of several
 * microphones on one thing one is enough to hear it.
 */
const playedOn = (doc: Template, track: Track): string => familyOfTrack(doc, track) ?? track.folderId ?? track.id;

/**
 * Tracks that are armed and take what those who hear a cue play, and of which nothing reaches them in it, nor of what
 * else they play of the same.
 */
const deafTo = ({ doc }: CheckContext, cue: Cue, reached: ReadonlySet<string>): readonly Track[] => {
  const armed = armedOf(doc);
  const all = ownTracksOf(doc, cue).flatMap((id) => {
    const track = doc.channels[id];
    if (track?.kind !== "track" || track.parked || !armed.has(id)) return [];
    const lines = linesOfTrack(doc, track).filter(({ player }) => cue.people.includes(player));
    return lines.map((line) => ({ track, line, hears: reached.has(`${cue.id} ${line.id}`) }));
  });
  // Of what is all heard nobody asks what it is.
  if (all.every(({ hears }) => hears)) return [];
  const own = all.map(({ track, line, hears }) => ({
    track,
    played: `${line.player} ${playedOn(doc, track)}`,
    heard: hears,
  }));
  const heard = new Set(own.flatMap(({ played, heard: hears }) => (hears ? [played] : [])));
  return [...new Set(own.flatMap(({ track, played }) => (heard.has(played) ? [] : [track])))];
};

/** Monitors what is not, and brings into the cue what is not in it. */
const letHear = ({ doc, rig }: CheckContext, cue: Cue, deaf: readonly Track[]): readonly Fix[] => {
  const off = deaf.filter(({ monitor }) => monitor === "off");
  const out = deaf.filter(({ id }) => !levelIn(doc, { cueId: cue.id, sourceId: id })?.on);
  // Direct where the interface can: through the computer it might be late at once.
  const can = off.every((track) =>
    linesOfTrack(doc, track).every(
      ({ portId }) => directWay(rig, portId, cue.portIds[0] ?? null, doc.format.sampleRateHz) !== null,
    ),
  );
  const ids = fresh(doc, "own");
  const levels = out.map(({ id }) => ({
    id: ids<CueLevelId>("level"),
    cueId: cue.id,
    sourceId: id,
    levelDb: dB(0),
    on: true,
    tap: "before" as const,
  }));
  const steps: readonly Fix[] = [
    ...(off.length
      ? [
          {
            label: `Monitor ${many(off)} ${can ? "direct" : "through the computer"}`,
            edits: monitored(
              off.map(({ id }) => id),
              can ? "direct" : "computer",
            ),
          },
        ]
      : []),
    ...(out.length
      ? [{ label: `Bring ${many(out)} into ${cue.name}`, edits: [{ kind: "cueLevels.put" as const, levels }] }]
      : []),
  ];
  return steps.length === 2
    ? [{ label: `${steps[0]?.label}, and bring it into ${cue.name}`, edits: steps.flatMap(({ edits }) => edits) }]
    : steps;
};

export const hearsNotThemself: Check = {
  id: "hears-not-themself",
  why: "Who does not hear themself plays too loud, or out of tune.",
  reads: [...HEARING, "channels.folderId", "cues.hearing"],
  check: (context) => {
    const { doc } = context;
    const reached = new Set(
      hearing(context).tracks.flatMap(({ cueId, lineId, paths }) => (paths.length ? [`${cueId} ${lineId}`] : [])),
    );
    return cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const deaf = cue.hearing === "headphones" ? deafTo(context, cue, reached) : [];
      if (!deaf.length) return [];
      const who = [...new Set(deaf.flatMap((track) => linesOfTrack(doc, track).map(({ player }) => player)))].filter(
        (player) => cue.people.includes(player),
      );
      return [
        finding("hears-not-themself", {
          severity: "hint",
          message: `${listed(who)} ${who.length === 1 ? "does" : "do"} not hear ${listed(deaf.slice(0, 4).map(nameOf))} in ${cue.name}.`,
          places: at(cue.id, "sources"),
          fixes: letHear(context, cue, deaf),
        }),
      ];
    });
  },
};

/**
 * What would bring somebody on time, the least first: direct where the interface can, else the fewest processors off,
 * else a smaller buffer.
 */
const sooner = (context: CheckContext, path: OwnPath): readonly Fix[] => {
  const { doc, rig } = context;
  const track = doc.channels[path.trackId];
  const name = nameOf(track);
  const direct = directWay(rig, path.portId, path.outId, doc.format.sampleRateHz);
  const { off, meets, bufferAsItIs } = lowLatency(doc, rig, studioOf(context));
  // What comes past the computer is late by the interface alone: neither processors nor buffers have to do with it.
  if (path.direct) return faster(context);
  const ways: readonly Fix[] = [
    ...(direct && path.channelIds.length === 1
      ? [{ label: `Monitor ${name} direct`, edits: monitored([path.trackId], "direct") }]
      : []),
    ...(off.length && meets
      ? [
          {
            label:
              off.length === 1
                ? `Leave ${processorName(doc.processors[off[0] as never] as never)} off while recording`
                : `Leave the ${off.length} fewest off while recording`,
            edits: [
              {
                kind: "entries.set" as const,
                table: "processors" as const,
                ids: off,
                set: { use: "not-while-recording" as const },
              },
            ],
          },
        ]
      : []),
    ...(bufferAsItIs !== null && bufferAsItIs < doc.buffers.recordingSamples
      ? [
          {
            label: `Record with a buffer of ${bufferAsItIs}`,
            edits: [{ kind: "settings.set" as const, set: { buffers: { recordingSamples: bufferAsItIs } } }],
          },
        ]
      : []),
  ];
  return ways.length ? ways : faster(context);
};

/** The next higher rate at which everybody is on time as it is. */
const faster = (context: CheckContext): readonly Fix[] => {
  const { doc, rig } = context;
  const { sampleRateHz } = doc.format;
  const rate = rateBufferTable(doc, rig, studioOf(context)).find(
    ({ rateHz, bufferSamples, late, near }) =>
      rateHz > sampleRateHz &&
      rateHz % sampleRateHz === 0 &&
      bufferSamples === doc.buffers.recordingSamples &&
      late + near === 0,
  );
  return rate
    ? [
        {
          label: `Record at ${formatRate(rate.rateHz)}`,
          edits: [{ kind: "settings.set", set: { format: { sampleRateHz: rate.rateHz } } }],
        },
      ]
    : [];
};

/** Later than so many times the target it is a problem, before that a hint. */
const VERY_LATE = 1.5;

/** What of a direct way takes the time, and what would do. */
const directInWords = ({ parts }: OwnPath): string => {
  const longest = parts.reduce((most, part) => (part.ms > most.ms ? part : most));
  const what = longest.kind === "mixer" ? "the interface's own mixer" : "the converters";
  return `; ${what} take${longest.kind === "mixer" ? "s" : ""} ${formatMs(longest.ms)} of it: another input or interface, or a higher rate, would do`;
};

export const hearsLate: Check = {
  id: "hears-late",
  why: "Who hears themself late drags behind the others.",
  reads: [...HEARING, "processors.name"],
  check: (context) => {
    const { doc } = context;
    // The later copy of what is heard twice is told there.
    const copies = new Set(heardTwice(hearing(context)).map(({ second }) => second.id));
    const worst = new Map<string, OwnPath>();
    for (const path of hearing(context).paths) {
      if (path.state !== "late" || copies.has(path.id)) continue;
      const key = `${path.cueId} ${path.trackId}`;
      if (path.ms > (worst.get(key)?.ms ?? 0)) worst.set(key, path);
    }
    return [...worst.values()].map((path): Finding => {
      const cue = doc.cues[path.cueId];
      const names = path.processorIds.map((id) => processorName(doc.processors[id] as never));
      const by = names.length
        ? `; ${listed(names.slice(0, 4))} ${names.length === 1 ? "takes" : "take"} ${formatMs(samplesToMs(path.chainSamples, doc.format.sampleRateHz))} of it`
        : "";
      return finding("hears-late", {
        severity: path.ms > VERY_LATE * (path.targetMs ?? 0) ? "problem" : "hint",
        about: `${path.cueId}:${path.trackId}`,
        message: `${path.person} hears ${nameOf(doc.channels[path.trackId])} after ${formatMs(path.ms)} in ${cue?.name}${path.direct ? ", though it comes direct" : ""}, and ${path.targetMs} ms is what it should be${path.direct ? directInWords(path) : by}.`,
        places: at(path.cueId, "delay"),
        fixes: sooner(context, path),
      });
    });
  },
};

/** A processor that takes less of the time than this is not worth a word where all are on time. */
const LATE_MS = 1;

export const lateProcessor: Check = {
  id: "late-processor",
  why: "A processor that looks ahead makes everything late that somebody hears themself through.",
  reads: [...HEARING],
  check: (context) => {
    const { doc, rig } = context;
    const delays = delayContext(doc, rig);
    const told = new Map<string, OwnPath>();
    for (const path of hearing(context).paths)
      if (!path.wet && path.state !== "late") for (const id of path.processorIds) if (!told.has(id)) told.set(id, path);
    return [...told].flatMap(([id, path]): readonly Finding[] => {
      const processor = doc.processors[id as never];
      if (!processor) return [];
      const ms = samplesToMs(processorDelay(processor, delays), doc.format.sampleRateHz);
      if (ms < LATE_MS) return [];
      return [
        finding("late-processor", {
          severity: "hint",
          about: id,
          message: `${path.person} hears ${nameOf(doc.channels[path.trackId])} through ${processorName(processor)} on ${nameOf(doc.channels[processor.channelId])}, which takes ${formatMs(ms)}.`,
          places: [{ kind: "channel", id: processor.channelId, field: "chain" }],
          fixes: [
            {
              label: `Leave ${processorName(processor)} off while recording`,
              edits: [
                {
                  kind: "entries.set" as const,
                  table: "processors" as const,
                  ids: [processor.id],
                  set: { use: "not-while-recording" },
                },
              ],
            },
          ],
        }),
      ];
    });
  },
};

export const directCannot: Check = {
  id: "direct-cannot",
  why: "An input that the interface's own mixer does not take is silent when it is to be heard direct.",
  reads: ["channels.input", "channels.kind", "channels.monitor", "channels.parked", "format", "lines.portId"],
  check: ({ doc, rig }) => {
    const wrong = Object.values(doc.channels).filter((channel): channel is Track => {
      if (channel.kind !== "track" || channel.monitor !== "direct" || channel.parked) return false;
      const lines = linesOfTrack(doc, channel);
      return (
        lines.length === 0 ||
        lines.some(({ portId }) => portId !== null && !directWay(rig, portId, null, doc.format.sampleRateHz))
      );
    });
    if (!wrong.length) return [];
    const many = wrong.length > 3;
    return [
      finding("direct-cannot", {
        severity: "problem",
        message: `${many ? counted(wrong.length, "track") : listed(wrong.map(nameOf))} ${wrong.length === 1 ? "is" : "are"} to be heard direct, and the interface can't bring ${wrong.length === 1 ? "its input" : "their inputs"} past the computer.`,
        about: doc.id,
        places: wrong.slice(0, 20).map(({ id }) => ({ kind: "channel", id, field: "fader" })),
        fixes: [
          {
            label: `Monitor ${many ? "them" : listed(wrong.map(nameOf))} through the computer`,
            edits: monitored(
              wrong.map(({ id }) => id),
              "computer",
            ),
          },
        ],
      }),
    ];
  },
};

export const HEARING_CHECKS: readonly Check[] = [hearsTwice, hearsNotThemself, hearsLate, lateProcessor, directCannot];
