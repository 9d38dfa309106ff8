import { type GainPlan, gainPlans } from "../levels/gain-plan";
import { downBy, isMixed } from "../levels/headroom";
import { type Leaving, leavings } from "../levels/leaving";
import { contributorsToCue, mixLevels } from "../levels/mix-levels";
import { likelyPeakDb } from "../levels/sides";
import { storageOf } from "../levels/storage";
import { rigInputOf } from "../model/read-rig";
import { linesOf, tracksByLine } from "../model/read-template";
import type { Rig } from "../model/rig";
import { newStudio, type Studio } from "../model/studio";
import { TRIM_DB } from "../model/tables/channel-fields";
import type { Line } from "../model/tables/lines";
import { processorName } from "../model/tables/processor-names";
import type { Template } from "../model/template";
import { cuesOf } from "../queries/cues";
import { takesLevel } from "../queries/free-inputs";
import { outputsInWords } from "../queries/outputs";
import { formatHours } from "../units/bytes";
import { type Decibels, dB, formatDb } from "../units/decibels";
import { type Check, type Finding, type Fix, finding } from "./finding";
import { GAINS, LEVELS, TRACKS } from "./reads";
import { nameOf } from "./remarkable";

const USUAL = newStudio("");

const gigabytes = (bytes: number): string => `${Math.round(bytes / 1e8) / 10} GB`;

export const diskTooSmall: Check = {
  id: "disk-too-small",
  why: "A take that the file or the disk can't hold ends before the music does.",
  withoutRig: true,
  reads: [
    ...TRACKS,
    "channels.layout",
    "channels.parked",
    "channels.sharing",
    "disk",
    "format",
    "passes.order",
    "passes.takeMinutes",
    "passes.takes",
    "passes.trackIds",
  ],
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
              message: `The evening takes ${gigabytes(needed)}, and ${gigabytes(storage.freeBytes)} are free${storage.fitsS === null ? "" : `: enough for ${formatHours(storage.fitsS)} of everything at once`}.`,
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
              message: `A take of ${formatHours(doc.disk.hours * 3600)} is longer than a plain WAV file can be: the first ends after ${formatHours(storage.firstEndS)}. Write it as RF64 or in parts, or begin a new take before.`,
              places: place,
              fixes: [
                {
                  label: "Write takes as RF64",
                  edits: [{ kind: "settings.set", set: { format: { fileType: "rf64" } } }],
                },
                {
                  label: "Write takes in parts",
                  edits: [{ kind: "settings.set", set: { format: { fileType: "split" } } }],
                },
              ],
            }),
          ]
        : []),
    ];
  },
};

const peakInWords = (peakDb: number): string => `+${formatDb(dB(Math.round(peakDb * 10) / 10))}FS`;

const leavesInWords = (doc: Template, rig: Rig, { channelId, by, processorId, peakDb }: Leaving): string => {
  const channel = doc.channels[channelId];
  const who = nameOf(channel);
  if (by === "take")
    return `${who} would likely peak at ${peakInWords(peakDb)} in its take of ${doc.format.bitDepth} bit`;
  if (by === "insert")
    return `${who} would likely peak at ${peakInWords(peakDb)} where it leaves for ${processorName(doc.processors[processorId as never] as never)}`;
  return `${who} would likely peak at ${peakInWords(peakDb)} at ${channel?.output.kind === "hardware" ? outputsInWords(rig, channel.output.portIds) : "its output"}`;
};

/**
 * Down where it leaves, once for all that leads there; further than a trim goes, levels are to be set where they begin.
 */
const trimmedBy = (doc: Template, { trimId, peakDb }: Leaving): readonly Fix[] => {
  const channel = doc.channels[trimId];
  if (!channel || channel.trimDb - downBy(peakDb) < TRIM_DB.min) return [];
  return [
    {
      label: `Trim ${nameOf(channel)} down by ${formatDb(dB(downBy(peakDb)))}`,
      edits: [
        {
          kind: "entries.set",
          table: "channels",
          ids: [trimId],
          set: { trimDb: dB(Math.round((channel.trimDb - downBy(peakDb)) * 100) / 100) },
        },
      ],
    },
  ];
};

/** The loudest of each place where sound leaves, while recording or mixed. */
const loudestLeavings = (
  doc: Template,
  { rig, studio }: { readonly rig: Rig; readonly studio: Studio },
): readonly Leaving[] => {
  const found = new Map<string, Leaving>();
  for (const asked of ["recording", "mixing"] as const)
    for (const leaving of leavings(doc, mixLevels(doc, { rig, studio, asked }))) {
      const key = `${leaving.channelId} ${leaving.by} ${leaving.processorId ?? ""}`;
      if (leaving.peakDb > (found.get(key)?.peakDb ?? Number.NEGATIVE_INFINITY)) found.set(key, leaving);
    }
  return [...found.values()].filter(({ peakDb }) => downBy(peakDb) > 0);
};

