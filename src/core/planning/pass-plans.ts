import type { ChannelId, FolderId, IdSource, PassId } from "../model/ids";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import { type NewPass, newPass } from "../model/tables/passes";
import type { Template } from "../model/template";
import { passesOf, runningPass } from "../queries/cues";
import { recordable } from "../queries/track-order";
import { counted } from "../units/counted";
import { type Planned, planned, unplanned } from "./gesture";

export interface PlanPasses {
  /** Tracks to be recorded, in any order: the passes follow the input list. */
  readonly trackIds: readonly ChannelId[];
  /** How many inputs there are at once; more are never armed together. */
  readonly inputs: number;
  readonly takeMinutes: number;
  readonly takes: number;
  /** Whether the passes that are there go. */
  readonly anew: boolean;
  readonly ids: IdSource;
}

interface Open {
  readonly tracks: Track[];
  readonly lines: Set<string>;
  readonly ports: Set<string>;
}

const portsOf = (doc: Template, lines: readonly string[]): readonly string[] =>
  lines.flatMap((id) => doc.lines[id as never]?.portId ?? []);

/**
 * Whether a track can be armed with those of a pass: not two by turns on one line, not two lines in one input, not more
 * inputs than there are.
 */
const suits = (
  doc: Template,
  track: Track,
  { open, inputs }: { readonly open: Open; readonly inputs: number },
): boolean => {
  const lines = inputLineIds(track.input);
  const fresh = lines.filter((id) => !open.lines.has(id));
  // What shares a line at once comes with it; by turns, or while nobody has said, it waits.
  if (fresh.length < lines.length && track.sharing !== "at-once") return false;
  if (portsOf(doc, fresh).some((port) => open.ports.has(port))) return false;
  return open.lines.size + fresh.length <= inputs;
};

const nameOf = (doc: Template, tracks: readonly Track[]): string => {
  const [first, second] = tracks.map(({ name }) => name || "a track");
  const folders = new Set(tracks.map(({ folderId }) => folderId));
  const folder = folders.size === 1 && tracks[0]?.folderId ? doc.folders[tracks[0].folderId] : undefined;
  if (tracks.length > 2 && folder?.name) return folder.name;
  if (!second) return first ?? "A pass";
  return tracks.length === 2 ? `${first} and ${second}` : `${first} and ${tracks.length - 1} more`;
};

/**
 * The order of passes for tracks and so many inputs: each track goes into the first pass that it suits, in the order of
 * the input list, so that there are as few as the fullest line and input ask for. Tracks that take one line by turns go
 * into passes of their own, lines in one input as well. While a pass runs, what comes in later ones is parked. Linear
 * in tracks by passes.
 */
export const planPasses = (doc: Template, { trackIds, inputs, takeMinutes, takes, anew, ids }: PlanPasses): Planned => {
  const wanted = new Set<string>(trackIds);
  const tracks = recordable(doc).filter(({ id }) => wanted.has(id));
  if (!tracks.length) return unplanned("Choose at least one track that takes a line.");
  if (!(inputs >= 1)) return unplanned("There must be at least one input to record with.");
  const wide = tracks.find(({ input }) => inputLineIds(input).length > inputs);
  if (wide)
    return unplanned(
      `${wide.name || "A stereo track"} takes ${inputLineIds(wide.input).length} inputs, and there ${inputs === 1 ? "is 1" : `are ${inputs}`}.`,
    );
  const open: Open[] = [];
  for (const track of tracks) {
    let pass = open.find((one) => suits(doc, track, { open: one, inputs }));
    if (!pass) {
      pass = { tracks: [], lines: new Set(), ports: new Set() };
      open.push(pass);
    }
    const lines = inputLineIds(track.input);
    for (const port of portsOf(doc, lines)) pass.ports.add(port);
    for (const line of lines) pass.lines.add(line);
    pass.tracks.push(track);
  }
  const passes = open.map((pass, at): NewPass => {
    const folders = [...new Set(pass.tracks.map(({ folderId }) => folderId))];
    return newPass({
      id: ids<PassId>("pass"),
      name: nameOf(doc, pass.tracks),
      trackIds: pass.tracks.map(({ id }) => id),
      parkedIds: open.slice(at + 1).flatMap((later) => later.tracks.map(({ id }) => id)),
      openFolderId: (folders.length === 1 ? folders[0] : null) as FolderId | null,
      takeMinutes,
      takes,
    });
  });
  const there = passesOf(doc).map(({ id }) => id);
  return planned(
    [
      ...(anew && there.length ? [{ kind: "entries.remove", table: "passes", ids: there } as const] : []),
      { kind: "entries.add", entries: { passes } },
    ],
    `Plan ${counted(passes.length, "pass", "passes")} for ${counted(tracks.length, "track")}`,
  );
};

/** Runs a pass, and opens the family that it wants open. */
export const runPass = (doc: Template, passId: PassId, name?: string): Planned => {
  const pass = doc.passes[passId];
  if (!pass) return unplanned("That pass is no longer there.");
  const folder = pass.openFolderId ? doc.folders[pass.openFolderId] : undefined;
  const opens =
    folder && !folder.open
      ? [{ kind: "entries.set", table: "folders", ids: [folder.id], set: { open: true } } as const]
      : [];
  return planned([{ kind: "passes.run", passId }, ...opens], name ?? `Run ${pass.name}`);
};

/** The pass after the one that runs; a refusal after the last. */
export const nextPass = (doc: Template): Planned => {
  const passes = passesOf(doc);
  const running = passes.find((pass) => pass.running);
  const at = running ? passes.indexOf(running) : 0;
  const next = passes[at + 1];
  if (!runningPass(doc)) return unplanned("There are no passes yet: plan them first.");
  return next ? runPass(doc, next.id, `Next pass: ${next.name}`) : unplanned(`${passes[at]?.name} is the last pass.`);
};

/** Arms or disarms tracks in a pass. */
export const armInPass = (
  doc: Template,
  { passId, trackIds, on }: { readonly passId: PassId; readonly trackIds: readonly ChannelId[]; readonly on: boolean },
): Planned => {
  const pass = doc.passes[passId];
  if (!pass) return unplanned("That pass is no longer there.");
  const named = new Set<string>(trackIds);
  const next = on
    ? [...pass.trackIds, ...trackIds.filter((id) => !pass.trackIds.includes(id))]
    : pass.trackIds.filter((id) => !named.has(id));
  const parkedIds = pass.parkedIds.filter((id) => !next.includes(id));
  const [only] = trackIds;
  const what =
    trackIds.length === 1 && only ? doc.channels[only]?.name || "a track" : counted(trackIds.length, "track");
  return planned(
    [
      {
        kind: "entries.set",
        table: "passes",
        ids: [passId],
        set: { trackIds: next, ...(parkedIds.length < pass.parkedIds.length ? { parkedIds } : {}) },
      },
    ],
    `${on ? "Arm" : "Disarm"} ${what} in ${pass.name}`,
  );
};
