import { type Family, plain } from "../model/families";
import { perDocument, perTwo } from "../model/per-document";
import { type RigInput, rigInputOf } from "../model/read-rig";
import { linesOf, microphoneFacts, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import { saidName } from "../model/said-name";
import { familyLevels, type SourceLevels } from "../model/source-levels";
import type { Studio } from "../model/studio";
import { entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Port } from "../model/tables/ports";
import type { Template } from "../model/template";
import { familyOfTrack } from "../queries/performing";
import { criticalDistanceM, distanceDb, gainToSet, heardFromM, microphoneDbu, peakDb } from "./microphone";

/** What comes by cable gives about this, in dBu, where nobody says anything else. */
const BY_CABLE_DBU = { "di-passive": -32, "di-active": -16, "line-source": 4 } as const;
/** Sensitivity where a microphone is only named, in mV/Pa. */
const USUAL_MV_PER_PA = {
  "moving-coil": 1.8,
  "ribbon-passive": 1.6,
  "ribbon-active": 9,
  condenser: 14,
  "condenser-supplied": 16,
} as const;
export interface GainPlan {
  /** dB SPL a metre away, or dBu of what comes by cable; and whether somebody said so. */
  readonly loudnessDb: number;
  readonly byCable: boolean;
  readonly distanceM: number;
  readonly crestDb: number;
  readonly typed: boolean;
  /** dB SPL at the microphone; null of what comes by cable. */
  readonly splDb: number | null;
  /**
   * The loudest that the microphone takes, and the strongest level that the preamp does with its pad as it is; null
   * where nobody has said.
   */
  readonly maxSplDb: number | null;
  readonly maxInputDbu: number | null;
  /** Where peaks of the source stand at the microphone and at the socket. */
  readonly splPeakDb: number | null;
  readonly sourcePeakDbu: number;
  readonly sourceDbu: number;
  /** dBFS at 0 dBu in: null where the input says nothing of full scale. */
  readonly fullScaleDbu: number | null;
  /**
   * The gain that brings it to the target; null where that can't be told. With the pad taken into account where it is
   * in.
   */
  readonly wantedDb: number | null;
  /** What there is: the preamp's range, and what its pad takes off. */
  readonly range: RigInput["gainDb"];
  readonly padDb: number;
  /** The gain that is planned, else the one wanted as far as the preamp reaches. */
  readonly gainDb: number | null;
  /** What comes of it, dBFS RMS and peak. */
  readonly levelDb: number;
  readonly peakDb: number;
  /**
   * Within the range, or what would help: the pad, or another preamp; of an input without a gain control whether it
   * clips.
   */
  readonly fit: "fits" | "pad" | "too-hot" | "too-weak" | "clips" | "unknown";
}

/** The socket that a line is plugged into: that of an outside preamp, else the input itself. */
const socketOf = (rig: Rig, input: RigInput | null): Port | null => {
  if (!input) return null;
  const preamp = input.fedBy
    ? Object.values(rig.ports).find(
        (port) =>
          port.deviceId === input.fedBy?.device.id &&
          port.direction === "in" &&
          port.number === input.fedBy.port.number,
      )
    : null;
  return preamp ?? input.port;
};

interface Source {
  readonly line: Line;
  readonly family: SourceLevels;
  /** How far direct sound carries where it is played, in metres; null where nobody has said how large the room is. */
  readonly farthestM?: number | null;
}

/** What stands at the socket, in dBu. */
const sourceOf = (
  rig: Rig,
  { line, family, farthestM = null }: Source,
): Pick<GainPlan, "loudnessDb" | "byCable" | "distanceM" | "splDb" | "maxSplDb" | "sourceDbu"> => {
  const kind = microphoneFacts(rig, line.microphone)?.kind ?? null;
  const cable = kind !== null && kind in BY_CABLE_DBU ? BY_CABLE_DBU[kind as keyof typeof BY_CABLE_DBU] : null;
  const distanceM = line.distanceM ?? family.distanceM;
  if (cable !== null) {
    const dbu = line.loudnessDb ?? cable;
    return { loudnessDb: dbu, byCable: true, distanceM, splDb: null, maxSplDb: null, sourceDbu: dbu };
  }
  const loudnessDb = line.loudnessDb ?? family.loudnessDb;
  const splDb = loudnessDb + distanceDb(heardFromM(distanceM, { nearestM: family.nearestM, farthestM }));
  const item = line.microphone?.kind === "shelf" ? rig.microphones[line.microphone.microphoneId] : undefined;
  const sensitivity =
    item?.sensitivityMvPerPa ??
    (kind && kind in USUAL_MV_PER_PA
      ? USUAL_MV_PER_PA[kind as keyof typeof USUAL_MV_PER_PA]
      : USUAL_MV_PER_PA.condenser);
  return {
    loudnessDb,
    byCable: false,
    distanceM,
    splDb,
    maxSplDb: item?.maxSplDb ?? null,
    sourceDbu: microphoneDbu(sensitivity, splDb),
  };
};

const fitOf = ({
  wantedDb,
  range,
  pad,
  padDb,
  clips,
  calm,
}: {
  readonly wantedDb: number | null;
  readonly range: GainPlan["range"];
  readonly pad: boolean;
  readonly padDb: number;
  /** Whether peaks pass full scale as it is planned. */
  readonly clips: boolean;
  /**
   * Whether peaks stay under what they may with the least gain: then it is no matter that it comes above the target.
   */
  readonly calm: boolean;
}): GainPlan["fit"] => {
  if (wantedDb === null) return "unknown";
  if (!range) return clips ? (!pad && padDb > 0 ? "pad" : "clips") : "fits";
  if (wantedDb > range.max + 0.005) return pad ? "pad" : "too-weak";
  if (wantedDb >= range.min - 0.005 || calm) return "fits";
  return !pad && padDb > 0 && wantedDb + padDb >= range.min ? "pad" : "too-hot";
};

const round = (value: number): number => Math.round(value * 100) / 100;

/**
 * The gain that a line needs and what comes of it. Source level by kind and distance: dB SPL a metre away, with
 * `−20·log10 r` to the microphone, its sensitivity to dBu; of what comes by cable its dBu. Gain: target + dBu at full
 * scale − source, less where the peak (level + crest − 3.01) would stand too high. Where no gain is planned the wanted
 * one is taken, as far as the preamp reaches; an input without a gain control has a gain of 0 dB.
 * @example 2.0 mV/Pa at 114 dB SPL, +18 dBu at full scale, target −18 dBFS: +31.76 dB; +12 dBu into a line input of +20 dBu: −8 dBFS, peaks at +2.99
 */
export const gainPlanOf = (doc: Pick<Template, "levels">, rig: Rig, of: Source): GainPlan => {
  const { line, family } = of;
  const input = rigInputOf(rig, line.portId);
  const crestDb = line.crestDb ?? family.crestDb;
  const source = sourceOf(rig, of);
  const fullScaleDbu = input?.port.fullScaleDbu ?? null;
  const socket = socketOf(rig, input);
  const padDb = socket?.padDb ?? 0;
  const padded = line.pad ? padDb : 0;
  // Peaks stay under what they may, however far below the target that brings the rest.
  const targetDb = Math.min(doc.levels.targetDb, doc.levels.peakDb - peakDb(0, crestDb));
  const wantedDb =
    fullScaleDbu === null ? null : gainToSet({ targetDb, fullScaleDbu, sourceDbu: source.sourceDbu - padded });
  const range = input?.gainDb ?? null;
  const reached = wantedDb === null ? null : range ? Math.min(range.max, Math.max(range.min, wantedDb)) : 0;
  // Whatever is planned, an input that has no gain control adds none.
  const gainDb = input && !range && wantedDb !== null ? 0 : (line.gainDb ?? reached);
  const atLeast = (gain: number): number => (wantedDb === null ? targetDb : targetDb + gain - wantedDb);
  const levelDb = gainDb === null || wantedDb === null ? targetDb : targetDb + gainDb - wantedDb;
  return {
    ...source,
    crestDb,
    typed: line.loudnessDb !== null || line.distanceM !== null,
    fullScaleDbu,
    wantedDb: wantedDb === null ? null : round(wantedDb),
    range,
    padDb,
    maxInputDbu: socket?.maxInputDbu == null ? null : socket.maxInputDbu + padded,
    splPeakDb: source.splDb === null ? null : peakDb(source.splDb, crestDb),
    sourcePeakDbu: peakDb(source.sourceDbu, crestDb),
    gainDb: gainDb === null ? null : round(gainDb),
    levelDb,
    peakDb: peakDb(levelDb, crestDb),
    fit: fitOf({
      wantedDb,
      range,
      pad: line.pad,
      padDb,
      clips: peakDb(levelDb, crestDb) > 0.005,
      calm: range !== null && peakDb(atLeast(range.min), crestDb) <= doc.levels.peakDb + 0.005,
    }),
  };
};

type Planned = Pick<Template, "lines" | "channels" | "levels">;

/** What is known of a line before anything is reckoned: by its own entry and the tracks that take it. */
interface Known {
  readonly line: Line;
  readonly tracks: readonly Track[];
  readonly family: Family | null;
  readonly levels: SourceLevels;
  readonly room: string;
  readonly farthestM: number | null;
  /** How loud it makes its room; null where it comes by cable, or is of the room itself. */
  readonly loudDb: number | null;
}

interface Reckoned {
  readonly known: Known;
  /** The loudest that plays in its room, of what hears rooms. */
  readonly bandDb: number;
  readonly aimed: Template["levels"];
  readonly plan: GainPlan;
}

const NOBODY: readonly Track[] = [];

/** How loud it is in a room: as loud as the loudest that plays there. */
const loudestIn = (all: readonly Known[]): ((room: string) => number) => {
  const loudest = new Map<string, number>();
  for (const { room, loudDb } of all)
    if (loudDb !== null) loudest.set(room, Math.max(loudest.get(room) ?? -Infinity, loudDb));
  const anywhere = [...loudest.values()].reduce((most, db) => Math.max(most, db), -Infinity);
  // Where nobody said which room it is, it may be any.
  return (room) => (room ? Math.max(loudest.get(room) ?? -Infinity, loudest.get("") ?? -Infinity) : anywhere);
};

const kept = perTwo((rig: Rig, studio: Studio) => {
  const rooms = new Map(
    entriesOf(studio.rooms).flatMap(({ name, volumeM3, decayS }) =>
      volumeM3 && decayS ? [[plain(name), criticalDistanceM(volumeM3, decayS)] as const] : [],
    ),
  );
  let before: ReadonlyMap<string, Reckoned> = new Map();
  const knownOf = (doc: Pick<Template, "lines" | "channels">, line: Line, tracks: readonly Track[]): Known => {
    const [track] = tracks;
    const family = track ? familyOfTrack(doc, track) : null;
    const names = [track ? saidName(track) : "", line.source].filter(Boolean);
    const room = plain(line.room);
    const levels = familyLevels(family, { names, styles: studio.families });
    const byCable = (microphoneFacts(rig, line.microphone)?.kind ?? "") in BY_CABLE_DBU;
    return {
      line,
      tracks,
      family,
      levels,
      room,
      farthestM: rooms.get(room) ?? null,
      loudDb: family === "rooms" || byCable ? null : (line.loudnessDb ?? levels.loudnessDb),
    };
  };
  return perTwo((lines: Template["lines"], channels: Template["channels"]) =>
    perDocument((aimed: Template["levels"]): ReadonlyMap<string, GainPlan> => {
      const doc = { lines, channels, levels: aimed };
      const takers = tracksByLine(doc);
      const all = linesOf(doc).map((line) => {
        const [was, tracks] = [before.get(line.id)?.known, takers.get(line.id) ?? NOBODY];
        // A pair is called by its first line: what the other says may give the family away.
        return was?.line === line && was.tracks === tracks && tracks[0]?.input.kind !== "pair"
          ? was
          : knownOf(doc, line, tracks);
      });
      const inRoom = loudestIn(all);
      const now = new Map(
        all.map((known): readonly [string, Reckoned] => {
          const { line, levels, family, farthestM } = known;
          const bandDb = family === "rooms" ? inRoom(known.room) : -Infinity;
          const was = before.get(line.id);
          if (was?.known === known && was.bandDb === bandDb && was.aimed === aimed) return [line.id, was];
          const source = Number.isFinite(bandDb)
            ? { ...levels, loudnessDb: Math.max(levels.loudnessDb, bandDb) }
            : levels;
          return [line.id, { known, bandDb, aimed, plan: gainPlanOf(doc, rig, { line, family: source, farthestM }) }];
        }),
      );
      before = now;
      return new Map([...now].map(([id, { plan }]) => [id, plan]));
    }),
  );
});

/**
 * The gain plans of all lines by their ids. Linear in lines, and kept for as long as neither lines, channels nor what
 * is aimed at change.
 */
export const gainPlans = (doc: Planned, rig: Rig, studio: Studio): ReadonlyMap<string, GainPlan> =>
  kept(rig, studio)(doc.lines, doc.channels)(doc.levels);
