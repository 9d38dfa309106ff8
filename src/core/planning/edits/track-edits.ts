import { type Command, type Refusal, refuse } from "../../commands/command";
import type { ChannelId } from "../../model/ids";
import { isSum, trackOf, tracksOf } from "../../model/read-template";
import { inputLineIds } from "../../model/tables/channel-fields";
import { newChannel } from "../../model/tables/channels";
import type { Template } from "../../model/template";
import { sideStem } from "../../reading/sides";
import { unroutable } from "./channel-edits";
import type { EditOf, NewTrack, Planners } from "./edit";
import { countTracks, firstOf, missingFolders, missingTracks, tooMany } from "./refusals";
import { sumOf, toChannel } from "./sums";

const danglingInput = (doc: Template, { tracks, lines }: EditOf<"tracks.add">): Refusal | null => {
  const recording = tracks.find(({ input }) => input.kind === "bus" && unrecordable(doc, input.busId, "" as ChannelId));
  if (recording?.input.kind === "bus") return unrecordable(doc, recording.input.busId, recording.id);
  const brought = new Set<string>(lines.map((line) => line.id));
  const wrong = tracks.find((track) => inputLineIds(track.input).some((id) => !brought.has(id) && !doc.lines[id]));
  return wrong ? refuse("missing", wrong.id, `${wrong.name || "A track"} takes a line that is not there.`) : null;
};

/** The name two halves have in common: "Above L" and "Above R" give "Above"; else the left one's name. */
export const stem = (name: string): string => sideStem(name) ?? name;

const mono = (doc: Template, id: ChannelId): Refusal | null => {
  const track = trackOf(doc, id);
  if (track?.input.kind === "line") return null;
  const why = track?.input.kind === "pair" ? "is stereo already" : "takes no line";
  return refuse(
    "unfit",
    id,
    `${track?.name || "This track"} ${why}. Only two mono tracks that each take a line become one stereo track.`,
  );
};

const pairable = (doc: Template, { leftTrackId, rightTrackId }: EditOf<"tracks.pair">): Refusal | null =>
  firstOf(
    () => missingTracks(doc, [leftTrackId, rightTrackId]),
    () => mono(doc, leftTrackId),
    () => mono(doc, rightTrackId),
    () => {
      const [left, right] = [trackOf(doc, leftTrackId), trackOf(doc, rightTrackId)];
      const same = left && right && inputLineIds(left.input)[0] === inputLineIds(right.input)[0];
      return same
        ? refuse(
            "unfit",
            leftTrackId,
            `${left.name} and ${right.name} take the same line, so they can't be left and right.`,
          )
        : null;
    },
  );

/** Why what a bus sums can't be recorded. */
const unrecordable = (doc: Template, busId: ChannelId, trackId: ChannelId): Refusal | null => {
  const bus = doc.channels[busId];
  if (isSum(bus)) return null;
  if (!bus) return refuse("missing", trackId, "The bus this should record is no longer there.");
  return refuse(
    "unfit",
    trackId,
    `${bus.name} is ${bus.kind === "main" ? "the main bus, and what comes to it is not recorded on a track" : "a track"}. Choose a bus or a return.`,
  );
};

const takeable = (doc: Template, { trackId, input, lines }: EditOf<"tracks.take">): Refusal | null =>
  firstOf(
    () => missingTracks(doc, [trackId]),
    () => tooMany(doc, { lines }),
    () => (input.kind === "bus" ? unrecordable(doc, input.busId, trackId) : null),
    () =>
      input.kind === "instrument" && doc.channels[input.instrumentId]?.kind !== "instrument"
        ? refuse("missing", trackId, "The instrument this should record is no longer there.")
        : null,
    () => {
      const ids = inputLineIds(input);
      const there = ids.every((id) => doc.lines[id] || lines.some((line) => line.id === id));
      if (!there) return refuse("missing", trackId, "The line this should take is not there.");
      if (lines.some((line) => !ids.includes(line.id)))
        return refuse("unfit", trackId, "A line was brought that nothing takes.");
      return ids.length === 2 && ids[0] === ids[1]
        ? refuse("unfit", trackId, "One line can't be left and right of the same track.")
        : null;
    },
  );

/**
 * Tracks as they are laid: into the bus of their folder, or the main bus, where nothing else is said. Those that say
 * their own folder come apart, as only the others come before something.
 */