export const beyondFullScale: Check = {
  id: "beyond-full-scale",
  why: "A mix in floating point does not clip inside; where it leaves beyond full scale, by an output, through a box or into a take, it does.",
  reads: [...LEVELS, "channels.recordPoint", "processors.name", "processors.pass"],
  check: ({ doc, rig, studio = USUAL }) => {
    const channels = (isMixed(doc) ? loudestLeavings(doc, { rig, studio }) : []).map(
      (leaving): Finding =>
        finding("beyond-full-scale", {
          severity: "hint",
          about:
            leaving.by === "output" ? leaving.channelId : `${leaving.channelId}:${leaving.processorId ?? leaving.by}`,
          message: `${leavesInWords(doc, rig, leaving)}.`,
          places: [{ kind: "channel", id: leaving.channelId, field: leaving.by === "insert" ? "chain" : "fader" }],
          fixes: trimmedBy(doc, leaving),
        }),
    );
    const cueLevels = cuesOf(doc).length ? mixLevels(doc, { rig, studio }) : null;
    const cues = cuesOf(doc).flatMap((cue): readonly Finding[] => {
      const sides = cueLevels?.cues.get(cue.id);
      const peak = sides ? likelyPeakDb(sides) : null;
      if (!cueLevels || peak === null || !downBy(peak)) return [];
      const [most] = contributorsToCue(cueLevels, cue.id);
      return [
        finding("beyond-full-scale", {
          severity: "hint",
          message: `${cue.name} would likely peak at ${peakInWords(peak)}${most ? `; ${nameOf(doc.channels[most.sourceId])} gives most` : ""}.`,
          places: [{ kind: "cue", id: cue.id, field: "level" }],
          fixes: [
            {
              label: `Turn ${cue.name} down by ${formatDb(dB(downBy(peak)))}`,
              edits: [
                {
                  kind: "entries.set",
                  table: "cues",
                  ids: [cue.id],
                  set: { levelDb: dB(Math.max(-120, Math.round(((cue.levelDb ?? 0) - downBy(peak)) * 100) / 100)) },
                },
              ],
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
  clips: "",
} as const;

/** An input without a gain control that is driven past full scale. */
const clipsInWords = (name: string, { sourceDbu, fullScaleDbu, peakDb }: GainPlan): string =>
  `${name} comes at ${formatDb(dB(Math.round(sourceDbu * 10) / 10))}u into an input without a gain control, which takes ${formatDb(dB(fullScaleDbu ?? 0))}u at full scale: it would peak at ${peakInWords(peakDb)}.`;

/** What a microphone or a preamp is driven with beyond what it takes. */
const tooStrong = (
  { doc, rig }: { readonly doc: Template; readonly rig: Rig },
  { line, plan }: { readonly line: Line; readonly plan: GainPlan },
): readonly Finding[] => {
  const input = rigInputOf(rig, line.portId);
  // What can't be plugged in there at all is told as that.
  if (input && !takesLevel(rig, input, line)) return [];
  const name = line.source || nameOf(tracksByLine(doc).get(line.id)?.[0]);
  const told = (about: string, message: string, fixes: Finding["fixes"] = []): Finding =>
    finding("too-strong", {
      severity: "hint",
      about: `${line.id}:${about}`,
      message,
      places: [{ kind: "line", id: line.id, field: "microphone" }],
      fixes,
    });
  const loud = plan.maxSplDb !== null && plan.splPeakDb !== null && plan.splPeakDb > plan.maxSplDb + 0.005;
  const hot = plan.maxInputDbu !== null && plan.sourcePeakDbu > plan.maxInputDbu + 0.005;
  const pads =
    !line.pad && plan.padDb > 0 && plan.maxInputDbu !== null && plan.sourcePeakDbu <= plan.maxInputDbu + plan.padDb;
  return [
    ...(loud
      ? [
          told(
            "spl",
            `${name} peaks at ${Math.round(plan.splPeakDb ?? 0)} dB SPL at the microphone, and it takes ${plan.maxSplDb}: move it away, or take another.`,
          ),
        ]
      : []),
    ...(hot
      ? [
          told(
            "input",
            `${name} peaks at ${formatDb(dB(Math.round(plan.sourcePeakDbu * 10) / 10))}u at the socket, and the preamp takes ${formatDb(dB(plan.maxInputDbu ?? 0))}u: it clips at any gain.`,
            pads
              ? [
                  {
                    label: `Put the pad of ${name} in`,
                    edits: [{ kind: "entries.set", table: "lines", ids: [line.id], set: { pad: true } }],
                  },
                ]
              : [],
          ),
        ]
      : []),
  ];
};

/**
 * The gain at which the target is met and no peak is above its limit, from one at which both are known: to a tenth of a
 * dB.
 */
const gainUnder = ({
  gainDb,
  wantedDb,
  overDb,
}: {
  readonly gainDb: number;
  readonly wantedDb: number;
  readonly overDb: number;
}): Decibels => dB(Math.floor(Math.min(wantedDb, gainDb - overDb) * 10) / 10);

/**
 * The pad put in, or taken out; with the gain that goes with it where the one that is planned would then be too much.
 */
const padFix = (
  doc: Template,
  { line, plan, name }: { readonly line: Line; readonly plan: GainPlan; readonly name: string },
): Fix => {
  const lessDb = line.pad ? -plan.padDb : plan.padDb;
  const overDb = plan.peakDb - lessDb - doc.levels.peakDb;
  const gainDb =
    line.gainDb !== null && plan.wantedDb !== null && overDb > 0.005
      ? gainUnder({ gainDb: line.gainDb, wantedDb: plan.wantedDb + lessDb, overDb })
      : null;
  const label = `${line.pad ? "Take" : "Put"} the pad of ${name} ${line.pad ? "out" : "in"}`;
  return {
    label: gainDb === null ? label : `${label}, with a gain of ${formatDb(gainDb)}`,
    edits: [
      {
        kind: "entries.set",
        table: "lines",
        ids: [line.id],
        set: { pad: !line.pad, ...(gainDb === null ? {} : { gainDb }) },
      },
    ],
  };
};

const misfit = (
  doc: Template,
  { line, plan }: { readonly line: Line; readonly plan: GainPlan },
): readonly Finding[] => {
  const name = line.source || nameOf(tracksByLine(doc).get(line.id)?.[0]);
  const place = [{ kind: "line", id: line.id, field: "gain" }] as const;
  if (plan.fit === "pad" || plan.fit === "too-hot" || plan.fit === "too-weak" || plan.fit === "clips") {
    const pad = plan.fit === "pad" ? [padFix(doc, { line, plan, name })] : [];
    return [
      finding("gain-misfits", {
        severity: plan.fit === "clips" ? "problem" : "hint",
        message:
          plan.range === null
            ? clipsInWords(name, plan)
            : `${name} comes at ${formatDb(dB(Math.round(plan.sourceDbu)))}u, and the preamp ${plan.fit === "pad" && line.pad ? "is too weak with its pad in" : MISFIT[plan.fit]}.`,
        places: place,
        fixes: pad,
      }),
    ];
  }
  if (plan.range === null || line.gainDb === null || plan.wantedDb === null || plan.peakDb <= doc.levels.peakDb + 0.005)
    return [];
  const gainDb = gainUnder({ gainDb: line.gainDb, wantedDb: plan.wantedDb, overDb: plan.peakDb - doc.levels.peakDb });
  return [
    finding("gain-misfits", {
      severity: "hint",
      message: `${name} at a gain of ${formatDb(line.gainDb)} would peak at ${formatDb(dB(Math.round(plan.peakDb * 10) / 10))}FS, above ${formatDb(doc.levels.peakDb)}: a preamp that clips stays clipped.`,
      places: place,
      fixes: [
        {
          label: `Set the gain to ${formatDb(gainDb)}`,
          edits: [{ kind: "entries.set", table: "lines", ids: [line.id], set: { gainDb } }],
        },
      ],
    }),
  ];
};

export const gainMisfits: Check = {
  id: "gain-misfits",
  why: "A preamp that clips, or that does not reach far enough, is found with the band waiting.",
  reads: [...GAINS],
  check: ({ doc, rig, studio = USUAL }) => {
    const plans = gainPlans(doc, rig, studio);
    return linesOf(doc).flatMap((line): readonly Finding[] => {
      const plan = plans.get(line.id);
      // Only where somebody said how loud it is, or what gain is planned: usual figures are there to begin with, and no
      // reason to complain.
      if (!plan || !(plan.typed || line.gainDb !== null)) return plan ? tooStrong({ doc, rig }, { line, plan }) : [];
      const misfits = misfit(doc, { line, plan });
      // One cause is told once: what the pad helps is told as that.
      return [...misfits, ...(misfits.length ? [] : tooStrong({ doc, rig }, { line, plan }))];
    });
  },
};

export const LEVEL_CHECKS: readonly Check[] = [diskTooSmall, beyondFullScale, gainMisfits];
