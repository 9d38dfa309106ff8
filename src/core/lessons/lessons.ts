import type { Patch } from "../commands/command";
import { patchesOf } from "../difference/carry";
import { changesBetween } from "../difference/changes-between";
import type { Colour } from "../model/colours";
import type { ChainProcessorId, PortId } from "../model/ids";
import { lineName } from "../model/line-name";
import { rigInputOf } from "../model/read-rig";
import { colourOf, tracksByLine, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { entriesOf } from "../model/table";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import { processorName } from "../model/tables/processor-names";
import { TEMPLATE, type Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { type Decibels, dB, formatDb, formatGain } from "../units/decibels";

/** A session that is done, with the version it was a copy of. */
export interface TaughtBy {
  readonly base: Template;
  readonly session: Template;
}

/** What several sessions changed alike: counted, with what would take it over. */
export interface Lesson {
  readonly id: string;
  readonly who: string;
  readonly words: string;
  readonly colour: Colour;
  readonly count: number;
  readonly of: number;
  /** The act that takes it over, and what it comes to. */
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** Nothing is proposed below so many sessions, nor what was changed in fewer than this share of them. */
export const LEAST_SESSIONS = 3;
const LEAST_SHARE = 0.5;

/**
 * The median of some numbers: the middle one, or the mean of the two in the middle.
 * @example median([36, 38, 39]) // 38
 */
export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? (sorted[middle] ?? Number.NaN) : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
};

/** What most agree on, with how many do; of two that are equally many the one that came first. */
const most = <T>(values: readonly T[]): { readonly value: T; readonly count: number } | null => {
  const counts = new Map<T, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  let best: { readonly value: T; readonly count: number } | null = null;
  for (const [value, count] of counts) if (!best || count > best.count) best = { value, count };
  return best;
};

interface Asked {
  readonly head: Template;
  readonly rig: Rig;
  readonly sessions: readonly TaughtBy[];
}

const enough = (count: number, of: number): boolean => count >= LEAST_SESSIONS && count >= of * LEAST_SHARE;
const inWords = (count: number, of: number): string => `in ${count} of ${of}`;

const isUsed = (track: Track | undefined): boolean => track !== undefined && !track.parked;

/** Tracks that sessions parked or dropped, or never armed in any pass that ran: they would be parked. */
const neverUsed = ({ head, sessions }: Asked): readonly Lesson[] =>
  tracksOf(head).flatMap((track) => {
    if (track.parked) return [];
    const knew = sessions.filter(({ base }) => base.channels[track.id]?.kind === "track");
    const parked = knew.filter(({ session }) => {
      const there = session.channels[track.id];
      if (!isUsed(there?.kind === "track" ? there : undefined)) return true;
      const ran = entriesOf(session.passes).filter((pass) => pass.ran);
      return (
        ran.length > 0 &&
        ran.every(({ trackIds, parkedIds }) => !trackIds.includes(track.id) || parkedIds.includes(track.id))
      );
    });
    if (!enough(parked.length, knew.length)) return [];
    const dropped = parked.filter(({ session }) => !session.channels[track.id]).length;
    const how = dropped === parked.length ? "dropped" : dropped ? "parked or dropped" : "parked or not recorded";
    return [
      {
        id: `unused/${track.id}`,
        who: track.name,
        words: `${how} ${inWords(parked.length, knew.length)} sessions`,
        colour: colourOf(head, track),
        count: parked.length,
        of: knew.length,
        label: "Park it",
        edits: [{ kind: "entries.set", table: "channels", ids: [track.id], set: { parked: true } }],
      },
    ];
  });

const nameOf = (doc: Template, line: Line): string => lineName(line, tracksByLine(doc).get(line.id) ?? []);
const dyeOf = (doc: Template, line: Line): Colour => {
  const track = tracksByLine(doc).get(line.id)?.[0];
  return track ? colourOf(doc, track) : "slate";
};

/** Lines that sessions had on another input, and on which. */
const movedInputs = ({ head, rig, sessions }: Asked): readonly Lesson[] =>
  entriesOf(head.lines).flatMap((line) => {
    const knew = sessions.filter(({ base, session }) => base.lines[line.id] && session.lines[line.id]);
    const moved = knew.flatMap(({ base, session }): readonly PortId[] => {
      const [was, is] = [base.lines[line.id]?.portId, session.lines[line.id]?.portId];
      return is && is !== was && is !== line.portId ? [is] : [];
    });
    const to = most(moved);
    if (!to || !enough(to.count, knew.length)) return [];
    const label = rigInputOf(rig, to.value)?.label;
    if (label === undefined) return [];
    return [
      {
        id: `input/${line.id}`,
        who: nameOf(head, line),
        words: `moved to input ${label} ${inWords(to.count, knew.length)}`,
        colour: dyeOf(head, line),
        count: to.count,
        of: knew.length,
        label: `Plan it on ${label}`,
        edits: [{ kind: "lines.patch", inputs: [{ lineId: line.id, portId: to.value, requestedInput: null }] }],
      },
    ];
  });

/** Tracks that sessions called otherwise, and alike. */
const changedNames = ({ head, sessions }: Asked): readonly Lesson[] =>
  tracksOf(head).flatMap((track) => {
    const knew = sessions.filter(({ base, session }) => base.channels[track.id] && session.channels[track.id]);
    const names = knew.flatMap(({ base, session }): readonly string[] => {
      const [was, is] = [base.channels[track.id]?.name, session.channels[track.id]?.name];
      return is && is !== was && is !== track.name ? [is] : [];
    });
    const to = most(names);
    if (!to || !enough(to.count, knew.length)) return [];
    return [
      {
        id: `name/${track.id}`,
        who: track.name,
        words: `called ${to.value} ${inWords(to.count, knew.length)}`,
        colour: colourOf(head, track),
        count: to.count,
        of: knew.length,
        label: `Call it ${to.value}`,
        edits: [{ kind: "entries.set", table: "channels", ids: [track.id], set: { name: to.value } }],
      },
    ];
  });

/** How far the median of gains must be from the plan to be worth a word, in dB. */
const GAIN_OFF_DB = 1;

/** Gains that ended elsewhere than planned: their median and how far they lie apart. */
const gainsElsewhere = ({ head, sessions }: Asked): readonly Lesson[] =>
  entriesOf(head.lines).flatMap((line) => {
    const set = sessions.flatMap(({ session }): readonly number[] => {
      const gain = session.lines[line.id]?.gainSetDb;
      return gain === null || gain === undefined ? [] : [gain];
    });
    if (set.length < LEAST_SESSIONS) return [];
    const to = dB(Math.round(median(set) * 10) / 10);
    if (line.gainDb !== null && Math.abs(to - line.gainDb) < GAIN_OFF_DB) return [];
    const [low, high] = [Math.min(...set), Math.max(...set)] as [Decibels, Decibels];
    const spread = low === high ? "each time" : `${formatGain(low)} to ${formatGain(high)}`;
    return [
      {
        id: `gain/${line.id}`,
        who: `${nameOf(head, line)} gain`,
        words: `ended at ${formatDb(to)}, ${spread} in ${set.length}; ${line.gainDb === null ? "not planned" : `planned ${formatGain(line.gainDb)}`}`,
        colour: dyeOf(head, line),
        count: set.length,
        of: sessions.length,
        label: `Plan ${formatDb(to)}`,
        edits: [{ kind: "entries.set", table: "lines", ids: [line.id], set: { gainDb: to } }],
      },
    ];
  });

/** Processors that were switched off, altogether or while recording. */
const switchedOff = ({ head, sessions }: Asked): readonly Lesson[] =>
  entriesOf(head.processors).flatMap((processor) => {
    const channel = head.channels[processor.channelId];
    if (!channel || processor.bypassed) return [];
    const knew = sessions.filter(
      ({ base, session }) => base.processors[processor.id] && session.processors[processor.id],
    );
    const off = knew.flatMap(({ session }): readonly ("bypassed" | "not-while-recording")[] => {
      const there = session.processors[processor.id];
      if (there?.bypassed) return ["bypassed"];
      return there?.use === "not-while-recording" && processor.use !== "not-while-recording"
        ? ["not-while-recording"]
        : [];
    });
    const how = most(off);
    if (!how || !enough(how.count, knew.length)) return [];
    const recording = how.value === "not-while-recording";
    return [
      {
        id: `off/${processor.id}`,
        who: `${processorName(processor)} on ${channel.name}`,
        words: `switched off${recording ? " while recording" : ""} ${inWords(how.count, knew.length)}`,
        colour:
          channel.kind === "track"
            ? colourOf(head, channel)
            : "colour" in channel
              ? (channel.colour ?? "slate")
              : "slate",
        count: how.count,
        of: knew.length,
        label: recording ? "Off while recording" : "Bypass it",
        edits: [
          {
            kind: "entries.set",
            table: "processors",
            ids: [processor.id as ChainProcessorId],
            set: recording ? { use: "not-while-recording" } : { bypassed: true },
          } as Edit,
        ],
      },
    ];
  });

/** A name without what tells one of several of a kind apart. */
const named = (name: string): string => name.trim().toLowerCase();

/** Tracks that were added by hand under one name: added as the newest session has it. */
const addedByHand = ({ head, sessions }: Asked): readonly Lesson[] => {
  const there = new Set(tracksOf(head).map(({ name }) => named(name)));
  const added = new Map<string, { readonly name: string; readonly in: TaughtBy[] }>();
  for (const taught of sessions) {
    const seen = new Set<string>();
    for (const track of tracksOf(taught.session)) {
      const key = named(track.name);
      if (!key || taught.base.channels[track.id] || there.has(key) || seen.has(key)) continue;
      seen.add(key);
      const known = added.get(key) ?? { name: track.name, in: [] };
      known.in.push(taught);
      added.set(key, known);
    }
  }
  return [...added].flatMap(([key, { name, in: those }]) => {
    if (!enough(those.length, sessions.length)) return [];
    const newest = those.at(-1)?.session;
    const track = newest && tracksOf(newest).find((one) => named(one.name) === key);
    const patches = newest && track ? bringing(head, newest, track) : [];
    if (!newest || !track || !patches.length) return [];
    return [
      {
        id: `added/${key}`,
        who: name,
        words: `added by hand ${inWords(those.length, sessions.length)}`,
        colour: colourOf(newest, track),
        count: those.length,
        of: sessions.length,
        label: "Add the track",
        edits: [{ kind: "changes.carry", name: `Add ${name}, as sessions had it`, patches }],
      },
    ];
  });
};

/** What carries one track of a session onto the head; an input that is taken there stays with who has it. */
const bringing = (head: Template, session: Template, track: Track): readonly Patch[] => {
  const changes = changesBetween(TEMPLATE, { here: head, there: session });
  const taken = new Set(entriesOf(head.lines).map(({ portId }) => portId));
  const lines = new Set<string>(inputLineIds(track.input));
  return patchesOf(changes, [`channels/${track.id}`]).map((patch) => {
    const line = patch.value as Line | undefined;
    return patch.path[0] === "lines" && lines.has(patch.path[1] ?? "") && line?.portId && taken.has(line.portId)
      ? { ...patch, value: { ...line, portId: null, requestedInput: null, gainSetDb: null } }
      : patch;
  });
};

/**
 * What the sessions of a template that are done changed alike: each with its count, nothing below three sessions or
 * half of them, and no claim beyond the counts. What the head has by now is no lesson any more. Linear in the documents,
 * for each session.
 * @example lessonsOf({ head, rig, sessions })[0]?.words // "parked in 7 of 8 sessions"
 */
export const lessonsOf = (asked: Asked): readonly Lesson[] =>
  asked.sessions.length < LEAST_SESSIONS
    ? []
    : [
        ...neverUsed(asked),
        ...movedInputs(asked),
        ...changedNames(asked),
        ...gainsElsewhere(asked),
        ...switchedOff(asked),
        ...addedByHand(asked),
      ];
