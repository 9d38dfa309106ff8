import { passStorage } from "../levels/storage";
import type { Colour } from "../model/colours";
import type { ChannelId, LineId, PassId } from "../model/ids";
import { linesOfTrack } from "../model/read-template";
import { inputLineIds } from "../model/tables/channel-fields";
import type { Track } from "../model/tables/channels";
import type { Pass } from "../model/tables/passes";
import type { Template } from "../model/template";
import { passesOf, runningPass } from "../queries/cues";
import { tracksAsListed } from "../queries/track-order";
import { channelColour } from "./channel-colour";

export interface Warp {
  readonly id: ChannelId;
  readonly name: string;
  readonly colour: Colour | null;
}

/** Raised where a track is armed, small where it was recorded in a pass before, parked, or nothing yet. */
export type Crossing = "armed" | "recorded" | "parked" | "none";

export interface Weft {
  readonly pass: Pass;
  readonly at: number;
  readonly crossings: readonly Crossing[];
  readonly minutes: number;
  readonly bytes: number;
  /** Lines that go into an input where another was before. */
  readonly repatched: readonly LineId[];
  readonly running: boolean;
}

export interface Draft {
  readonly warps: readonly Warp[];
  readonly wefts: readonly Weft[];
  /** How many inputs all of them use. */
  readonly inputs: number;
  readonly minutes: number;
  /** With a minute to arm each pass and two for each line that is re-patched. */
  readonly minutesInAll: number;
  readonly bytes: number;
  readonly repatched: number;
}

const [ARM_MINUTES, PATCH_MINUTES] = [1, 2];

const warpsOf = (doc: Template): readonly Track[] => {
  const armed = new Set<string>(passesOf(doc).flatMap(({ trackIds }) => trackIds));
  return tracksAsListed(doc).filter(({ id, input, parked }) => armed.has(id) || (input.kind !== "none" && !parked));
};

/**
 * The passes as a weaving draft: tracks the warp, passes the weft. What a pass re-patches are lines whose input held
 * another line when it was used last; what goes in for the first time is patched before the evening. Linear in tracks
 * by passes.
 */
export const passDraft = (doc: Template): Draft => {
  const tracks = warpsOf(doc);
  const running = runningPass(doc)?.id ?? null;
  const recorded = new Set<ChannelId>();
  const inInput = new Map<string, LineId>();
  const wefts = passesOf(doc).map((pass, at): Weft => {
    const [armed, parked] = [new Set<string>(pass.trackIds), new Set<string>(pass.parkedIds)];
    const crossings = tracks.map(
      ({ id }): Crossing =>
        armed.has(id) ? "armed" : recorded.has(id) ? "recorded" : parked.has(id) ? "parked" : "none",
    );
    const repatched: LineId[] = [];
    for (const id of pass.trackIds) {
      recorded.add(id);
      const track = doc.channels[id];
      if (track?.kind !== "track") continue;
      for (const line of linesOfTrack(doc, track)) {
        if (!line.portId) continue;
        const before = inInput.get(line.portId);
        if (before !== undefined && before !== line.id) repatched.push(line.id);
        inInput.set(line.portId, line.id);
      }
    }
    const { minutes, bytes } = passStorage(doc, pass);
    return { pass, at, crossings, minutes, bytes, repatched, running: pass.id === running };
  });
  const inputs = new Set(
    wefts.flatMap(({ pass }) =>
      pass.trackIds.flatMap((id) =>
        doc.channels[id]?.kind === "track"
          ? inputLineIds((doc.channels[id] as Track).input).map((line) => doc.lines[line]?.portId ?? line)
          : [],
      ),
    ),
  );
  const minutes = wefts.reduce((sum, weft) => sum + weft.minutes, 0);
  const repatched = wefts.reduce((sum, weft) => sum + weft.repatched.length, 0);
  return {
    warps: tracks.map((track) => ({ id: track.id, name: track.name, colour: channelColour(doc, track) })),
    wefts,
    inputs: inputs.size,
    minutes,
    minutesInAll: minutes + wefts.length * ARM_MINUTES + repatched * PATCH_MINUTES,
    bytes: wefts.reduce((sum, weft) => sum + weft.bytes, 0),
    repatched,
  };
};

/** The pass before and after another; null at the ends. */
export const besidePass = (
  doc: Template,
  id: PassId,
): { readonly before: PassId | null; readonly after: PassId | null } => {
  const passes = passesOf(doc);
  const at = passes.findIndex((pass) => pass.id === id);
  return { before: passes[at - 1]?.id ?? null, after: passes[at + 1]?.id ?? null };
};
