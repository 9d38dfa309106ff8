import type { ChannelId, SendId } from "../model/ids";
import { tracksOf } from "../model/read-template";
import { listOf } from "../model/table";
import { MAIN_ID } from "../model/tables/channel-fields";
import type { Channel, Track } from "../model/tables/channels";
import { armedOf, cuesOf, levelsOfCue } from "../queries/cues";
import { sendsOf } from "../queries/sends";
import { graphOf, recordedFrom } from "../routing/graph";
import { downFrom, upFrom } from "../routing/reach";
import { buffersOffered, ratesOffered } from "../timing/hardware";
import { costsOf, loadAt, smallestHolding } from "../timing/load";
import { counted, listed } from "../units/counted";
import { formatRate } from "../units/hertz";
import { type Check, type Finding, finding } from "./finding";
import { ARMED, ROUTING, SENT, TRACKS } from "./reads";
import { inUse, nameOf } from "./remarkable";

export const sendAfterSilentFader: Check = {
  id: "send-after-silent-fader",
  why: "A send after a fader that is down while recording feeds no effect: the reverb is gone from the headphones.",
  withoutRig: true,
  reads: [
    ...ARMED,
    ...SENT,
    "channels.controlIds",
    "channels.faderDb",
    "channels.liveApart",
    "channels.liveDb",
    "channels.monitor",
    "channels.muted",
    "controls.faderDb",
    "controls.muted",
    "controls.parentId",
  ],
  check: ({ doc }) => {
    const armed = armedOf(doc);
    const silent = tracksOf(doc).flatMap((track) => {
      // A track that is muted is meant to be silent; one whose fader is down while it records is meant to be heard
      // otherwise.
      const down = track.monitor === "direct" || (track.liveApart && track.liveDb === null) || track.faderDb === null;
      if (!down || track.muted || track.parked || !armed.has(track.id)) return [];
      return sendsOf(doc, track.id).flatMap((send) =>
        send.tap === "after" && send.on && send.levelDb !== null && doc.channels[send.toId]?.kind === "return"
          ? [{ send, track }]
          : [],
      );
    });
    const byReturn = new Map<ChannelId, { readonly sends: SendId[]; readonly tracks: Track[] }>();
    for (const { send, track } of silent) {
      const there = byReturn.get(send.toId) ?? { sends: [], tracks: [] };
      there.sends.push(send.id);
      there.tracks.push(track);
      byReturn.set(send.toId, there);
    }
    return [...byReturn].map(([id, { sends, tracks }]): Finding => {
      const who = tracks.length > 3 ? counted(tracks.length, "track") : listed(tracks.map(nameOf));
      return finding("send-after-silent-fader", {
        severity: "hint",
        about: id,
        message: `${who} ${tracks.length === 1 ? "is" : "are"} sent to ${nameOf(doc.channels[id])} after a fader that is silent while recording: nothing comes of it then.`,
        places: tracks.slice(0, 20).map((track) => ({ kind: "channel", id: track.id, field: "sends" })),
        fixes: [
          {
            label: `Send ${who} before the fader`,
            edits: [{ kind: "entries.set", table: "sends", ids: sends, set: { tap: "before" } }],
          },
        ],
      });
    });
  },
};

export const effectRecorded: Check = {
  id: "effect-recorded",
  why: "An effect that is only meant to be heard can't be taken off a recording again.",
  withoutRig: true,
  reads: [...ROUTING, ...TRACKS, "cueLevels.cueId", "cueLevels.on", "cueLevels.sourceId", "cues.order"],
  check: ({ doc }) => {
    if (!cuesOf(doc).length) return [];
    const graph = graphOf(doc);
    const inCues = new Set<ChannelId>(
      cuesOf(doc).flatMap(({ id }) =>
        levelsOfCue(doc, id).flatMap(({ sourceId, on }) =>
          on && doc.channels[sourceId]?.kind === "return" ? [sourceId] : [],
        ),
      ),
    );
    return tracksOf(doc).flatMap((track): readonly Finding[] => {
      const busId = recordedFrom(track);
      const bus = busId ? doc.channels[busId] : undefined;
      if (!busId || !bus || bus.kind === "instrument" || track.parked) return [];
      const wet =
        bus.kind === "return"
          ? []
          : [...upFrom(graph, busId).channels].filter((id) => inCues.has(id) && inUse(doc.channels[id]));
      if (!wet.length) return [];
      return [
        finding("effect-recorded", {
          severity: "hint",
          message: `${nameOf(track)} records ${nameOf(bus)}, into which ${listed(wet.slice(0, 3).map((id) => nameOf(doc.channels[id])))} ${wet.length === 1 ? "is" : "are"} routed: what is in the headphones as an effect is recorded as well.`,
          places: [{ kind: "channel", id: track.id, field: "chain" }],
          fixes: [
            {
              label: `Route ${wet.length === 1 ? nameOf(doc.channels[wet[0] as ChannelId]) : counted(wet.length, "return")} to ${nameOf(doc.channels[MAIN_ID])}`,
              edits: [
                {
                  kind: "entries.set",
                  table: "channels",
                  ids: wet,
                  set: { output: { kind: "channel", channelId: MAIN_ID } },
                },
              ],
            },
          ],
        }),
      ];
    });
  },
};