const laid = (doc: Template, edit: EditOf<"tracks.add">): readonly Command[] => {
  const entry = (track: NewTrack) => {
    const folderId = track.folderId === undefined ? edit.folderId : track.folderId;
    return newChannel("track", { output: toChannel(sumOf(doc, folderId)), ...track, folderId });
  };
  const own = edit.tracks.filter((track) => track.folderId !== undefined).map(entry);
  const here = edit.tracks.filter((track) => track.folderId === undefined).map(entry);
  return [
    ...(edit.lines.length ? [{ kind: "add", table: "lines", entries: edit.lines } as const] : []),
    ...(own.length ? [{ kind: "add", table: "channels", entries: own } as const] : []),
    ...(here.length ? [{ kind: "add", table: "channels", entries: here, before: edit.before } as const] : []),
  ];
};

export const trackEdits: Planners<"tracks"> = {
  "tracks.add": {
    plan: (doc, edit) =>
      firstOf(
        () => (edit.tracks.length ? null : refuse("empty", "", "Nothing to add: say how many tracks.")),
        () => missingFolders(doc, [edit.folderId, ...new Set(edit.tracks.flatMap((track) => track.folderId ?? []))]),
        () => tooMany(doc, edit),
        () => danglingInput(doc, edit),
        () =>
          edit.tracks.map((track) => unroutable(doc, track.output, track.id)).find((refusal) => refusal !== null) ??
          null,
      ) ?? laid(doc, edit),
    name: (_doc, { tracks }) =>
      tracks.length === 1 ? `Add track ${tracks[0]?.name ?? ""}`.trim() : `Add ${tracks.length} tracks`,
  },
  "tracks.pair": {
    plan: (doc, edit) => {
      const refusal = pairable(doc, edit);
      const [left, right] = [trackOf(doc, edit.leftTrackId), trackOf(doc, edit.rightTrackId)];
      if (refusal || left?.input.kind !== "line" || right?.input.kind !== "line") return refusal ?? [];
      const input = { kind: "pair", leftId: left.input.lineId, rightId: right.input.lineId };
      return [
        {
          kind: "set",
          table: "channels",
          values: { [left.id]: { input, name: stem(left.name), note: left.note || right.note } },
        },
        { kind: "remove", table: "channels", ids: [right.id] },
      ];
    },
    name: (doc, { leftTrackId, rightTrackId }) =>
      `Make ${countTracks(doc, [leftTrackId])} and ${countTracks(doc, [rightTrackId])} one stereo track`,
  },
  "tracks.split": {
    plan: (doc, { trackId, newTrackId }) => {
      const missing = missingTracks(doc, [trackId]) ?? tooMany(doc, { tracks: [newTrackId] });
      const track = trackOf(doc, trackId);
      if (missing || track?.input.kind !== "pair")
        return (
          missing ??
          refuse("unfit", trackId, `${countTracks(doc, [trackId])} is not stereo, so there is nothing to split.`)
        );
      const { leftId, rightId } = track.input;
      const siblings = tracksOf(doc).filter((other) => other.folderId === track.folderId);
      const { order: _order, ...kept } = track;
      return [
        {
          kind: "add",
          table: "channels",
          entries: [
            { ...kept, id: newTrackId, name: `${track.name} R`, input: { kind: "line", lineId: rightId } },
          ] as never,
          before: siblings[siblings.indexOf(track) + 1]?.id ?? null,
        },
        {
          kind: "set",
          table: "channels",
          values: { [trackId]: { name: `${track.name} L`, input: { kind: "line", lineId: leftId } } },
        },
      ];
    },
    name: (doc, { trackId }) => `Make ${countTracks(doc, [trackId])} two mono tracks`,
  },
  "tracks.take": {
    plan: (doc, edit) =>
      takeable(doc, edit) ?? [
        ...(edit.lines.length ? [{ kind: "add", table: "lines", entries: edit.lines } as const] : []),
        { kind: "set", table: "channels", values: { [edit.trackId]: { input: edit.input } } },
      ],
    name: (doc, { trackId, input }) =>
      input.kind === "instrument"
        ? `Record output ${input.output} of ${doc.channels[input.instrumentId]?.name ?? "an instrument"} on ${countTracks(doc, [trackId])}`
        : input.kind === "bus"
          ? `Record ${doc.channels[input.busId]?.name ?? "a bus"} on ${countTracks(doc, [trackId])}`
          : input.kind === "none"
            ? `Take ${countTracks(doc, [trackId])} off its line`
            : `Give ${countTracks(doc, [trackId])} ${input.kind === "pair" ? "two lines" : "a line"}`,
  },
};
