import type { ChannelId, IdSource, LineId } from "../model/ids";
import { linesOfTrack, trackOf, tracksByLine, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { TrackInput } from "../model/tables/channel-fields";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import { TEMPLATE, type Template } from "../model/template";
import { nextFreeInput, nextFreePair } from "../queries/free-inputs";
import { counted } from "../units/counted";
import { countOn, namesTaken } from "./block";
import { copiesOf } from "./copies";
import type { Edit } from "./edits/edit";
import { applyAll } from "./edits/template-editing";
import { type Planned, planned, unplanned } from "./gesture";

export const DUPLICATE_INPUTS = ["by-turns", "next-free", "none"] as const;
/** What a duplicate records: the same line by turns, the next free input, or nothing yet. */
export type DuplicateInput = (typeof DUPLICATE_INPUTS)[number];

const copyName = (name: string, taken: Set<string>): string => {
  let copy = name;
  for (let by = 1; taken.has(copy.trim().toLowerCase()); by++)
    copy = /\d\D*$/.test(name) ? countOn(name, by) : `${name} ${by + 1}`;
  taken.add(copy.trim().toLowerCase());
  return copy;
};

const rewire = (input: TrackInput, to: ReadonlyMap<LineId, LineId>): TrackInput => {
  if (input.kind === "line") return { kind: "line", lineId: to.get(input.lineId) ?? input.lineId };
  return input.kind === "pair"
    ? { kind: "pair", leftId: to.get(input.leftId) ?? input.leftId, rightId: to.get(input.rightId) ?? input.rightId }
    : input;
};

/** Copies of lines with all they have, on the next free inputs that suit them or on none. */
const copyLines = (
  doc: Template,
  rig: Rig,
  { lines, input, ids }: { readonly lines: readonly Line[]; readonly input: DuplicateInput; readonly ids: IdSource },
): readonly Line[] => {
  const bare = lines.map((line) => ({ ...line, id: ids<LineId>("line"), portId: null, requestedInput: null }));
  const [left, right] = bare;
  if (input === "none" || !left) return bare;
  const rigInputs = right ? nextFreePair(doc, rig, [left, right]) : [nextFreeInput(doc, rig, left)];
  return bare.map((line, at) => ({ ...line, portId: rigInputs?.[at]?.port.id ?? null }));
};

const siblingAfter = (doc: Template, track: Track): ChannelId | null => {
  const siblings = tracksOf(doc).filter((other) => other.folderId === track.folderId);
  return siblings[siblings.indexOf(track) + 1]?.id ?? null;
};

interface Request {
  readonly trackIds: readonly ChannelId[];
  readonly input: DuplicateInput;
  readonly ids: IdSource;
}

/**
 * Duplicates tracks with everything they have; each copy stands below its original. What the copies record is asked.
 */
export const duplicateTracks = (
  doc: Template,
  rig: Rig,
  { trackIds, input, ids }: Request,
): { readonly planned: Planned; readonly trackIds: readonly ChannelId[] } => {
  const taken = namesTaken(doc);
  const edits: Edit[] = [];
  const copies: ChannelId[] = [];
  let current = doc;
  for (const id of trackIds) {
    const track = trackOf(current, id);
    if (!track) continue;
    const lines =
      input === "by-turns" ? [] : copyLines(current, rig, { lines: linesOfTrack(current, track), input, ids });
    const wiring = new Map(
      linesOfTrack(current, track).flatMap((line, at) => (lines[at] ? [[line.id, lines[at].id] as const] : [])),
    );
    const { entries, idOf } = copiesOf(TEMPLATE, current, { table: "channels", ids: [id] }, ids);
    const copyId = idOf.get(`channels/${id}`) as ChannelId;
    const { channels: _copy, ...parts } = entries;
    const { kind: _kind, order: _order, folderId, ...kept } = track;
    const sharing = input === "by-turns" ? ("by-turns" as const) : null;
    const copy = {
      ...kept,
      id: copyId,
      name: copyName(track.name, taken),
      input: rewire(track.input, wiring),
      sharing,
    };
    const sharers = [
      ...new Set(
        inputLineIds(track.input).flatMap((lineId) =>
          (tracksByLine(current).get(lineId) ?? []).map((other) => other.id),
        ),
      ),
    ];
    const step: Edit[] = [
      { kind: "tracks.add", tracks: [copy], lines, folderId, before: siblingAfter(current, track) },
    ];
    // What it is sent to, passes, and is heard in comes along, as it belongs to it.
    if (Object.keys(parts).length) step.push({ kind: "entries.add", entries: parts } as Edit);
    if (sharing && sharers.length)
      step.push({ kind: "entries.set", table: "channels", ids: [...sharers, copyId], set: { sharing } });
    const done = applyAll(current, step);
    if (!done.ok) return { planned: unplanned(done.refusal.message), trackIds: [] };
    current = done.doc;
    edits.push(...step);
    copies.push(copyId);
  }
  const who =
    trackIds.length === 1 && trackIds[0]
      ? (trackOf(doc, trackIds[0])?.name ?? "a track")
      : counted(trackIds.length, "track");
  return {
    planned: edits.length ? planned(edits, `Duplicate ${who}`) : unplanned("Select a track first."),
    trackIds: copies,
  };
};
