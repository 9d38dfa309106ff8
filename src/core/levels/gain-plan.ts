import { FAMILY_LEVELS } from "../model/families";
import { perDocument, perTwo } from "../model/per-document";
import { type RigInput, rigInputOf } from "../model/read-rig";
import { linesOf, microphoneFacts, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { familyOfTrack } from "../queries/performing";
import { distanceDb, gainToSet, microphoneDbu, peakDb } from "./microphone";

/** What comes by cable gives about this, in dBu, where nobody says anything else. */
const BY_CABLE_DBU = { "di-passive": -32, "di-active": -16, "line-source": 4 } as const;
/** Sensitivity where a microphone is only named, in mV/Pa. */
const USUAL_MV_PER_PA = { "moving-coil": 1.8, "ribbon-passive": 1.6, "ribbon-active": 9, condenser: 14 } as const;
const UNKNOWN = { loudnessDb: 85, distanceM: 0.5, crestDb: 14 };

export interface GainPlan {
  /** dB SPL a metre away, or dBu of what comes by cable; and whether somebody said so. */
  readonly loudnessDb: number;
  readonly byCable: boolean;
  readonly distanceM: number;
  readonly crestDb: number;
  readonly typed: boolean;
  /** dB SPL at the microphone; null of what comes by cable. */
  readonly splDb: number | null;
  readonly sourceDbu: number;
  /** dBFS at 0 dBu in: null where the input says nothing of full scale. */
  readonly fullScaleDbu: number | null;
  /** The gain that brings it to the target; null where that can't be told. With the pad taken into account where it is in. */
  readonly wantedDb: number | null;
  /** What there is: the preamp's range, and what its pad takes off. */
  readonly range: RigInput["gainDb"];
  readonly padDb: number;
  /** The gain that is planned, else the one wanted as far as the preamp reaches. */
  readonly gainDb: number | null;
  /** What comes of it, dBFS RMS and peak. */
  readonly levelDb: number;
  readonly peakDb: number;
  /** Within the range, or what would help: the pad, or another preamp. */
  readonly fit: "fits" | "pad" | "too-hot" | "too-weak" | "unknown";
}

const padOf = (rig: Rig, input: RigInput | null): number => {
  if (!input) return 0;
  const preamp = input.fedBy
    ? Object.values(rig.ports).find((port) => port.deviceId === input.fedBy?.device.id && port.direction === "in" && port.number === input.fedBy.port.number)
    : null;
  return (preamp ?? input.port).padDb ?? 0;
};

interface Source {
  readonly line: Line;
  readonly family: { readonly loudnessDb: number; readonly distanceM: number; readonly crestDb: number };
}

/** What stands at the socket, in dBu. */
const sourceOf = (rig: Rig, { line, family }: Source): Pick<GainPlan, "loudnessDb" | "byCable" | "distanceM" | "splDb" | "sourceDbu"> => {
  const kind = microphoneFacts(rig, line.microphone)?.kind ?? null;
  const cable = kind !== null && kind in BY_CABLE_DBU ? BY_CABLE_DBU[kind as keyof typeof BY_CABLE_DBU] : null;
  const distanceM = line.distanceM ?? family.distanceM;
  if (cable !== null) {
    const dbu = line.loudnessDb ?? cable;
    return { loudnessDb: dbu, byCable: true, distanceM, splDb: null, sourceDbu: dbu };
  }
  const loudnessDb = line.loudnessDb ?? family.loudnessDb;
  const splDb = loudnessDb + distanceDb(distanceM);
  const shelf = line.microphone?.kind === "shelf" ? (rig.microphones[line.microphone.microphoneId]?.sensitivityMvPerPa ?? null) : null;
  const sensitivity = shelf ?? (kind && kind in USUAL_MV_PER_PA ? USUAL_MV_PER_PA[kind as keyof typeof USUAL_MV_PER_PA] : USUAL_MV_PER_PA.condenser);
  return { loudnessDb, byCable: false, distanceM, splDb, sourceDbu: microphoneDbu(sensitivity, splDb) };
};

const fitOf = ({
  wantedDb,
  range,
  pad,
  padDb,
}: {
  readonly wantedDb: number | null;
  readonly range: GainPlan["range"];
  readonly pad: boolean;
  readonly padDb: number;
}): GainPlan["fit"] => {
  if (wantedDb === null) return "unknown";
  if (!range) return "fits";
  if (wantedDb > range.max + 0.005) return pad ? "pad" : "too-weak";
  if (wantedDb >= range.min - 0.005) return "fits";
  return !pad && padDb > 0 && wantedDb + padDb >= range.min ? "pad" : "too-hot";
};

const round = (value: number): number => Math.round(value * 100) / 100;

/**
 * The gain that a line needs and what comes of it. Source level by kind and distance: dB SPL a metre away, with `−20·log10 r` to the microphone, its sensitivity
 * to dBu; of what comes by cable its dBu. Gain: target + dBu at full scale − source, less where the peak (level + crest − 3.01) would stand too high. Where no gain is planned the wanted one is taken, as
 * far as the preamp reaches.
 * @example 2.0 mV/Pa at 114 dB SPL, +18 dBu at full scale, target −18 dBFS: +31.76 dB
 */
export const gainPlanOf = (doc: Pick<Template, "levels">, rig: Rig, { line, family }: Source): GainPlan => {
  const input = rigInputOf(rig, line.portId);
  const crestDb = line.crestDb ?? family.crestDb;
  const source = sourceOf(rig, { line, family });
  const fullScaleDbu = input?.port.fullScaleDbu ?? null;
  const padDb = padOf(rig, input);
  const padded = line.pad ? padDb : 0;
  // Peaks stay under what they may, however far below the target that brings the rest.
  const targetDb = Math.min(doc.levels.targetDb, doc.levels.peakDb - peakDb(0, crestDb));
  const wantedDb = fullScaleDbu === null ? null : gainToSet({ targetDb, fullScaleDbu, sourceDbu: source.sourceDbu - padded });
  const range = input?.gainDb ?? null;
  const reached = wantedDb === null ? null : range ? Math.min(range.max, Math.max(range.min, wantedDb)) : wantedDb;
  const gainDb = line.gainDb ?? reached;
  const levelDb = gainDb === null || wantedDb === null ? targetDb : targetDb + gainDb - wantedDb;
  return {
    ...source,
    crestDb,
    typed: line.loudnessDb !== null || line.distanceM !== null,
    fullScaleDbu,
    wantedDb: wantedDb === null ? null : round(wantedDb),
    range,
    padDb,
    gainDb: gainDb === null ? null : round(gainDb),
    levelDb,
    peakDb: peakDb(levelDb, crestDb),
    fit: fitOf({ wantedDb, range, pad: line.pad, padDb }),
  };
};

type Planned = Pick<Template, "lines" | "channels" | "levels">;

const familyLevels = (doc: Planned, studio: Studio, line: Line): Source["family"] => {
  const [track] = tracksByLine(doc).get(line.id) ?? [];
  const family = track ? familyOfTrack(doc, track) : null;
  return family ? (studio.families[family] ?? FAMILY_LEVELS[family]) : UNKNOWN;
};

const plans = perTwo((rig: Rig, studio: Studio) =>
  perTwo((lines: Template["lines"], channels: Template["channels"]) =>
    perDocument((levels: Template["levels"]): ReadonlyMap<string, GainPlan> => {
      const doc = { lines, channels, levels };
      return new Map(linesOf(doc).map((line) => [line.id, gainPlanOf(doc, rig, { line, family: familyLevels(doc, studio, line) })]));
    }),
  ),
);

/** The gain plans of all lines by their ids. Linear in lines, and kept for as long as neither lines, channels nor what is aimed at change. */
export const gainPlans = (doc: Planned, rig: Rig, studio: Studio): ReadonlyMap<string, GainPlan> => plans(rig, studio)(doc.lines, doc.channels)(doc.levels);
