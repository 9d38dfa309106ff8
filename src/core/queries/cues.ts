import type { ChannelId, CueId } from "../model/ids";
import { perDocument, perTwo } from "../model/per-document";
import { isParked, linesOfTrack, tracksOf } from "../model/read-template";
import { entriesOf, inOrder, putInto, stepwise } from "../model/table";
import type { Channel } from "../model/tables/channels";
import type { CueLevel } from "../model/tables/cue-levels";
import type { Cue } from "../model/tables/cues";
import type { Pass } from "../model/tables/passes";
import type { Template } from "../model/template";

/** Where a source and a cue meet. */
export interface CueCell {
  readonly cueId: CueId;
  readonly sourceId: ChannelId;
}

const inRow = perDocument((cues: Template["cues"]): readonly Cue[] => inOrder(cues));

/** The cues in their order. */
export const cuesOf = (doc: Pick<Template, "cues">): readonly Cue[] => inRow(doc.cues);

type OfCue = ReadonlyMap<ChannelId, CueLevel>;

/**
 * Levels by cue and then by what is heard. One that is only set otherwise is put in its place: the other cues are the
 * very same.
 */
const byCell = stepwise<CueLevel, ReadonlyMap<CueId, OfCue>>(
  (levels) => {
    const byCue = new Map<CueId, Map<ChannelId, CueLevel>>();
    for (const level of entriesOf<CueLevel>(levels)) {
      const there = byCue.get(level.cueId);
      if (there) there.set(level.sourceId, level);
      else byCue.set(level.cueId, new Map([[level.sourceId, level]]));
    }
    return byCue;
  },
  (last, changes) => {
    const next = new Map(last);
    for (const [was, is] of changes) {
      const there = next.get(is.cueId);
      if (!there || was.cueId !== is.cueId || was.sourceId !== is.sourceId) return null;
      next.set(is.cueId, new Map(there).set(is.sourceId, is));
    }
    return next;
  },
);

/** How a channel is heard in a cue; null where it is not. */
export const levelIn = (doc: Pick<Template, "cueLevels">, { cueId, sourceId }: CueCell): CueLevel | null =>
  byCell(doc.cueLevels).get(cueId)?.get(sourceId) ?? null;

const NOTHING: OfCue = new Map();

/** What a cue carries, by channel. */
export const carriedBy = (doc: Pick<Template, "cueLevels">, cueId: CueId): OfCue =>
  byCell(doc.cueLevels).get(cueId) ?? NOTHING;

/** What a cue carries. */
export const levelsOfCue = (doc: Pick<Template, "cueLevels">, cueId: CueId): readonly CueLevel[] => [
  ...carriedBy(doc, cueId).values(),
];

const own = perTwo(
  (channels: Template["channels"], lines: Template["lines"]): ReadonlyMap<string, readonly ChannelId[]> => {
    const doc = { channels, lines } as Template;
    const byPlayer = new Map<string, ChannelId[]>();
    for (const track of tracksOf(doc))
      for (const player of new Set(linesOfTrack(doc, track).map((line) => line.player)))
        if (player) putInto(byPlayer, player, track.id);
    return byPlayer;
  },
);

/** The tracks that take what a person plays. */
export const tracksOfPlayer = (doc: Pick<Template, "channels" | "lines">, player: string): readonly ChannelId[] =>
  own(doc.channels, doc.lines).get(player) ?? [];

/** The tracks that take what those who hear a cue play: their own sound. */
export const ownTracksOf = (
  doc: Pick<Template, "channels" | "lines">,
  cue: Pick<Cue, "people">,
): readonly ChannelId[] => [...new Set(cue.people.flatMap((person) => tracksOfPlayer(doc, person)))];

/** Everybody who plays, in the order of the tracks. */
export const playersOf = (doc: Pick<Template, "channels" | "lines">): readonly string[] => [
  ...own(doc.channels, doc.lines).keys(),
];

const passesInRow = perDocument((passes: Template["passes"]): readonly Pass[] => inOrder(passes));

/** The passes in their order. */
export const passesOf = (doc: Pick<Template, "passes">): readonly Pass[] => passesInRow(doc.passes);

/** The pass that runs: the one that was started, else the first; null where there is none. */
export const runningPass = (doc: Pick<Template, "passes">): Pass | null =>
  passesOf(doc).find(({ running }) => running) ?? passesOf(doc)[0] ?? null;

const armedNow = (channels: Template["channels"], passes: Template["passes"]): ReadonlySet<ChannelId> => {
  const running = runningPass({ passes });
  if (running) return new Set(running.trackIds);
  const taken = new Set<string>();
  const found = new Set<ChannelId>();
  for (const track of tracksOf({ channels })) {
    const lines =
      track.input.kind === "line"
        ? [track.input.lineId]
        : track.input.kind === "pair"
          ? [track.input.leftId, track.input.rightId]
          : [];
    const waits = track.sharing === "by-turns" && lines.some((line) => taken.has(line));
    if (waits || track.parked || track.input.kind === "none") continue;
    for (const line of lines) taken.add(line);
    found.add(track.id);
  }
  return found;
};

let lastArmed: ReadonlySet<ChannelId> = new Set();

/** The very same set for as long as it holds the same. */
const armed = perTwo((channels: Template["channels"], passes: Template["passes"]): ReadonlySet<ChannelId> => {
  const now = armedNow(channels, passes);
  if (now.size !== lastArmed.size || [...now].some((id) => !lastArmed.has(id))) lastArmed = now;
  return lastArmed;
});

/**
 * The tracks that are armed together: those of the pass that runs. Without passes every track that takes something, of
 * those that take one line by turns the first.
 */
export const armedOf = (doc: Pick<Template, "channels" | "passes">): ReadonlySet<ChannelId> =>
  armed(doc.channels, doc.passes);

/** What a cue lets be heard: what is on in it, and in use. */
export const heardInCue = (
  doc: Pick<Template, "cueLevels" | "channels">,
  { id }: Pick<Cue, "id">,
): readonly Channel[] =>
  levelsOfCue(doc, id).flatMap(({ sourceId, on, levelDb }) => {
    const channel = doc.channels[sourceId];
    return on && levelDb !== null && channel && !isParked(channel) ? [channel] : [];
  });
