import { current, type Draft } from "immer";
import type { FolderId, LineId } from "../model/ids";
import { inputLineIds, trackOf } from "../model/read-template";
import { entriesOf } from "../model/rig";
import { MAIN_ID, type Template, type Track } from "../model/template";
import { blankOr, dropEnd } from "../units/ends";
import type { CommandOf, TrackChange } from "./command";
import { firstOf, type Refusal, refuse } from "./engine";
import { countTracks, type Handlers, isTaken, missingFolders, missingTracks, place, type TemplateDraft, tooMany } from "./handler";

const clash = (doc: Template, { tracks, lines }: CommandOf<"tracks.add">): Refusal | null => {
  const ids = [...tracks.map((track) => track.id), ...lines.map((line) => line.id)];
  const seen = new Set<string>();
  const taken = ids.find((id) => isTaken(doc.channels, id) || Object.hasOwn(doc.lines, id) || seen.size === seen.add(id).size);
  return taken === undefined ? null : refuse("clash", taken, `Something with the id ${taken} is already in this template.`);
};

const danglingInput = (doc: Template, { tracks, lines }: CommandOf<"tracks.add">): Refusal | null => {
  const brought = new Set(lines.map((line) => line.id));
  const astray = tracks.find((track) => inputLineIds(track.input).some((id) => !brought.has(id) && !doc.lines[id]));
  return astray ? refuse("missing", astray.id, `${astray.name || "A track"} takes a line that is not there.`) : null;
};

const missingOutput = (doc: Template, change: TrackChange, at: string): Refusal | null => {
  if (change.output?.kind !== "channel") return null;
  const target = doc.channels[change.output.channelId];
  if (!target) return refuse("missing", at, "The bus this should go to is no longer there.");
  return target.kind === "main" ? null : refuse("unfit", at, `${target.name} is a track, and a track can't take the sound of another. Route it to the main bus or to an output.`);
};

/** A line that no track takes any more goes with the track that took it. */
const dropLines = (draft: TemplateDraft, candidates: readonly LineId[]): void => {
  const used = new Set(entriesOf(current(draft.channels)).flatMap((channel) => (channel.kind === "track" ? [...inputLineIds(channel.input)] : [])));
  for (const id of candidates) if (!used.has(id)) delete draft.lines[id];
};

const SIDES = ["l", "r", "left", "right", "links", "rechts", "gauche", "droite"];
const isLetter = (character: string): boolean => /[\p{L}\p{N}]/u.test(character);

/** A name without a side at its end, in brackets or not. */
const withoutSide = (name: string): string => {
  const bare = dropEnd(name, (character) => character === ")" || character === "]");
  const word = bare.slice(dropEnd(bare, isLetter).length);
  return SIDES.includes(word.toLowerCase()) && word !== bare ? dropEnd(bare.slice(0, bare.length - word.length), blankOr("_-([")) : name;
};

/** The name two halves have in common: "Above L" and "Above R" give "Above"; else the left one's name. */
export const stem = (name: string): string => withoutSide(name).trim() || name;

const mono = (doc: Template, id: CommandOf<"tracks.pair">["leftTrackId"]): Refusal | null => {
  const track = trackOf(doc, id);
  if (track?.input.kind === "line") return null;
  const why = track?.input.kind === "pair" ? "is stereo already" : "takes no line";
  return refuse("unfit", id, `${track?.name || "This track"} ${why}. Only two mono tracks that each take a line become one stereo track.`);
};

const setName = (doc: Template, { trackIds, set }: CommandOf<"tracks.set">): string => {
  const who = countTracks(doc, trackIds);
  if (set.name !== undefined) return `Name ${trackIds.length === 1 ? who : `${trackIds.length} tracks`} ${set.name.trim()}`;
  if (set.colour !== undefined) return set.colour ? `Dye ${who} ${set.colour}` : `Let ${who} take the dye of its folder`;
  if (set.icon !== undefined) return set.icon ? `Icon ${set.icon} for ${who}` : `Take the icon off ${who}`;
  if (set.output !== undefined)
    return `Route ${who} to ${set.output.kind === "channel" ? doc.channels[set.output.channelId]?.name : set.output.kind === "nowhere" ? "nowhere" : "an output"}`;
  return `Note on ${who}`;
};

