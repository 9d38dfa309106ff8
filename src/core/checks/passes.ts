import { fileChannels, longestTakeS, passStorage } from "../levels/storage";
import type { ChannelId } from "../model/ids";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Pass } from "../model/tables/passes";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { passesOf } from "../queries/cues";
import { recordable } from "../queries/track-order";
import { formatHours } from "../units/bytes";
import { counted, listed } from "../units/counted";
import { addsNo } from "./adds-no";
import { type Check, type Finding, finding } from "./finding";
import { microphoneOverused } from "./microphone-overused";
import { ARMED, PLACES } from "./reads";
import { nameOf } from "./remarkable";
import { sharedPort } from "./shared-port";

const tracksIn = (doc: Template, { trackIds }: Pass): readonly Track[] =>
  trackIds.flatMap((id) => (doc.channels[id]?.kind === "track" ? [doc.channels[id] as Track] : []));

/** Tracks that record something and that no pass arms. */
export const trackInNoPass: Check = {
  id: "track-in-no-pass",
  why: "Where the evening is planned in passes, a track that none of them arms is not recorded.",
  withoutRig: true,
  reads: [
    ...PLACES,
    ...ARMED,
    "channels.name",
    "channels.folderId",
    "folders.name",
    "folders.order",
    "folders.parentId",
    "lines.source",
    "lines.player",
    "cues.portIds",
    "channels.order",
    "channels.recordPoint",
    "format",
    "disk",
    "passes.takeMinutes",
    "passes.takes",
  ],
  check: (context) => {
    const { doc } = context;
    const passes = passesOf(doc);
    const armed = new Set(passes.flatMap(({ trackIds }) => trackIds));
    // What was recorded before, and is only played in, stands beside.
    const left = passes.length
      ? recordable(doc).filter(({ id, input }) => !armed.has(id) && input.kind !== "bus" && input.kind !== "instrument")
      : [];
    const played = left.filter((track) => !isPlayedIn(doc, track));
    const last = passes.at(-1);
    if (!played.length || !last) return [];
    const who = played.length > 3 ? counted(played.length, "track") : listed(played.map(nameOf));
    const arm: Edit = {
      kind: "entries.set",
      table: "passes",
      ids: [last.id],
      set: { trackIds: [...last.trackIds, ...played.map(({ id }) => id)] },
    };
    const suits =
      played.every((track) => !takesByTurns(doc, last, track)) &&
      addsNo(context, [arm], [sharedPort, microphoneOverused, takeTooLong]);
    return [
      finding("track-in-no-pass", {
        severity: "hint",
        about: doc.id,
        message: `${who} ${played.length === 1 ? "is" : "are"} in no pass: nothing of ${played.length === 1 ? "it" : "them"} is recorded.`,
        places: played.slice(0, 20).map(({ id }) => ({ kind: "track", id, field: "input" })),
        fixes: suits ? [{ label: `Arm ${played.length === 1 ? who : "them"} in ${last.name}`, edits: [arm] }] : [],
      }),
    ];
  },
};

/** Words of what is there already and is played to those who record. */
const PLAYED_IN = /\b(backing|playback|play back|guide|reference|click|zuspieler|halbplayback|bande)\b/i;
const isPlayedIn = (doc: Template, track: Track): boolean => {
  const folder = track.folderId ? doc.folders[track.folderId] : undefined;
  return PLAYED_IN.test(track.name) || PLAYED_IN.test(folder?.name ?? "");
};

const takesByTurns = (doc: Template, pass: Pass, track: Track): boolean => {
  const lines = new Set<string>(
    tracksIn(doc, pass).flatMap(({ input, sharing }) => (sharing === "at-once" ? [] : inputLineIds(input))),
  );
  return track.sharing !== "at-once" && inputLineIds(track.input).some((line) => lines.has(line));
};

/** Tracks that take one line by turns, armed in one pass. */
export const turnsTogether: Check = {
  id: "turns-together",
  why: "Tracks that take one line by turns are not recorded together: both would hold the same.",
  withoutRig: true,
  reads: ["channels.input", "channels.kind", "channels.sharing", "passes.order", "passes.trackIds"],
  check: ({ doc }) =>
    passesOf(doc).flatMap((pass): readonly Finding[] => {
      const first = new Map<string, Track>();
      const second = new Map<ChannelId, Track>();
      for (const track of tracksIn(doc, pass)) {
        if (track.sharing !== "by-turns") continue;
        for (const line of inputLineIds(track.input)) {
          const other = first.get(line);
          if (other) second.set(track.id, other);
          else first.set(line, track);
        }
      }
      if (!second.size) return [];
      const [[one, other] = []] = second;
      const rest = [...second.keys()];
      const kept = pass.trackIds.filter((id) => !second.has(id));
      return [
        finding("turns-together", {
          severity: "problem",
          about: pass.id,
          message: `${pass.name} arms ${nameOf(other)} and ${rest.length > 1 ? counted(rest.length, "other track") : nameOf(doc.channels[one as ChannelId])} together, which take one line by turns.`,
          places: [{ kind: "pass", id: pass.id, field: "tracks" }],
          fixes: [
            {
              label: `Arm only ${nameOf(other)} of them in ${pass.name}`,
              edits: [{ kind: "entries.set", table: "passes", ids: [pass.id], set: { trackIds: kept } }],
            },
          ],
        }),
      ];
    }),
};

/** Passes of which one take is longer than its file can be, or than what is free on the disk. */
export const takeTooLong: Check = {
  id: "take-too-long",
  why: "A take that its file or the disk can't hold ends before the music does.",
  withoutRig: true,
  reads: [
    "channels.input",
    "channels.kind",
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
  check: ({ doc }) =>
    passesOf(doc).flatMap((pass): readonly Finding[] => {
      const takeS = pass.takeMinutes * 60;
      const tracks = tracksIn(doc, pass).filter(({ input, parked }) => input.kind !== "none" && !parked);
      const ends = tracks
        .map((track) => ({ track, endS: longestTakeS(fileChannels(doc, track), doc.format) }))
        .filter(({ endS }) => endS !== null && endS < takeS);
      const [soonest] = [...ends].sort((a, b) => (a.endS ?? 0) - (b.endS ?? 0));
      const oneTake = passStorage(doc, pass).bytesPerSecond * takeS;
      const free = doc.disk.freeGb === null ? null : doc.disk.freeGb * 1e9;
      const place = [{ kind: "pass", id: pass.id, field: "takes" }] as const;
      return [
        ...(soonest?.endS != null
          ? [
              finding("take-too-long", {
                severity: "problem" as const,
                about: `${pass.id}:file`,
                message: `A take of ${pass.name} is ${formatHours(takeS)} long, and a plain WAV of ${nameOf(soonest.track)} ends after ${formatHours(soonest.endS)}.`,
                places: place,
                fixes: [
                  {
                    label: "Write takes as RF64",
                    edits: [{ kind: "settings.set" as const, set: { format: { fileType: "rf64" as const } } }],
                  },
                ],
              }),
            ]
          : []),
        ...(free !== null && oneTake > free
          ? [
              finding("take-too-long", {
                severity: "problem" as const,
                about: `${pass.id}:disk`,
                message: `One take of ${pass.name} fills ${Math.round(oneTake / 1e8) / 10} GB, and ${Math.round(free / 1e8) / 10} GB are free: it ends after ${formatHours(free / (oneTake / takeS))}.`,
                places: place,
                fixes: [],
              }),
            ]
          : []),
      ];
    }),
};

export const PASS_CHECKS: readonly Check[] = [trackInNoPass, turnsTogether, takeTooLong];
