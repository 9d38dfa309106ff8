import { type GainPlan, gainPlans } from "../levels/gain-plan";
import { downBy, isMixed } from "../levels/headroom";
import { contributorsToCue, mixLevels } from "../levels/mix-levels";
import { worstPeakDb } from "../levels/sides";
import { storageOf } from "../levels/storage";
import { isSum, linesOf, tracksByLine } from "../model/read-template";
import { newStudio } from "../model/studio";
import { entriesOf } from "../model/table";
import { type Channel, TRIM_DB } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { cuesOf } from "../queries/cues";
import { dB, formatDb } from "../units/decibels";
import { type Check, type Finding, finding } from "./finding";
import { inUse, nameOf } from "./remarkable";

const USUAL = newStudio("");

const hours = (seconds: number): string => `${Math.floor(seconds / 3600)} h ${Math.floor((seconds % 3600) / 60)} min`;
const gigabytes = (bytes: number): string => `${Math.round(bytes / 1e8) / 10} GB`;

export const diskTooSmall: Check = {
  id: "disk-too-small",
  why: "A take that the file or the disk can't hold ends before the music does.",
  withoutRig: true,
  check: ({ doc }) => {
    const storage = storageOf(doc);
    const place = [{ kind: "template", id: doc.id, field: "disk" }] as const;
    const needed = Math.max(storage.eveningBytes, storage.passesBytes ?? 0);
    const full = storage.freeBytes !== null && needed > storage.freeBytes;
    const ends = storage.firstEndS !== null && doc.disk.hours * 3600 > storage.firstEndS;
    return [
      ...(full && storage.freeBytes !== null
        ? [
            finding("disk-too-small", {
              severity: "problem",
              about: "disk",
              message: `The evening takes ${gigabytes(needed)}, and ${gigabytes(storage.freeBytes)} are free${storage.fitsS === null ? "" : `: enough for ${hours(storage.fitsS)} of everything at once`}.`,
              places: place,
              fixes: [],
            }),
          ]
        : []),
      ...(ends && storage.firstEndS !== null
        ? [
            finding("disk-too-small", {
              severity: "hint",
              about: "file",
              message: `A take of ${hours(doc.disk.hours * 3600)} is longer than a plain WAV file can be: the first ends after ${hours(storage.firstEndS)}. Use RF64, or begin a new take before.`,
              places: place,
              fixes: [
                {
                  label: `Plan takes of ${Math.floor(storage.firstEndS / 360) / 10} hours`,
                  commands: [{ kind: "template.set", disk: { hours: Math.max(0.1, Math.floor(storage.firstEndS / 360) / 10) } }],
                },
              ],
            }),
          ]
        : []),
    ];
  },
};

export const beyondFullScale: Check = {
  id: "beyond-full-scale",
  why: "What goes out above full scale is clipped, whatever is turned down after it.",
  check: ({ doc, rig, studio = USUAL }) => {
    if (!isMixed(doc)) return [];
    const levels = mixLevels(doc, { rig, studio });
    const lower = (db: number | null, byDb: number) => dB(Math.max(-120, Math.round(((db ?? 0) - byDb) * 100) / 100));
    const channels = entriesOf<Channel>(doc.channels).flatMap((channel): readonly Finding[] => {
      if (!(isSum(channel) || channel.output.kind === "hardware") || !inUse(channel)) return [];
      const sides = levels.channels.get(channel.id)?.after;
      const peak = sides ? worstPeakDb(sides) : null;
      if (peak === null || !downBy(peak)) return [];
      return [
        finding("beyond-full-scale", {
          severity: "hint",
          message: `${nameOf(channel)} would peak at +${formatDb(dB(Math.round(peak * 10) / 10))}FS if everything came at once and alike.`,
          places: [{ kind: "channel", id: channel.id, field: "fader" }],
          // Further down than a trim goes, levels are to be set where they begin.
          fixes:
            channel.trimDb - downBy(peak) < TRIM_DB.min
              ? []
              : [
                  {
                    label: `Trim ${nameOf(channel)} down by ${formatDb(dB(downBy(peak)))}`,
                    commands: [{ kind: "channels.set", channelIds: [channel.id], set: { trimDb: dB(channel.trimDb - downBy(peak)) } }],
                  },
                ],
        }),
      ];
    });
    const cues = cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const sides = levels.cues.get(cue.id);
      const peak = sides ? worstPeakDb(sides) : null;
      if (peak === null || !downBy(peak)) return [];
      const [most] = contributorsToCue(levels, cue.id);
      return [
        finding("beyond-full-scale", {
          severity: "hint",
          message: `${cue.name} would peak at +${formatDb(dB(Math.round(peak * 10) / 10))}FS if everything in it came at once and alike${most ? `; ${nameOf(doc.channels[most.sourceId])} gives most` : ""}.`,
          places: [{ kind: "cue", id: cue.id, field: "level" }],
          fixes: [
            {
              label: `Turn ${cue.name} down by ${formatDb(dB(downBy(peak)))}`,
              commands: [{ kind: "cues.set", cueIds: [cue.id], set: { levelDb: lower(cue.levelDb, downBy(peak)) } }],
            },
          ],
        }),
      ];
    });
    return [...channels, ...cues];
  },
};

