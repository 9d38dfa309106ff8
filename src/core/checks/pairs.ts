import { plain } from "../model/families";
import { linesOf, microphoneFacts, tracksByLine, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Track } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Edit } from "../planning/edits/edit";
import { drumOf, isBelow } from "../queries/drum-sides";
import { listed } from "../units/counted";
import { addsNo } from "./adds-no";
import { type Check, type Finding, finding } from "./finding";
import { phantomEndangers, phantomMissing } from "./phantom";
import { PLACES, TRACKS } from "./reads";
import { nameOf } from "./remarkable";

/** What a microphone is like: its kind and how sensitive it is. Two of one kind make a pair. */
const likeness = (rig: Rig, { microphone }: Line): string => {
  if (!microphone) return "";
  const item = microphone.kind === "shelf" ? rig.microphones[microphone.microphoneId] : undefined;
  return item
    ? `${item.kind} ${item.sensitivityMvPerPa ?? ""}`
    : (microphoneFacts(rig, microphone)?.kind ?? (microphone.kind === "named" ? plain(microphone.name) : ""));
};

/** Whether both sides get 48 V: where one needs it they do, where one would suffer they don't; else as the left. */
const phantomFor = (rig: Rig, left: Line, right: Line): boolean => {
  const attitudes = [left, right].map(({ microphone }) => microphoneFacts(rig, microphone)?.phantom);
  return attitudes.includes("endangered") ? false : attitudes.includes("needs") || left.phantom;
};

const differs = (rig: Rig, left: Line, right: Line): readonly (readonly [word: string, set: Partial<Line>])[] => [
  ...(likeness(rig, left) === likeness(rig, right)
    ? []
    : [["microphone", { microphone: left.microphone, phantom: left.phantom }] as const]),
  ...((left.gainDb ?? null) === (right.gainDb ?? null) ? [] : [["gain", { gainDb: left.gainDb }] as const]),
  ...(left.phantom === right.phantom ? [] : [["phantom", { phantom: phantomFor(rig, left, right) }] as const]),
  ...(left.pad === right.pad ? [] : [["pad", { pad: left.pad }] as const]),
];

/** Stereo tracks whose two sides are not alike at the preamp. */
export const pairUnlike: Check = {
  id: "pair-unlike",
  why: "Two sides of a pair with another gain, phantom, pad or microphone stand off centre, or one of them is silent.",
  reads: [...PLACES, "channels.parked", "cues.order", "cues.portIds", "lines.gainDb", "lines.pad", "lines.source"],
  check: (context) =>
    tracksOf(context.doc).flatMap((track): readonly Finding[] => {
      const { doc, rig } = context;
      const { input } = track;
      if (input.kind !== "pair" || track.parked) return [];
      const [left, right] = [doc.lines[input.leftId], doc.lines[input.rightId]];
      if (!left || !right) return [];
      const unlike = differs(rig, left, right);
      if (!unlike.length) return [];
      // Which microphone is meant nobody can tell; what is set at the preamp is taken from the left.
      const settings = unlike.filter(([word]) => word !== "microphone");
      const set = Object.assign({}, ...settings.map(([, one]) => one));
      const edit: Edit = { kind: "entries.set", table: "lines", ids: [left.id, right.id], set };
      const sound =
        settings.length > 0 &&
        settings.length === unlike.length &&
        addsNo(context, [edit], [phantomEndangers, phantomMissing]);
      return [
        finding("pair-unlike", {
          about: track.id,
          severity: "hint",
          message: `The two sides of ${nameOf(track)} have not the same ${listed(unlike.map(([word]) => word))}.`,
          places: [{ kind: "line", id: right.id, field: "gain" }],
          fixes: sound
            ? [{ label: `Give both sides the same ${listed(settings.map(([word]) => word))}`, edits: [edit] }]
            : [],
        }),
      ];
    }),
};

interface Drum {
  readonly track: Track;
  readonly line: Line;
  readonly name: string;
}

const turned = ({ line, track }: Drum): boolean => line.polarityInverted !== track.polarityTurned;

/**
 * A microphone below a drum that is as its fellow above it: the skin goes away from one while it comes to the other.
 */
export const bottomPolarity: Check = {
  id: "bottom-polarity",
  why: "The skin of a drum moves away from the microphone above while it comes to the one below: with one polarity both cancel.",
  withoutRig: true,
  reads: [...TRACKS, "channels.name", "channels.parked", "lines.source"],
  check: ({ doc }) => {
    const drums = linesOf(doc).flatMap((line): readonly Drum[] =>
      (tracksByLine(doc).get(line.id) ?? [])
        .slice(0, 1)
        .flatMap((track) =>
          track.parked || track.input.kind === "pair" ? [] : [{ track, line, name: track.name || line.source }],
        ),
    );
    // Nearly no template has any: then nothing has to be found above.
    if (!drums.some(({ name }) => isBelow(name))) return [];
    const above = new Map(drums.filter(({ name }) => !isBelow(name)).map((drum) => [drumOf(drum.name), drum] as const));
    return drums.flatMap((drum): readonly Finding[] => {
      const other = isBelow(drum.name) && drumOf(drum.name) ? above.get(drumOf(drum.name)) : undefined;
      if (!other || turned(other) !== turned(drum)) return [];
      return [
        finding("bottom-polarity", {
          severity: "hint",
          message: `${nameOf(drum.track)} has the same polarity as ${nameOf(other.track)}: what one skin does cancels in the two.`,
          places: [{ kind: "line", id: drum.line.id, field: "microphone" }],
          fixes: [
            {
              label: `Turn over the polarity of ${nameOf(drum.track)}`,
              edits: [
                {
                  kind: "entries.set",
                  table: "lines",
                  ids: [drum.line.id],
                  set: { polarityInverted: !drum.line.polarityInverted },
                },
              ] as readonly Edit[],
            },
          ],
        }),
      ];
    });
  },
};

/** 48 V on something that gives line level. */
export const phantomOnLine: Check = {
  id: "phantom-on-line",
  why: "48 V into the output of a keyboard, a mixer or a player can ruin it.",
  reads: [...TRACKS, "lines.microphone", "lines.phantom"],
  check: ({ doc, rig }) =>
    linesOf(doc).flatMap((line): readonly Finding[] => {
      if (!line.phantom || microphoneFacts(rig, line.microphone)?.kind !== "line-source") return [];
      const [track] = tracksByLine(doc).get(line.id) ?? [];
      const who = track ? nameOf(track) : line.source;
      return [
        finding("phantom-on-line", {
          severity: "problem",
          message: `${who} is a line source, and its phantom is on: 48 V can ruin its output.`,
          places: [{ kind: "line", id: line.id, field: "phantom" }],
          fixes: [
            {
              label: `Switch phantom off for ${who}`,
              edits: [{ kind: "entries.set", table: "lines", ids: [line.id], set: { phantom: false } }],
            },
          ],
        }),
      ];
    }),
};

export const PAIR_CHECKS: readonly Check[] = [pairUnlike, bottomPolarity, phantomOnLine];
