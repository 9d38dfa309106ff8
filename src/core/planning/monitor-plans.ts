import type { ChannelId, CueId, CueLevelId, IdSource } from "../model/ids";
import { linesOfTrack } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Monitor } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Send } from "../model/tables/sends";
import type { Template } from "../model/template";
import { cuesOf, levelIn, ownTracksOf } from "../queries/cues";
import { sendsOf } from "../queries/sends";
import { directWay } from "../timing/hardware";
import { counted } from "../units/counted";
import { dB } from "../units/decibels";
import { countChannels } from "./edits/channel-edits";
import type { Edit } from "./edits/edit";
import { type Planned, planned, unplanned } from "./gesture";

const tracksAmong = (doc: Template, ids: readonly ChannelId[]): readonly Track[] =>
  ids.flatMap((id) => (doc.channels[id]?.kind === "track" ? [doc.channels[id] as Track] : []));

/**
 * Whether a track's input can be heard past the computer: the interface's own mixer takes every input of it. A track
 * without a line has nothing to be heard.
 */
export const canBeDirect = (doc: Template, rig: Rig, track: Track): boolean => {
  const lines = linesOfTrack(doc, track);
  return (
    lines.length > 0 && lines.every(({ portId }) => directWay(rig, portId, null, doc.format.sampleRateHz) !== null)
  );
};

/** Monitors tracks so; direct only where the interface can. What can't be is left as it is and told. */
export const monitorTracks = (
  doc: Template,
  rig: Rig,
  { trackIds, monitor }: { readonly trackIds: readonly ChannelId[]; readonly monitor: Monitor },
): Planned => {
  const tracks = tracksAmong(doc, trackIds);
  if (!tracks.length) return unplanned("Select one or more tracks: only what records is monitored.");
  const can = monitor === "direct" ? tracks.filter((track) => canBeDirect(doc, rig, track)) : tracks;
  if (!can.length)
    return unplanned(
      `${countChannels(doc, trackIds)} can't be monitored direct: the interface's own mixer does not take ${tracks.length === 1 ? "its input" : "their inputs"}.`,
    );
  return planned([{ kind: "entries.set", table: "channels", ids: can.map(({ id }) => id), set: { monitor } }]);
};

/** What of tracks can't be heard direct. */
export const notDirect = (doc: Template, rig: Rig, trackIds: readonly ChannelId[]): readonly Track[] =>
  tracksAmong(doc, trackIds).filter((track) => !canBeDirect(doc, rig, track));

const toReturns = (doc: Template, tracks: readonly Track[]): readonly Send[] =>
  tracks.flatMap(({ id }) => sendsOf(doc, id).filter(({ toId, on }) => on && doc.channels[toId]?.kind === "return"));

/** How loud a return comes into a cue that did not have it. */
const RETURN_DB = dB(-12);

interface InCue {
  readonly id: CueLevelId;
  readonly cueId: CueId;
  readonly sourceId: ChannelId;
}

/**
 * What those who hear themselves on these tracks need in their cues and do not have: the track itself, and the returns
 * that it is sent to.
 */
const missingInCues = (
  doc: Template,
  {
    tracks,
    returns,
    ids,
  }: { readonly tracks: readonly Track[]; readonly returns: readonly ChannelId[]; readonly ids: IdSource },
) => {
  const own = new Set<string>(tracks.map(({ id }) => id));
  const heard = (cueId: CueId, sourceId: ChannelId): boolean => {
    const level = levelIn(doc, { cueId, sourceId });
    return level?.on === true && level.levelDb !== null;
  };
  return cuesOf(doc).flatMap((cue) => {
    const mine = ownTracksOf(doc, cue).filter((id) => own.has(id));
    if (!mine.length || cue.hearing === "far") return [];
    const cell = (sourceId: ChannelId): InCue => ({ id: ids<CueLevelId>("level"), cueId: cue.id, sourceId });
    return [
      ...mine
        .filter((id) => !heard(cue.id, id))
        .map((id) => ({ ...cell(id), levelDb: dB(0), on: true, tap: "before" as const })),
      ...returns
        .filter((id) => !heard(cue.id, id))
        .map((id) => ({ ...cell(id), levelDb: RETURN_DB, on: true, tap: "after" as const })),
    ];
  });
};

/**
 * Direct with effects from the computer, for many tracks in one act: monitored direct, silent after the fader while
 * recording, sends to returns before the fader so that the effect is still fed, and in the cue of who plays it the
 * direct sound and the returns. Tracks that the interface can't bring there are left out and named.
 */
export const directWithEffects = (
  doc: Template,
  rig: Rig,
  { trackIds, ids }: { readonly trackIds: readonly ChannelId[]; readonly ids: IdSource },
): Planned => {
  const tracks = tracksAmong(doc, trackIds).filter((track) => canBeDirect(doc, rig, track));
  if (!tracks.length) return monitorTracks(doc, rig, { trackIds, monitor: "direct" });
  const channelIds = tracks.map(({ id }) => id);
  const sends = toReturns(doc, tracks);
  const levels = missingInCues(doc, { tracks, returns: [...new Set(sends.map(({ toId }) => toId))], ids });
  const moved = sends.filter(({ tap }) => tap === "after").map(({ id }) => id);
  const edits: Edit[] = [
    {
      kind: "entries.set",
      table: "channels",
      ids: channelIds,
      set: { monitor: "direct", liveApart: true, liveDb: null },
    },
    ...(moved.length ? [{ kind: "entries.set", table: "sends", ids: moved, set: { tap: "before" } } as const] : []),
    ...(levels.length ? [{ kind: "cueLevels.put", levels } as const] : []),
  ];
  return planned(edits, `Monitor ${countChannels(doc, channelIds)} direct, with effects from the computer`);
};

/**
 * Back through the computer in one act: the fader as played back, and sends to returns where new sends of the template
 * leave.
 */
export const backToComputer = (doc: Template, { trackIds }: { readonly trackIds: readonly ChannelId[] }): Planned => {
  const tracks = tracksAmong(doc, trackIds);
  if (!tracks.length) return unplanned("Select one or more tracks: only what records is monitored.");
  const channelIds = tracks.map(({ id }) => id);
  const sends = toReturns(doc, tracks).filter(({ tap }) => tap !== doc.mix.sendTap);
  return planned(
    [
      {
        kind: "entries.set",
        table: "channels",
        ids: channelIds,
        set: { monitor: "computer", liveApart: false, liveDb: dB(0) },
      },
      ...(sends.length
        ? [
            {
              kind: "entries.set",
              table: "sends",
              ids: sends.map(({ id }) => id),
              set: { tap: doc.mix.sendTap },
            } as const,
          ]
        : []),
    ],
    `Monitor ${countChannels(doc, channelIds)} through the computer`,
  );
};

/** What monitoring tracks direct with effects reaches beyond them, in words; empty where it reaches nothing else. */
export const directReaches = (doc: Template, rig: Rig, trackIds: readonly ChannelId[]): string => {
  const tracks = tracksAmong(doc, trackIds).filter((track) => canBeDirect(doc, rig, track));
  const sends = toReturns(doc, tracks).filter(({ tap }) => tap === "after").length;
  const left = notDirect(doc, rig, trackIds);
  return [
    ...(sends ? [`${counted(sends, "send")} to returns ${sends === 1 ? "goes" : "go"} before the fader`] : []),
    ...(left.length
      ? [
          `${countChannels(
            doc,
            left.map(({ id }) => id),
          )} can't be heard direct and ${left.length === 1 ? "stays" : "stay"} as ${left.length === 1 ? "it is" : "they are"}`,
        ]
      : []),
  ].join("; ");
};