export const besideRecorded: Check = {
  id: "beside-recorded",
  why: "A click or the talkback on a recording can't be taken off it again.",
  withoutRig: true,
  reads: [...ROUTING, ...TRACKS],
  check: ({ doc }) => {
    const beside = listOf<Channel>(doc.channels).filter(({ kind }) => kind === "click" || kind === "talkback");
    if (!beside.length) return [];
    const graph = graphOf(doc);
    return beside.filter(inUse).flatMap((channel): readonly Finding[] => {
      const reached = downFrom(graph, channel.id).channels;
      const recorded = tracksOf(doc).filter(
        (track) => !track.parked && recordedFrom(track) !== null && reached.has(recordedFrom(track) as ChannelId),
      );
      const inMain = reached.has(MAIN_ID) && channel.id !== MAIN_ID;
      if (!recorded.length && !inMain) return [];
      const sends = sendsOf(doc, channel.id).map(({ id }) => id);
      return [
        finding("beside-recorded", {
          severity: recorded.length ? "problem" : "hint",
          message: recorded.length
            ? `${nameOf(channel)} comes into what ${listed(recorded.slice(0, 3).map(nameOf))} ${recorded.length === 1 ? "records" : "record"}.`
            : `${nameOf(channel)} comes into ${nameOf(doc.channels[MAIN_ID])}: it is in the mix, and not only in the headphones.`,
          places: [{ kind: "channel", id: channel.id, field: "output" }],
          fixes: [
            {
              label: `Leave ${nameOf(channel)} in the cues only`,
              edits: [
                { kind: "entries.set", table: "channels", ids: [channel.id], set: { output: { kind: "nowhere" } } },
                ...(sends.length ? [{ kind: "entries.remove", table: "sends", ids: sends } as const] : []),
              ],
            },
          ],
        }),
      ];
    });
  },
};

export const bufferTooSmall: Check = {
  id: "buffer-too-small",
  why: "A buffer that the computer can't keep up with crackles in the take.",
  reads: [
    "buffers",
    "channels.kind",
    "channels.parked",
    "format",
    "passes.order",
    "passes.parkedIds",
    "passes.running",
    "processors.bypassed",
    "processors.channelId",
    "processors.costNs",
    "processors.kind",
    "processors.use",
  ],
  check: ({ doc, rig }) => {
    const offered = buffersOffered(rig);
    const { recordingSamples, ceilingPercent } = doc.buffers;
    const rateHz = doc.format.sampleRateHz;
    const place = [{ kind: "template", id: doc.id, field: "buffer" }] as const;
    const costs = costsOf(doc, { recording: true });
    const holds = smallestHolding(costs, offered, { rateHz, ceiling: ceilingPercent / 100 });
    if (offered.length && !offered.includes(recordingSamples)) {
      const nearest = [...offered].sort(
        (a, b) => Math.abs(a - recordingSamples) - Math.abs(b - recordingSamples),
      )[0] as number;
      // One that the computer can't hold would only be told in turn.
      const instead = loadAt(costs, nearest, rateHz) < ceilingPercent / 100 ? nearest : holds;
      return [
        finding("buffer-too-small", {
          severity: "hint",
          message: `It is to be recorded with a buffer of ${recordingSamples} samples, and this rig offers ${listed(offered.map(String))}.`,
          places: place,
          fixes: instead
            ? [
                {
                  label: `Record with a buffer of ${instead}`,
                  edits: [{ kind: "settings.set", set: { buffers: { recordingSamples: instead } } }],
                },
              ]
            : [],
        }),
      ];
    }
    const load = loadAt(costs, recordingSamples, rateHz);
    if (!offered.length || load < ceilingPercent / 100) return [];
    return [
      finding("buffer-too-small", {
        severity: "problem",
        message: `At a buffer of ${recordingSamples} the computer uses ${Math.round(load * 100)} % of its time by ${costs.measured ? "what was measured and estimated" : "estimate"}, and ${ceilingPercent} % is the ceiling${holds ? "" : "; no buffer of this rig holds"}.`,
        places: place,
        fixes: holds
          ? [
              {
                label: `Record with a buffer of ${holds}`,
                edits: [{ kind: "settings.set", set: { buffers: { recordingSamples: holds } } }],
              },
            ]
          : [],
      }),
    ];
  },
};

export const rateNotOffered: Check = {
  id: "rate-not-offered",
  why: "A rate that the interface does not have can't be recorded at.",
  reads: ["format"],
  check: ({ doc, rig }) => {
    const offered = ratesOffered(rig);
    if (offered.includes(doc.format.sampleRateHz)) return [];
    const nearest = [...offered].sort(
      (a, b) => Math.abs(a - doc.format.sampleRateHz) - Math.abs(b - doc.format.sampleRateHz),
    )[0];
    return [
      finding("rate-not-offered", {
        severity: "problem",
        message: `It is to be recorded at ${formatRate(doc.format.sampleRateHz)}, and ${rig.name} works at ${listed(offered.map(formatRate))}.`,
        places: [{ kind: "template", id: doc.id, field: "format" }],
        fixes: nearest
          ? [
              {
                label: `Record at ${formatRate(nearest)}`,
                edits: [{ kind: "settings.set", set: { format: { sampleRateHz: nearest } } }],
              },
            ]
          : [],
      }),
    ];
  },
};

export const RECORDING_CHECKS: readonly Check[] = [
  sendAfterSilentFader,
  effectRecorded,
  besideRecorded,
  bufferTooSmall,
  rateNotOffered,
];