/** The place behind the last track of each folder. */
const nextOrders = (draft: TemplateDraft): Map<FolderId | null, number> => {
  const ends = new Map<FolderId | null, number>();
  for (const channel of entriesOf(current(draft.channels))) if (channel.kind === "track") ends.set(channel.folderId, Math.max(ends.get(channel.folderId) ?? 0, channel.order + 1));
  return ends;
};

export const trackHandlers: Handlers<"tracks"> = {
  "tracks.add": {
    check: (doc, command) =>
      firstOf(
        () => (command.tracks.length ? null : refuse("empty", "", "Nothing to add: say how many tracks.")),
        () => missingFolders(doc, [command.folderId, ...new Set(command.tracks.flatMap((track) => track.folderId ?? []))]),
        () => tooMany(doc, command),
        () => clash(doc, command),
        () => danglingInput(doc, command),
        () => command.tracks.map((track) => missingOutput(doc, { output: track.output }, track.id)).find((refusal) => refusal !== null) ?? null,
      ),
    edit: (draft, { tracks, lines, folderId, before }) => {
      for (const line of lines) draft.lines[line.id] = line as Draft<typeof line>;
      const ends = nextOrders(draft);
      for (const track of tracks) {
        const into = track.folderId === undefined ? folderId : track.folderId;
        const order = ends.get(into) ?? 0;
        ends.set(into, order + 1);
        draft.channels[track.id] = { output: { kind: "channel", channelId: MAIN_ID }, ...track, kind: "track", folderId: into, order } as Draft<Track>;
      }
      if (before) place(draft, { ids: tracks.filter((track) => track.folderId === undefined).map((track) => track.id), folderId, before });
    },
    name: (_doc, { tracks }) => (tracks.length === 1 ? `Add ${tracks[0]?.name || "a track"}` : `Add ${tracks.length} tracks`),
  },
  "tracks.set": {
    local: true,
    check: (doc, { trackIds, set }) =>
      firstOf(
        () => missingTracks(doc, trackIds),
        () => missingOutput(doc, set, trackIds[0] ?? ""),
      ),
    edit: (draft, { trackIds, set }) => {
      for (const id of trackIds) Object.assign(draft.channels[id] ?? {}, set);
    },
    name: setName,
  },
  "tracks.move": {
    check: (doc, { trackIds, folderId }) =>
      firstOf(
        () => missingTracks(doc, trackIds),
        () => missingFolders(doc, [folderId]),
      ),
    edit: (draft, { trackIds, folderId, before }) => place(draft, { ids: trackIds, folderId, before }),
    name: (doc, { trackIds, folderId }) => `Put ${countTracks(doc, trackIds)} ${folderId ? `in ${doc.folders[folderId]?.name}` : "outside the folders"}`,
  },
  "tracks.remove": {
    check: (doc, { trackIds }) => missingTracks(doc, trackIds),
    edit: (draft, { trackIds }) => {
      const lines = trackIds.flatMap((id) => {
        const track = draft.channels[id];
        delete draft.channels[id];
        return track?.kind === "track" ? [...inputLineIds(track.input)] : [];
      });
      dropLines(draft, lines);
    },
    name: (doc, { trackIds }) => `Remove ${countTracks(doc, trackIds)}`,
  },
  "tracks.pair": {
    check: (doc, { leftTrackId, rightTrackId }) =>
      firstOf(
        () => missingTracks(doc, [leftTrackId, rightTrackId]),
        () => mono(doc, leftTrackId),
        () => mono(doc, rightTrackId),
        () => {
          const [left, right] = [trackOf(doc, leftTrackId), trackOf(doc, rightTrackId)];
          const same = left && right && inputLineIds(left.input)[0] === inputLineIds(right.input)[0];
          return same ? refuse("unfit", leftTrackId, `${left.name} and ${right.name} take the same line, so they can't be left and right.`) : null;
        },
      ),
    edit: (draft, { leftTrackId, rightTrackId }) => {
      const [left, right] = [draft.channels[leftTrackId], draft.channels[rightTrackId]];
      if (left?.kind !== "track" || right?.kind !== "track" || left.input.kind !== "line" || right.input.kind !== "line") return;
      left.input = { kind: "pair", leftId: left.input.lineId, rightId: right.input.lineId };
      left.name = stem(left.name);
      left.note ||= right.note;
      delete draft.channels[rightTrackId];
    },
    name: (doc, { leftTrackId, rightTrackId }) => `Make ${countTracks(doc, [leftTrackId])} and ${countTracks(doc, [rightTrackId])} one stereo track`,
  },
  "tracks.split": {
    check: (doc, { trackId, newTrackId }) =>
      firstOf(
        () => missingTracks(doc, [trackId]),
        () => tooMany(doc, { tracks: [newTrackId] }),
        () => (isTaken(doc.channels, newTrackId) ? refuse("clash", newTrackId, `Something with the id ${newTrackId} is already in this template.`) : null),
        () => (trackOf(doc, trackId)?.input.kind === "pair" ? null : refuse("unfit", trackId, `${countTracks(doc, [trackId])} is not stereo, so there is nothing to split.`)),
      ),
    edit: (draft, { trackId, newTrackId }) => {
      const track = draft.channels[trackId];
      if (track?.kind !== "track" || track.input.kind !== "pair") return;
      const { leftId, rightId } = track.input;
      const next = Object.values(draft.channels).find((other) => other.kind === "track" && other.folderId === track.folderId && other.order === track.order + 1);
      draft.channels[newTrackId] = { ...track, id: newTrackId, name: `${track.name} R`, input: { kind: "line", lineId: rightId } };
      Object.assign(track, { name: `${track.name} L`, input: { kind: "line", lineId: leftId } });
      place(draft, { ids: [newTrackId], folderId: track.folderId, before: next?.id ?? null });
    },
    name: (doc, { trackId }) => `Make ${countTracks(doc, [trackId])} two mono tracks`,
  },
  "tracks.take": {
    local: true,
    check: (doc, { trackId, input, lines }) =>
      firstOf(
        () => missingTracks(doc, [trackId]),
        () => tooMany(doc, { lines }),
        () => {
          const taken = lines.find((line) => isTaken(doc.lines, line.id));
          return taken ? refuse("clash", taken.id, `A line with the id ${taken.id} is already there.`) : null;
        },
        () => {
          const ids = inputLineIds(input);
          const there = ids.every((id) => doc.lines[id] || lines.some((line) => line.id === id));
          if (!there) return refuse("missing", trackId, "The line this should take is not there.");
          if (lines.some((line) => !ids.includes(line.id))) return refuse("unfit", trackId, "A line was brought that nothing takes.");
          return ids.length === 2 && ids[0] === ids[1] ? refuse("unfit", trackId, "One line can't be left and right of the same track.") : null;
        },
      ),
    edit: (draft, { trackId, input, lines }) => {
      const track = draft.channels[trackId];
      if (track?.kind !== "track") return;
      // Copies: what comes after it in the same gesture may change them.
      for (const line of lines) draft.lines[line.id] = { ...line } as Draft<typeof line>;
      const left = inputLineIds(track.input).filter((id) => !inputLineIds(input).includes(id));
      track.input = input;
      if (left.length) dropLines(draft, left);
    },
    name: (doc, { trackId, input }) =>
      input.kind === "none" ? `Take ${countTracks(doc, [trackId])} off its line` : `Give ${countTracks(doc, [trackId])} ${input.kind === "pair" ? "two lines" : "a line"}`,
  },
  "tracks.share": {
    local: true,
    check: (doc, { trackIds }) => missingTracks(doc, trackIds),
    edit: (draft, { trackIds, sharing }) => {
      for (const id of trackIds) Object.assign(draft.channels[id] ?? {}, { sharing });
    },
    name: (doc, { trackIds, sharing }) => `Record ${countTracks(doc, trackIds)} ${sharing === "by-turns" ? "by turns" : "at once"}`,
  },
};