const MISFIT = {
  pad: "needs its pad",
  "too-hot": "is too loud for it even at its least gain",
  "too-weak": "needs more gain than it has",
} as const;

const misfit = (doc: Template, { line, plan }: { readonly line: Line; readonly plan: GainPlan }): readonly Finding[] => {
  const name = line.source || nameOf(tracksByLine(doc).get(line.id)?.[0]);
  const place = [{ kind: "line", id: line.id, field: "gain" }] as const;
  if (plan.fit === "pad" || plan.fit === "too-hot" || plan.fit === "too-weak") {
    const pad =
      plan.fit === "pad"
        ? [
            {
              label: line.pad ? `Take the pad of ${name} out` : `Put the pad of ${name} in`,
              commands: [{ kind: "lines.set", lineIds: [line.id], set: { pad: !line.pad } }] as const,
            },
          ]
        : [];
    return [
      finding("gain-misfits", {
        severity: "hint",
        message: `${name} comes at ${formatDb(dB(Math.round(plan.sourceDbu)))}u, and the preamp ${plan.fit === "pad" && line.pad ? "is too weak with its pad in" : MISFIT[plan.fit]}.`,
        places: place,
        fixes: pad,
      }),
    ];
  }
  if (line.gainDb === null || plan.wantedDb === null || plan.peakDb <= doc.levels.peakDb + 0.005) return [];
  const gainDb = dB(Math.floor(Math.min(plan.wantedDb, line.gainDb - (plan.peakDb - doc.levels.peakDb)) * 10) / 10);
  return [
    finding("gain-misfits", {
      severity: "hint",
      message: `${name} at a gain of ${formatDb(line.gainDb)} would peak at ${formatDb(dB(Math.round(plan.peakDb * 10) / 10))}FS, above ${formatDb(doc.levels.peakDb)}: a preamp that clips stays clipped.`,
      places: place,
      fixes: [{ label: `Set the gain to ${formatDb(gainDb)}`, commands: [{ kind: "lines.set", lineIds: [line.id], set: { gainDb } }] }],
    }),
  ];
};

export const gainMisfits: Check = {
  id: "gain-misfits",
  why: "A preamp that clips, or that does not reach far enough, is found with the band waiting.",
  check: ({ doc, rig, studio = USUAL }) => {
    const plans = gainPlans(doc, rig, studio);
    return linesOf(doc).flatMap((line): readonly Finding[] => {
      const plan = plans.get(line.id);
      // Only where somebody said how loud it is, or what gain is planned: usual figures are there to begin with, and no reason to complain.
      if (!plan || !(plan.typed || line.gainDb !== null)) return [];
      return misfit(doc, { line, plan });
    });
  },
};

export const LEVEL_CHECKS: readonly Check[] = [diskTooSmall, beyondFullScale, gainMisfits];
