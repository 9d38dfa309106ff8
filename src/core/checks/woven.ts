import type { ChannelId } from "../model/ids";
import { tracksByLine, tracksOf } from "../model/read-template";
import { entriesOf, listOf, putInto } from "../model/table";
import { MAIN_ID } from "../model/tables/channel-fields";
import type { Channel, Track } from "../model/tables/channels";
import { processorsOf } from "../queries/chains";
import { graphOf } from "../routing/graph";
import { upFrom } from "../routing/reach";
import { dB, formatDb } from "../units/decibels";
import { type Check, type Finding, finding } from "./finding";
import { ROUTING, TRACKS } from "./reads";

import { inUse, nameOf } from "./remarkable";

/** Tracks that record one line at the same time and are heard in one sum. */
export const heardTwice: Check = {
  id: "heard-twice",
  why: "One source that reaches a sum twice is louder than it was meant, and hollow where one of the ways is late.",
  withoutRig: true,
  reads: [...ROUTING, ...TRACKS, "channels.muted", "channels.sharing"],
  check: ({ doc }) => {
    const found: Finding[] = [];
    const seen = new Set<string>();
    // By outputs and by what is recorded, in one pass for all of them.
    const heardDry = upFrom(graphOf(doc), MAIN_ID, ({ kind }) => kind !== "send").channels;
    for (const [lineId, tracks] of tracksByLine(doc)) {
      if (tracks.length < 2) continue;
      const heard = tracks.filter(
        (track) => inUse(track) && !track.muted && track.sharing === "at-once" && heardDry.has(track.id),
      );
      const key = heard.map(({ id }) => id).join(" ");
      if (heard.length < 2 || seen.has(key)) continue;
      seen.add(key);
      const [first, ...others] = heard as [Track, ...Track[]];
      found.push(
        finding("heard-twice", {
          about: `${first.id}:${lineId}`,
          severity: "hint",
          message: `${heard.map(nameOf).join(" and ")} record the same line at once, and ${heard.length === 2 ? "both" : "all"} are heard in ${nameOf(doc.channels[MAIN_ID])}.`,
          places: heard.slice(0, 12).map(({ id }) => ({ kind: "channel", id, field: "output" })),
          fixes: [
            {
              label: `Let only ${nameOf(first)} be heard`,
              edits: [
                {
                  kind: "entries.set",
                  table: "channels",
                  ids: others.map(({ id }) => id),
                  set: { output: { kind: "nowhere" } },
                },
              ],
            },
          ],
        }),
      );
    }
    return found;
  },
};

/** Stereo tracks of which the two lines differ in polarity. */
export const polarityDiffers: Check = {
  id: "polarity-differs",
  why: "Two halves of a pair with opposite polarity cancel one another in the centre.",
  withoutRig: true,
  reads: [...TRACKS, "channels.parked", "lines.polarityInverted"],
  check: ({ doc }) =>
    tracksOf(doc).flatMap((track): readonly Finding[] => {
      const { input } = track;
      if (input.kind !== "pair" || track.parked) return [];
      const [left, right] = [doc.lines[input.leftId], doc.lines[input.rightId]];
      if (!left || !right || left.polarityInverted === right.polarityInverted) return [];
      return [
        finding("polarity-differs", {
          severity: "hint",
          message: `One side of ${nameOf(track)} is inverted and the other is not: what is in the centre cancels.`,
          places: [{ kind: "channel", id: track.id, field: "name" }],
          fixes: [
            {
              label: "Turn the other side back",
              edits: [
                { kind: "entries.set", table: "lines", ids: [left.id, right.id], set: { polarityInverted: false } },
              ],
            },
          ],
        }),
      ];
    }),
};

/** Buses that are recorded on more than one track. */
export const busRecordedTwice: Check = {
  id: "bus-recorded-twice",
  why: "Two tracks that record one bus hold the same sound twice.",
  withoutRig: true,
  reads: [...TRACKS, "channels.parked"],
  check: ({ doc }) => {
    const takers = new Map<ChannelId, Track[]>();
    for (const track of tracksOf(doc)) {
      const bus = track.input.kind === "bus" ? track.input.busId : null;
      if (bus && !track.parked) putInto(takers, bus, track);
    }
    return [...takers].flatMap(([busId, tracks]): readonly Finding[] => {
      const [first, ...others] = tracks;
      return first && others.length
        ? [
            finding("bus-recorded-twice", {
              severity: "hint",
              about: busId,
              message: `${nameOf(doc.channels[busId])} is recorded on ${tracks.map(nameOf).join(" and ")}: the same sound ${tracks.length === 2 ? "twice" : `${tracks.length} times`}.`,
              places: tracks.slice(0, 12).map(({ id }) => ({ kind: "channel", id, field: "name" })),
              fixes: [
                {
                  label: `Record it on ${nameOf(first)} only`,
                  edits: others.map(({ id }) => ({
                    kind: "tracks.take",
                    trackId: id,
                    input: { kind: "none" },
                    lines: [],
                  })),
                },
              ],
            }),
          ]
        : [];
    });
  },
};

/** From so many channels at full level on, headroom is certainly gone. */
const MANY = 16;

/** Buses into which many channels go at full level while nothing is turned down. */
export const headroomGone: Check = {
  id: "headroom-gone",
  why: "Many channels at full level into one bus leave no headroom, however they are played.",
  withoutRig: true,
  reads: [
    "channels.faderDb",
    "channels.kind",
    "channels.muted",
    "channels.output",
    "channels.parked",
    "channels.trimDb",
    "processors.id",
  ],
  check: ({ doc }) => {
    const full = new Map<ChannelId, number>();
    for (const channel of listOf<Channel>(doc.channels)) {
      const { output, faderDb, trimDb } = channel;
      if (
        output.kind !== "channel" ||
        faderDb === null ||
        faderDb < 0 ||
        trimDb < 0 ||
        !inUse(channel) ||
        (channel.kind !== "main" && channel.muted)
      )
        continue;
      full.set(output.channelId, (full.get(output.channelId) ?? 0) + 1);
    }
    return [...full].flatMap(([sumId, count]): readonly Finding[] => {
      const sum = doc.channels[sumId];
      if (count < MANY || !inUse(sum) || sum.trimDb < 0) return [];
      const turned = processorsOf(doc, sum.id)[0];
      if (turned?.kind === "gain" && turned.gainDb < 0) return [];
      // Sounds that are not alike add up in power.
      const byDb = dB(-Math.ceil(10 * Math.log10(count)));
      return [
        finding("headroom-gone", {
          severity: "hint",
          message: `${count} channels go into ${nameOf(sum)} at 0 dB or more, and nothing is turned down: they add up to ${formatDb(dB(-byDb))} above one of them.`,
          places: [{ kind: "channel", id: sum.id, field: "fader" }],
          fixes: [
            {
              label: `Trim ${nameOf(sum)} by ${formatDb(byDb)}`,
              edits: [{ kind: "entries.set", table: "channels", ids: [sum.id], set: { trimDb: byDb } }],
            },
          ],
        }),
      ];
    });
  },
};

/** Instruments that are played from nowhere, or from a port that the rig does not have. */
export const nobodyPlays: Check = {
  id: "nobody-plays",
  why: "An instrument that nobody plays is silent: its controller is on another port.",
  reads: ["channels.kind", "channels.midiPortId", "channels.parked"],
  check: ({ doc, rig }) =>
    listOf<Channel>(doc.channels).flatMap((channel): readonly Finding[] => {
      if (channel.kind !== "instrument" || channel.parked) return [];
      const port = channel.midiPortId === null ? undefined : rig.midiPorts[channel.midiPortId as never];
      if (port) return [];
      const known = entriesOf(rig.midiPorts).filter(({ direction }) => direction === "in");
      return [
        finding("nobody-plays", {
          severity: "hint",
          message:
            channel.midiPortId === null
              ? `Nobody plays ${nameOf(channel)}: it is on no MIDI port.`
              : `Nobody plays ${nameOf(channel)}: the MIDI port it is on is not on ${rig.name}.`,
          places: [{ kind: "channel", id: channel.id, field: "name" }],
          fixes: known.slice(0, 3).map(({ id, name, number }) => ({
            label: `Play it from ${name || `MIDI in ${number}`}`,
            edits: [{ kind: "entries.set", table: "channels", ids: [channel.id], set: { midiPortId: id } }],
          })),
        }),
      ];
    }),
};

export const WOVEN_CHECKS: readonly Check[] = [
  heardTwice,
  polarityDiffers,
  busRecordedTwice,
  headroomGone,
  nobodyPlays,
];
